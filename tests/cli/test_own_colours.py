"""Colours that are chosen here are on the plates that they name: borders, bleed, lettering, marks."""
import json

import numpy

from PIL import Image

from plates import BOX, PlatesTest, plates_of
from support import *
from vector_art import pdf

GOLD = "Comb Gold = 0 30 90 10"


class OwnColours(PlatesTest):
    SQUARE = pdf("0 0 0 1 k 10 10 100 100 re f", box=BOX)

    def bordered(self, colour, *options, out="pdf"):
        return self.printed(self.SQUARE, "--border", "4mm", "--border-colour", colour, *options, out=out)

    def test_borders(self):
        for out in ("pdf", "eps"):
            for colour, inks in (("0 60 100 0", {"Magenta": 153, "Yellow": 255}), (GOLD, {"Comb Gold": 255}),
                                 ("black", {"Black": 255}), ("0,0,0,40", {"Black": 102})):
                with self.subTest(colour, out=out):
                    path = self.bordered(colour, out=out)
                    if out == "pdf":
                        self.assert_inks(path, inks)
                    else:
                        plates = plates_of(path, 60, ("-dEPSCrop",))
                        for ink, amount in inks.items():
                            self.assertGreater((numpy.abs(plates[ink] - amount) <= 2).sum(), 100)
        self.assertEqual(set(plates_of(self.bordered(GOLD), 60)), {"Cyan", "Magenta", "Yellow", "Black", "Comb Gold"})

    def test_black_border_is_in_black_alone_unless_asked_otherwise(self):
        plates = plates_of(self.printed(self.SQUARE, "--border", "4mm"), 60)
        for ink in ("Cyan", "Magenta", "Yellow"):
            self.assertEqual(plates[ink].max(), 0)

    def test_bleed(self):
        for colour, inks in (("0 0 100 20", {"Yellow": 255, "Black": 51}), (GOLD, {"Comb Gold": 255})):
            with self.subTest(colour):
                path = self.printed(self.SQUARE, "--bleed", "4mm", "--bleed-colour", colour, offset="0mm")
                self.assert_inks(path, inks)

    def test_lettering_and_its_bleed(self):
        for colour, inks in (("10 0 100 20", {"Cyan": 25, "Yellow": 255, "Black": 51}), (GOLD, {"Comb Gold": 255}),
                             ("black", {"Black": 255})):
            with self.subTest(colour):
                self.run_cli("new", "-o", "l.hasami", "--lettering", "HIVE", "--cap-height", "20mm", "--fill", colour, "--bleed",
                             "3mm", "--offset", "0mm", "--medium", "roll:300mm", "--count", 1, "--marks", "none")
                self.run_cli("make", "l.hasami", "--print", "l.pdf", "--no-cut-lines")
                path = self.folder / "l.pdf"
                whole = {ink: amount for ink, amount in inks.items()}
                for found in self.combinations(path, 60):  # nothing but that, bleed and edges included
                    self.assertTrue(any(self.are_alike(whole, kind) for kind in found), found)
                    for kind in found:
                        self.assertLessEqual(set(kind), set(inks))

    def test_marks(self):
        for out, options in (("pdf", ()), ("eps", ("-dEPSCrop",))):
            for colour, inks in (("100 100 0 0", {"Cyan": 255, "Magenta": 255}), ("Sensor = 0 0 0 100", {"Sensor": 255})):
                with self.subTest(colour, out=out):
                    path = self.printed(pdf("0 0 1 0 k 10 10 100 100 re f", box=BOX), "--mark-colour", colour, "--job-code",
                                        "datamatrix", out=out)
                    plates = plates_of(path, 60, options)
                    for ink, amount in inks.items():
                        self.assertGreater((plates[ink] == amount).sum(), 30)
                    self.assertEqual(plates["Black"].max(), 0)

    def test_tiff_in_inks_without_a_profile(self):
        self.bordered("30 0 0 40")
        for options, mode, wanted in (((), "RGB", None), (("--cmyk",), "CMYK", (76, 0, 0, 102))):
            self.run_cli("make", "a.hasami", "--print", "p.tiff", "--dpi", 60, *options)
            with Image.open(self.folder / "p.tiff") as picture:
                self.assertEqual(picture.mode, mode)
                pixels = numpy.array(picture).astype(int)
            if wanted:
                for inks in (wanted, (0, 0, 0, 255)):  # the border, and the artwork
                    self.assertGreater((numpy.abs(pixels - inks).max(axis=2) <= 1).sum(), 100)

    def test_info_says_whether_a_print_has_rgb(self):
        for colour, wanted in (("0 60 100 0", False), ("#C03020", True)):
            self.bordered(colour)
            about = json.loads(self.run_cli("info", "a-print.pdf", "--json").stdout)
            self.assertEqual(about["rgb"], wanted)

    def test_names_that_are_taken_are_found(self):
        self.bordered("CutContour = 0 100 0 0")
        self.assertIn("spot-name-taken", self.findings())
        self.printed(self.SQUARE, "--bleed", "4mm", "--bleed-colour", "White = 0 0 0 10", offset="0mm")
        self.assertIn("spot-name-taken", self.findings())
        self.printed(self.SQUARE, "--mark-colour", GOLD, "--border", "2mm", "--border-colour", GOLD)
        self.assertIn("spot-name-taken", self.findings())

    def test_what_is_no_colour_is_refused(self):
        self.write("a.pdf", self.SQUARE)
        for option in ("--border-colour", "--bleed-colour", "--mark-colour"):
            for colour in ("gold", "0 0 0", "0 0 0 101", "All = 0 0 0 100"):
                with self.subTest(option=option, colour=colour):
                    refused = self.run_cli("new", "a.pdf", "-o", "r.hasami", option, colour, status=2)
                    self.assertIn(option, refused.stderr)
                    self.assertFalse((self.folder / "r.hasami").exists())
