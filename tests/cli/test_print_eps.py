"""The print as EPS: its plates are those of the print file in PDF, drawn by Ghostscript."""
import re
import unittest

import numpy
from PIL import Image

from support import *
from vector_art import pdf, spots

DPI = 150


def grown(mask):
    """By a pixel on all sides."""
    for axis in (0, 1):
        mask = mask | numpy.roll(mask, 1, axis) | numpy.roll(mask, -1, axis)
    return mask


class PrintEps(CliTest):
    def plates(self, name, *options):
        """By name, where the plate has ink; those without any left out."""
        self.tool("gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", *options, "-sDEVICE=tiffsep", f"-r{DPI}", "-sOutputFile=s.tif", name)
        plates = {path.stem[2:-1]: 255 - numpy.asarray(Image.open(path)).astype(int) for path in self.folder.glob("s(*).tif")}
        for path in self.folder.glob("s(*).tif"):
            path.unlink()
        return {name: plate > 100 for name, plate in plates.items() if plate.max() > 100}

    def check(self, *options):
        self.run_cli("make", "f.hasami", "--print", "p.pdf", "--print", "p.eps", *options)
        pdf, eps = self.plates("p.pdf"), self.plates("p.eps", "-dEPSCrop")
        self.assertEqual(set(eps) - {"Cyan", "Magenta", "Yellow", "Black"}, set(pdf) - {"Cyan", "Magenta", "Yellow", "Black"})
        for name in pdf:
            rows = min(len(pdf[name]), len(eps[name]))
            columns = min(pdf[name].shape[1], eps[name].shape[1])
            one, other = pdf[name][-rows:, :columns], eps[name][-rows:, :columns]
            with self.subTest(plate=name):
                self.assertLess((one & ~grown(other)).sum() + (other & ~grown(one)).sum(), 0.01 * one.sum() + 2)
        return set(pdf)

    def test_each_plate_is_that_of_the_pdf(self):
        self.f_job("--medium", "roll:150", "--die-offset", "6mm", "--count", "2", "--white", "0.3mm")
        self.assertGreaterEqual(self.check(), {"CutContour", "DieCut", "White", "Black"})
        header = (self.folder / "p.eps").read_bytes()[:900].decode("latin-1")
        self.assertRegex(header, r"^%!PS-[A-Za-z]+-3\.0 EPSF-3\.0\n")
        self.assertIn("%%DocumentCustomColors: (White)\n%%+ (CutContour)\n%%+ (DieCut)", header)
        width, height = map(float, re.search(r"HiResBoundingBox: 0 0 (\S+) (\S+)", header).groups())
        self.assertAlmostEqual(width, 150 / 25.4 * 72, 2)
        self.assertFalse({"CutContour", "DieCut"} & self.check("--no-cut-lines"))

    def test_graded_ink_perforations_and_turned_pieces(self):
        self.f_job("--medium", "roll:150", "--die-offset", "6mm", "--tabs", "5", "--count", "2")

        def edit(job):
            job["designs"][0]["recipe"]["inks"] = [{"ink": "white", "area": "coverage", "threshold": 10, "colours": [], "choke": 0}]
            job["profile"]["machineMakesTabs"] = False
            job["sheet"].update(packing="nest", laid=[
                {"design": job["designs"][0]["id"], "x": 60, "y": 60, "turn": 30},
                {"design": job["designs"][0]["id"], "x": 150, "y": 70, "turn": -75}])

        self.change("f.hasami", edit)
        self.assertGreaterEqual(self.check(), {"CutContour", "PerfCutContour", "White"})

    def test_one_transparent_design_leaves_the_others_their_spot_plates(self):
        self.write("spot.pdf", pdf("/A cs 1 scn 10 10 80 80 re f", spots(A="Amber"), box=(0, 0, 100, 100)))
        self.write("clear.pdf", pdf("/H gs 1 0 0 0 k 10 10 80 80 re f", "/ExtGState << /H << /ca 0.5 >> >>", box=(0, 0, 100, 100)))
        self.run_cli("new", "spot.pdf", "clear.pdf", "-o", "f.hasami", "--medium", "roll:150", "--offset", "0", "--bleed", "2mm")

        def own_marks(job):
            job["profile"]["marks"]["spot"] = "RegMark"
        self.change("f.hasami", own_marks)
        self.assertGreaterEqual(self.check(), {"Amber", "RegMark", "CutContour", "Cyan"})
        self.assertNotIn("Black", self.plates("p.eps", "-dEPSCrop"))

    def test_a_spot_plate_that_would_be_lost_is_refused(self):
        self.write("both.pdf", pdf("/A cs 1 scn 10 10 80 80 re f /H gs 1 0 0 0 k 30 30 40 40 re f",
                                   spots(A="Amber") + "/ExtGState << /H << /ca 0.5 >> >>", box=(0, 0, 100, 100)))
        self.run_cli("new", "both.pdf", "-o", "b.hasami")
        said = self.run_cli("make", "b.hasami", "--print", "b.eps", status=4).stderr
        for word in ("both.pdf", "Amber", "PDF"):
            self.assertIn(word, said)
        self.assertFalse((self.folder / "b.eps").exists())

    def test_a_roll_longer_than_five_metres_is_as_long_as_its_cut_lines(self):
        self.f_job("--medium", "roll:100mm", "--count", "125")
        self.run_cli("make", "f.hasami", "--print", "p.eps")
        height = float(re.search(r"HiResBoundingBox: 0 0 \S+ (\S+)", (self.folder / "p.eps").read_text("latin-1")).group(1))
        self.assertGreater(height, 14400)
        self.tool("gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-dEPSCrop", "-sDEVICE=tiffsep", "-r20", "-sOutputFile=s.tif", "p.eps")
        plates = {path.stem[2:-1]: 255 - numpy.asarray(Image.open(path)).astype(int) for path in self.folder.glob("s(*).tif")}
        ink = sum(plates[name] for name in ("Cyan", "Magenta", "Yellow", "Black")) > 200
        lines = plates["CutContour"] > 40
        for mask in (ink, lines):
            self.assertGreater(numpy.ptp(numpy.nonzero(mask)[0]), 0.98 * 125 * 42 / 25.4 * 20)

    def test_red_green_and_blue_are_one_colour_in_artwork_and_bleed(self):
        self.write("red.pdf", pdf("0.8 0.3 0.1 rg 0 0 100 100 re f", box=(0, 0, 100, 100)))
        self.run_cli("new", "red.pdf", "-o", "r.hasami", "--shape", "box", "--offset", "0", "--bleed", "2mm", "--use", "stickers",
                     "--with-backdrop")
        self.run_cli("make", "r.hasami", "--print", "r.eps", "--no-cut-lines")
        self.tool("gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-dEPSCrop", "-sDEVICE=tiffsep", f"-r{DPI}", "-sOutputFile=s.tif",
                  "r.eps")
        magenta = 255 - numpy.asarray(Image.open(self.folder / "s(Magenta).tif")).astype(int)
        values = numpy.unique(magenta[magenta > 0])
        self.assertLessEqual(values.max() - values.min(), 2)
        self.assertAlmostEqual((magenta > 0).sum() * (25.4 / DPI) ** 2, (100 * 25.4 / 72 + 4) ** 2, delta=15)

    def test_names_of_any_letters_reach_the_plates(self):
        self.f_job("--medium", "roll:150")
        name = "Schnitt (außen) \\ 50 % 刃"
        self.change("f.hasami", lambda job: job["profile"]["lines"]["kiss"].update(spot=name))
        self.run_cli("make", "f.hasami", "--print", "p.eps")
        self.tool("gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-dEPSCrop", "-sDEVICE=pdfwrite", "-sOutputFile=back.pdf", "p.eps")
        self.tool("qpdf", "--qdf", "--object-streams=disable", "back.pdf", "back-plain.pdf")
        names = re.findall(rb"/Separation\s+/(\S+)", (self.folder / "back-plain.pdf").read_bytes())
        plain = [re.sub(rb"#([0-9a-fA-F]{2})", lambda m: bytes([int(m.group(1), 16)]), n).decode("utf-8") for n in names]
        self.assertIn(name, plain)


if __name__ == "__main__":
    unittest.main()
