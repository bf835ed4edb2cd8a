"""Artwork turned, mirrored and cropped in its design: print and cut are those of artwork that was so from the start."""
import json
import xml.etree.ElementTree as ElementTree
import zipfile

from PIL import Image

from support import *

SVG = "{http://www.w3.org/2000/svg}"


class Placing(CliTest):
    def with_item(self, job, **values):
        """The job with its first item changed."""
        with zipfile.ZipFile(self.folder / job) as old:
            entries = {name: old.read(name) for name in old.namelist()}
        content = json.loads(entries["job.json"])
        content["designs"][0]["items"][0].update(values)
        entries["job.json"] = json.dumps(content).encode()
        with zipfile.ZipFile(self.folder / "changed.hasami", "w") as new:
            for name, data in entries.items():
                new.writestr(name, data)
        return "changed.hasami"

    def outputs(self, job):
        """The sheet as it is printed, in grey, and the area and box of its cut line."""
        self.run_cli("make", job, "--print", "p.pdf", "--cut", "c.svg")
        self.tool("pdftoppm", "-r", "254", "-png", "-singlefile", "p.pdf", "p")
        page = numpy.asarray(Image.open(self.folder / "p.png").convert("L")).astype(int)
        path, = ElementTree.parse(self.folder / "c.svg").iter(SVG + "path")
        loop, = flattened(path.get("d"))
        return page, abs(area(loop)), loop.min(axis=0), loop.max(axis=0)

    def new(self, name, pixels, width):
        self.write(name + ".png", png(pixels))
        self.run_cli("new", name + ".png", "-o", name + ".hasami", "--width", f"{width}mm", "--offset", "2mm",
                     "--medium", "sheet:120mmx120mm")
        return name + ".hasami"

    def assert_same(self, one, other):
        self.assertEqual(one[0].shape, other[0].shape)
        # The same but along rims, where a renderer's rounding to pixels is seen: nowhere 0.4 mm wide.
        differs = numpy.abs(one[0] - other[0]) > 25
        wide = numpy.lib.stride_tricks.sliding_window_view(differs, (4, 4)).all(axis=(2, 3))
        self.assertEqual(wide.sum(), 0)
        self.assertLess(numpy.abs(one[0] - other[0]).mean(), 1)
        self.assertLess(other[0].min(), 120)
        self.assertAlmostEqual(one[1], other[1], delta=0.5)
        for a, b in zip(one[2:], other[2:]):
            numpy.testing.assert_allclose(a, b, atol=0.02)

    def test_turned_mirrored_and_cropped_as_if_it_came_so(self):
        pixels = letter_f()  # 420 x 620
        job = self.new("f", pixels, 42)
        for name, change, same, width in (
                ("quarter", {"turn": 90}, numpy.rot90(pixels, -1), 62),
                ("half", {"turn": 180}, numpy.rot90(pixels, 2), 42),
                ("back", {"turn": -90}, numpy.rot90(pixels), 62),
                ("mirrored", {"mirrored": True}, pixels[:, ::-1], 42),
                ("both", {"mirrored": True, "turn": 90}, numpy.rot90(pixels[:, ::-1], -1), 62),
                ("part", {"crop": [0, 0, 300, 400]}, pixels[:400, :300], 30),
                ("all", {"crop": [0, 0, 300, 400], "mirrored": True, "turn": 90},
                 numpy.rot90(pixels[:400, :300][:, ::-1], -1), 40)):
            with self.subTest(name):
                self.assert_same(self.outputs(self.with_item(job, **change)),
                                 self.outputs(self.new("same", same, width)))

    def test_a_free_turn_moves_no_colour_off_its_line(self):
        job = self.new("f", letter_f(), 30)
        straight = self.outputs(job)
        turned = self.outputs(self.with_item(job, turn=31.5))
        self.assertAlmostEqual(straight[1], turned[1], delta=0.1)
        dark = lambda page: (page < 160).sum()
        self.assertAlmostEqual(dark(straight[0]), dark(turned[0]), delta=0.02 * dark(straight[0]))

    def test_drawings_are_placed_the_same_way(self):
        self.write("f.svg", b'<svg xmlns="http://www.w3.org/2000/svg" width="42mm" height="62mm" viewBox="0 0 42 62">'
                            b'<path d="M1 1h40v12h-28v12h16v12h-16v24h-12z" fill="#c81e1e"/></svg>')
        self.run_cli("new", "f.svg", "-o", "d.hasami", "--offset", "2mm", "--medium", "sheet:120mmx120mm")
        pixels = letter_f()
        self.assert_same(self.outputs(self.with_item("d.hasami", turn=90, mirrored=True)),
                         self.outputs(self.new("same", numpy.rot90(pixels[:, ::-1], -1), 62)))
        content = json.loads(zipfile.ZipFile(self.folder / "d.hasami").read("job.json"))
        wide, high = content["designs"][0]["items"][0]["pixels"]
        part = [0, 0, round(wide * 30 / 42), round(high * 40 / 62)]
        self.assert_same(self.outputs(self.with_item("d.hasami", crop=part)),
                         self.outputs(self.new("same", pixels[:400, :300], 30)))

    def test_a_crop_that_is_none_is_told(self):
        job = self.new("f", letter_f(), 42)
        for crop, says in (([0, 0, 0, 10], "crop"), ([0, 0, 421, 10], "crop"), ([-1, 0, 9, 9], "crop"),
                           ([1, 2, 3], "four numbers")):
            told = self.run_cli("make", self.with_item(job, crop=crop), "--print", "never.pdf", status=3).stderr
            self.assertIn(says, told)
            self.assertEqual(len(told.strip().split("\n")), 1)
            self.assertFalse((self.folder / "never.pdf").exists())


if __name__ == "__main__":
    unittest.main()
