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
