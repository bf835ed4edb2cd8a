"""Cut files in all their formats, read back by programs that know nothing of Hasami."""
import json
import math
import re
import subprocess
import unittest
import xml.etree.ElementTree as ElementTree

import ezdxf
import ezdxf.path
import numpy
from PIL import Image

from support import *

SVG = "{http://www.w3.org/2000/svg}"


def svg_lines(path):
    """By group, the lines as polylines, mm of the sheet."""
    root = ElementTree.parse(path).getroot()
    return {group.get("id"): [loop for line in group.iter(f"{SVG}path") for loop in flattened(line.get("d"), 48)]
            for group in root.iter(f"{SVG}g")}, float(root.get("viewBox").split()[3])


def dxf_lines(path):
    """By layer, the polylines as points within 0.001 mm of their arcs, y down as in the window."""
    drawing = ezdxf.readfile(path)
    lines = {}
    for line in drawing.modelspace().query("LWPOLYLINE"):
        points = [(p.x, p.y) for p in ezdxf.path.make_path(line).flattening(0.001)]
        lines.setdefault(line.dxf.layer, []).append((numpy.array(points), line.closed))
    return drawing, lines


def farthest(points, line):
    """How far any of the points lies from a closed polyline."""
    ends = numpy.roll(line, -1, axis=0)
    way = ends - line
    square = (way ** 2).sum(1)
    square[square == 0] = 1
    worst = 0
    for p in points:
        share = (((p - line) * way).sum(1) / square).clip(0, 1)
        worst = max(worst, numpy.hypot(*(line + way * share[:, None] - p).T).min())
    return worst


class CutFiles(CliTest):
    def setUp(self):
        super().setUp()
        self.f_job("--medium", "roll:200", "--die-offset", "6mm", "--count", "3")

    def test_dxf_holds_the_same_lines_as_svg_on_layers_in_millimetres(self):
        self.run_cli("make", "f.hasami", "--cut", "c.svg", "--cut", "c.dxf")
        groups, height = svg_lines(self.folder / "c.svg")
        drawing, layers = dxf_lines(self.folder / "c.dxf")
        self.assertEqual(drawing.units, ezdxf.units.MM)
        auditor = drawing.audit()
        self.assertFalse(auditor.errors)
        self.assertFalse(auditor.fixes)
        self.assertEqual(set(layers), {"kiss", "die"})
        for kind, lines in layers.items():
            self.assertEqual(len(lines), len(groups[kind]))
            for (points, closed), expected in zip(lines, groups[kind]):
                self.assertTrue(closed)
                self.assertLess(farthest(points * [1, -1] + [0, height], expected), 0.011)
                self.assertLess(farthest(expected, points * [1, -1] + [0, height]), 0.011)
        marks = drawing.modelspace().query("CIRCLE")
        self.assertEqual(len(marks), 4)
        self.assertEqual({mark.dxf.layer for mark in marks}, {"marks"})
        dots = sorted((float(c.get("cx")), height - float(c.get("cy"))) for c in
                      ElementTree.parse(self.folder / "c.svg").getroot().iter(f"{SVG}circle"))
        for (x, y), mark in zip(dots, sorted(marks, key=lambda m: (m.dxf.center.x, m.dxf.center.y))):
            self.assertAlmostEqual(mark.dxf.center.x, x, 3)
            self.assertAlmostEqual(mark.dxf.center.y, y, 3)

    def test_round_corners_are_arcs(self):
        self.run_cli("outline", "f.png", "--width", "42mm", "--offset", "2mm", "-o", "o.dxf", "-o", "o.json")
        drawing, layers = dxf_lines(self.folder / "o.dxf")
        line = drawing.modelspace().query("LWPOLYLINE").first
        bulges = [b for *_, b in line.get_points("xyb") if b]
        self.assertAlmostEqual(sum(4 * math.atan(b) for b in bulges), -7 * math.pi / 2, delta=0.2)  # at each outer corner
        expected = json.loads((self.folder / "o.json").read_text())["lines"][0]
        points, closed = layers["kiss"][0]
        area = abs((points[:, 0] * numpy.roll(points[:, 1], -1) - points[:, 1] * numpy.roll(points[:, 0], -1)).sum()) / 2
        self.assertAlmostEqual(area, expected["area"], delta=0.05)

    def test_a_line_of_straight_sides_holds_its_corners_and_where_the_knife_begins(self):
        corners = [(30 * math.sin(k * math.tau / 5), -30 * math.cos(k * math.tau / 5)) for k in range(5)]
        path = " ".join(f"{x + 40:.4f},{y + 40:.4f}" for x, y in corners)
        self.write("p.svg", f"<svg xmlns='http://www.w3.org/2000/svg' width='80mm' height='80mm' viewBox='0 0 80 80'>"
                            f"<polygon points='{path}' fill='#a30'/></svg>".encode())
        self.run_cli("new", "p.svg", "-o", "p.hasami", "--offset", "0", "--medium", "roll:300", "--count", "7")
        self.change("p.hasami", lambda job: job["profile"]["marks"].update(corners=0))
        self.run_cli("make", "p.hasami", *(word for name in ("svg", "dxf", "plt", "pdf") for word in ("--cut", f"c.{name}")))
        paths = ElementTree.parse(self.folder / "c.svg").getroot().iter(f"{SVG}path")
        self.tool("qpdf", "--qdf", "--object-streams=disable", "c.pdf", "q.pdf")
        counts = {"svg": [len(re.findall("[ML]", path.get("d"))) for path in paths],
                  "dxf": [len(line) for line in ezdxf.readfile(self.folder / "c.dxf").modelspace().query("LWPOLYLINE")],
                  "plt": [len(line.split(",")) // 2 for line in re.findall("PD([^;]*)", (self.folder / "c.plt").read_text())],
                  "pdf": [len(re.findall(rb" [ml]\b", run)) for run in (self.folder / "q.pdf").read_bytes().split(b"\nS")[:-1]]}
        for name, points in counts.items():
            with self.subTest(name):
                self.assertEqual(len(points), 1 if name == "pdf" else 7)  # there one form, placed seven times
                self.assertLessEqual(max(points), 6)

    def test_hpgl_of_an_outline_is_as_large_as_its_lines(self):
        self.run_cli("outline", "f.png", "--width", "42mm", "--offset", "2mm", "-o", "o.plt", "-o", "o.json")
        plot = (self.folder / "o.plt").read_text()
        self.assertTrue(plot.startswith("IN;PA;"))
        numbers = [tuple(map(int, pair)) for part in re.findall(r"P[UD]([-0-9,]+);", plot)
                   for pair in re.findall(r"(-?[0-9]+),(-?[0-9]+)", part)][:-1]
        points = numpy.array(numbers) / 40
        polyline = numpy.array(json.loads((self.folder / "o.json").read_text())["lines"][0]["polyline"])
        self.assertTrue(numpy.allclose(numpy.ptp(points, axis=0), numpy.ptp(polyline, axis=0), atol=0.05))
        self.assertTrue((points >= 0).all())

    def test_hpgl_follows_the_axes_of_the_cutter(self):
        def points(**axes):
            self.change("f.hasami", lambda job: job["profile"].update(axes=axes))
            self.run_cli("make", "f.hasami", "--cut", "a.plt", "--cut", "a.svg")
            plot = (self.folder / "a.plt").read_text()
            pairs = [pair for part in re.findall(r"P[UD]([-0-9,]+);", plot) for pair in re.findall(r"(-?[0-9]+),(-?[0-9]+)", part)]
            return numpy.array([tuple(map(int, pair)) for pair in pairs][:-1]) / 40

        plain = points()
        first = ElementTree.parse(self.folder / "a.svg").getroot().find(f".//{SVG}circle")
        mark = numpy.array([float(first.get("cx")), 200 - float(first.get("cy"))])
        near = lambda a, b: self.assertTrue(numpy.allclose(a, b, atol=0.03))
        near(points(mirrored=True), plain * [1, -1] + [0, 200])
        near(points(turned=True), plain[:, ::-1])
        near(points(origin="firstMark"), plain - mark)
        near(points(origin="firstMark", turned=True), (plain - mark)[:, ::-1])

    def test_kinds_and_tools_have_files_of_their_own(self):
        self.run_cli("make", "f.hasami", "--cut", "k.svg", "--kinds", "kiss")
        self.assertEqual(set(svg_lines(self.folder / "k.svg")[0]), {"kiss", "marks"})
        self.run_cli("make", "f.hasami", "--cut", "t.dxf", "--cut", "t.plt", "--one-per-tool")
        self.assertEqual(sorted(p.name for p in self.folder.glob("t*")),
                         ["t-tool1.dxf", "t-tool1.plt", "t-tool2.dxf", "t-tool2.plt"])
        self.assertEqual(set(dxf_lines(self.folder / "t-tool2.dxf")[1]), {"die"})
        self.assertEqual(set(re.findall(r"SP([1-9])", (self.folder / "t-tool1.plt").read_text())), {"1"})
        self.assertIn("--kinds takes", self.run_cli("make", "f.hasami", "--cut", "k.svg", "--kinds", "kiss,saw", status=2).stderr)

    def test_what_a_job_plans_is_written_under_the_names_it_plans(self):
        def plan(job):
            job["outputs"] = {"names": "{sheet} {what} of {job}", "outputs": [
                {"what": "print", "print": "tiff", "dotsPerInch": 72},
                {"what": "cut", "cut": "hpgl", "onePerTool": True}, {"what": "cut", "cut": "dxf", "kinds": ["die"]}]}
        self.change("f.hasami", plan)
        (self.folder / "out").mkdir()
        self.run_cli("make", "f.hasami", "--planned", "out")
        self.assertEqual(sorted(p.name for p in (self.folder / "out").iterdir()),
                         ["1 cut of f.dxf", "1 cut-tool1 of f.plt", "1 cut-tool2 of f.plt", "1 print of f.tiff"])
        self.assertEqual(set(dxf_lines(self.folder / "out/1 cut of f.dxf")[1]), {"die"})
        with Image.open(self.folder / "out/1 print of f.tiff") as picture:
            self.assertEqual(picture.info["dpi"], (72, 72))
        self.change("f.hasami", lambda job: job["outputs"].update(names="{job}{nothing}"))
        self.assertIn("{nothing}", self.run_cli("make", "f.hasami", "--planned", "out", status=4).stderr)
        self.change("f.hasami", lambda job: job["outputs"]["outputs"][0].update(dotsPerInch=5))
        self.assertIn("outputs.outputs[0].dotsPerInch", self.run_cli("make", "f.hasami", "--planned", "out", status=3).stderr)

    def test_a_pdf_of_the_lines_has_their_plates_and_no_artwork(self):
        self.run_cli("make", "f.hasami", "--cut", "c.pdf", "--print", "p.pdf")
        self.tool("qpdf", "--check", "c.pdf")
        shown = subprocess.run(["gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", "-r100", "-sOutputFile=s.tif", "c.pdf"],
                               cwd=self.folder, capture_output=True, check=True)
        plates = {path.stem[2:-1]: 255 - numpy.asarray(Image.open(path)) for path in self.folder.glob("s(*).tif")}
        inked = {name for name, plate in plates.items() if plate.max() > 100}
        self.assertEqual(inked, {"CutContour", "DieCut", "Black"})  # black: the marks
        self.assertEqual(self.tool("pdfimages", "-list", "c.pdf").count("\n"), 2)
        self.assertEqual(re.search(r"Page size: .*", self.tool("pdfinfo", "c.pdf")).group(),
                         re.search(r"Page size: .*", self.tool("pdfinfo", "p.pdf")).group())


if __name__ == "__main__":
    unittest.main()
