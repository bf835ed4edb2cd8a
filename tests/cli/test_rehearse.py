"""Rehearsals: what the simulated machines write is measured with readers of its own."""
import json
import math
import unittest

import numpy
import vector_art
from PIL import Image
from support import *


def dots_in(picture, size, per_mm):
    """The middles of dark round spots of a diameter in mm, by their ink's weight; mm from the picture's corner."""
    dark = 255 - numpy.asarray(picture.convert("L")).astype(float)
    found, seen = [], dark < 120
    for row, column in zip(*numpy.nonzero(dark > 200)):
        if seen[row, column]:
            continue
        reach = int(1.3 * size * per_mm)
        top, left = max(0, row - reach), max(0, column - reach)
        window = dark[top:row + reach, left:column + reach].copy()
        seen[top:row + reach, left:column + reach] = True
        window[window < 200] = 0  # artwork and bed are lighter
        rows, columns = numpy.indices(window.shape)
        weight = window.sum()
        found.append(((left + 0.5 + (columns * window).sum() / weight) / per_mm, (top + 0.5 + (rows * window).sum() / weight) / per_mm))
    return found


class Rehearse(CliTest):
    def setUp(self):
        super().setUp()
        self.write("heather.svg", vector_art.svg('<path d="M0 0H60V40H0Z" fill="#c8a0d8"/>'))

    def job(self, *options):
        self.run_cli("new", "heather.svg", "-o", "j.hasami", "--width", "40mm", "--offset", "0mm", "--bleed", "1mm", "--medium", "sheet:120x170",
                     "--count", "2", "--with-backdrop", *options)

    def rehearse(self, *options, status=0, machines="--exact"):
        ran = self.run_cli("rehearse", "j.hasami", "--out", "out", *options, *([machines] if machines else []), status=status)
        return json.loads((self.folder / "out/result.json").read_text()), ran

    def test_the_compensation_is_that_of_the_print_and_the_cut_lies_on_it(self):
        for marks in ("dots", "squares", "crosses", "brackets"):
            with self.subTest(marks=marks):
                self.job("--marks", marks)
                result, _ = self.rehearse("--shift", "2mm,-1mm", "--turn", "0.5", "--stretch", "0.4,-0.3", "--seed", "5")
                found = result["compensation"]
                self.assertEqual((found["model"], found["marks_found"]), ("affine", 4))
                self.assertAlmostEqual(found["turn_degrees"], 0.5, delta=0.02)
                self.assertAlmostEqual(found["stretch_percent"][0], 0.4, delta=0.04)
                self.assertAlmostEqual(found["stretch_percent"][1], -0.3, delta=0.04)
                self.assertLess(result["error_mm"]["largest"], 0.1)
                self.assertEqual([line["design"] for line in result["lines"]], ["heather"] * 2)
                # Where marks are found is where the rules of the error take them.
                turn = math.radians(0.5)
                for mark in found["marks"]:
                    x, y = (mark["expected"][0] - 85) * 1.004, (mark["expected"][1] - 60) * 0.997
                    self.assertAlmostEqual(mark["found"][0], 85 + 2 + x * math.cos(turn) - y * math.sin(turn), delta=0.05)
                    self.assertAlmostEqual(mark["found"][1], 60 - 1 + x * math.sin(turn) + y * math.cos(turn), delta=0.05)

    def test_the_printed_sheet_has_its_marks_where_they_were_found(self):
        self.job("--marks", "dots", "--mark-size", "6mm")
        result, _ = self.rehearse("--shift", "1,2", "--turn=-0.4")
        with Image.open(self.folder / "out/print.png") as picture:
            self.assertAlmostEqual(picture.info["dpi"][0], 300, delta=0.1)
            per_mm = 300 / 25.4
            seen = dots_in(picture, 6, per_mm)
        self.assertEqual(len(seen), 4)
        for mark in result["compensation"]["marks"]:  # 10 mm of the bed are seen around the sheet
            x, y = (place + round(10 * per_mm) / per_mm for place in mark["found"])
            self.assertLess(min(math.hypot(x - a, y - b) for a, b in seen), 0.05)

    def test_stickers_come_out_as_they_are_cut_and_bleed_is_what_hides_errors(self):
        self.job("--marks", "dots")
        self.rehearse("--shift", "1,1", "--turn", "0.3")

        def white_rim():
            with Image.open(self.folder / "out/sticker-heather.png") as picture:
                pixels = numpy.asarray(picture).astype(int)
            inside = pixels[..., 3] == 255
            self.assertAlmostEqual(inside.sum() / (300 / 25.4) ** 2, 40 * 40 * 2 / 3, delta=20)
            return (pixels[inside][:, 1] > 205).sum()
        self.assertLess(white_rim(), 20)  # the artwork's green is 160
        with Image.open(self.folder / "out/cut.png") as picture:
            self.assertGreater(picture.size[0], 1000)

    def test_what_cannot_be_trusted_is_refused_with_a_reason(self):
        self.job("--marks", "dots")
        for options, word in ((["--upside-down"], "wrong way round"), (["--scaled", "97"], "97 percent"), (["--scaled=-3"], "97 percent"),
                              (["--marks-lost", "2"], "2 of 4 marks"), (["--marks-lost", "4"], "0 of 4 marks")):
            with self.subTest(options=options):
                result, ran = self.rehearse(*options, status=1)
                self.assertIn(word, result["refused"])
                self.assertIn(word, ran.stderr)
                self.assertIsNone(result["error_mm"])
        result, _ = self.rehearse("--marks-lost", "1")
        self.assertEqual(result["compensation"]["marks_found"], 3)
        self.assertLess(result["error_mm"]["largest"], 0.1)

    def test_without_marks_a_print_that_is_off_is_refused(self):
        self.job("--marks", "none")
        result, _ = self.rehearse()
        self.assertEqual(result["compensation"]["model"], "none")
        self.assertLess(result["error_mm"]["largest"], 0.01)
        result, _ = self.rehearse("--shift", "2,0", status=1)
        self.assertIn("2 mm off the print", result["refused"])

    def test_machines_have_the_errors_of_their_profile(self):
        self.job("--marks", "dots")
        usual, _ = self.rehearse(machines=None)
        self.assertGreater(usual["error_mm"]["largest"], 0.01)
        self.assertLess(usual["error_mm"]["largest"], 0.1)
        self.assertEqual(usual, self.rehearse(machines=None)[0])  # by seed
        self.assertNotEqual(usual, self.rehearse("--seed", "9", machines=None)[0])
        self.change("j.hasami", lambda job: job["profile"].update(cutError=0.3, printError=0.1))
        rough, _ = self.rehearse(machines=None)
        self.assertGreater(rough["error_mm"]["largest"], 0.05)
        self.assertLess(rough["error_mm"]["largest"], 0.4)
        lines = [line["largest"] for line in rough["lines"]]
        self.assertGreater(max(lines) - min(lines), 0.005)  # each line its own

    def test_without_marks_a_hand_sets_the_origin(self):
        self.job("--marks", "none")
        result, _ = self.rehearse("--shift", "2,0", machines=None)
        self.assertGreater(result["error_mm"]["largest"], 0.05)
        self.assertLess(result["error_mm"]["largest"], 2)  # half a millimetre, and 0.3 degrees over 170 mm

    def test_wrong_arguments_and_sheets_are_one_sentence(self):
        self.job("--marks", "dots")
        for options, status in ((["--shift", "2"], 2), (["--stretch", "a,b"], 2), (["--turn", "x"], 2), (["--marks-lost", "-1"], 2),
                                (["--sheet", "7"], 3)):
            with self.subTest(options=options):
                self.assertEqual(len(self.run_cli("rehearse", "j.hasami", "--out", "w", *options, status=status).stderr.strip().split("\n")), 1)
        self.write("plain", b"text")
        self.run_cli("rehearse", "j.hasami", "--out", "plain/x", status=4)


if __name__ == "__main__":
    unittest.main()
