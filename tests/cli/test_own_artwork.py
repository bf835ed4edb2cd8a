"""Lettering, codes and pictures inside shapes, by the command line: outlines against fontTools, codes by readers."""
import json
import math
import os
import shutil
import subprocess
import unittest
import zipfile

import numpy
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.recordingPen import DecomposingRecordingPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTCollection, TTFont
from fontTools.ttLib.tables.TupleVariation import TupleVariation
from PIL import Image

from support import *

FONTS = sorted(path for path in (SOURCE / "data" / "fonts").glob("*.[to]tf") if "Semibold" not in path.name)


def font_outline(font, letter, cap_height, steps=40):
    """A letter's contours as polylines in mm, y down, as fontTools draws them."""
    scale = cap_height / font["OS/2"].sCapHeight
    glyphs = font.getGlyphSet()
    pen = DecomposingRecordingPen(glyphs)
    glyphs[font.getBestCmap()[ord(letter)]].draw(pen)
    loops, at = [], None
    for what, points in pen.value:
        points = [numpy.array([x * scale, -y * scale]) for x, y in (p for p in points if p is not None)]
        if what == "moveTo":
            at = points[0]
            loops.append([at])
        elif what == "lineTo":
            at = points[0]
            loops[-1].append(at)
        elif what == "curveTo":
            a, b, end = points
            for t in numpy.linspace(0, 1, steps + 1)[1:]:
                loops[-1].append((1 - t) ** 3 * at + 3 * (1 - t) ** 2 * t * a + 3 * (1 - t) * t * t * b + t ** 3 * end)
            at = end
        elif what == "qCurveTo":
            controls, end = points[:-1], points[-1]
            for i, control in enumerate(controls):
                to = end if i + 1 == len(controls) else (control + controls[i + 1]) / 2
                for t in numpy.linspace(0, 1, steps + 1)[1:]:
                    loops[-1].append((1 - t) ** 2 * at + 2 * (1 - t) * t * control + t * t * to)
                at = to
    loops = [numpy.array(loop) for loop in loops]
    corner = numpy.min(numpy.vstack(loops), axis=0)
    return [loop - corner for loop in loops]


def distance_to(points, loops):
    """How far each point is from the nearest of the loops."""
    return numpy.min([distances(points, loop) for loop in loops], axis=0)


def bars_font(family, width):
    """A font whose H is a bar of 1000 units high and so wide."""
    builder = FontBuilder(1000, isTTF=True)
    builder.setupGlyphOrder([".notdef", "H"])
    builder.setupCharacterMap({ord("H"): "H"})
    pen = TTGlyphPen(None)
    pen.moveTo((0, 0))
    for corner in ((0, 1000), (width, 1000), (width, 0)):
        pen.lineTo(corner)
    pen.closePath()
    builder.setupGlyf({".notdef": TTGlyphPen(None).glyph(), "H": pen.glyph()})
    builder.setupHorizontalMetrics({".notdef": (500, 0), "H": (width, 0)})
    builder.setupHorizontalHeader(ascent=1000, descent=-200)
    builder.setupNameTable({"familyName": family, "styleName": "Regular"})
    builder.setupOS2(sCapHeight=1000, usWeightClass=400)
    builder.setupPost()
    return builder


class OwnArtwork(CliTest):
    def lines(self, *options):
        self.run_cli("outline", *options, "-o", "o.json")
        return json.loads((self.folder / "o.json").read_text())

    def with_fonts_here(self):
        """Fontconfig knows this test's folder alone, for as long as it runs."""
        self.write("fonts.conf", f"<fontconfig><dir>{self.folder}</dir><cachedir>{self.folder}/cache</cachedir></fontconfig>".encode())
        os.environ["FONTCONFIG_FILE"] = str(self.folder / "fonts.conf")
        self.addCleanup(os.environ.pop, "FONTCONFIG_FILE")

    def width_of_h(self, font):
        found = self.lines("--lettering", "H", "--font", font, "--cap-height", "20mm", "--offset", "0")
        return found["lines"][0]["area"] / 20

    def test_all_fonts_of_a_collection_are_found_and_kept(self):
        self.with_fonts_here()
        both = TTCollection()
        both.fonts = [bars_font("Narrow Bars", 250).font, bars_font("Wide Bars", 750).font]
        both.save(self.folder / "bars.ttc")
        self.assertAlmostEqual(self.width_of_h("Narrow Bars"), 5, delta=0.02)
        self.assertAlmostEqual(self.width_of_h("Wide Bars"), 15, delta=0.02)
        self.run_cli("new", "--lettering", "H", "--font", "Wide Bars", "-o", "w.hasami", "--medium", "roll:100")
        self.run_cli("make", "w.hasami", "--cut", "a.svg")
        (self.folder / "bars.ttc").unlink()
        self.run_cli("make", "w.hasami", "--cut", "b.svg")
        self.assertEqual((self.folder / "a.svg").read_bytes(), (self.folder / "b.svg").read_bytes())

    def test_a_variable_font_comes_in_its_named_instances(self):
        self.with_fonts_here()
        font = bars_font("Moving Bars", 200)
        font.setupFvar([("wght", 100, 100, 900, "Weight")],
                       [{"location": {"wght": 100}, "stylename": "Thin"}, {"location": {"wght": 500}, "stylename": "Medium"},
                        {"location": {"wght": 900}, "stylename": "Black"}])
        wider = [(0, 0), (0, 0), (600, 0), (600, 0)]
        font.setupGvar({"H": [TupleVariation({"wght": (0, 1, 1)}, wider + [(0, 0), (600, 0), (0, 0), (0, 0)])], ".notdef": []})
        font.save(self.folder / "moving.ttf")
        for style, width in (("Regular", 4), ("Medium", 10), ("Black", 16)):
            self.assertAlmostEqual(self.width_of_h("Moving Bars " + style), width, delta=0.02)

    def plates(self, name, dpi=100):
        self.tool("gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", f"-r{dpi}", "-sOutputFile=s.tif", name)
        return {path.name[path.name.index("(") + 1:-5]: (255 - numpy.array(Image.open(path)).astype(float)) / 255
                for path in self.folder.glob("s(*).tif")}

    def test_fills_in_inks_come_on_their_plates(self):
        def plates_of(fill):
            self.run_cli("new", "--lettering", "HH", "--font", "Bebas Neue", "--cap-height", "30mm", "-o", "f.hasami", "--offset", "2mm",
                         "--bleed", "0", "--medium", "roll:100", "--marks", "none")
            self.change("f.hasami", lambda job: job["designs"][0]["items"][0].update(fill=fill))
            self.run_cli("make", "f.hasami", "--print", "f.pdf", "--no-cut-lines")
            for old in self.folder.glob("s(*).tif"):
                old.unlink()
            return self.plates("f.pdf")

        teal = {"colour": "#408080", "cmyk": [0.5, 0.25, 0, 0.125]}
        red = {"colour": "#c04040", "cmyk": [0, 0.8, 0.6, 0], "spot": "QUILLMOOR RED"}
        nothing = {"colour": "#ffffff", "cmyk": [0, 0, 0, 0]}
        plates = plates_of({"kind": "colour", **teal})
        for ink, share in (("Cyan", 0.5), ("Magenta", 0.25), ("Yellow", 0), ("Black", 0.125)):
            self.assertAlmostEqual(plates[ink].max(), share, delta=0.01)
        plates = plates_of({"kind": "colour", **red})
        self.assertAlmostEqual(plates["QUILLMOOR RED"].max(), 1, delta=0.01)
        self.assertEqual(plates["Magenta"].max(), 0)
        # From left to right, which on the page of a roll is from top to bottom or back: ink falls evenly.
        for plates, ink, most in ((plates_of({"kind": "gradient", "from": teal, "to": nothing}), "Cyan", 0.5),
                                  (plates_of({"kind": "gradient", "from": red, "to": nothing}), "QUILLMOOR RED", 1)):
            rows, columns = numpy.nonzero(plates[ink] > 0.02)
            amounts = plates[ink][rows, columns]
            slopes = [abs(numpy.polyfit((along - along.min()) / numpy.ptp(along), amounts, 1)[0]) for along in (rows, columns)]
            self.assertAlmostEqual(amounts.max(), most, delta=0.03)
            self.assertAlmostEqual(max(slopes), most, delta=0.05)
            self.assertEqual(plates["Black"].max() > 0.02, ink == "Cyan")

    def test_outlines_are_those_of_fonttools(self):
        for path in FONTS:
            font = TTFont(path)
            for letter in "R&8":  # of some fonts small letters alone have another form
                expected = font_outline(font, letter, 20)
                found = self.lines("--lettering", letter, "--font", str(path), "--cap-height", "20mm", "--offset", "0",
                                   "--openings", "cut", "--min-speck", "0", "--min-opening", "0")
                polylines = [numpy.array(line["polyline"]) for line in found["lines"]]
                with self.subTest(font=path.name, letter=letter):
                    self.assertEqual(len(polylines), len(expected))
                    self.assertLess(max(distance_to(line, expected).max() for line in polylines), 0.005)
                    self.assertLess(max(distance_to(loop, polylines).max() for loop in expected), 0.005)

    def test_a_cap_height_is_what_is_typed(self):
        for height in ("5mm", "1in", "120mm"):
            found = self.lines("--lettering", "HH", "--font", "Bebas Neue", "--cap-height", height, "--offset", "0")
            wanted = {"5mm": 5, "1in": 25.4, "120mm": 120}[height]
            self.assertAlmostEqual(found["artwork"]["height"], wanted, delta=0.001 * wanted)

    def test_tightened_and_welded_letters_are_one_piece(self):
        loose = self.lines("--lettering", "HEATHER", "--offset", "0")
        tight = self.lines("--lettering", "HEATHER", "--offset", "0", "--tighten")
        welded = self.lines("--lettering", "HEATHER", "--offset", "0", "--tighten", "--weld")
        self.assertEqual(len(loose["lines"]), 7)
        self.assertEqual(len(welded["lines"]), 1)
        self.assertLess(tight["artwork"]["width"], loose["artwork"]["width"])
        self.assertAlmostEqual(tight["artwork"]["width"], welded["artwork"]["width"], delta=0.03)

    def test_letters_on_a_circle(self):
        found = self.lines("--lettering", "OOOOOOOO", "--arc-radius", "30mm", "--offset", "0", "--font", "Quicksand")
        middles = numpy.array([numpy.mean(line["polyline"], axis=0) for line in found["lines"]])
        # A circle through three of them goes through all, as far out as the letters' middles are.
        a, b, c = middles[0], middles[3], middles[7]
        m = 2 * numpy.array([b - a, c - a])
        centre = numpy.linalg.solve(m, [b @ b - a @ a, c @ c - a @ a])
        radii = numpy.linalg.norm(middles - centre, axis=1)
        self.assertLess(radii.std(), 0.02)
        self.assertAlmostEqual(radii.mean(), 35, delta=0.3)

    def test_codes_are_read_back_from_the_rendered_print(self):
        cases = [("qr", "https://quillmoor.example/heather?batch=12", "QR-Code"),
                 ("datamatrix", "QH-2026-11 heather", None),
                 ("code128", "QH-2026-11", "CODE-128"),
                 ("ean13", "401234567890", "EAN-13"),
                 ("ean8", "4012345", "EAN-8"),
                 ("upca", "01234567890", "UPC-A")]
        for kind, text, _ in cases:
            self.run_cli("new", "--code", f"{kind}:{text}", "--code-size", "30mm", "-o", "c.hasami", "--medium", "roll:100")
            self.run_cli("make", "c.hasami", "--print", "c.pdf", "--no-cut-lines")
            self.tool("pdftoppm", "-r", "300", "-png", "-singlefile", "c.pdf", "c")
            if kind == "datamatrix":
                read = subprocess.run(["dmtxread", "-n", "-N1", "-m4000", "c.png"], cwd=self.folder, capture_output=True).stdout.decode()
            else:
                sets = ["-Supca.enable"] if kind == "upca" else []
                read = subprocess.run(["zbarimg", "--raw", "-q", *sets, "c.png"], cwd=self.folder, capture_output=True).stdout.decode()
            with self.subTest(kind=kind):
                self.assertIn(text, read)

    def test_a_picture_inside_a_shape_ends_at_it(self):
        pixels = numpy.zeros((300, 400, 4))
        pixels[:, :] = (30, 90, 200, 255)
        self.write("p.png", png(pixels, 10000))  # 40 x 30 mm
        found = self.lines("p.png", "--clip", "circle", "--offset", "0")
        self.assertAlmostEqual(found["lines"][0]["area"], math.pi * 15 ** 2, delta=0.2)
        found = self.lines("p.png", "--clip", "rounded", "--radius", "5mm", "--offset", "0")
        self.assertAlmostEqual(found["lines"][0]["area"], 1200 - (4 - math.pi) * 25, delta=0.2)
        found = self.lines("p.png", "--clip", "polygon:4", "--offset", "0")
        self.assertAlmostEqual(found["lines"][0]["area"], 30 * 30 / 2, delta=0.2)
        self.write("star.svg", b'<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="10mm" viewBox="0 0 20 10">'
                               b'<path d="M0 0H20L10 10Z" fill="#000"/></svg>')
        found = self.lines("p.png", "--clip", "star.svg", "--offset", "0")
        self.assertAlmostEqual(found["lines"][0]["area"], 100, delta=0.2)
        self.assertAlmostEqual(numpy.min(found["lines"][0]["polyline"], axis=0)[0], 10, delta=0.02)

    def test_the_print_of_a_clipped_picture_has_its_area_and_keeps_the_file(self):
        pixels = numpy.zeros((300, 400, 4))
        pixels[:, :] = (0, 0, 0, 255)
        self.write("p.png", png(pixels, 10000))
        self.run_cli("new", "p.png", "--clip", "circle", "-o", "p.hasami", "--offset", "0", "--bleed", "0", "--medium", "roll:100",
                     "--marks", "none")
        self.run_cli("make", "p.hasami", "--print", "p.pdf", "--no-cut-lines")
        self.tool("pdftoppm", "-r", "600", "-gray", "-singlefile", "-png", "p.pdf", "p2")
        dark = (255 - numpy.asarray(Image.open(self.folder / "p2.png").convert("L")).astype(float)).sum() / 255
        self.assertAlmostEqual(dark * (25.4 / 600) ** 2, math.pi * 15 ** 2, delta=1.5)
        with zipfile.ZipFile(self.folder / "p.hasami") as job:
            kept = [job.read(name) for name in job.namelist() if name.startswith("assets/")]
        self.assertEqual(kept, [(self.folder / "p.png").read_bytes()])

    def test_white_ink_lies_beneath_the_letters_alone(self):
        self.run_cli("new", "--lettering", "HH", "--font", "Bebas Neue", "--cap-height", "20mm", "-o", "w.hasami", "--white", "0mm",
                     "--medium", "roll:100", "--marks", "none", "--bleed", "0")
        self.run_cli("make", "w.hasami", "--print", "w.png", "--dpi", "600")
        white = numpy.asarray(Image.open(self.folder / "w-white.png").convert("L")).astype(float)
        found = self.lines("--lettering", "HH", "--font", "Bebas Neue", "--cap-height", "20mm", "--offset", "0")
        letters = sum(line["area"] for line in found["lines"])
        amount = min(white.sum(), (255 - white).sum()) / 255 * (25.4 / 600) ** 2
        self.assertAlmostEqual(amount, letters, delta=0.01 * letters)

    def test_a_job_is_the_same_without_the_font_on_the_machine(self):
        font = self.folder / "own.otf"
        shutil.copy(SOURCE / "data" / "fonts" / "BebasNeue-Bold.otf", font)
        self.run_cli("new", "--lettering", "QUILLMOOR", "--font", "own.otf", "-o", "j.hasami", "--medium", "roll:100")
        self.run_cli("make", "j.hasami", "--cut", "a.svg")
        font.unlink()
        self.run_cli("make", "j.hasami", "--cut", "b.svg")
        self.assertEqual((self.folder / "a.svg").read_bytes(), (self.folder / "b.svg").read_bytes())

    def test_a_drawing_of_eight_stickers_is_split_and_stays_vector(self):
        shapes = "".join(f'<rect x="{10 + 30 * (i % 4)}" y="{10 + 40 * (i // 4)}" width="20" height="{20 + i}" fill="#24{i}"/>'
                         f'<circle cx="{20 + 30 * (i % 4)}" cy="{20 + 40 * (i // 4)}" r="4" fill="#fff"/>' for i in range(8))
        self.write("eight.svg", f'<svg xmlns="http://www.w3.org/2000/svg" width="130mm" height="90mm" viewBox="0 0 130 90">{shapes}</svg>'.encode())
        self.run_cli("new", "eight.svg", "--split", "2mm", "-o", "e.hasami", "--offset", "0", "--bleed", "0", "--medium", "letter", "--count", "1")
        with zipfile.ZipFile(self.folder / "e.hasami") as job:
            designs = json.loads(job.read("job.json"))["designs"]
        self.assertEqual([design["name"] for design in designs], [f"eight {i}" for i in range(1, 9)])
        self.assertEqual({item["kind"] for design in designs for item in design["items"]}, {"page"})
        self.run_cli("make", "e.hasami", "--cut", "e.svg", "--print", "e.pdf", "--report", "e.json")
        lines = (self.folder / "e.svg").read_text()
        self.assertEqual(lines.count("<path"), 8)
        self.assertNotIn("/Image", self.tool("qpdf", "--qdf", "--object-streams=disable", "e.pdf", "-"))

    def test_what_cannot_be_made_is_told_in_one_sentence(self):
        self.write("no.ttf", b"nothing of a font")
        cases = [(("--lettering", "   "), 3), (("--lettering", "A", "--font", "No Such Family"), 3),
                 (("--lettering", "A", "--font", "no.ttf"), 3), (("--lettering", "A", "--cap-height", "0"), 2),
                 (("--lettering", "A", "--cap-height", "10m"), 2), (("--lettering", "HEATHER", "--arc-radius", "2mm"), 3),
                 (("--code", "ean13:12"), 3), (("--code", "ean13:4012345678900"), 3), (("--code", "qr:"), 3),
                 (("--code", "braille:x"), 2), (("--lettering", "A", "--fill", "#12"), 2), (("--clip", "circle"), 2)]
        for options, status in cases:
            with self.subTest(options=options):
                done = self.run_cli("outline", *options, "-o", "x.json", status=status)
                self.assertEqual(done.stderr.strip().count("\n"), 0)
                self.assertFalse((self.folder / "x.json").exists())

    def test_two_thousand_letters(self):
        text = "\\n".join("HEATHER HONEY " * 4 for _ in range(40))
        found = self.lines("--lettering", text, "--cap-height", "2mm", "--offset", "0.2mm")
        self.assertGreater(len(found["lines"]), 300)


if __name__ == "__main__":
    unittest.main()
