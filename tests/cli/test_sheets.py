import json
import re
import xml.etree.ElementTree as ElementTree
import zipfile

import jsonschema

from support import *

SVG = "{http://www.w3.org/2000/svg}"


class Sheets(CliTest):
    def lines(self, name):
        root = ElementTree.parse(self.folder / name).getroot()
        return [flattened(path.get("d"), 16)[0] for path in root.iter(f"{SVG}path")]

    def report(self, job):
        self.run_cli("make", job, "--report", "r.json")
        return json.loads((self.folder / "r.json").read_text())

    def content(self, job):
        with zipfile.ZipFile(self.folder / job) as archive:
            return json.loads(archive.read("job.json"))

    def check_apart(self, lines, gap):
        """Brute force: every line against every other."""
        for i, one in enumerate(lines):
            for other in lines[i + 1:]:
                if (one.min(axis=0) - gap > other.max(axis=0)).any() or (other.min(axis=0) - gap > one.max(axis=0)).any():
                    continue
                self.assertGreaterEqual(min(distances(one, other).min(), distances(other, one).min()), gap - 0.02)
                self.assertFalse(inside(one[0], other) or inside(other[0], one))

    def test_a_nest_takes_less_than_rows_and_tells_so(self):
        self.f_job("--count", "24", "--medium", "roll:300", "--gap", "3mm", "--price", "5")
        rows = self.report("f.hasami")
        self.assertEqual((rows["layout"]["saving"], rows["sheets"][0]["saving"]), (0, 0))
        self.f_job("--count", "24", "--medium", "roll:300", "--gap", "3mm", "--price", "5", "--pack", "nest", "--seconds", "3")
        nest = self.report("f.hasami")
        all_of_it, sheet = nest["layout"], nest["sheets"][0]
        self.assertEqual(nest["findings"], [])
        self.assertEqual(all_of_it["pieces"], 24)
        self.assertAlmostEqual(all_of_it["plain_length"], rows["layout"]["used_length"], 3)
        self.assertLess(all_of_it["used_length"], 0.95 * all_of_it["plain_length"])
        self.assertAlmostEqual(all_of_it["saved_length"], all_of_it["plain_length"] - all_of_it["used_length"], 2)
        self.assertAlmostEqual(all_of_it["saving"], all_of_it["saved_length"] / all_of_it["plain_length"], 5)
        self.assertAlmostEqual(sheet["saving"], all_of_it["saving"], 5)
        self.assertAlmostEqual(all_of_it["cost"], 5 * all_of_it["used_length"] / 1000, 2)
        self.assertAlmostEqual(all_of_it["saved_money"], 5 * all_of_it["saved_length"] / 1000, 1)
        self.run_cli("make", "f.hasami", "--cut", "c.svg")
        lines = self.lines("c.svg")
        self.assertEqual(len(lines), 24)
        self.check_apart(lines, 3)
        covered = sum(abs(area(line)) for line in lines)
        self.assertAlmostEqual(all_of_it["density"], covered / (300 * all_of_it["used_length"]), 3)
        schema = json.loads((SOURCE / "docs/job-format.schema.json").read_text())
        jsonschema.validate(self.content("f.hasami"), schema)

    def test_what_is_printed_lies_where_the_layout_says(self):
        """The places of the F in the PDF's own numbers, against the job's and the cut lines', to 0.02 mm."""
        self.f_job("--count", "9", "--medium", "roll:250", "--pack", "nest", "--seconds", "1")
        self.run_cli("make", "f.hasami", "--print", "p.pdf", "--cut", "c.svg")
        page = self.tool("qpdf", "--qdf", "--object-streams=disable", "p.pdf", "-")
        height = float(re.search(r"/MediaBox \[\s*0\s+0\s+[\d.]+\s+([\d.]+)", page).group(1))
        matrix = r"((?:-?[\d.]+\s+){6})cm\s"
        to_points, to_page = (list(map(float, m.split())) for m in re.findall(matrix, page)[:2])
        places = [numpy.array(list(map(float, m.split()))) for m in re.findall(r"q\s+" + matrix + r"/Print1 Do", page)]
        self.assertEqual(len(places), 9)

        def on_sheet(point, place):
            for a, b, c, d, e, f in (place, to_page, to_points):
                point = numpy.array([a * point[0] + c * point[1] + e, b * point[0] + d * point[1] + f])
            return numpy.array([height - point[1], 250 / 25.4 * 72 - point[0]]) * 25.4 / 72

        laid = self.content("f.hasami")["sheet"]["laid"]
        lines = self.lines("c.svg")
        middle = numpy.array([1 + 20, 1 + 30])  # of the box around the line, 2 mm beyond the letter
        foot = numpy.array([1 + 6, 1 + 62])  # where the line runs below the stem
        for piece in laid:
            place = min(places, key=lambda one: numpy.hypot(*(on_sheet(middle, one) - (piece["x"], piece["y"]))))
            self.assertLess(numpy.hypot(*(on_sheet(middle, place) - (piece["x"], piece["y"]))), 0.02)
            turn = math.radians(piece["turn"])
            to_foot = numpy.array([[math.cos(turn), -math.sin(turn)], [math.sin(turn), math.cos(turn)]]) @ (foot - middle)
            wanted = numpy.array([piece["x"], piece["y"]]) + to_foot
            self.assertLess(numpy.hypot(*(on_sheet(foot, place) - wanted)), 0.02)
            self.assertLess(min(distances(wanted[None, :], line)[0] for line in lines), 0.02)

    def test_bleeds_never_lie_in_a_neighbours_cut(self):
        """The line is 0.5 mm inside the ink, which goes on for 1 mm beyond it: lines stay a gap and two bleeds apart."""
        self.write("f.png", png(letter_f()))
        self.run_cli("new", "f.png", "-o", "f.hasami", "--width", "42mm", "--offset=-0.5mm", "--bleed", "1mm", "--count", "12",
                     "--gap", "1mm", "--medium", "roll:250", "--pack", "nest", "--seconds", "2")
        self.run_cli("make", "f.hasami", "--cut", "c.svg")
        lines = self.lines("c.svg")
        self.assertEqual(len(lines), 12)
        self.check_apart(lines, 3)

    def test_filling_a_sheet(self):
        self.f_job("--count", "fill", "--medium", "a4")
        rows = self.report("f.hasami")
        # 178 by 245 mm are left; an F with its line takes 44 by 64, and 3 between: 2 across, 5 along.
        self.assertEqual((len(rows["sheets"]), rows["layout"]["pieces"]), (1, 10))
        self.f_job("--count", "fill", "--medium", "a4", "--pack", "nest", "--seconds", "4")
        nest = self.report("f.hasami")
        self.assertEqual(len(nest["sheets"]), 1)
        self.assertGreater(nest["layout"]["pieces"], 12)
        self.assertEqual(nest["findings"], [])
        self.f_job("--count", "fill", "--medium", "roll:600")
        self.assertEqual(self.report("f.hasami")["layout"]["pieces"], 8)

    def test_several_designs_sets_and_turns_on_sheets(self):
        self.write("f.png", png(letter_f()))
        self.write("g.png", png(letter_f()[:300]))
        self.run_cli("new", "f.png", "g.png", "-o", "s.hasami", "--width", "30mm", "--count", "2", "--sets", "7", "--medium", "a4", "--turns", "90",
                     "--pack", "nest", "--seconds", "2", "--price", "0.4")
        report = self.report("s.hasami")
        self.assertEqual(report["layout"]["pieces"], 28)
        self.assertEqual(report["layout"]["cost"], round(0.4 * len(report["sheets"]), 2))
        self.assertGreater(report["layout"]["left_over"], 0)
        for piece in self.content("s.hasami")["sheet"]["laid"]:
            self.assertAlmostEqual(piece["turn"] / 90, round(piece["turn"] / 90), 6)
        for number in range(1, len(report["sheets"]) + 1):
            self.run_cli("make", "s.hasami", "--sheet", number, "--cut", "c.svg")
            self.check_apart(self.lines("c.svg"), 3)

    def test_rolls_that_end(self):
        self.f_job("--count", "40", "--medium", "roll:300x500", "--price", "2")
        report = self.report("f.hasami")
        self.assertGreater(len(report["sheets"]), 1)
        self.assertEqual(report["layout"]["pieces"], 40)
        self.assertAlmostEqual(report["layout"]["used_length"], sum(s["used_length"] for s in report["sheets"]), 2)
        self.assertAlmostEqual(report["layout"]["left_over"], 500 - report["sheets"][-1]["used_length"], 2)
        self.assertAlmostEqual(report["layout"]["cost"], 2 * report["layout"]["used_length"] / 1000, 2)

    def test_what_fits_nowhere_is_told_and_the_rest_nested(self):
        self.write("f.png", png(letter_f()))
        wide = numpy.zeros((100, 800, 4))
        wide[5:95, 5:795] = (10, 120, 30, 255)
        self.write("wide.png", png(wide))
        done = self.run_cli("new", "f.png", "wide.png", "-o", "s.hasami", "--height", "200mm", "--count", "2", "--medium", "a3", "--pack", "nest",
                            "--seconds", "1", status=1)
        self.assertIn("2 of wide not placed", done.stderr)
        self.assertEqual(self.report_with_status("s.hasami", 1)["layout"]["pieces"], 2)
        done = self.run_cli("new", "wide.png", "-o", "n.hasami", "--height", "200mm", "--medium", "a4", "--pack", "nest", status=1)
        self.assertIn("nothing to nest", done.stderr)
        self.assertTrue((self.folder / "n.hasami").exists())
        done = self.run_cli("new", "f.png", "-o", "m.hasami", "--width", "42mm", "--count", "100000", "--pack", "nest", "--seconds", "0", status=1)
        self.assertIn("of f not placed", done.stderr)

    def report_with_status(self, job, status):
        self.run_cli("make", job, "--report", "r.json", status=status)
        return json.loads((self.folder / "r.json").read_text())

    def test_wrong_arguments_are_named(self):
        self.write("f.png", png(letter_f()))
        for options, says in ((("--count", "-1"), "--count"), (("--count", "2.5"), "--count"), (("--count", "many"), "--count"),
                              (("--pack", "heap"), "--pack"), (("--turns", "0"), "--turns"), (("--price", "-2"), "--price"), (("--sets", "0"), "--sets"),
                              (("--medium", "sheet:0x5"), "--medium"), (("--medium", "a9"), "--medium"), (("--medium", "roll:300x"), "--medium"), (("--gap", "-1"), "--gap")):
            done = self.run_cli("new", "f.png", "-o", "x.hasami", *options, status=2)
            self.assertIn(says, done.stderr)
            self.assertFalse((self.folder / "x.hasami").exists())


if __name__ == "__main__":
    unittest.main()
