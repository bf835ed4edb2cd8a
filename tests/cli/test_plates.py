"""Every plate of a print file has what the artwork asks for: read by Ghostscript's separations and by MuPDF's."""
import json
import subprocess
from pathlib import Path

from PIL import Image

from plates import BOX, PROCESS, PlatesTest, inks_at, plates_by_mupdf, plates_of
from support import *
from vector_art import joined, pdf, stream


def separation(name):
    return f"[/Separation /{name} /DeviceCMYK << /FunctionType 2 /Domain [0 1] /C0 [0 0 0 0] /C1 [0 1 0 0] /N 1 >>]"


class Plates(PlatesTest):
    def test_special_inks_leave_the_colours_below_as_they_are(self):
        square = pdf("0.5 0.2 0.1 0.3 k 10 10 100 100 re f", box=BOX)
        self.assert_inks(self.printed(square, "--white", "0mm"), {"Cyan": 127, "Magenta": 51, "Yellow": 25, "Black": 76, "White": 255})

        def all_inks(job):
            recipe = job["designs"][0]["recipe"]
            recipe["inks"] = [recipe["inks"][0] | {"ink": ink} for ink in ("primer", "white", "gloss")]

        self.change("a.hasami", all_inks)
        self.run_cli("make", "a.hasami", "--print", "all.pdf", "--no-cut-lines")
        self.assert_inks(self.folder / "all.pdf", {"Cyan": 127, "Magenta": 51, "Yellow": 25, "Black": 76, "White": 255,
                                                   "Gloss": 255, "Primer": 255})

    def test_white_lies_under_marks_and_code_on_a_dark_medium(self):
        self.printed(pdf("0 1 1 0 k 10 10 100 100 re f", box=BOX), "--job-code", "datamatrix")

        def dark(job):
            job["profile"]["marks"]["onWhite"] = True
        self.change("a.hasami", dark)
        for kind, options in (("pdf", ()), ("eps", ("-dEPSCrop",))):
            with self.subTest(kind):
                self.run_cli("make", "a.hasami", "--print", f"w.{kind}", "--no-cut-lines")
                plates = plates_of(self.folder / f"w.{kind}", 150, options)
                black = plates["Black"] > 200
                self.assertGreater(black.sum(), 500)
                self.assertEqual((black & (plates["White"] < 200)).sum(), 0)
                rows, columns = numpy.nonzero(black)
                code = black[:rows.min() + 60]  # at the leading edge, on top
                self.assertGreater(code.sum(), 100)

    def test_white_leaves_openings_bare_that_are_not_printed(self):
        y, x = numpy.mgrid[0:600, 0:600] + 0.5
        far = numpy.hypot(x - 300, y - 300)
        ring = numpy.zeros((600, 600, 4), numpy.uint8)
        ring[..., 0] = 200
        ring[..., 3] = 255 * ((far < 250) & (far > 125))
        area = math.pi * (25 ** 2 - 12.5 ** 2)
        for use in ("stickers", "window"):
            path = self.printed(png(ring), "--white", "0mm", "--use", use, "--width", "60mm", kind="png", name=use)
            white = (plates_of(path, 300)["White"] > 128).sum() * (25.4 / 300) ** 2
            self.assertAlmostEqual(white, area, delta=0.02 * area)
        square = self.printed(pdf("1 0 0 rg 10 10 100 100 re 40 40 40 40 re f*", box=BOX), "--white", "0mm")
        white = (plates_of(square, 300)["White"] > 128).sum() * (25.4 / 300) ** 2
        self.assertAlmostEqual(white, (100 ** 2 - 40 ** 2) * (25.4 / 72) ** 2, delta=15)

    def bled(self, data, name="a", kind="pdf"):
        return self.printed(data, "--shape", "box", "--bleed", "2mm", "--use", "stickers", "--with-backdrop", "--marks", "none",
                            name=name, kind=kind, offset="0")

    def test_bleed_has_the_artworks_own_colours(self):
        half = "/ExtGState << /H << /ca 0.5 >> >>"
        cases = {
            "grey": ("0 g 0 0 120 120 re f", "", [{"Black": 255}]),
            "mixed": ("0 1 0 1 k 0 0 120 120 re f 1 0 0 rg 40 40 40 40 re f", "",
                      [{"Black": 255, "Magenta": 255}, {"Magenta": 255, "Yellow": 255}]),
            "spot": ("/A cs 1 scn 0 0 120 120 re f", f"/ColorSpace << /A {separation('Amber')} >>", [{"Amber": 255}]),
            "tint": ("/A cs 0.4 scn 0 0 120 120 re f", f"/ColorSpace << /A {separation('Amber')} >>", [{"Amber": 102}]),
            "half": ("/H gs 1 0 0 0 k 0 0 120 120 re f", half, [{"Cyan": 128}]),
            "multiplied": ("/H gs 0.6 0 0.2 0 k 0 0 120 120 re f", "/ExtGState << /H << /BM /Multiply >> >>",
                           [{"Cyan": 153, "Yellow": 51}]),
        }
        for name, (content, resources, wanted) in cases.items():
            with self.subTest(name):
                path = self.bled(pdf(content, resources, box=BOX), name=name)
                plates = plates_of(path, 300)
                _, columns = numpy.nonzero(plates[next(iter(wanted[0]))] > 40)
                self.assertAlmostEqual((columns.max() - columns.min() + 1) * 25.4 / 300, 120 * 25.4 / 72 + 4, delta=0.2)
                self.assert_only(path, *wanted)

    def test_bleed_keeps_the_artworks_profile(self):
        folder = Path("/usr/share/color/icc/ghostscript")
        for channels, file, numbers in ((4, "default_cmyk.icc", (0.2, 0.7, 0.1, 0.05)), (3, "default_rgb.icc", (0.2, 0.7, 0.1))):
            profile = (folder / file).read_bytes()
            art = pdf(f"/A cs {' '.join(map(str, numbers))} scn 0 0 120 120 re f", "/ColorSpace << /A [/ICCBased 5 0 R] >>",
                      box=BOX, objects=[stream(profile, f"/N {channels}")])
            path = self.bled(art, name=f"profile{channels}")
            raw = subprocess.run(["qpdf", "--qdf", "--object-streams=disable", path, "-"], capture_output=True, check=True).stdout
            pictures = [part for part in raw.split(b"endobj") if b"/Subtype /Image" in part]
            self.assertEqual(len(pictures), 1)
            data = pictures[0].split(b"stream\n")[1]
            pixels = numpy.frombuffer(data[:len(data) // channels * channels - 3 * channels], numpy.uint8).reshape(-1, channels)
            kinds, counts = numpy.unique(pixels, axis=0, return_counts=True)
            self.assertTrue(any(numpy.abs(kind - 255 * numpy.array(numbers)).max() <= 2 for kind in kinds[counts > 1000]), kinds)
            self.assertNotIn(b"/ColorSpace /Device", pictures[0])
            self.assertEqual(raw.count(profile[:100]), 2)

    def test_each_item_bleeds_in_its_own_colours(self):
        self.write("ink.pdf", pdf("0 0 0 1 k 0 0 120 120 re f", box=BOX))
        Image.new("RGB", (400, 400), (200, 30, 60)).save(self.folder / "colour.png", dpi=(254, 254))
        Image.new("L", (400, 400), 60).save(self.folder / "grey.png", dpi=(254, 254))
        self.run_cli("new", "ink.pdf", "colour.png", "grey.png", "-o", "t.hasami", "--medium", "roll:250mm", "--shape", "box",
                     "--offset", "0", "--bleed", "2mm", "--use", "stickers", "--with-backdrop", "--count", 1)

        def join(job):
            items = [design["items"][0] for design in job["designs"]]
            items[1]["x"], items[2]["x"] = 30, 60
            job["designs"] = [job["designs"][0] | {"items": items}]
        self.change("t.hasami", join)
        self.run_cli("make", "t.hasami", "--print", "t.pdf", "--no-cut-lines")
        plates = plates_of(self.folder / "t.pdf")
        black = {int(value) for value in numpy.unique(plates["Black"][plates["Cyan"] + plates["Magenta"] == 0])}
        self.assertEqual(black - {0}, {255, 195})  # the page's and the marks', and the grey picture's
        area = ((plates["Black"] == 195).sum()) * 0.254 ** 2
        self.assertAlmostEqual(area, 40 * 40 + 2 * 40 + 2 * 40, delta=20)  # its lower edge lies within the page's

    def test_a_page_is_composed_in_its_own_group(self):
        art = pdf("0.9 0.2 0.3 rg 10 10 80 80 re f /M gs 0.3 0.8 0.5 rg 30 30 80 80 re f",
                  "/ExtGState << /M << /BM /Multiply >> >>", box=BOX, page="/Group << /S /Transparency /CS /DeviceRGB >>")
        path = self.printed(art)
        for given, found in zip(self.combinations(self.folder / "a.pdf"), self.combinations(path)):
            self.assertEqual(len(given), 3)
            for kind in given:
                self.assertTrue(any(self.are_alike(kind, other) for other in found), (kind, found))

    def test_what_a_page_prints_beside_its_content_is_printed(self):
        stamp = "<< /Type /Annot /Subtype /Stamp /F %d /Rect [60 %d 100 %d] /AP << /N 5 0 R >> >>"
        look = stream("1 0 0 0 k 0 0 40 40 re f", "/Type /XObject /Subtype /Form /BBox [0 0 40 40]")
        art = pdf("0 0 1 0 k 10 10 40 40 re f", box=BOX, page="/Annots [6 0 R 7 0 R]",
                  objects=[look, stamp % (4, 10, 50), stamp % (2, 70, 110)])  # printed, and hidden
        plates = plates_of(self.printed(art))
        for name in ("Yellow", "Cyan"):
            self.assertAlmostEqual((plates[name] > 128).sum() * 0.254 ** 2, (40 * 25.4 / 72) ** 2, delta=12)

    def test_what_is_too_small_to_be_cut_around_is_printed(self):
        pixels = numpy.full((400, 400, 3), 255, numpy.uint8)
        for top, left, side in ((40, 40, 240), (160, 300, 8), (300, 100, 8)):
            pixels[top:top + side, left:left + side] = 0
        Image.fromarray(pixels).save(self.folder / "dots.png", dpi=(254, 254))
        path = self.printed((self.folder / "dots.png").read_bytes(), "--marks", "none", name="dots", kind="png", offset="4mm")
        ink = sum(plates_of(path, 300).values()) > 100
        for at in ((300, 300), (0, 0)):
            self.assertFalse(ink[at])
        self.assertAlmostEqual(ink.sum() * (25.4 / 300) ** 2, 24 * 24 + 2 * 0.8 ** 2, delta=0.6)

    def test_a_crop_box_that_leaves_the_paper_stretches_nothing(self):
        art = pdf("0 0 1 rg 40 70 20 20 re f 1 0 0 rg 0 0 200 5 re f", box=(0, 0, 200, 150), page="/CropBox [20 10 260 100]")
        path = self.printed(art, "--shape", "box", "--use", "stickers")
        rows, columns = numpy.nonzero(plates_of(path, 300)["Cyan"] > 200)
        for places in (rows, columns):
            self.assertAlmostEqual((numpy.ptp(places) + 1) * 25.4 / 300, 20 * 25.4 / 72, delta=0.2)

    def test_a_written_file_says_what_is_on_its_plates(self):
        path = self.printed(pdf("0.5 0.2 0.1 0.3 k 10 10 100 100 re f", box=BOX), "--white", "0mm", "--marks", "none")
        about = json.loads(self.run_cli("info", path, "--json").stdout)
        area = (100 * 25.4 / 72) ** 2
        self.assertEqual(set(about["plates_mm2"]), {*PROCESS, "White"})
        for plate in about["plates_mm2"].values():
            self.assertAlmostEqual(plate, area, delta=0.03 * area)
        self.assertAlmostEqual(about["most_ink_percent"], 50 + 20 + 10 + 30 + 100, delta=1)
        self.assertEqual(about["missing_fonts"], [])

    def test_a_page_that_restores_too_much_is_drawn_whole(self):
        art = pdf("0 0 1 0 k 10 10 40 40 re f Q 1 0 0 0 k 60 10 40 40 re f", box=BOX)
        self.assert_inks(self.printed(art), {"Yellow": 255}, {"Cyan": 255})

    def test_names_of_plates_are_found_wherever_artwork_uses_them(self):
        picture = "/Type /XObject /Subtype /Image /Width 2 /Height 2 /BitsPerComponent 8 /ColorSpace "
        shading = "<< /ShadingType 2 /ColorSpace %s /Coords [0 0 100 0] /Function << /FunctionType 2 /Domain [0 1] /C0 [0] " \
                  "/C1 [1] /N 1 >> >>"
        mixed = stream("{pop 0 0 0}", "/FunctionType 4 /Domain [0 1 0 1] /Range [0 1 0 1 0 1 0 1]")
        drawn = "q 80 0 0 80 20 20 cm /I Do Q"
        cases = {
            "picture": (drawn, "/XObject << /I 5 0 R >>", stream(b"\xff" * 4, picture + separation("CutContour"))),
            "table": (drawn, "/XObject << /I 5 0 R >>", stream(bytes(4), picture + f"[/Indexed {separation('CutContour')} 1 <ff00>]")),
            "shading": ("/S sh", f"/Shading << /S {shading % separation('CutContour')} >>", "null"),
            "mixed": ("/A cs 0.5 1 scn 20 20 80 80 re f",
                      "/ColorSpace << /A [/DeviceN [/Cyan /CutContour] /DeviceCMYK 5 0 R] >>", mixed),
            "all": ("/A cs 1 scn 20 20 80 80 re f", f"/ColorSpace << /A {separation('All')} >>", "null"),
            "another": (drawn, "/XObject << /I 5 0 R >>", stream(b"\xff" * 4, picture + separation("Amber"))),
        }
        for name, (content, resources, thing) in cases.items():
            with self.subTest(name):
                self.printed(pdf(content, resources, box=BOX, objects=[thing]), name=name)
                self.assertEqual(self.findings(name), [] if name == "another" else ["spot-name-taken"])
        self.printed(pdf("/A cs 1 scn 20 20 80 80 re f", f"/ColorSpace << /A {separation('Marks')} >>", box=BOX), name="marks")
        self.assertEqual(self.findings("marks"), [])

        def own_marks(job):
            job["profile"]["marks"]["spot"] = "Marks"
        self.change("marks.hasami", own_marks)
        self.assertEqual(self.findings("marks"), ["spot-name-taken"])

    def test_hidden_cut_lines_and_layers_for_the_screen_stay_out(self):
        art = joined([
            "<< /Type /Catalog /Pages 2 0 R /OCProperties << /OCGs [5 0 R 6 0 R] /D << /OFF [5 0 R] >> >> >>",
            "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
            "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 120 120] /Contents 4 0 R /Resources << /Properties << /H 5 0 R /P 6 0 R >> "
            f"/ColorSpace << /C {separation('CutContour')} >> >> >>",
            stream("1 0 0 0 k 20 20 80 80 re f /OC /H BDC /C CS 1 SCN 10 10 100 100 re S EMC "
                   "/OC /P BDC 0 1 0 0 k 40 40 20 20 re f EMC"),
            "<< /Type /OCG /Name (Cut) >>", "<< /Type /OCG /Name (Screen) /Usage << /Print << /PrintState /OFF >> >> >>"])
        path = self.printed(art)
        self.assertEqual([kind for kind in self.combinations(path)[0] if kind != self.MARKS], [{"Cyan": 255}])
        raw = self.tool("qpdf", "--qdf", "--object-streams=disable", path, "-")
        self.assertNotIn("CutContour", raw)
        order = raw[raw.index("/Order ["):]
        self.assertEqual(order[:order.index("]")].count(" R"), 2 + 2)  # our two layers and the artwork's


if __name__ == "__main__":
    unittest.main()
