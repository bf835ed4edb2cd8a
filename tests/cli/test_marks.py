"""Registration marks: what the cut file names is found in the rendered print file, at its place and clear of print."""
import io
import json
import math
import subprocess
import unittest
import xml.etree.ElementTree as ElementTree

import numpy
from PIL import Image

from support import *

SVG = "{http://www.w3.org/2000/svg}"
DPI = 1200
PIXEL = 25.4 / DPI


class Marks(CliTest):
    def job(self, width, *options):
        self.write("f.png", png(letter_f()))
        self.run_cli("new", "f.png", "-o", "f.hasami", "--width", width, *options)

    def marks(self, name):
        """Boxes of the marks in the cut file, mm of the sheet: along from and to, across from and to."""
        group = next(g for g in ElementTree.parse(self.folder / name).getroot().iter(f"{SVG}g") if g.get("id") == "marks")
        boxes = []
        for mark in group:
            if mark.tag == f"{SVG}circle":
                x, y, r = (float(mark.get(key)) for key in ("cx", "cy", "r"))
                boxes.append((x - r, x + r, y - r, y + r))
            else:
                points = flattened(mark.get("d"), 4)[0]
                boxes.append((points[:, 0].min(), points[:, 0].max(), points[:, 1].min(), points[:, 1].max()))
        return boxes

    def print_of(self, name):
        """Where the print is dark: along the sheet down, across it from the right."""
        done = subprocess.run(["pdftoppm", "-r", str(DPI), "-gray", "-png", name], cwd=self.folder, capture_output=True, check=True)
        return numpy.asarray(Image.open(io.BytesIO(done.stdout)).convert("L")) < 128

    def check(self, *options, count=4, width=100):
        self.job("20mm", "--medium", f"roll:{width}", *options)
        self.run_cli("make", "f.hasami", "--print", "p.pdf", "--cut", "c.svg")
        boxes, ink = self.marks("c.svg"), self.print_of("p.pdf")
        self.assertEqual(len(boxes), count)
        quiet = 2
        for left, right, top, bottom in boxes:
            rows, columns = ([round(side / PIXEL) for side in sides] for sides in
                             ((left - quiet, right + quiet), (width - bottom - quiet, width - top + quiet)))
            along, across = numpy.nonzero(ink[rows[0]:rows[1], columns[0]:columns[1]])
            found = ((along.min() + rows[0]) * PIXEL, (along.max() + 1 + rows[0]) * PIXEL,
                     width - (across.max() + 1 + columns[0]) * PIXEL, width - (across.min() + columns[0]) * PIXEL)
            for is_at, said in zip(found, (left, right, top, bottom)):
                self.assertAlmostEqual(is_at, said, delta=PIXEL)  # 0.02 mm; and nothing else is printed near
        return boxes

    def test_marks_of_each_shape_are_printed_where_the_cut_file_says(self):
        for shape in ("dots", "brackets", "crosses", "squares"):
            with self.subTest(shape):
                for left, right, top, bottom in self.check("--marks", shape, "--mark-size", "7mm"):
                    self.assertAlmostEqual(right - left, 7, delta=0.002)
                    self.assertAlmostEqual(bottom - top, 7, delta=0.002)

    def test_pairs_along_a_roll_and_marks_between_stickers_are_printed_where_the_cut_file_says(self):
        for shape in ("dots", "crosses", "squares"):
            with self.subTest(shape):
                boxes = self.check("--marks", shape, "--mark-interval", "80mm", "--count", "12", "--marks-between", "2", "--gap",
                                   "14mm", count=16, width=80)
                along = sorted({round((left + right) / 2, 2) for left, right, top, bottom in boxes[:14]})
                self.assertEqual(len(along), 7)
                self.assertLessEqual(max(b - a for a, b in zip(along, along[1:])), 80)

    def plates(self):
        """By name, where the plate has ink, as self.print_of."""
        self.tool("gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", "-r300", "-sOutputFile=s.tif", "p.pdf")
        return {path.stem[2:-1]: numpy.asarray(Image.open(path)) < 128 for path in self.folder.glob("s(*).tif")}

    def test_marks_take_a_spot_colour_and_white_ink_under_them(self):
        profile = json.loads((SOURCE / "data/profiles/drag-knife-optical-sensor.json").read_text())
        profile["marks"].update(spot="Marks", onWhite=True)
        self.write("own.json", json.dumps(profile).encode())
        self.job("20mm", "--medium", "roll:100", "--profile", "own.json")
        self.run_cli("make", "f.hasami", "--print", "p.pdf", "--cut", "c.svg")
        plates = self.plates()
        area = (25.4 / 300) ** 2
        self.assertAlmostEqual(plates["Marks"].sum() * area, 4 * math.pi * 3 ** 2, delta=5)  # each pixel that ink touches is full
        self.assertAlmostEqual(plates["White"].sum() * area, 4 * math.pi * 7 ** 2, delta=8)  # with the quiet zone of 4 mm
        self.assertFalse((plates["Black"] & plates["Marks"]).any())

    def test_the_jobs_code_is_read_back_from_the_print_file_of_each_sheet(self):
        readers = {"datamatrix": ("dmtxread", "-n", "-N1", "-m2000"), "code128": ("zbarimg", "--raw", "-q", "-Sdisable", "-Scode128.enable")}
        for code, (reader, *options) in readers.items():
            with self.subTest(code):
                self.write("f.png", png(letter_f()))
                self.run_cli("new", "f.png", "-o", "heather-lids.hasami", "--width", "40mm", "--count", "8", "--medium", "sheet:150x200",
                             "--job-code", code)
                self.run_cli("make", "heather-lids.hasami", "--print", "p.pdf", "--no-cut-lines")
                self.tool("pdftoppm", "-r", "300", "-png", "p.pdf", "page")
                pages = sorted(self.folder.glob("page-*.png"))
                self.assertGreater(len(pages), 1)
                for number, page in enumerate(pages, 1):
                    done = subprocess.run([reader, *options, str(page)], capture_output=True, text=True, timeout=60)
                    self.assertEqual(done.stdout.strip(), f"heather-lids/{number}")
                    page.unlink()

    def test_a_profile_is_described(self):
        path = str(SOURCE / "data/profiles/wide-roll-pairs-of-squares.json")
        about = json.loads(self.run_cli("info", path, "--json").stdout)
        self.assertEqual(about["kind"], "Hasami machine profile")
        self.assertEqual(about["marks"]["interval"], 800)
        self.assertEqual(about["remarks"], [])
        self.assertIn("Wide roll machine", self.run_cli("info", path).stdout)
        self.write("broken.json", b'{"name": "x"}')
        self.assertIn("broken.json is not a machine profile", self.run_cli("info", "broken.json", status=3).stderr)

    def test_mirrored_work_has_its_marks_at_the_same_corners(self):
        for options in ((), ("--use", "light-cloth")):
            boxes = self.check("--marks", "brackets", "--mark-count", "3", *options, count=3)
            first, second, third = [((left + right) / 2, (top + bottom) / 2) for left, right, top, bottom in boxes]
            self.assertGreater(second[1], first[1] + 10)  # across from the first one
            self.assertGreater(third[0], first[0] + 10)  # along from it

    def test_no_marks_leave_their_room_to_the_work(self):
        self.job("10mm", "--medium", "sheet:100x100", "--count", "fill")
        with_marks = self.count()
        self.job("10mm", "--medium", "sheet:100x100", "--count", "fill", "--marks", "none")
        self.run_cli("make", "f.hasami", "--cut", "c.svg")
        self.assertEqual(self.marks("c.svg"), [])
        self.assertGreater(self.count(), 1.2 * with_marks)

    def count(self):
        self.run_cli("make", "f.hasami", "--report", "r.json")
        return json.loads((self.folder / "r.json").read_text())["layout"]["pieces"]

    def test_what_can_not_work_is_refused_by_its_name(self):
        self.write("f.png", png(letter_f()))
        for options, told in ((("--mark-distance", "1mm"), "marks.distance must be at least"),
                              (("--marks", "crosses", "--mark-size", "1mm"), "marks.size must be at least twice"),
                              (("--mark-size", "90mm"), "--mark-size takes a length from 0.5 mm to 50 mm"),
                              (("--mark-interval", "4mm"), "marks.interval must be at least"),
                              (("--marks", "brackets", "--mark-interval", "400mm"), "marks.interval must be 0 for brackets"),
                              (("--mark-count", "3", "--mark-interval", "400mm"), "marks.interval must be 0 without"),
                              (("--profile", "none.json"), "none.json")):
            with self.subTest(options):
                done = self.run_cli("new", "f.png", "-o", "refused.hasami", *options, status=3 if "mark-size" not in told else 2)
                self.assertIn(told, done.stderr)
                self.assertFalse((self.folder / "refused.hasami").exists())

    def test_a_profile_of_ones_own_is_taken_from_its_file(self):
        profile = json.loads((SOURCE / "data/profiles/flatbed-two-tools.json").read_text())
        profile["marks"] = {"shape": "square", "size": 4, "distance": 9, "quiet": 2, "outlined": True, "lineWidth": 0.8}
        self.write("own.json", json.dumps(profile).encode())
        self.f_job("--profile", "own.json", "--medium", "roll:120")
        self.run_cli("make", "f.hasami", "--cut", "c.svg")
        self.assertEqual(len(self.marks("c.svg")), 8)  # each an outline and the hole in it
        self.assertAlmostEqual(self.marks("c.svg")[0][1] - self.marks("c.svg")[0][0], 4, 3)


if __name__ == "__main__":
    unittest.main()
