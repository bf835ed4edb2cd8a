import json
import subprocess
import xml.etree.ElementTree as ElementTree

from support import *


class Outline(CliTest):
    def outline(self, *options, name="f.png", picture=None):
        self.write(name, png(letter_f() if picture is None else picture))
        self.run_cli("outline", name, "-o", "out.json", *options)
        return json.loads((self.folder / "out.json").read_text())

    def test_the_letter_f_comes_out_unmirrored_and_at_its_offset(self):
        out = self.outline("--width", "42mm", "--offset", "2mm")
        self.assertEqual(out["units"], "mm")
        self.assertEqual(out["artwork"], {"width": 42, "height": 62})
        self.assertEqual(len(out["lines"]), 1)
        line = out["lines"][0]
        self.assertEqual((line["kind"], line["role"]), ("kiss", "outer"))
        loop = numpy.array(line["polyline"])
        f = numpy.array([[1, 1], [41, 1], [41, 13], [13, 13], [13, 25], [29, 25], [29, 37], [13, 37], [13, 61], [1, 61]])
        self.assertLess(numpy.abs(distances(loop, f.astype(float)) - 2).max(), 0.06)
        self.assertTrue(inside((35, 7), loop))
        self.assertFalse(inside((35, 55), loop))
        self.assertFalse(inside((7, 65), loop))
        # The F, a strip along its 232 mm, a quarter disc at each of 7 outer corners, less the square that the strips
        # share at each of 3 inner ones.
        exact = (12 * 60 + 28 * 12 + 16 * 12) + 232 * 2 + 7 * math.pi / 4 * 4 - 3 * 4
        self.assertAlmostEqual(line["area"], exact, delta=232 * 0.01)
        self.assertLess(line["points"], 40)

    def test_length_area_and_polyline_are_those_of_the_path(self):
        line = self.outline("--width", "42mm", "--offset", "1.5mm")["lines"][0]
        loop, exact = numpy.array(line["polyline"]), flattened(line["path"])[0]
        self.assertLess(distances(exact, loop).max(), 0.0022)
        self.assertLess(distances(loop, exact).max(), 0.0022)
        self.assertAlmostEqual(abs(area(loop)), line["area"], delta=1e-2)
        around = numpy.hypot(*(numpy.roll(loop, -1, axis=0) - loop).T).sum()
        self.assertAlmostEqual(around, line["length"], delta=1e-2)
        self.assertFalse(numpy.allclose(loop[0], loop[-1]))
        self.assertGreater(area(loop), 0)

    def test_a_negative_offset_lies_inside(self):
        loop = numpy.array(self.outline("--width", "42mm", "--offset", "-0.5mm")["lines"][0]["polyline"])
        self.assertAlmostEqual(loop[:, 0].min(), 1.5, delta=0.06)
        self.assertAlmostEqual(loop[:, 0].max(), 40.5, delta=0.06)

    def test_sizes(self):
        self.assertEqual(self.outline("--height", "31mm")["artwork"], {"width": 21, "height": 31})
        self.assertEqual(self.outline("--dpi", "254")["artwork"], {"width": 42, "height": 62})
        self.assertAlmostEqual(self.outline("--width", "1in")["artwork"]["width"], 25.4)
        self.assertAlmostEqual(self.outline()["artwork"]["width"], 420 / 300 * 25.4, places=3)
        self.write("dense.png", png(letter_f(), pixels_per_metre=20000))
        self.run_cli("outline", "dense.png", "-o", "out.json")
        self.assertEqual(json.loads((self.folder / "out.json").read_text())["artwork"], {"width": 21, "height": 31})

    def test_openings_are_closed_or_cut(self):
        rows, columns = numpy.mgrid[0:300, 0:300] + 0.5
        r = numpy.hypot(rows - 150, columns - 150)
        ring = numpy.zeros((300, 300, 4))
        ring[(r < 140) & (r > 60)] = (20, 20, 200, 255)
        self.assertEqual(len(self.outline("--dpi", "254", picture=ring)["lines"]), 1)
        lines = self.outline("--dpi", "254", "--openings", "cut", "--offset", "1", picture=ring)["lines"]
        self.assertEqual(sorted(line["role"] for line in lines), ["opening", "outer"])
        for line in lines:
            radius = 15 if line["role"] == "outer" else 5
            self.assertAlmostEqual(line["area"], math.pi * radius ** 2, delta=math.pi * 2 * radius * 0.03)
            self.assertGreater(area(numpy.array(line["polyline"])) * (1 if line["role"] == "outer" else -1), 0)

    def test_plain_shapes_corners_and_bridges(self):
        box = numpy.zeros((240, 420, 4))
        box[20:220, 10:410] = (20, 20, 200, 255)
        plain = self.outline("--dpi", "254", "--shape", "rounded", "--margin", "2mm", "--radius", "4mm", "--offset", "0",
                             picture=box)["lines"]
        self.assertAlmostEqual(plain[0]["area"], 46 * 28 - (4 - math.pi) * 16, delta=0.1)
        sharp = self.outline("--dpi", "254", "--corners", "sharp", "--offset", "2", picture=box)["lines"]
        self.assertAlmostEqual(sharp[0]["area"], 44 * 24, delta=0.5)
        self.assertEqual(sharp[0]["points"], 4)
        round_ = self.outline("--dpi", "254", "--offset", "2", picture=box)["lines"]
        self.assertAlmostEqual(round_[0]["area"], 44 * 24 - (4 - math.pi) * 4, delta=0.5)
        box[:, 200:205] = 0  # a gap of half a millimetre
        self.assertEqual(len(self.outline("--dpi", "254", "--offset", "0", picture=box)["lines"]), 2)
        self.assertEqual(len(self.outline("--dpi", "254", "--offset", "0", "--bridge", "1mm", picture=box)["lines"]), 1)

    def test_svg_and_pdf_hold_the_same_line(self):
        self.write("f.png", png(letter_f()))
        self.run_cli("outline", "f.png", "--width", "42mm", "-o", "a.json", "-o", "a.svg", "-o", "a.pdf")
        line = json.loads((self.folder / "a.json").read_text())["lines"][0]
        root = ElementTree.parse(self.folder / "a.svg").getroot()
        space = "{http://www.w3.org/2000/svg}"
        self.assertEqual(root.find(f"{space}g").get("id"), "kiss")
        self.assertEqual(root.find(f".//{space}path").get("d"), line["path"])
        left, top, width, height = map(float, root.get("viewBox").split())
        self.assertEqual(root.get("width"), root.get("viewBox").split()[2] + "mm")
        self.assertLessEqual(left, -1)

        self.tool("qpdf", "--check", "a.pdf")
        boxes = self.tool("pdfinfo", "-box", "a.pdf")
        trim = [float(v) for v in boxes.split("TrimBox:")[1].split("\n")[0].split()]
        self.assertAlmostEqual((trim[2] - trim[0]) / 72 * 25.4, 42, places=1)
        self.tool("pdftocairo", "-svg", "a.pdf", "back.svg")
        paths = [p for p in ElementTree.parse(self.folder / "back.svg").getroot().iter(f"{space}path")
                 if "C" in p.get("d", "")]
        self.assertEqual(len(paths), 1)
        # The converter shrinks pages to a margin of its own: the line is compared in its own space, its place on the
        # page with Ghostscript.
        exact = flattened(line["path"])[0]
        self.assertLess(distances(flattened(paths[0].get("d"))[0], exact).max(), 0.002)
        told = subprocess.run(["gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=bbox", "a.pdf"],
                              capture_output=True, text=True, check=True, cwd=self.folder).stderr
        box = [float(v) / 72 * 25.4 for v in told.split("HiResBoundingBox:")[1].split()]
        self.assertAlmostEqual(box[0] + left, exact[:, 0].min(), delta=0.06)
        self.assertAlmostEqual(top + height - box[1], exact[:, 1].max(), delta=0.06)

    def test_wrong_arguments_end_with_2_and_write_nothing(self):
        self.write("f.png", png(letter_f()))
        for options in (["--width", "wide"], ["--width", "-3mm"], ["--level", "101"], ["--openings", "maybe"],
                        ["--width", "3mm", "--height", "3mm"], ["--offset", "200mm"], ["--nonsense"],
                        ["--find", "magic"]):
            with self.subTest(options=options):
                told = self.run_cli("outline", "f.png", "-o", "out.json", *options, status=2)
                self.assertTrue(told.stderr.strip())
                self.assertFalse((self.folder / "out.json").exists())
        self.run_cli("outline", "f.png", "-o", "out.docx", status=2)
        self.run_cli("outline", "f.png", status=2)
        self.run_cli(status=2)
        self.assertIn("outline", self.run_cli("--help").stdout)

    def test_an_offset_that_eats_everything_is_told(self):
        self.write("f.png", png(letter_f()))
        told = self.run_cli("outline", "f.png", "--width", "42mm", "--offset", "-8mm", "-o", "out.json", status=3)
        self.assertIn("inward offset", told.stderr)


class BadPictures(CliTest):
    def refused(self, name, data, says):
        self.write(name, data)
        told = self.run_cli("outline", name, "-o", "out.json", "-o", "out.svg", status=3)
        lines = told.stderr.strip().split("\n")
        self.assertEqual(len(lines), 1, told.stderr)
        self.assertIn(name, lines[0])
        self.assertIn(says, lines[0])
        self.assertEqual([p.name for p in self.folder.iterdir()], [name])

    def test_truncated(self):
        whole = png(letter_f())
        for length in (9, 20, 40, len(whole) // 2, len(whole) - 13):
            with self.subTest(length=length):
                self.refused("cut.png", whole[:length], "cut.png")

    def test_text_named_png(self):
        self.refused("notes.png", b"Buy more jars.\n", "is not artwork that Hasami reads")

    def test_empty_file(self):
        self.refused("void.png", b"", "is empty")

    def test_nothing_opaque(self):
        self.refused("clear.png", png(numpy.zeros((50, 50, 4))), "every pixel of it is transparent")

    def test_one_pixel(self):
        self.refused("dot.png", png(numpy.full((1, 1, 4), 255)), "1 x 1 pixels")

    def test_a_header_of_60000_by_60000(self):
        huge = bytearray(png(letter_f()))
        huge[16:24] = (60000).to_bytes(4, "big") * 2
        self.refused("huge.png", bytes(huge), "60000 x 60000 pixels")
        self.assertLess(peak_memory_of_children(), 2 << 30)

    def test_damaged_inside(self):
        broken = bytearray(png(letter_f()))
        broken[60:90] = bytes(30)
        self.refused("broken.png", bytes(broken), "damaged")

    def test_missing_file_and_folder(self):
        self.assertIn("nowhere.png", self.run_cli("outline", "nowhere.png", "-o", "o.json", status=3).stderr)
        self.assertIn("not a file", self.run_cli("outline", self.folder, "-o", "o.json", status=3).stderr)

    def test_faint_picture_is_told_what_to_change(self):
        faint = numpy.full((50, 50, 4), 60)
        self.write("faint.png", png(faint))
        told = self.run_cli("outline", "faint.png", "-o", "o.json", status=3)
        self.assertIn("lower the level", told.stderr)
        self.run_cli("outline", "faint.png", "-o", "o.json", "--level", "10")


if __name__ == "__main__":
    unittest.main()
