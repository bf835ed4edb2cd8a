"""Print files for a printer whose ICC profile is given: output intent, PDF/X-4, TIFF pictures in its colours."""
import json
import subprocess
import unittest
import zipfile
from pathlib import Path

import numpy
from PIL import Image, ImageCms

import vector_art
from support import *

PROFILES = Path("/usr/share/color/icc/ghostscript")
CMYK, RGB = PROFILES / "default_cmyk.icc", PROFILES / "srgb.icc"
INKS = (0.2, 0.9, 0.4, 0.1)


class ColourProfile(CliTest):
    def setUp(self):
        super().setUp()
        fill = " ".join(map(str, INKS)) + " k 20 20 160 110 re f"
        self.write("inks.pdf", vector_art.pdf(fill))
        self.write("red.svg", vector_art.svg('<rect width="60" height="40" fill="#c83c28"/>'))

    def job(self, *artworks, profile=CMYK):
        self.run_cli("new", *artworks, "-o", "j.hasami", "--width", "40mm", "--offset", "0mm", "--bleed", "1mm",
                     "--medium", "sheet:150x100", *(["--colour-profile", profile] if profile else []))

    def objects(self, name):
        described = json.loads(self.tool("qpdf", "--json=1", name))
        return [o for o in described["objects"].values() if isinstance(o, dict)]

    def plates(self, name):
        subprocess.run(["gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", "-r60", "-sOutputFile=s.tif", name],
                       cwd=self.folder, capture_output=True, check=True)
        return {path.stem[2:-1]: numpy.asarray(Image.open(path)).astype(int) for path in self.folder.glob("s(*).tif")}

    def findings(self):
        self.run_cli("make", "j.hasami", "--report", "r.json")
        return [finding["code"] for finding in json.loads((self.folder / "r.json").read_text())["findings"]]

    def test_the_pdf_names_the_profile_and_is_x4(self):
        self.job("inks.pdf", "red.svg")
        self.run_cli("make", "j.hasami", "--print", "p.pdf")
        self.tool("qpdf", "--check", "p.pdf")
        intents = [o for o in self.objects("p.pdf") if o.get("/S") == "/GTS_PDFX"]
        self.assertEqual(len(intents), 1)
        self.assertIn("/DestOutputProfile", intents[0])
        self.assertIn("GTS_PDFXVersion>PDF/X-4<", self.tool("pdfinfo", "-meta", "p.pdf"))
        self.assertIn("CreationDate", self.tool("pdfinfo", "p.pdf"))
        self.assertEqual(self.findings(), [])
        # Whoever draws in red, green and blue has their profile beside it.
        for about in self.objects("p.pdf"):
            resources = about.get("/Resources")
            if isinstance(resources, dict):
                self.assertIn("/DefaultRGB", resources["/ColorSpace"])
        # The profile is in the job, byte for byte.
        with zipfile.ZipFile(self.folder / "j.hasami") as entries:
            self.assertIn(CMYK.read_bytes(), [entries.read(name) for name in entries.namelist()])

    def test_inks_are_the_same_with_and_without_it(self):
        self.job("inks.pdf")
        self.run_cli("make", "j.hasami", "--print", "with.pdf")
        self.job("inks.pdf", profile=None)
        self.run_cli("make", "j.hasami", "--print", "without.pdf")
        self.assertNotIn("GTS_PDFX", self.tool("qpdf", "--json=1", "without.pdf"))
        there, here = self.plates("without.pdf"), self.plates("with.pdf")
        self.assertEqual(set(there), set(here))
        for name, plate in there.items():
            self.assertTrue((plate == here[name]).all(), name)
        for name, ink in zip(("Cyan", "Magenta", "Yellow", "Black"), INKS):
            self.assertAlmostEqual(255 - here[name].min() if name != "Black" else 255 * ink, 255 * ink, delta=2)

    def test_tiff_pictures_are_in_its_inks(self):
        self.job("inks.pdf", "red.svg")
        self.run_cli("make", "j.hasami", "--print", "p.tiff", "--dpi", 60)
        with Image.open(self.folder / "p.tiff") as picture:
            self.assertEqual(picture.mode, "CMYK")
            self.assertEqual(picture.info["icc_profile"], CMYK.read_bytes())
            counts = {colour: count for count, colour in picture.getcolors(1 << 24)}
        most = sorted(counts, key=counts.get)[-4:]  # paper, both artworks, black marks or rims
        far = lambda colour, other: max(abs(a - b) for a, b in zip(colour, other))
        self.assertLessEqual(min(far(colour, [255 * ink for ink in INKS]) for colour in most), 1)
        patch = Image.new("RGB", (1, 1), (200, 60, 40))
        darkest_to_darkest = 0x2000  # black point compensation
        expected = ImageCms.profileToProfile(patch, ImageCms.createProfile("sRGB"), str(CMYK), outputMode="CMYK",
                                             flags=darkest_to_darkest).getpixel((0, 0))
        self.assertLessEqual(min(far(colour, expected) for colour in most), 3)
        self.run_cli("make", "j.hasami", "--print", "p.png", "--dpi", 60)
        with Image.open(self.folder / "p.png") as picture:
            self.assertEqual(picture.mode, "RGB")

    def test_where_it_is_no_x4_a_finding_says_why(self):
        self.job("red.svg", profile=RGB)
        self.assertEqual(self.findings(), ["not-pdf-x4"])
        self.run_cli("make", "j.hasami", "--print", "p.pdf")
        self.assertNotIn("PDF/X-4", self.tool("pdfinfo", "-meta", "p.pdf"))
        self.assertIn("/GTS_PDFX", self.tool("qpdf", "--json=1", "p.pdf"))  # the intent it has all the same
        text = "BT /F1 60 Tf 20 40 Td (Bee) Tj ET"
        font = "/Font << /F1 << /Type /Font /Subtype /Type1 /BaseFont /Helvetica >> >>"
        self.write("text.pdf", vector_art.pdf(text, font))
        self.job("text.pdf")
        self.assertEqual(sorted(self.findings()), ["font-missing", "not-pdf-x4"])
        self.job("text.pdf", profile=None)
        self.assertEqual(self.findings(), ["font-missing"])

    def test_an_x4_says_who_it_is_and_holds_nothing_that_it_may_not(self):
        inks = vector_art.pdf("/A cs 0.2 0.7 0.1 0.05 scn 20 20 160 110 re f", "/ColorSpace << /A [/ICCBased 5 0 R] >>",
                              objects=[vector_art.stream(CMYK.read_bytes(), "/N 4")])
        self.write("own.pdf", inks)
        self.job("own.pdf")
        self.assertEqual(self.findings(), [])
        self.run_cli("make", "j.hasami", "--print", "p.pdf")
        about = self.tool("pdfinfo", "-meta", "p.pdf")
        for word in ("PDF/X-4", "<xmpMM:DocumentID>uuid:", "<xmpMM:VersionID>1<", "<xmpMM:RenditionClass>default<"):
            self.assertIn(word, about)
        self.tool("qpdf", "--qdf", "--object-streams=disable", "p.pdf", "plain.pdf")
        plain = (self.folder / "plain.pdf").read_bytes()
        self.assertEqual(plain.count(CMYK.read_bytes()[:200]), 1)  # the output intent's alone
        found, wanted = self.plates("p.pdf"), (0.2, 0.7, 0.1, 0.05)
        for name, ink in zip(("Cyan", "Magenta", "Yellow"), wanted):
            self.assertAlmostEqual(255 - found[name].min(), 255 * ink, delta=2)

    def test_artwork_with_what_an_x4_may_not_have_is_no_x4(self):
        font = "<< /Font << /F1 << /Type /Font /Subtype /Type1 /BaseFont /Helvetica >> >> >>"
        pattern = vector_art.stream("BT /F1 20 Tf 2 4 Td (Bee) Tj ET", "/Type /Pattern /PatternType 1 /PaintType 1 /TilingType 1 "
                                    f"/BBox [0 0 40 20] /XStep 40 /YStep 20 /Resources {font}")
        cases = {"transfer": ("/G gs 1 0 0 rg 20 20 160 110 re f", "/ExtGState << /G << /TR << /FunctionType 2 /Domain [0 1] /N 2 "
                              "/C0 [0] /C1 [1] >> >> >>", "null", ["not-pdf-x4"]),
                 "other": ("1 0 0 rg 20 20 160 110 re f /O Do", "/XObject << /O 5 0 R >>",
                           vector_art.stream("0 0 1 rg 30 30 20 20 re f", "/Type /XObject /Subtype /Form /BBox [0 0 200 150] "
                                             "/OPI << /2.0 << /Type /OPI /Version 2.0 /F (high.tif) >> >>"), ["not-pdf-x4"]),
                 "pattern": ("/Pattern cs /P scn 20 20 160 110 re f", "/Pattern << /P 5 0 R >>", pattern,
                             ["font-missing", "not-pdf-x4"])}
        for name, (content, resources, thing, findings) in cases.items():
            with self.subTest(name):
                self.write(f"{name}.pdf", vector_art.pdf(content, resources, objects=[thing]))
                self.job(f"{name}.pdf")
                self.assertEqual([f for f in sorted(self.findings()) if f in ("font-missing", "not-pdf-x4")], findings)
                self.run_cli("make", "j.hasami", "--print", "p.pdf")
                self.assertNotIn("PDF/X-4", self.tool("pdfinfo", "-meta", "p.pdf"))

    def test_a_profile_of_other_colours_than_the_picture_has_is_left_out(self):
        profiles = {"RGB": RGB.read_bytes(), "CMYK": CMYK.read_bytes(), "Lab": (PROFILES / "lab.icc").read_bytes()}
        cases = (("g.jpg", "L", "RGB", False), ("g.tif", "L", "RGB", False), ("r.tif", "RGB", "CMYK", False),
                 ("l.tif", "RGB", "Lab", False), ("c.jpg", "CMYK", "CMYK", True), ("c.tif", "CMYK", "CMYK", True),
                 ("r.jpg", "RGB", "RGB", True))
        for name, mode, kind, isKept in cases:
            with self.subTest(name):
                Image.new(mode, (200, 120), {"L": 90, "RGB": (200, 60, 40), "CMYK": (20, 200, 60, 10)}[mode]).save(
                    self.folder / name, icc_profile=profiles[kind], dpi=(254, 254))
                self.run_cli("new", name, "-o", "p.hasami", "--shape", "box", "--offset", "0", "--medium", "roll:100")
                self.run_cli("make", "p.hasami", "--print", "p.pdf")
                self.tool("qpdf", "--qdf", "--object-streams=disable", "p.pdf", "plain.pdf")
                plain = (self.folder / "plain.pdf").read_bytes()
                self.assertEqual(b"/ICCBased" in plain, isKept)

    def test_what_is_no_profile_is_refused(self):
        self.write("no.icc", b"not a profile at all")
        self.assertIn("no.icc is no ICC colour profile",
                      self.run_cli("new", "red.svg", "-o", "n.hasami", "--colour-profile", "no.icc", status=3).stderr)
        self.assertIn("of no printer", self.run_cli("new", "red.svg", "-o", "n.hasami", "--colour-profile", PROFILES / "lab.icc",
                                                    status=3).stderr)
        self.job("red.svg")
        self.change("j.hasami", lambda job: job["outputs"].update(colours="0" * 64))
        self.assertIn("the colour profile of its outputs is not in the file",
                      self.run_cli("make", "j.hasami", "--print", "p.pdf", status=3).stderr)


    def test_cmyk_pictures_are_shown_as_their_profile_says_and_printed_as_they_are(self):
        inks = (200, 30, 180, 20)  # of 255
        shown = ImageCms.profileToProfile(Image.new("CMYK", (1, 1), inks), str(CMYK), ImageCms.createProfile("sRGB"), outputMode="RGB",
                                          renderingIntent=1,
                                          flags=ImageCms.FLAGS["BLACKPOINTCOMPENSATION"]).getpixel((0, 0))
        naive = tuple(round((255 - ink) * (255 - inks[3]) / 255) for ink in inks[:3])
        self.assertGreater(max(abs(a - b) for a, b in zip(shown, naive)), 20)
        for name, options in (("p.jpg", {"quality": 100, "subsampling": 0}), ("p.tif", {})):
            picture = Image.new("CMYK", (200, 120), (0, 0, 0, 0))
            picture.paste(inks, (20, 20, 180, 100))
            picture.save(self.folder / name, icc_profile=CMYK.read_bytes(), dpi=(254, 254), **options)
            self.run_cli("new", name, "-o", "p.hasami", "--offset", "2mm", "--medium", "roll:100", "--marks", "none")
            self.run_cli("make", "p.hasami", "--print", "p.png", "--dpi", "100")
            with Image.open(self.folder / "p.png") as image, self.subTest(name=name):
                pixels = numpy.asarray(image.convert("RGB")).reshape(-1, 3)
                self.assertLess(numpy.abs(pixels - numpy.array(shown)).max(axis=1).min(), 4)
                self.assertGreater(numpy.abs(pixels - numpy.array(naive)).max(axis=1).min(), 10)


if __name__ == "__main__":
    unittest.main()
