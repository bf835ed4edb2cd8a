import hashlib
import json
import os
import re
import xml.etree.ElementTree as ElementTree
import zipfile

import jsonschema
from PIL import Image

from analytic import nearest
from support import *

SVG = "{http://www.w3.org/2000/svg}"


class Jobs(CliTest):
    def test_a_job_keeps_its_artwork_byte_for_byte_and_follows_its_schema(self):
        job = self.f_job("--count", "5", "--medium", "sheet:200mmx300mm", "--gap", "0.1in", "--level", "40")
        picture = (self.folder / "f.png").read_bytes()
        with zipfile.ZipFile(job) as archive:
            self.assertIsNone(archive.testzip())
            sha256 = hashlib.sha256(picture).hexdigest()
            self.assertEqual(archive.read(f"assets/{sha256}"), picture)
            self.assertEqual(archive.read("preview.png")[:4], b"\x89PNG")
            content = json.loads(archive.read("job.json"))
        schema = json.loads((SOURCE / "docs/job-format.schema.json").read_text())
        jsonschema.Draft7Validator.check_schema(schema)
        jsonschema.validate(content, schema)
        self.assertEqual(content["designs"][0]["count"], 5)
        self.assertEqual(content["designs"][0]["recipe"]["edge"]["level"], 40)
        self.assertEqual(content["sheet"], {"medium": {"width": 200, "length": 300}, "gap": 2.54})

    def test_several_artworks_take_one_recipe(self):
        self.write("f.png", png(letter_f()))
        self.write("g.png", png(letter_f()[::-1]))
        self.run_cli("new", "f.png", "g.png", "-o", "both.hasami", "--width", "30mm", "--count", "2")
        with zipfile.ZipFile(self.folder / "both.hasami") as archive:
            designs = json.loads(archive.read("job.json"))["designs"]
        self.assertEqual([d["name"] for d in designs], ["f", "g"])
        self.assertEqual(designs[0]["recipe"], designs[1]["recipe"])
        self.assertNotEqual(designs[0]["id"], designs[1]["id"])

    def test_damaged_foreign_and_newer_jobs_are_refused(self):
        whole = self.f_job().read_bytes()

        def changed(edit):
            with zipfile.ZipFile(self.folder / "f.hasami") as old:
                entries = {name: old.read(name) for name in old.namelist()}
            edit(entries)
            with zipfile.ZipFile(self.folder / "changed.zip", "w") as new:
                for name, data in entries.items():
                    new.writestr(name, data)
            return (self.folder / "changed.zip").read_bytes()

        def newer(entries):
            entries["job.json"] = re.sub(rb'"format": \d+', b'"format": 99', entries["job.json"])

        def other_pixels(entries):
            entries.update({n: b"other" for n in entries if n.startswith("assets/")})

        def no_assets(entries):
            for name in [n for n in entries if n.startswith("assets/")]:
                del entries[name]

        def negative(entries):
            entries["job.json"] = entries["job.json"].replace(b'"count": 1', b'"count": -1')

        for name, data, says in (
                ("empty", b"", "not a Hasami job"),
                ("text", b"hello", "not a Hasami job"),
                ("half", whole[:len(whole) // 2], "damaged"),
                ("newer", changed(newer), "newer Hasami"),
                ("other", changed(other_pixels), "damaged"),
                ("bare", changed(no_assets), "is not in the file"),
                ("negative", changed(negative), "designs[0].count"),
                ("nojson", changed(lambda e: e.pop("job.json")), "job.json is not in it"),
                ("badjson", changed(lambda e: e.update({"job.json": b"{"})), "not valid JSON")):
            with self.subTest(name):
                bad = self.write(name + ".hasami", data)
                told = self.run_cli("make", bad.name, "--print", "p.pdf", "--cut", "c.svg", status=3)
                self.assertEqual(len(told.stderr.strip().split("\n")), 1)
                self.assertIn(bad.name, told.stderr)
                self.assertIn(says, told.stderr)
                self.assertFalse((self.folder / "p.pdf").exists() or (self.folder / "c.svg").exists())
                self.assertEqual(bad.read_bytes(), data)

    def test_a_packed_bomb_is_refused_before_it_unpacks(self):
        with zipfile.ZipFile(self.folder / "bomb.hasami", "w", zipfile.ZIP_DEFLATED, compresslevel=1) as bomb:
            with bomb.open("job.json", "w", force_zip64=True) as entry:
                for _ in range(1100):
                    entry.write(bytes(1 << 20))
        told = self.run_cli("make", "bomb.hasami", "--print", "p.pdf", status=3)
        self.assertIn("unpacks to more", told.stderr)


class Outputs(CliTest):
    def make(self, *options, count=7, medium="roll:300mm"):
        self.f_job("--count", str(count), "--medium", medium, "--gap", "3mm")
        self.run_cli("make", "f.hasami", "--print", "p.pdf", "--cut", "c.svg", *options)

    def cut(self, name="c.svg"):
        root = ElementTree.parse(self.folder / name).getroot()
        groups = {g.get("id"): g for g in root.findall(f"{SVG}g")}
        lines = [flattened(p.get("d"))[0] for p in groups["kiss"].findall(f"{SVG}path")]
        marks = [tuple(float(c.get(k)) for k in ("cx", "cy", "r")) for c in groups["marks"].findall(f"{SVG}circle")]
        return root, lines, marks

    def objects(self, name="p.pdf"):
        return json.loads(self.tool("qpdf", "--json=1", "--json-key=objects", name))["objects"].values()

    def test_the_cut_file_is_in_true_millimetres_with_marks_outside_the_work(self):
        self.make()
        root, lines, marks = self.cut()
        left, top, length, width = map(float, root.get("viewBox").split())
        self.assertEqual((left, top, width), (0, 0, 300))
        self.assertEqual((root.get("width"), root.get("height")), (root.get("viewBox").split()[2] + "mm", "300mm"))
        self.assertEqual(len(lines), 7)
        work_least = numpy.min([line.min(axis=0) for line in lines], axis=0)
        work_most = numpy.max([line.max(axis=0) for line in lines], axis=0)
        corners = {(x, y) for x in (work_least[0] - 8, work_most[0] + 8) for y in (work_least[1] - 8, work_most[1] + 8)}
        self.assertEqual(len(marks), 4)
        for x, y, r in marks:
            self.assertEqual(r, 3)
            self.assertLess(min(math.hypot(x - cx, y - cy) for cx, cy in corners), 0.01)
            for line in lines:
                self.assertGreater(distances(numpy.array([[x, y]]), line)[0], 7)
        for i, one in enumerate(lines):
            self.assertTrue(inside(one.min(axis=0) + (6, 6), one))  # the stem's top left is in, so F is upright
            self.assertFalse(inside(one.max(axis=0) - (8, 8), one))
            for other in lines[i + 1:]:
                self.assertGreaterEqual(distances(one, other).min(), 3 - 0.02)

    def test_the_print_file_is_sound_and_embeds_the_picture_once(self):
        self.make()
        self.assertIn("No syntax or stream encoding errors", self.tool("qpdf", "--check", "p.pdf"))
        images = [o for o in self.objects() if isinstance(o, dict) and o.get("/Subtype") == "/Image"]
        self.assertEqual(len(images), 2)  # the picture and its soft mask
        self.assertEqual(sum("/SMask" in o for o in images), 1)
        layers = {o["/Name"] for o in self.objects() if isinstance(o, dict) and o.get("/Type") == "/OCG"}
        self.assertEqual({str(n) for n in layers}, {"Print", "Kiss cut", "Marks"})
        spots = [o[1] for o in self.objects() if isinstance(o, list) and o and o[0] == "/Separation"]
        self.assertEqual(spots, ["/CutContour"])
        states = [o for o in self.objects() if isinstance(o, dict) and o.get("/Type") == "/ExtGState"]
        self.assertTrue(states and states[0]["/OP"] and states[0]["/op"] and states[0]["/OPM"] == 1)
        # Strokes: below 0.25 pt once scaled from millimetres, never filled.
        plain = self.tool("qpdf", "--qdf", "--object-streams=disable", "p.pdf", "-")
        widths = [float(w) for w in re.findall(r"([\d.]+) w ", plain)]
        self.assertEqual(len(widths), 1)
        self.assertLessEqual(widths[0] * 72 / 25.4, 0.25)

    def test_the_pictures_colours_go_through_untouched(self):
        noise = numpy.random.default_rng(1).integers(0, 256, (60, 80, 4))
        noise[:, :, 3] = 255
        noise[0, 0, 3] = 254
        self.write("noise.png", png(noise))
        self.run_cli("new", "noise.png", "-o", "n.hasami", "--width", "40mm")
        self.run_cli("make", "n.hasami", "--print", "n.pdf")
        self.tool("pdfimages", "-png", "n.pdf", "image")
        with Image.open(self.folder / "image-000.png") as image:
            self.assertTrue((numpy.array(image.convert("RGB")) == noise[:, :, :3]).all())

    def test_the_plates_hold_what_they_should_where_the_cut_file_says(self):
        self.make()
        dpi = 200
        self.tool("gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", f"-r{dpi}", "-sOutputFile=s.tif",
                  "p.pdf")
        plates = {re.sub(r".*\((.*)\).*", r"\1", p.name): p for p in self.folder.glob("s(*).tif")}
        self.assertEqual(set(plates), {"Cyan", "Magenta", "Yellow", "Black", "CutContour"})
        ink = {name: 255 - numpy.array(Image.open(path)).astype(int) for name, path in plates.items()}
        root, lines, marks = self.cut()
        length, width = map(float, root.get("viewBox").split()[2:])
        self.assertEqual(ink["Black"].shape, (round(length / 25.4 * dpi), round(width / 25.4 * dpi)))

        def on_page(points):  # the sheet turned a quarter clockwise: right = width - y, down = x; in pixels
            return numpy.column_stack([width - points[:, 1], points[:, 0]]) / 25.4 * dpi

        rows, columns = numpy.nonzero(ink["CutContour"] > 40)
        drawn = numpy.column_stack([columns + 0.5, rows + 0.5])
        page_lines = [on_page(line) for line in lines]
        for page_line in page_lines:
            covered = [ink["CutContour"][max(0, int(y) - 1):int(y) + 2, max(0, int(x) - 1):int(x) + 2].max() > 0
                       for x, y in page_line]
            self.assertTrue(all(covered))
        self.assertLess(nearest(drawn, page_lines).max(), 1.2)

        # Marks are black only, dots of 6 mm in their places.
        centres = on_page(numpy.array([mark[:2] for mark in marks]))
        radius = 3 / 25.4 * dpi
        rows, columns = numpy.nonzero(ink["Black"] == 255)
        black = numpy.column_stack([columns + 0.5, rows + 0.5])
        to_centre = numpy.min([numpy.hypot(*(black - c).T) for c in centres], axis=0)
        solid = to_centre[to_centre < 2 * radius]
        self.assertAlmostEqual(len(solid), 4 * math.pi * radius ** 2, delta=4 * math.pi * radius * 1.5)
        self.assertLess(solid.max(), radius + 1)
        for name in ("Cyan", "Magenta", "Yellow"):
            for x, y in centres:
                self.assertEqual(ink[name][int(y), int(x)], 0)

        # The F's own ink lies within its kiss line and, on the page, is the F turned clockwise: not mirrored.
        yellow = ink["Yellow"] > 60
        first = on_page(lines[0])
        (x0, y0), (x1, y1) = first.min(axis=0), first.max(axis=0)
        piece = yellow[int(y0):int(y1), int(x0):int(x1)]
        upright = numpy.rot90(piece)  # a quarter anticlockwise back
        high, wide = upright.shape
        self.assertTrue(upright[int(high * 0.13), int(wide * 0.85)])  # the top arm reaches right
        self.assertFalse(upright[int(high * 0.85), int(wide * 0.85)])
        self.assertTrue(upright[int(high * 0.85), int(wide * 0.15)])  # the stem goes down on the left
        f_area = (400 * 120 + 120 * 480 + 160 * 120) / 100 / 25.4 ** 2 * dpi ** 2
        self.assertAlmostEqual(piece.sum() / f_area, 1, delta=0.02)

    def test_print_only_has_no_spot_colour_at_all(self):
        self.make("--no-cut-lines")
        raw = self.tool("qpdf", "--qdf", "--object-streams=disable", "p.pdf", "-")
        self.assertNotIn("Separation", raw)
        self.assertNotIn("CutContour", raw)
        self.assertNotIn("Kiss cut", raw)

    def test_page_boxes(self):
        self.make(medium="sheet:200x400", count=2)
        about = self.tool("pdfinfo", "-meta", "p.pdf")
        ElementTree.fromstring(about.strip().encode())
        self.assertIn('<dc:title><rdf:Alt><rdf:li xml:lang="x-default">', about)
        self.assertRegex(about, r"[0-9]+ x [0-9.]+ x [0-9.]+ mm, [0-9]+ stickers")
        boxes = self.tool("pdfinfo", "-box", "p.pdf")
        box = {m[0]: [float(v) / 72 * 25.4 for v in m[1].split()]
               for m in re.findall(r"(\w+Box):\s+([-\d. ]+)", boxes)}
        self.assertAlmostEqual(box["MediaBox"][2], 200, delta=0.01)
        self.assertAlmostEqual(box["MediaBox"][3], 400, delta=0.01)
        _, lines, marks = self.cut()
        used = max(x + r for x, _, r in marks) + 20
        self.assertAlmostEqual(box["TrimBox"][3] - box["TrimBox"][1], used, delta=0.02)
        self.assertAlmostEqual(box["TrimBox"][3], 400, delta=0.01)  # the leading edge is on top

    def test_a_long_roll_keeps_its_true_size(self):
        self.f_job("--count", "450", "--medium", "roll:300mm")
        self.run_cli("make", "f.hasami", "--print", "p.pdf", "--cut", "c.svg")
        length = float(ElementTree.parse(self.folder / "c.svg").getroot().get("viewBox").split()[2])
        self.assertGreater(length, 5080)
        page = [o for o in self.objects() if isinstance(o, dict) and o.get("/Type") == "/Page"][0]
        self.assertAlmostEqual(page["/MediaBox"][3] * page["/UserUnit"] / 72 * 25.4, length, delta=0.02)
        self.assertLess((self.folder / "p.pdf").stat().st_size, 200_000)

    def test_more_sheets_are_made_as_needed(self):
        self.make(medium="a4", count=20)
        pages = int(re.search(r"Pages:\s+(\d+)", self.tool("pdfinfo", "p.pdf")).group(1))
        names = ["c.svg"] + [f"c-{i}.svg" for i in range(2, pages + 1)]
        self.assertGreater(pages, 1)
        self.assertEqual(sum(len(self.cut(name)[1]) for name in names), 20)
        self.run_cli("make", "f.hasami", "--cut", "one.svg", "--print", "one.pdf", "--sheet", str(pages))
        self.assertEqual((self.folder / "one.svg").read_bytes(), (self.folder / names[-1]).read_bytes())
        self.assertIn("Pages:           1", self.tool("pdfinfo", "one.pdf"))
        self.run_cli("make", "f.hasami", "--cut", "none.svg", "--sheet", str(pages + 1), status=2)

    def test_what_does_not_fit_is_told_with_status_1_and_the_rest_is_written(self):
        self.write("f.png", png(letter_f()))
        self.write("wide.png", png(numpy.full((40, 400, 4), 255)))
        told = self.run_cli("new", "f.png", "wide.png", "-o", "j.hasami", "--width", "120mm", "--medium",
                            "sheet:140x220", status=1)
        self.assertIn("f not placed", told.stderr)
        self.run_cli("make", "j.hasami", "--cut", "c.svg", status=1)
        self.assertEqual(len(self.cut()[1]), 1)

    def test_the_same_job_gives_the_same_bytes(self):
        self.make()
        first = [(self.folder / n).read_bytes() for n in ("f.hasami", "p.pdf", "c.svg")]
        self.make()
        self.assertEqual([(self.folder / n).read_bytes() for n in ("f.hasami", "p.pdf", "c.svg")], first)

    def test_outputs_that_cannot_be_written_leave_the_old_ones(self):
        self.make()
        self.assertIn("nowhere", self.run_cli("make", "f.hasami", "--cut", "nowhere/c.svg", status=4).stderr + "nowhere")
        self.run_cli("make", "f.hasami", "--print", "p.doc", status=4)
        self.run_cli("make", "f.hasami", status=2)
        full = "/dev/full"
        if os.path.exists(full):
            self.run_cli("make", "f.hasami", "--cut", full, status=4)
        self.assertEqual(sorted(p.name for p in self.folder.iterdir()), ["c.svg", "f.hasami", "f.png", "p.pdf"])


class SeveralFiles(CliTest):
    def test_what_cannot_be_read_is_said_and_left_out(self):
        for number in range(3):
            self.write(f"f{number}.png", png(letter_f()))
        self.write("empty.png", b"")
        said = self.run_cli("new", "f0.png", "f1.png", "empty.png", "f2.png", "-o", "j.hasami", status=1).stderr
        self.assertEqual(said.strip(), "empty.png is empty")
        names = [design["name"] for design in json.loads(self.run_cli("info", "j.hasami", "--json").stdout)["designs"]]
        self.assertEqual(names, ["f0", "f1", "f2"])
        self.assertIn("empty.png is empty", self.run_cli("new", "empty.png", "-o", "k.hasami", status=3).stderr)
        self.assertFalse((self.folder / "k.hasami").exists())


if __name__ == "__main__":
    unittest.main()
