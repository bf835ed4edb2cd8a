"""Perforated lines, bleed and special inks, through every file that leaves the program, read by independent tools."""
import json
import re
import xml.etree.ElementTree as ElementTree

from PIL import Image

from support import *
from test_hpgl_report_info import plotted
from vector_art import pdf

SVG = "{http://www.w3.org/2000/svg}"
DPI = 300
PIXEL = 25.4 / DPI


class BleedAndInks(CliTest):
    def setUp(self):
        super().setUp()
        disc = numpy.zeros((500, 500, 4), numpy.uint8)
        y, x = numpy.mgrid[0:500, 0:500] + 0.5
        far = numpy.hypot(x - 250, y - 250)
        disc[..., 0] = numpy.where(x < 250, 220, 0)  # red on the left, blue on the right
        disc[..., 2] = numpy.where(x < 250, 0, 220)
        disc[..., 3] = numpy.clip((200.5 - far) * 255, 0, 255)
        self.write("disc.png", png(disc))  # 32 mm across at 40 mm

    def job(self, *options):
        self.run_cli("new", "disc.png", "-o", "d.hasami", "--width", "40mm", "--medium", "roll:150mm", *options)

    def plates(self, pdf, name="s"):
        self.tool("gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", f"-r{DPI}", f"-sOutputFile={name}.tif", pdf)
        return {re.sub(r".*\((.*)\).*", r"\1", p.name): 255 - numpy.array(Image.open(p)).astype(int)
                for p in self.folder.glob(f"{name}(*).tif")}

    def test_tabs_leave_as_many_cut_stretches_as_asked_for_and_lie_evenly(self):
        for count in (3, 5, 8):
            self.run_cli("outline", "disc.png", "--width", "40mm", "--die-offset", "5mm", "--tabs", count, "-o", "o.json")
            kiss, die = json.loads((self.folder / "o.json").read_text())["lines"]
            self.assertEqual((kiss["kind"], die["kind"]), ("kiss", "perforated"))
            self.assertNotIn("segments", kiss)
            self.assertEqual(len(die["segments"]), count)
            lengths = [float(numpy.hypot(*numpy.diff(numpy.array(s), axis=0).T).sum()) for s in die["segments"]]
            self.assertAlmostEqual(sum(lengths), die["length"] - count * 0.8, delta=0.05)
            for length in lengths:
                self.assertAlmostEqual(length, die["length"] / count - 0.8, delta=0.2)
            for segment in die["segments"]:
                self.assertLess(distances(numpy.array(segment), numpy.array(die["polyline"])).max(), 0.005)

    def test_a_pattern_and_a_box_and_what_is_wrong_with_them(self):
        self.run_cli("outline", "disc.png", "--width", "40mm", "--die-box", "4mm", "--pattern", "6mm:0.5mm", "-o", "o.json")
        die = json.loads((self.folder / "o.json").read_text())["lines"][1]
        self.assertAlmostEqual(die["length"], 4 * 40, delta=0.1)  # 32 mm, 4 mm on both sides
        self.assertEqual(len(die["segments"]), round(die["length"] / 6.5))
        corners = numpy.array(die["polyline"])
        for segment in die["segments"]:
            for end in (segment[0], segment[-1]):
                self.assertGreater(numpy.hypot(*(corners - end).T).min(), 0.3)
        for options, word in ((("--tabs", "5"), "--die-offset"), (("--die-offset", "3", "--tabs", "2"), "--tabs"),
                              (("--die-offset", "3", "--pattern", "0:1"), "--pattern"),
                              (("--die-offset", "3", "--pattern", "5"), "CUT:TAB"), (("--bleed", "-1"), "--bleed")):
            self.assertIn(word, self.run_cli("outline", "disc.png", *options, "-o", "no.json", status=2).stderr)
        self.assertFalse((self.folder / "no.json").exists())

    def test_files_are_solid_where_the_machine_makes_the_tabs_else_really_lifted(self):
        self.job("--die-offset", "5mm", "--tabs", "6")
        self.run_cli("make", "d.hasami", "--cut", "m.plt", "--print", "m.pdf")
        strokes, others = plotted((self.folder / "m.plt").read_text())
        self.assertEqual(len(strokes), 2)
        self.assertEqual([word for word in others if word.startswith("SP")], ["SP1", "SP2", "SP0"])

        def by_file(job):
            job["profile"]["machineMakesTabs"] = False
        self.change("d.hasami", by_file)
        self.run_cli("make", "d.hasami", "--cut", "f.plt", "--print", "f.pdf")
        self.run_cli("make", "d.hasami", "--cut", "f.svg")
        strokes, _ = plotted((self.folder / "f.plt").read_text())
        self.assertEqual(len(strokes), 1 + 6)
        for stroke in strokes[1:]:
            self.assertGreater(numpy.hypot(*(stroke[0] - stroke[-1])), 5)
        groups = ElementTree.parse(self.folder / "f.svg").getroot().findall(f"{SVG}g")
        self.assertEqual([g.get("id") for g in groups], ["kiss", "perforated", "marks"])
        self.assertEqual(len(groups[1]), 6)
        whole = self.plates("m.pdf", "m")["PerfCutContour"]
        dashed = self.plates("f.pdf", "f")["PerfCutContour"]
        self.assertLess((dashed > 0).sum(), (whole > 0).sum() - 6 * 0.5 / PIXEL)
        near = numpy.zeros(whole.shape, bool)  # within a pixel of it
        for dy in (-1, 0, 1):
            for dx in (-1, 0, 1):
                near |= numpy.roll(whole > 0, (dy, dx), (0, 1))
        self.assertEqual(((dashed > 0) & ~near).sum(), 0)

    def test_each_plate_holds_its_own_and_a_print_only_file_has_none(self):
        self.job("--die-offset", "5mm", "--tabs", "5", "--white", "0.5mm")
        self.run_cli("make", "d.hasami", "--print", "p.pdf")
        self.assertIn("No syntax or stream encoding errors", self.tool("qpdf", "--check", "p.pdf"))
        plates = self.plates("p.pdf")
        self.assertEqual(set(plates), {"Cyan", "Magenta", "Yellow", "Black", "CutContour", "PerfCutContour", "White"})
        radii = {}
        for name in ("CutContour", "PerfCutContour", "White"):
            rows, columns = numpy.nonzero(plates[name] > 64)
            radii[name] = (rows.max() - rows.min() + 1 + columns.max() - columns.min() + 1) * PIXEL / 4
        self.assertAlmostEqual(radii["CutContour"], 16 + 2, delta=0.1)
        self.assertAlmostEqual(radii["PerfCutContour"], 16 + 5, delta=0.1)
        self.assertAlmostEqual(radii["White"], 16 - 0.5, delta=0.1)
        white = (plates["White"] > 128).sum() * PIXEL ** 2
        self.assertAlmostEqual(white, math.pi * 15.5 ** 2, delta=math.pi * 2 * 15.5 * PIXEL)  # all of it, no more
        # It overprints: the colours over it are whole.
        self.assertGreater(((plates["Magenta"] > 64) & (plates["White"] > 128)).sum() * PIXEL ** 2, 0.95 * white)
        self.run_cli("make", "d.hasami", "--print", "only.pdf", "--no-cut-lines")
        self.assertEqual(set(self.plates("only.pdf", "o")) & {"CutContour", "PerfCutContour"}, set())

    def test_bleed_goes_straight_out_where_two_colours_meet_and_is_a_layer_of_its_own(self):
        self.job("--offset", "0", "--bleed", "2mm")
        self.run_cli("make", "d.hasami", "--print", "p.pdf", "--no-cut-lines")
        raw = self.tool("qpdf", "--qdf", "--object-streams=disable", "p.pdf", "-")
        self.assertIn("(Bleed)", raw)
        self.tool("pdftoppm", "-r", DPI, "-png", "p.pdf", "p")
        page = numpy.array(Image.open(next(self.folder.glob("p-*.png"))).convert("RGB")).astype(int)
        red = (page[..., 0] > 150) & (page[..., 2] < 90)
        blue = (page[..., 2] > 150) & (page[..., 0] < 90)
        coloured = red | blue
        rows, columns = numpy.nonzero(coloured)
        self.assertAlmostEqual((rows.max() - rows.min() + 1) * PIXEL / 2, 18, delta=0.1)
        self.assertAlmostEqual((columns.max() - columns.min() + 1) * PIXEL / 2, 18, delta=0.1)
        # The page is turned a quarter: red lies above blue, and the seam between them stays level up to the rim.
        self.assertLess(numpy.nonzero(red)[0].mean(), numpy.nonzero(blue)[0].mean())
        seam = [numpy.nonzero(blue[:, c])[0].min() for c in range(columns.min() + 6, columns.max() - 6)]
        self.assertLessEqual(max(seam) - min(seam), 2)
        # Nothing of the medium shows between the print and its bleed.
        middle = (rows.min() + rows.max()) // 2 + 12
        self.assertTrue(coloured[middle, columns.min() + 2:columns.max() - 2].all())

    def test_a_cmyk_picture_bleeds_in_its_own_inks(self):
        inks = (25, 204, 51, 10)
        Image.new("CMYK", (200, 120), inks).save(self.folder / "label.jpg", quality=100, dpi=(254, 254))
        self.run_cli("new", "label.jpg", "-o", "l.hasami", "--shape", "box", "--offset", "0", "--bleed", "2mm", "--count", "1",
                     "--medium", "roll:150mm")
        self.run_cli("make", "l.hasami", "--print", "l.pdf", "--no-cut-lines")
        plates = self.plates("l.pdf", "l")
        rows, columns = numpy.nonzero(plates["Magenta"] > 100)
        # The page is turned a quarter: 20 mm high and 12 mm wide, and 2 mm of bleed all round.
        self.assertAlmostEqual((rows.max() - rows.min() + 1) * PIXEL, 24, delta=0.2)
        self.assertAlmostEqual((columns.max() - columns.min() + 1) * PIXEL, 16, delta=0.2)
        middle = (rows.min() + rows.max()) // 2
        across = slice(columns.min() + 3, columns.max() - 2)
        for name, ink in zip(("Cyan", "Magenta", "Yellow", "Black"), inks):
            self.assertLessEqual(numpy.abs(plates[name][middle, across] - ink).max(), 2, name)

    def test_cmyk_vector_art_bleeds_in_its_own_inks_also_where_it_mixes_in_rgb(self):
        w, h = 40 * 72 / 25.4, 25 * 72 / 25.4
        left, right = (0.1, 0.8, 0.2, 0.04), (0.6, 0, 0.9, 0)
        halves = f"{' '.join(map(str, left))} k 0 0 {w / 2} {h} re f {' '.join(map(str, right))} k {w / 2} 0 {w / 2} {h} re f "
        self.write("cmyk.pdf", pdf(halves, box=(0, 0, w, h)))
        self.write("mixed.pdf", pdf(halves + f"1 0 0 rg {w / 4 - 5} {h / 2 - 5} 10 10 re f", box=(0, 0, w, h)))
        for name in ("cmyk", "mixed"):
            self.run_cli("new", f"{name}.pdf", "-o", f"{name}.hasami", "--shape", "box", "--offset", "0", "--bleed", "2mm", "--count",
                         "1", "--medium", "roll:150mm", "--use", "stickers", "--with-backdrop")
            self.run_cli("make", f"{name}.hasami", "--print", f"{name}-print.pdf", "--no-cut-lines")
            self.assert_bled(f"{name}-print.pdf", name, left, right)

    def assert_bled(self, path, name, left, right):
        plates = self.plates(path, name)
        rows, columns = numpy.nonzero(plates["Yellow"] > 20)
        # The page is turned a quarter: 40 mm high and 25 mm wide, and 2 mm of bleed all round.
        self.assertAlmostEqual((rows.max() - rows.min() + 1) * PIXEL, 44, delta=0.2)
        self.assertAlmostEqual((columns.max() - columns.min() + 1) * PIXEL, 29, delta=0.2)
        top, bottom = rows.min() + 8, rows.max() - 8  # in the bleed
        middle = (columns.min() + columns.max()) // 2
        seen = [tuple(plates[name][row, middle] / 255 for name in ("Cyan", "Magenta", "Yellow", "Black")) for row in (top, bottom)]
        for found, wanted in zip(sorted(seen), sorted((left, right))):
            for ink, given in zip(found, wanted):
                self.assertAlmostEqual(ink, given, delta=0.012)
        # Out of the seam between the two goes a straight one.
        seam = [numpy.nonzero(plates["Magenta"][rows.min() + 4:rows.max() - 4, column] > 100)[0] for column in
                range(columns.min() + 28, columns.max() - 28)]  # its corners are round
        ends = [(run.min(), run.max()) for run in seam]
        self.assertLessEqual(max(max(e) - min(e) for e in zip(*ends)), 2)

    def test_a_box_shared_by_a_sheet_is_in_every_file_and_cut_last(self):
        self.job("--shared-box", "6mm", "--die-offset", "4mm", "--count", "5")
        for output, name in (("--cut", "b.svg"), ("--print", "b.pdf"), ("--report", "b.json")):
            self.run_cli("make", "d.hasami", output, name)
        self.run_cli("make", "d.hasami", "--cut", "b.plt")
        groups = ElementTree.parse(self.folder / "b.svg").getroot().findall(f"{SVG}g")
        self.assertEqual([g.get("id") for g in groups], ["kiss", "die", "marks"])
        self.assertEqual([len(g) for g in groups], [5, 6, 4])
        dies = [flattened(line.get("d"))[0] for line in groups[1]]
        low, high = dies[-1].min(axis=0), dies[-1].max(axis=0)
        others = numpy.concatenate(dies[:-1])
        self.assertLess(numpy.abs(others.min(axis=0) - low - 6).max(), 0.02)
        self.assertLess(numpy.abs(high - others.max(axis=0) - 6).max(), 0.02)
        marks = numpy.array([[float(c.get("cx")), float(c.get("cy"))] for c in groups[2]])
        for mark in marks:
            self.assertTrue((numpy.maximum(low - mark, mark - high) > 4 - 1e-6).any())
        strokes, _ = plotted((self.folder / "b.plt").read_text())
        self.assertEqual(len(strokes), 11)
        self.assertAlmostEqual(numpy.ptp(strokes[-1][:, 0]), high[0] - low[0], delta=0.06)
        report = json.loads((self.folder / "b.json").read_text())["sheets"][0]
        length = 2 * sum(high - low) - (8 - 2 * math.pi) * 3
        round_die = 2 * math.pi * 20
        self.assertAlmostEqual(report["cut_length"]["die"], 5 * round_die + length, delta=0.5)
        plate = self.plates("b.pdf", "b")["DieCut"] > 64
        rows, columns = numpy.nonzero(plate)
        self.assertAlmostEqual((rows.max() - rows.min() + 1) * PIXEL, high[0] - low[0], delta=3 * PIXEL + 0.01)
        self.assertAlmostEqual((columns.max() - columns.min() + 1) * PIXEL, high[1] - low[1], delta=3 * PIXEL + 0.01)
        self.assertIn("--shared-box", self.run_cli("new", "disc.png", "-o", "n.hasami", "--shared-box=-1", status=2).stderr)
        self.run_cli("new", "disc.png", "-o", "n.hasami", "--medium", "a4", "--shared-box", "100mm", status=1)

    def test_no_backdrop_is_printed_and_no_white_shows_at_a_drift_of_half_a_millimetre(self):
        can = SOURCE / "data" / "demo" / "smoke-can.jpg"
        self.run_cli("new", can, "-o", "c.hasami", "--offset=-0.3mm", "--bleed", "1mm", "--count", "1", "--medium", "a4")
        self.run_cli("make", "c.hasami", "--print", "c.pdf", "--cut", "c.plt", "--no-cut-lines")
        self.tool("pdftoppm", "-r", DPI, "-png", "c.pdf", "c")
        page = numpy.array(Image.open(next(self.folder.glob("c-*.png"))).convert("RGB")).astype(int)
        line, = plotted((self.folder / "c.plt").read_text())[0]
        # HPGL: x along the feed, y across from the right; the page: right = width - y, down = x.
        points = numpy.stack([line[:, 1], line[:, 0]], axis=1)
        white = (page > 245).all(axis=2)
        for angle in range(0, 360, 30):
            shift = 0.5 * numpy.array([math.cos(math.radians(angle)), math.sin(math.radians(angle))])
            at = numpy.floor((points + shift) / PIXEL).astype(int)
            self.assertEqual(white[at[:, 1], at[:, 0]].sum(), 0)
        # The backdrop is a light grey: far from the can all is paper.
        rows, columns = numpy.nonzero(~white)
        far = distances(numpy.stack([columns, rows], axis=1)[::97] * PIXEL, points)
        marks = (page < 60).all(axis=2)[rows[::97], columns[::97]]
        inside_page = far[(far < 6) & ~marks]
        self.assertLess(numpy.quantile(inside_page[inside_page > 0], 0.999), 60)

    def test_a_window_sticker_lies_mirrored_and_its_marks_do_not(self):
        self.write("f.png", png(letter_f()))
        for use in ("stickers", "window"):
            self.run_cli("new", "f.png", "-o", "u.hasami", "--width", "42mm", "--use", use, "--medium", "roll:150mm")
            self.run_cli("make", "u.hasami", "--cut", f"{use}.svg", "--print", f"{use}.pdf")
        groups = {use: ElementTree.parse(self.folder / f"{use}.svg").getroot().findall(f"{SVG}g") for use in ("stickers", "window")}
        plain, mirrored = (flattened(groups[use][0][0].get("d"))[0] for use in ("stickers", "window"))
        middle = (plain[:, 0].min() + plain[:, 0].max()) / 2
        self.assertGreater(distances(mirrored, plain).max(), 5)
        self.assertLess(distances(mirrored * [-1, 1] + [2 * middle, 0], plain).max(), 0.02)
        marks = [[(c.get("cx"), c.get("cy")) for c in groups[use][1]] for use in ("stickers", "window")]
        self.assertEqual(*marks)
        self.assertIn("White", self.plates("window.pdf", "w"))

    def test_jobs_of_format_4_print_as_they_did(self):
        self.job("--offset", "0")
        def older(job):
            job["format"] = 4
            for name in ("bleed", "inks", "use", "mirrored"):
                del job["designs"][0]["recipe"][name]
            for name in ("machineMakesTabs", "inks", "inkOrder"):
                del job["profile"][name]
            for name in ("crease", "perforated"):
                del job["profile"]["lines"][name]
        self.change("d.hasami", older)
        self.run_cli("make", "d.hasami", "--print", "p.pdf")
        self.assertNotIn("(Bleed)", self.tool("qpdf", "--qdf", "--object-streams=disable", "p.pdf", "-"))


if __name__ == "__main__":
    unittest.main()
