import json
import re
import xml.etree.ElementTree as ElementTree

from support import *


def plotted(text):
    """A plotter: the strokes drawn with the pen down, in mm, and the commands in between."""
    strokes, at, others = [], (0, 0), []
    for command in filter(None, (c.strip() for c in text.replace("\n", "").split(";"))):
        name, numbers = command[:2], command[2:]
        if name not in ("PU", "PD"):
            others.append(command)
            continue
        values = [int(v) for v in numbers.split(",")] if numbers else []
        points = list(zip(values[::2], values[1::2]))
        if name == "PD":
            if not strokes or strokes[-1][-1] != at:
                strokes.append([at])
            strokes[-1].extend(points)
        at = points[-1] if points else at
    return [numpy.array(s) / 40 for s in strokes], others


class Hpgl(CliTest):
    def test_the_plot_is_the_svgs_lines_with_y_running_up(self):
        self.f_job("--count", "9", "--medium", "roll:200mm")
        self.run_cli("make", "f.hasami", "--cut", "c.plt", "--print", "p.pdf")
        self.run_cli("make", "f.hasami", "--cut", "c.svg")
        strokes, others = plotted((self.folder / "c.plt").read_text())
        self.assertEqual(others, ["IN", "PA", "SP1", "VS30", "SP0"])
        root = ElementTree.parse(self.folder / "c.svg").getroot()
        lines = [flattened(p.get("d"))[0] for p in root.iter("{http://www.w3.org/2000/svg}path")]
        self.assertEqual(len(strokes), len(lines))
        for stroke, line in zip(strokes, lines):
            self.assertTrue((stroke[0] == stroke[-1]).all())
            on_sheet = numpy.column_stack([stroke[:, 0], 200 - stroke[:, 1]])
            # Half a unit both ways, and the drawing tolerance.
            self.assertLess(distances(on_sheet, line).max(), 0.0125 * 1.42 + 0.011)
            self.assertLess(distances(line, on_sheet).max(), 0.0125 * 1.42 + 0.011)
            self.assertTrue(inside(line.min(axis=0) + (6, 6), on_sheet))
            self.assertFalse(inside(line.max(axis=0) - (8, 8), on_sheet))

    def test_commands_stay_short_enough_for_small_buffers(self):
        self.f_job()
        self.run_cli("make", "f.hasami", "--cut", "c.plt")
        longest = max(len(c) for c in (self.folder / "c.plt").read_text().split(";"))
        self.assertLess(longest, 1000)


class Report(CliTest):
    def test_its_figures_are_those_of_the_cut_file(self):
        self.f_job("--count", "8", "--medium", "roll:200mm")
        self.run_cli("make", "f.hasami", "--report", "r.json", "--cut", "c.svg")
        report = json.loads((self.folder / "r.json").read_text())
        root = ElementTree.parse(self.folder / "c.svg").getroot()
        lines = [flattened(p.get("d"))[0] for p in root.iter("{http://www.w3.org/2000/svg}path")]
        sheet = report["sheets"][0]
        self.assertEqual(len(report["sheets"]), 1)
        self.assertEqual(sheet["stickers"], {"f": 8})
        self.assertEqual(sheet["knife_lifts"], 8)
        around = sum(numpy.hypot(*(numpy.roll(line, -1, axis=0) - line).T).sum() for line in lines)
        self.assertAlmostEqual(sheet["cut_length"]["kiss"], around, delta=around * 1e-4)
        length = float(root.get("viewBox").split()[2])
        self.assertAlmostEqual(sheet["used_length"], length, delta=0.001)
        self.assertAlmostEqual(sheet["area"], length * 200, delta=0.1)
        self.assertAlmostEqual(sheet["density"], sum(map(area, lines)) / (length * 200), delta=1e-4)
        self.assertGreater(sheet["minutes"], around / 300 / 60)
        self.assertEqual(report["findings"], [])

    def test_time_and_lengths_are_those_of_the_plot_with_passes_overcuts_and_tabs(self):
        self.f_job("--die-offset", "6mm", "--tabs", "5", "--count", "4", "--medium", "roll:200mm")

        def two_tools(job):
            job["profile"]["machineMakesTabs"] = False
            job["profile"]["lines"]["kiss"].update(speed=400, overcut=0.5, passes=2)
            job["profile"]["lines"]["perforated"].update(speed=200, passes=3)
        self.change("f.hasami", two_tools)
        self.run_cli("make", "f.hasami", "--report", "r.json", "--cut", "c.plt")
        sheet = json.loads((self.folder / "r.json").read_text())["sheets"][0]
        speeds = {"SP1": 400, "SP2": 200}
        down, up, lifts, at, tool = {"SP1": 0, "SP2": 0}, 0, 0, numpy.zeros(2), None
        for command in (self.folder / "c.plt").read_text().replace("\n", "").split(";"):
            if command in speeds:
                tool = command
            if command[:2] not in ("PU", "PD"):
                continue
            points = numpy.array(command[2:].split(","), float).reshape(-1, 2) / 40
            ways = numpy.hypot(*numpy.diff(numpy.vstack([at, points]), axis=0).T).sum()
            at = points[-1]
            if command[:2] == "PD":
                down[tool] += ways
            else:
                up, lifts = up + ways, lifts + 1
        self.assertEqual(sheet["knife_lifts"], lifts - 1)  # the last one goes home
        self.assertAlmostEqual(sheet["cut_length"]["kiss"] / down["SP1"], 1, delta=2e-3)
        self.assertAlmostEqual(sheet["cut_length"]["perforated"] / down["SP2"], 1, delta=2e-3)
        # The route begins at the sheet's corner that HPGL has on top.
        seconds = sum(length / speeds[tool] for tool, length in down.items()) + 0.3 * (lifts - 1)
        self.assertAlmostEqual(sheet["minutes"] * 60, seconds + up / 400, delta=2 * 200 / 400 + 0.5)

    def test_what_is_not_placed_is_a_finding(self):
        self.write("f.png", png(letter_f()))
        self.run_cli("new", "f.png", "-o", "j.hasami", "--width", "190mm", "--medium", "a4", status=1)
        self.run_cli("make", "j.hasami", "--report", "r.json", status=1)
        report = json.loads((self.folder / "r.json").read_text())
        self.assertEqual(report["sheets"], [])
        self.assertEqual(report["findings"][0]["weight"], "error")
        self.assertIn("1 of f not placed", report["findings"][0]["text"])


class FoldersAndInfo(CliTest):
    def test_a_folder_becomes_one_job_in_the_order_of_names(self):
        (self.folder / "art").mkdir()
        for name in ("b.png", "a.png", "c.png"):
            self.write("art/" + name, png(letter_f()))
        self.write("art/notes.txt", b"not a picture")
        self.run_cli("new", "art", "-o", "j.hasami", "--width", "30mm")
        about = json.loads(self.run_cli("info", "j.hasami", "--json").stdout)
        self.assertEqual([d["name"] for d in about["designs"]], ["a", "b", "c"])
        self.assertEqual(about["designs"][0]["width"], 30)
        (self.folder / "empty").mkdir()
        self.assertIn("holds no artwork", self.run_cli("new", "empty", "-o", "k.hasami", status=3).stderr)

    def test_info_tells_what_a_picture_holds(self):
        self.write("f.png", png(letter_f(), pixels_per_metre=10000))
        about = json.loads(self.run_cli("info", "f.png", "--json").stdout)
        self.assertEqual(about["kind"], "PNG picture")
        self.assertEqual(about["pixels"], [420, 620])
        self.assertEqual(about["resolution_dpi"], 254)
        self.assertEqual(about["size_mm"], [42, 62])
        self.assertTrue(about["transparency"])
        self.assertIn("kind: PNG picture", self.run_cli("info", "f.png").stdout)
        self.write("notes.png", b"nothing")
        self.run_cli("info", "notes.png", status=3)


if __name__ == "__main__":
    unittest.main()
