"""What is printed lies inside the lines and their bleed, on print files as they are written, drawn by Ghostscript."""
import json
import xml.etree.ElementTree as ElementTree

from PIL import Image, ImageDraw

from support import *
from vector_art import pdf

SVG = "{http://www.w3.org/2000/svg}"
DPI = 150
PER_MM = DPI / 25.4
SIZE = 'viewBox="0 0 40 30" width="40mm" height="30mm" xmlns="http://www.w3.org/2000/svg"'

# Each shows something that no line goes around: a backdrop, faint paint, specks, a part that is left out.
SHAPES = '<circle cx="14" cy="15" r="9" fill="#c02040"/><circle cx="31" cy="15" r="4" fill="#2040c0"/>'
ARTWORKS = {
    "backdrop.svg": f'<svg {SIZE}><rect width="40" height="30" fill="#f0e0a0"/>{SHAPES}</svg>'.encode(),
    "faint.svg": f'<svg {SIZE}><rect x="1" y="1" width="38" height="28" fill="#20a040" opacity="0.04"/>'
                 f'<rect x="37" y="1" width="0.6" height="0.6" fill="#000"/>{SHAPES}</svg>'.encode(),
    "backdrop.pdf": pdf("0.9 0.85 0.6 rg 0 0 113 85 re f 0.7 0.1 0.2 rg 20 20 50 45 re f", "", (0, 0, 113, 85)),
}


def soft_picture():
    """Two discs on transparent, a faint veil over all, loose pixels."""
    y, x = numpy.mgrid[0:300, 0:400] + 0.5
    pixels = numpy.zeros((300, 400, 4))
    pixels[..., 1] = 160
    near = numpy.minimum(numpy.hypot(x - 140, y - 150) - 90, numpy.hypot(x - 310, y - 150) - 40)
    pixels[..., 3] = numpy.clip((0.5 - near) * 255, 12, 255)
    pixels[20:24, 20:24] = pixels[280:284, 380:384] = (0, 0, 0, 255)
    return png(pixels)


def on_backdrop():
    y, x = numpy.mgrid[0:300, 0:400] + 0.5
    pixels = numpy.full((300, 400, 4), (230, 220, 180, 255))
    pixels[numpy.hypot(x - 140, y - 150) < 90] = (180, 30, 40, 255)
    return png(pixels)


RECIPES = {
    "margin": ["--offset", "2mm"],
    "inside": ["--offset", "-1mm", "--bleed", "1mm"],
    "on the edge": ["--offset", "0mm", "--bleed", "1.5mm"],
    "no bleed": ["--offset", "-1mm", "--bleed", "0mm"],
    "shape": ["--shape", "circle", "--shape-size", "15mmx15mm", "--offset", "0mm"],
    "border": ["--border", "2mm", "--border-colour", "#204060", "--offset", "1mm"],
    "perforated": ["--offset", "1mm", "--die-offset", "3mm", "--tabs", "5"],
    "white ink": ["--offset", "-0.5mm", "--white", "0.2mm"],
    "window": ["--offset", "0mm", "--use", "window"],
}


class PrintReach(CliTest):
    def setUp(self):
        super().setUp()
        for name, data in {**ARTWORKS, "soft.png": soft_picture(), "photo.png": on_backdrop()}.items():
            self.write(name, data)

    def ink_outside(self, job, past):
        """Pixels with any ink, marks aside, outside the lines grown by `past` mm and two pixels."""
        self.run_cli("make", job, "--print", "p.pdf", "--cut", "c.svg")
        root = ElementTree.fromstring((self.folder / "c.svg").read_text())
        left, top, width, height = map(float, root.get("viewBox").split())
        lines = [loop for path in root.iter(SVG + "path") for loop in flattened(path.get("d"), 24)]
        marks = [tuple(float(c.get(k)) for k in ("cx", "cy", "r")) for c in root.iter(SVG + "circle")]
        self.assertTrue(lines and len(marks) == 4)
        # All plates as one picture; the page is the sheet turned a quarter, so it is turned back.
        self.tool("gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", f"-r{DPI}", "-sOutputFile=s.tif", "p.pdf")
        plates = [255 - numpy.array(Image.open(path)).astype(int) for path in self.folder.glob("s(*).tif")]
        self.assertTrue(plates)
        ink = numpy.rot90(numpy.max(plates, axis=0)) > 3
        for path in self.folder.glob("s*.tif"):
            path.unlink()
        allowed = Image.new("1", ink.shape[::-1])
        draw = ImageDraw.Draw(allowed)
        grown = past * PER_MM + 2
        for loop in lines:
            points = [tuple(p) for p in (loop - [left, top]) * PER_MM]
            draw.polygon(points, fill=1)
            draw.line(points + points[:2], fill=1, width=round(2 * grown))
            for x, y in points:
                draw.ellipse((x - grown, y - grown, x + grown, y + grown), fill=1)
        for x, y, r in marks:
            x, y, r = (x - left) * PER_MM, (y - top) * PER_MM, r * PER_MM + 1.5
            draw.ellipse((x - r, y - r, x + r, y + r), fill=1)
        inside = ink & numpy.array(allowed)
        self.assertGreater(inside.sum(), 500)
        return int((ink & ~numpy.array(allowed)).sum())

    def test_every_kind_of_artwork_and_recipe(self):
        for name, recipe in RECIPES.items():
            with self.subTest(recipe=name):
                self.run_cli("new", *ARTWORKS, "soft.png", "photo.png", "-o", "j.hasami", "--width", "40mm", "--medium", "roll:150mm",
                             *recipe)
                past = float(recipe[recipe.index("--bleed") + 1][:-2]) if "--bleed" in recipe else 1
                self.assertEqual(self.ink_outside("j.hasami", past), 0)

    def test_two_items_one_with_a_backdrop_turned_and_a_loop_switched_off(self):
        self.run_cli("new", "backdrop.svg", "-o", "j.hasami", "--width", "40mm", "--medium", "roll:150mm", "--offset", "1mm")

        def edit(job):
            items = job["designs"][0]["items"]
            other = json.loads(json.dumps(items[0]))
            other["turn"] = 30
            items.append(other)
            job["designs"][0]["recipe"]["edge"]["switches"] = [
                {"x": 31 / 40, "y": 15 / 40, "size": math.sqrt(math.pi) * 4 / 40, "opening": False, "cut": False, "item": 0}]

        self.change("j.hasami", edit)
        self.assertEqual(self.ink_outside("j.hasami", 1), 0)


if __name__ == "__main__":
    unittest.main()
