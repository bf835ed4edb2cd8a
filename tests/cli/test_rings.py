"""Several cut lines and a printed border from one edge, through every file that leaves the program."""
import json
import re
import xml.etree.ElementTree as ElementTree

from PIL import Image

from support import *
from test_hpgl_report_info import plotted

SVG = "{http://www.w3.org/2000/svg}"


class Rings(CliTest):
    def setUp(self):
        super().setUp()
        disc = numpy.zeros((400, 400, 4), numpy.uint8)
        y, x = numpy.mgrid[0:400, 0:400] + 0.5
        far = numpy.hypot(x - 200, y - 200)
        disc[..., 2] = 200
        disc[..., 3] = numpy.clip((150.5 - far) * 255, 0, 255)
        self.write("disc.png", png(disc))  # 30 mm across at 40 mm
        self.run_cli("new", "disc.png", "-o", "r.hasami", "--width", "40mm", "--offset=-0.5mm", "--border", "3mm",
                     "--border-colour", "#FF0000", "--die-offset", "4mm", "--count", "3", "--medium", "roll:200mm")

    def radii(self, lines):
        return [(line.max(axis=0) - line.min(axis=0)).mean() / 2 for line in lines]

    def test_the_outline_holds_kiss_and_die_lines(self):
        self.run_cli("outline", "disc.png", "--width", "40mm", "--offset", "2mm", "--die-offset", "5mm",
                     "-o", "o.json", "-o", "o.svg", "-o", "o.pdf")
        lines = json.loads((self.folder / "o.json").read_text())["lines"]
        self.assertEqual([line["kind"] for line in lines], ["kiss", "die"])
        for line, radius in zip(lines, (17, 20)):
            self.assertAlmostEqual(line["area"], math.pi * radius ** 2, delta=math.pi * 2 * radius * 0.02)
        root = ElementTree.parse(self.folder / "o.svg").getroot()
        self.assertEqual([g.get("id") for g in root.findall(f"{SVG}g")], ["kiss", "die"])
        raw = self.tool("qpdf", "--qdf", "--object-streams=disable", "o.pdf", "-")
        for name in ("/CutContour", "/DieCut"):
            self.assertIn(name, raw)

    def test_a_plain_shape_of_its_own_size_stands_around_the_artworks_middle(self):
        for size, width, height in (("60mmx2in", 60, 50.8), ("45", 45, 45)):
            self.run_cli("outline", "disc.png", "--width", "40mm", "--offset", "0", "--shape", "box", "--shape-size", size, "-o", "o.json")
            line, = json.loads((self.folder / "o.json").read_text())["lines"]
            corners = numpy.array(line["polyline"])
            numpy.testing.assert_allclose(corners.min(axis=0), (20 - width / 2, 20 - height / 2), atol=0.02)
            numpy.testing.assert_allclose(corners.max(axis=0), (20 + width / 2, 20 + height / 2), atol=0.02)
        refused = self.run_cli("outline", "disc.png", "--shape", "box", "--shape-size", "60xwide", "-o", "no.json", status=2)
        self.assertIn("--shape-size", refused.stderr)
        self.assertFalse((self.folder / "no.json").exists())

    def test_kiss_is_cut_before_die_in_every_cut_file(self):
        self.run_cli("make", "r.hasami", "--cut", "c.svg")
        self.run_cli("make", "r.hasami", "--cut", "c.plt")
        root = ElementTree.parse(self.folder / "c.svg").getroot()
        self.assertEqual([g.get("id") for g in root.findall(f"{SVG}g")], ["kiss", "die", "marks"])
        lines = [flattened(p.get("d"))[0] for p in root.iter(f"{SVG}path")]
        for radius, wanted in zip(self.radii(lines), [18] * 3 + [22] * 3):
            self.assertAlmostEqual(radius, wanted, delta=0.03)
        strokes, others = plotted((self.folder / "c.plt").read_text())
        self.assertEqual(others, ["IN", "PA", "SP1", "VS30", "SP2", "VS15", "SP0"])
        for radius, wanted in zip(self.radii(strokes), [18] * 3 + [22] * 3):
            self.assertAlmostEqual(radius, wanted, delta=0.05)

    def test_the_band_is_printed_as_far_as_the_offset_hides_and_each_line_has_its_plate(self):
        dpi = 200
        self.run_cli("make", "r.hasami", "--print", "p.pdf", "--report", "r.json")
        self.assertIn("No syntax or stream encoding errors", self.tool("qpdf", "--check", "p.pdf"))
        self.tool("gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", f"-r{dpi}", "-sOutputFile=s.tif",
                  "p.pdf")
        plates = {re.sub(r".*\((.*)\).*", r"\1", p.name): p for p in self.folder.glob("s(*).tif")}
        self.assertEqual(set(plates), {"Cyan", "Magenta", "Yellow", "Black", "CutContour", "DieCut"})
        ink = {name: 255 - numpy.array(Image.open(path)).astype(int) for name, path in plates.items()}
        red = (ink["Yellow"] > 128) & (ink["Cyan"] < 100)
        pixel = (25.4 / dpi) ** 2
        # From the disc's 15.0 mm to 3 mm finished and 1 mm of bleed, more than the 0.5 mm that the cut hides. PDF fills each pixel that an
        # area touches: a disc and a square of one pixel added are larger than the disc by four radii of a pixel, and one that is taken from
        # the rest smaller by as much.
        side = 25.4 / dpi
        self.assertAlmostEqual(red.sum() * pixel / 3, math.pi * (19**2 - 15**2) + 4 * (19 + 15) * side, delta=1)
        # Between the disc and the band nothing is left white.
        rows, columns = numpy.nonzero(red)
        first = (columns < columns.min() + 2 * 19 / 25.4 * dpi) & (rows < rows.min() + 2 * 19 / 25.4 * dpi)
        x, y = int(columns[first].mean()), int(rows[first].mean())
        printed = (ink["Yellow"] + ink["Cyan"] + ink["Magenta"])[y, x:x + int(18.2 / 25.4 * dpi)]
        self.assertGreater(printed.min(), 60)
        report = json.loads((self.folder / "r.json").read_text())["sheets"][0]["cut_length"]
        self.assertAlmostEqual(report["kiss"], 3 * 2 * math.pi * 18, delta=0.5)
        self.assertAlmostEqual(report["die"], 3 * 2 * math.pi * 22, delta=0.5)

    def test_what_can_not_be_a_border_is_refused(self):
        for option, value, says in (("--border", "-1", "--border takes a length"),
                                    ("--border-colour", "red", "#204060"),
                                    ("--die-offset", "wide", "--die-offset takes a length")):
            told = self.run_cli("outline", "disc.png", option + "=" + value, "-o", "o.json", status=2)
            self.assertIn(says, told.stderr)

    def test_colours_part_the_picture_with_shared_borders(self):
        flag = numpy.zeros((300, 400, 4), numpy.uint8)
        flag[..., 3] = 255
        flag[..., :3] = 255
        flag[50:250, 50:200, :3] = (200, 30, 40)
        flag[50:250, 200:350, :3] = (30, 60, 180)
        self.write("flag.png", png(flag))
        self.run_cli("outline", "flag.png", "--width", "40mm", "--find", "colours", "-o", "o.json")
        lines = json.loads((self.folder / "o.json").read_text())["lines"]
        self.assertEqual(len(lines), 2)
        for line in lines:
            self.assertAlmostEqual(line["area"], 15 * 20, delta=0.3)
            self.assertLessEqual(line["points"], 8)
        both = [set(map(tuple, line["polyline"])) for line in lines]
        shared = both[0] & both[1]
        self.assertGreaterEqual(len(shared), 2)  # the ends of the border they share, to the last digit
        for x, _ in shared:
            self.assertAlmostEqual(x, 20, delta=0.02)
        self.run_cli("outline", "flag.png", "--find", "colours", "--colours", "90", "-o", "o.json", status=2)


if __name__ == "__main__":
    unittest.main()
