"""Vector art in: what is painted, exactly; printed as it came; cut lines that files bring; strangers' files."""
import json
import math
import os
import re
import subprocess
import time
from pathlib import Path

import ezdxf

from support import *
from vector_art import eps, joined, pdf, spots, stream, svg

MM = 72 / 25.4  # points


class VectorTest(CliTest):
    def lines(self, name, *options):
        self.run_cli("outline", name, "--offset", "0", *options, "-o", "o.json")
        return json.loads((self.folder / "o.json").read_text())["lines"]

    def areas(self, name, *options):
        return [round(line["area"], 1) for line in self.lines(name, *options)]

    def info(self, name):
        return json.loads(self.run_cli("info", name, "--json").stdout)


class Filters(VectorTest):
    def scale(self, count):
        """How much larger the page is made on which a drawing with that many filters is drawn."""
        blurred = '<filter id="b"><feGaussianBlur stdDeviation="2"/></filter>' + \
            "".join(f'<rect x="{5 + i}" y="5" width="20" height="20" filter="url(#b)"/>' for i in range(count))
        self.write("d.svg", svg(blurred + '<rect x="90" y="30" width="20" height="10"/>', "600mm", "400mm", "0 0 600 400"))
        reader = Path(os.environ["HASAMI_CLI"]).parent / "hasami-reader"
        done = subprocess.run([reader, "svg"], input=(self.folder / "d.svg").read_bytes(), capture_output=True, check=True)
        return float(done.stdout.split(b"\n", 1)[0].removeprefix(b"scale "))

    def test_many_filters_are_drawn_in_fewer_pixels_and_all_else_stays_exact(self):
        few, many = self.scale(4), self.scale(40)
        self.assertEqual(self.scale(0), few)
        self.assertLess(many, 0.5 * few)
        self.assertIn(200.0, self.areas("d.svg"))


class Painted(VectorTest):
    """Areas in mm² of what a page of 200 x 150 points paints; 1 point² is 0.12445 mm²."""

    def painted(self, content, resources="", **options):
        self.write("p.pdf", pdf(content, resources, **options))
        return [round(area * MM * MM) for area in
                (line["area"] for line in self.lines("p.pdf", "--openings", "cut", "--min-speck", "0"))]

    def test_fills_strokes_and_clips(self):
        self.assertEqual(self.painted("10 10 40 20 re f"), [800])
        self.assertEqual(self.painted("10 10 40 20 re 20 15 10 10 re f"), [800])
        self.assertEqual(self.painted("10 10 40 20 re 20 15 10 10 re f*"), [800, 100])
        self.assertEqual(self.painted("10 w 20 20 m 80 20 l S"), [600])
        self.assertEqual(self.painted("4 w 20 20 40 30 re B"), [44 * 34])
        self.assertEqual(self.painted("q 2 0 0 1 0 0 cm 2 w 10 10 20 20 re S Q"), [44 * 22, 36 * 18])
        self.assertEqual(self.painted("q 0 0 30 150 re W n 10 10 40 20 re f Q 100 100 10 10 re f"), [400, 100])
        self.assertEqual(self.painted("[6 4] 0 d 2 w 10 10 m 40 10 l S"), [12, 12, 12])
        self.assertEqual(self.painted("180 10 60 20 re f"), [400])  # to the page's rim

    def test_faint_paint_and_groups(self):
        states = "/ExtGState << /Faint << /ca 0.04 >> /Half << /ca 0.5 >> /A << /ca 0.2 >> >>"
        self.write("faint.pdf", pdf("/Faint gs 10 10 40 20 re f", states))
        self.assertIn("faint", self.run_cli("outline", "faint.pdf", "-o", "x.json", status=3).stderr)
        self.assertEqual(self.painted("/Half gs 10 10 40 20 re f", states), [800])
        form = stream("/A gs 0 0 50 50 re f", "/Type /XObject /Subtype /Form /BBox [0 0 30 30] "
                      f"/Group << /S /Transparency >> /Resources << {states} >>")
        resources = states + " /XObject << /Form 5 0 R >>"
        self.assertEqual(self.painted("/Form Do", resources, objects=[form]), [900])
        self.assertEqual(self.painted("/A gs /Form Do 100 100 10 10 re f", resources, objects=[form]), [100])

    def test_shadings_patterns_and_pictures(self):
        function = "/Function << /FunctionType 2 /Domain [0 1] /C0 [1 0 0] /C1 [0 0 1] /N 1 >>"
        band = f"/Shading << /S << /ShadingType 2 /ColorSpace /DeviceRGB /Coords [20 0 60 0] {function} >> >>"
        self.assertEqual(self.painted("q 0 10 200 30 re W n /S sh Q", band), [1200])
        on = band.replace("/Coords", "/Extend [true true] /Coords")
        self.assertEqual(self.painted("q 10 10 50 30 re W n /S sh Q", on), [1500])
        disc = f"/Shading << /S << /ShadingType 3 /ColorSpace /DeviceRGB /Coords [50 50 0 50 50 20] {function} >> >>"
        self.assertAlmostEqual(self.painted("/S sh", disc)[0], math.pi * 400, delta=2)
        pattern = f"/Pattern << /P << /PatternType 2 /Shading << /ShadingType 2 /ColorSpace /DeviceRGB " \
                  f"/Coords [20 0 60 0] /Extend [true true] {function} >> >> >>"
        self.assertEqual(self.painted("/Pattern cs /P scn 10 10 50 30 re f", pattern), [1500])
        grey = stream(bytes(range(16)), "/Type /XObject /Subtype /Image /Width 4 /Height 4 /BitsPerComponent 8 "
                      "/ColorSpace /DeviceGray")
        self.assertEqual(self.painted("q 40 0 0 30 10 10 cm /I Do Q", "/XObject << /I 5 0 R >>", objects=[grey]),
                         [1200])
        y, x = numpy.mgrid[0:200, 0:200] + 0.5
        mask = (numpy.hypot(x - 100, y - 100) < 80).astype(numpy.uint8) * 255
        masked = [stream(bytes(40000), "/Type /XObject /Subtype /Image /Width 200 /Height 200 /BitsPerComponent 8 "
                         "/ColorSpace /DeviceGray /SMask 6 0 R"),
                  stream(mask.tobytes(), "/Type /XObject /Subtype /Image /Width 200 /Height 200 /BitsPerComponent 8 "
                         "/ColorSpace /DeviceGray")]
        found = self.painted("q 100 0 0 100 10 10 cm /I Do Q", "/XObject << /I 5 0 R >>", objects=masked)
        self.assertAlmostEqual(found[0], math.pi * 1600, delta=15)
        bits = numpy.packbits(mask == 0, axis=1).tobytes()
        stencil = stream(bits, "/Type /XObject /Subtype /Image /Width 200 /Height 200 /BitsPerComponent 1 /ImageMask true")
        found = self.painted("1 0 0 rg q 100 0 0 100 10 10 cm /I Do Q", "/XObject << /I 5 0 R >>", objects=[stencil])
        self.assertAlmostEqual(found[0], math.pi * 1600, delta=15)

    def test_a_soft_mask_leaves_what_it_lets_through(self):
        form = stream("1 g 0 0 50 150 re f", "/Type /XObject /Subtype /Form /BBox [0 0 200 150] /Group << /S /Transparency "
                      "/CS /DeviceGray >>")
        states = "/ExtGState << /M << /SMask << /S /Luminosity /G 5 0 R >> >> >>"
        found = self.painted("/M gs 10 10 100 20 re f", states, objects=[form])
        self.assertAlmostEqual(found[0], 800, delta=4)

    def test_text_in_every_mode(self):
        font = "/Font << /F << /Type /Font /Subtype /Type1 /BaseFont /Helvetica-Bold >> >>"
        def text(mode, then=""):
            return self.painted(f"BT /F 60 Tf {mode} Tr 3 w 20 40 Td (l) Tj ET {then}", font)
        fill, = text(0)
        stroke = text(1)
        both, = text(2)
        self.write("unseen.pdf", pdf("BT /F 60 Tf 3 Tr 20 40 Td (l) Tj ET", font))
        self.assertIn("shows nothing", self.run_cli("outline", "unseen.pdf", "-o", "x.json", status=3).stderr)
        self.assertAlmostEqual(stroke[0], both, delta=2)
        self.assertLess(stroke[1], fill)
        self.assertGreater(both, fill)
        self.assertAlmostEqual(text(7, "0 0 200 150 re f")[0], fill, delta=1)
        self.assertEqual(self.info("p.pdf")["fonts"], ["Helvetica-Bold"])

    def test_turned_pages_crop_boxes_and_hidden_layers(self):
        self.write("t.pdf", pdf("20 30 40 10 re f", page="/Rotate 90 /CropBox [10 20 110 100]"))
        line, = self.lines("t.pdf")
        self.assertEqual(self.info("t.pdf")["size_mm"], [round(80 / MM, 2), round(100 / MM, 2)])
        corners = numpy.array(line["polyline"]) * MM
        numpy.testing.assert_allclose(corners.min(axis=0), (10, 10), atol=0.02)
        numpy.testing.assert_allclose(corners.max(axis=0), (20, 50), atol=0.02)
        layers = [f"<< /Type /OCG /Name ({n}) >>" for n in "ab"]
        content = "/OC /A BDC 10 10 10 10 re f EMC /OC /B BDC 50 50 20 20 re f EMC"
        hidden = pdf(content, "/Properties << /A 5 0 R /B 6 0 R >>", objects=layers).replace(
            b"/Catalog /Pages", b"/Catalog /OCProperties << /OCGs [5 0 R 6 0 R] /D << /OFF [6 0 R] >> >> /Pages")
        self.write("h.pdf", hidden)  # the table of places is wrong now, which readers mend
        self.assertEqual(len(self.lines("h.pdf")), 1)
        self.run_cli("new", "h.pdf", "-o", "h.hasami", "--medium", "roll:200mm")
        self.run_cli("make", "h.hasami", "--print", "out.pdf")
        self.tool("pdftoppm", "-r", "72", "-png", "out.pdf", "out")
        from PIL import Image
        seen = numpy.array(Image.open(next(self.folder.glob("out*.png"))).convert("L")) < 60
        runs = lambda n: sum((row[:-n] & numpy.all([row[i:len(row) - n + i] for i in range(n)], axis=0)).any() for row in seen)
        self.assertGreater(runs(8), 7)  # the square of 10 points, and marks of some 14
        self.assertEqual(runs(18), 0)   # but not the hidden one of 20

    def test_a_page_of_larger_units_has_its_true_size(self):
        self.write("u.pdf", pdf("20 30 40 10 re f", page="/UserUnit 2.5"))
        self.assertEqual(self.info("u.pdf")["size_mm"], [round(200 / MM * 2.5, 2), round(150 / MM * 2.5, 2)])
        self.assertEqual(self.areas("u.pdf"), [round(400 * 2.5 ** 2 / MM / MM, 1)])
        self.write("u.pdf", pdf("20 30 40 10 re f", page="/UserUnit 75000"))
        self.assertIn("has a page of", self.run_cli("info", "u.pdf", status=3).stderr)

    def test_a_backdrop_is_left_out_unless_asked_for(self):
        content = "0.9 g 0 0 200 150 re f 0 g 50 50 40 30 re f"
        self.assertEqual(self.painted(content), [1200])
        self.assertEqual(self.areas("p.pdf", "--with-backdrop"), [round(200 * 150 / MM / MM, 1)])
        self.write("p.eps", eps("0.9 setgray 0 0 199.4 149.6 rectfill 0 setgray 50 50 40 30 rectfill", 199.4, 149.6)
                   .replace(b"%%HiRes", b"%%Some"))  # whose box is rounded up
        self.assertEqual(self.areas("p.eps"), [round(1200 / MM / MM, 1)])


class SameDrawing(VectorTest):
    def test_pdf_svg_and_eps_agree_to_a_hundredth_of_a_millimetre(self):
        w, h = 60 * MM, 40 * MM
        ps = "10 10 moveto 90 10 lineto 120 40 150 90 60 100 curveto closepath fill " \
             "6 setlinewidth 1 setlinecap 20 60 moveto 20 105 lineto stroke"
        content = ps.replace("moveto", "m").replace("lineto", "l").replace("curveto", "c").replace("closepath fill", "h f") \
                    .replace("setlinewidth", "w").replace("setlinecap", "J").replace("stroke", "S")
        self.write("d.pdf", pdf(content, box=(0, 0, w, h)))
        self.write("d.eps", eps(ps, w, h))
        self.write("d.svg", svg(f'<g transform="translate(0,{h}) scale(1,-1)"><path d="M10 10L90 10C120 40 150 90 60 100Z"/>'
                                '<path d="M20 60V105" stroke="black" stroke-width="6" stroke-linecap="round"/></g>',
                                box=f"0 0 {w} {h}"))
        found = {name: self.lines(name) for name in ("d.pdf", "d.svg", "d.eps")}
        for name, lines in found.items():
            self.assertEqual(len(lines), 2, name)
            for line, other in zip(lines, found["d.pdf"]):
                a, b = numpy.array(line["polyline"]), numpy.array(other["polyline"])
                self.assertLess(max(distances(a, b).max(), distances(b, a).max()), 0.01, name)

    def test_svg_as_people_export_it(self):
        def areas(body, **options):
            self.write("s.svg", svg(body, **options))
            return self.areas("s.svg", "--openings", "cut")
        self.assertEqual(areas('<style>.a{fill:#123}</style><rect class="a" x="5" y="5" width="10" height="20"/>'), [200])
        self.assertEqual(areas('<defs><rect id="r" width="4" height="5"/></defs><use xlink:href="#r" x="3" y="3"/>'
                               '<use xlink:href="#r" x="30" y="20"/>'), [20, 20])
        self.assertEqual(areas('<symbol id="q" viewBox="0 0 1 1"><rect width="1" height="1"/></symbol>'
                               '<use xlink:href="#q" x="10" y="10" width="6" height="6"/>'), [36])
        self.assertEqual(areas('<clipPath id="c"><rect x="0" y="0" width="10" height="40"/></clipPath>'
                               '<g clip-path="url(#c)"><rect x="5" y="5" width="20" height="10"/></g>'), [50])
        self.assertEqual(areas('<g transform="rotate(30 30 20) scale(2)"><rect x="10" y="5" width="5" height="5"/></g>'), [100])
        self.assertEqual(areas('<rect x="1" y="1" width="5" height="4" fill="none" stroke="red" stroke-width="2"/>'),
                         [7 * 6, 3 * 2])
        self.assertEqual(areas('<svg x="10" y="10" width="20" height="20" viewBox="0 0 10 10"><rect width="5" height="5"/></svg>'),
                         [100])
        gradient = '<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="red" stop-opacity="0"/></linearGradient>'
        found, = areas(gradient + '<rect x="10" y="10" width="20" height="10" fill="url(#g)"/>')
        self.assertAlmostEqual(found, 190, delta=3)  # the last twentieth is too faint
        mask = '<mask id="m"><rect x="0" y="0" width="20" height="40" fill="white"/></mask>'
        found, = areas(mask + '<rect x="10" y="10" width="30" height="10" mask="url(#m)"/>')
        self.assertAlmostEqual(found, 100, delta=1)

    def test_sizes_in_every_unit_and_none(self):
        for width, height, mm in (("2in", "1in", 50.8), ("30mm", "20mm", 30), ("72pt", "36pt", 25.4), ("96", "48", 25.4),
                                  ("5cm", "3cm", 50), ("100%", "100%", 60 * 25.4 / 96)):
            self.write("u.svg", svg('<rect x="5" y="5" width="30" height="20"/>', width, height))
            self.assertAlmostEqual(self.info("u.svg")["size_mm"][0], mm, delta=0.02, msg=width)
        self.assertEqual(self.info("u.svg")["kind"], "SVG drawing")


class Printed(VectorTest):
    def test_colours_leave_as_they_came_and_brought_lines_do_not_print(self):
        content = "0.2 0.1 0.8 0.3 k 40 40 60 60 re f /Gold cs 0.7 scn 60 60 80 50 re f " \
                  "/Cut CS 1 SCN 0.25 w 30 30 120 90 re S /Die CS 1 SCN 20 20 140 110 re S"
        self.write("b.pdf", pdf(content, spots(Gold="Gold", Cut="CutContour", Die="die#20cut")))
        about = self.info("b.pdf")
        self.assertEqual(about["cut_lines"], {"kiss": 1, "die": 1})
        self.assertEqual(about["spot_names"], ["CutContour", "Gold", "die cut"])
        self.run_cli("new", "b.pdf", "-o", "b.hasami", "--medium", "roll:200mm", "--count", "2")
        self.run_cli("make", "b.hasami", "--print", "out.pdf", "--cut", "out.svg")
        self.tool("qpdf", "--check", "out.pdf")
        raw = self.tool("qpdf", "--qdf", "--object-streams=disable", "out.pdf", "-")
        self.assertIn("0.2 0.1 0.8 0.3 k", raw)
        self.assertIn("/Gold cs 0.7 scn", raw)
        self.assertEqual(raw.count("0.2 0.1 0.8 0.3 k"), 1)  # embedded once
        self.assertNotIn("die#20cut", raw)
        # Taken out of what is drawn, too, for those who don't know that None leaves no mark.
        self.assertIn("30 30 120 90 re n", raw)
        self.assertIn("20 20 140 110 re n", raw)
        plates = {}
        self.tool("gs", "-q", "-dSAFER", "-dBATCH", "-dNOPAUSE", "-sDEVICE=tiffsep", "-r72", "-sOutputFile=plate.tif", "out.pdf")
        from PIL import Image
        for path in self.folder.glob("plate(*).tif"):
            plates[path.name[6:-5]] = numpy.array(Image.open(path))
        self.assertLessEqual({"Gold", "CutContour", "DieCut"}, set(plates))
        cut = plates["CutContour"] < 255
        rows, columns = numpy.nonzero(cut)
        # Only our hairlines are on the cut's plate: two frames of 120 x 90, side by side.
        self.assertLess(cut.sum(), 2 * 2 * (120 + 90) * 2)
        self.assertEqual(round((255 - int(plates["Gold"].min())) / 255, 1), 0.7)
        groups = (self.folder / "out.svg").read_text()
        self.assertIn('id="kiss"', groups)
        self.assertIn('id="die"', groups)
        # Without the file's lines, its strokes are artwork like all else.
        self.run_cli("new", "b.pdf", "-o", "p.hasami", "--medium", "roll:200mm", "--find", "paint")
        self.run_cli("make", "p.hasami", "--print", "out2.pdf")
        self.assertIn("die#20cut", self.tool("qpdf", "--qdf", "--object-streams=disable", "out2.pdf", "-"))

    def test_brought_lines_are_copied_curve_for_curve(self):
        content = "/Cut CS 1 SCN 20 20 m 60 10 90 60 60 90 c 40 120 10 80 20 20 c S 10 10 m 50 10 l 50 20 l S"
        self.write("c.pdf", pdf(content, spots(Cut="CutContour")))
        slit, line = sorted(self.lines("c.pdf"), key=lambda line: line["area"])
        self.assertEqual(line["points"], 2)
        self.assertEqual((slit["area"], slit["points"]), (0, 2))  # the pieces of a line that is open
        told = self.run_cli("new", "c.pdf", "-o", "c.hasami").stderr
        self.assertNotIn("ends are", told)  # plainly open

    def test_slits_are_cut_open_and_a_line_that_is_nearly_closed_is_said(self):
        frame, slit = "20 20 100 80 re S ", "40 40 m 80 40 l 80 60 l S "
        self.write("s.pdf", pdf(f"0.5 g 25 25 90 70 re f /Cut CS 1 SCN {frame} /Die CS 1 SCN {slit}", spots(Cut="CutContour", Die="DieCut")))
        self.run_cli("new", "s.pdf", "-o", "s.hasami", "--medium", "roll:200mm", "--marks", "none")
        self.run_cli("make", "s.hasami", "--print", "s-print.pdf", "--cut", "s.dxf", "--cut", "s.plt", "--cut", "s.svg")
        lines = {p.dxf.layer: p for p in ezdxf.readfile(self.folder / "s.dxf").modelspace().query("LWPOLYLINE POLYLINE")}
        self.assertTrue(lines["kiss"].closed)
        self.assertFalse(lines["die"].closed)
        plot = (self.folder / "s.plt").read_text()
        start, run = re.search(r"SP2;.*?PU([\d,]+);PD([\d,]+);", plot, re.S).groups()
        numbers = [int(n) / 40 for n in f"{start},{run}".split(",")]
        places = list(zip(numbers[::2], numbers[1::2]))
        self.assertEqual([round(math.dist(a, b), 1) for a, b in zip(places, places[1:])], [14.1, 7.1])
        # Slits alone: the line around the artwork is made by the recipe.
        self.write("a.pdf", pdf(f"0.5 g 25 25 90 70 re f /Die CS 1 SCN {slit}", spots(Die="DieCut")))
        kinds = sorted((line["kind"], line["area"] > 0) for line in self.lines("a.pdf"))
        self.assertEqual(kinds, [("die", False), ("kiss", True)])
        self.run_cli("new", "a.pdf", "-o", "a.hasami", "--medium", "roll:200mm", "--marks", "none", "--bleed", "0")
        self.run_cli("make", "a.hasami", "--print", "a-print.pdf", "--no-cut-lines")
        self.assertNotIn("DieCut", self.tool("qpdf", "--qdf", "--object-streams=disable", "a-print.pdf", "-"))
        # Nearly closed.
        self.write("n.pdf", pdf("0.5 g 25 25 90 70 re f /Cut CS 1 SCN 20 20 m 120 20 l 120 100 l 20 100 l 20 21.5 l S " + frame,
                                spots(Cut="CutContour")))
        told = self.run_cli("new", "n.pdf", "-o", "n.hasami").stderr
        self.assertIn("ends are 0.53 mm apart", told)

    def test_names_that_are_all_but_right_are_told_and_taken_when_asked(self):
        self.write("n.pdf", pdf("0 g 50 50 20 20 re f /Cut CS 1 SCN 30 30 120 90 re S", spots(Cut="cut#20contour")))
        told = self.run_cli("new", "n.pdf", "-o", "n.hasami").stderr
        self.assertIn("cut contour", told)
        line, = self.lines("n.pdf", "--find", "lines")
        self.assertAlmostEqual(line["area"], 120 * 90 / MM / MM, delta=0.1)
        self.write("none.pdf", pdf("0 g 50 50 20 20 re f"))
        told = self.run_cli("outline", "none.pdf", "--find", "lines", "-o", "x.json", status=3).stderr
        self.assertIn("brings no cut lines", told)

    def test_the_letter_f_comes_out_as_it_came(self):
        from PIL import Image
        path = "M10 10H50V20H20V35H40V45H20V70H10Z"
        self.write("f.svg", svg(f'<path d="{path}"/>', "60mm", "80mm", "0 0 60 80"))
        # The same turned by the page: drawn lying, shown upright.
        flipped = "10 10 m 10 50 l 20 50 l 20 20 l 35 20 l 35 40 l 45 40 l 45 20 l 70 20 l 70 10 l h f"
        k = MM
        self.write("f.pdf", pdf(f"q {k} 0 0 {k} 0 0 cm {flipped} Q", box=(0, 0, 80 * MM, 60 * MM), page="/Rotate 90"))
        pictures = []
        for name in ("f.svg", "f.pdf"):
            self.run_cli("new", name, "-o", "f.hasami", "--medium", "roll:200mm", "--offset", "3mm")
            self.run_cli("make", "f.hasami", "--print", "f-out.pdf", "--cut", "f.plt")
            self.tool("pdftoppm", "-r", "50", "-png", "f-out.pdf", name)
            pictures.append(numpy.array(Image.open(next(self.folder.glob(name + "-*.png"))).convert("L")))
        self.assertLess(numpy.abs(pictures[0].astype(int) - pictures[1]).max(), 80)
        self.assertLess(pictures[0].min(), 60)

    def test_pages_are_chosen(self):
        data = pdf(["10 10 40 20 re f"] * 3)
        self.write("m.pdf", data)
        self.assertEqual(self.info("m.pdf")["pages"], 3)
        self.assertEqual(len(self.lines("m.pdf", "--page", "3")), 1)
        told = self.run_cli("outline", "m.pdf", "--page", "4", "-o", "x.json", status=3).stderr
        self.assertIn("m.pdf has no page 4: it has 3", told)


class Strangers(VectorTest):
    def refused(self, name, data, *says, seconds=30):
        self.write(name, data)
        begin = time.monotonic()
        told = self.run_cli("outline", name, "-o", "never.json", status=3).stderr
        self.assertLess(time.monotonic() - begin, seconds)
        self.assertEqual(len(told.strip().split("\n")), 1, told)
        self.assertIn(name, told)
        for word in says:
            self.assertIn(word, told)
        self.assertFalse((self.folder / "never.json").exists())

    def test_damaged_and_hostile_files_are_one_sentence(self):
        whole = pdf("10 10 40 20 re f")
        self.refused("cut.pdf", whole[:40], "damaged")
        self.refused("empty.pdf", joined(["<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [] /Count 0 >>"]))
        self.refused("blank.pdf", pdf(""), "shows nothing")
        self.refused("flat.pdf", pdf("10 10 40 20 re f", box=(0, 0, 200, 0)))
        self.refused("huge.pdf", pdf("10 10 40 20 re f", box=(0, 0, 200000, 200)), "30 m")
        self.refused("broken.svg", b"<svg xmlns='http://www.w3.org/2000/svg'><rect", "SVG")
        self.refused("sizeless.svg", svg("", "0", "0"), "shows nothing")
        self.refused("nan.svg", svg("<rect width='5' height='5'/>", "NaN", "nan", "0 0 nan nan"))
        bomb = "<!DOCTYPE svg [<!ENTITY a 'aaaaaaaaaa'>" + "".join(
            f"<!ENTITY {chr(98 + i)} '{('&' + chr(97 + i) + ';') * 10}'>" for i in range(9)) + "]>"
        self.refused("bomb.svg", bomb.encode() + svg("<text y='20'>&j;</text>"))

    def test_a_file_locked_with_a_password_is_told_one_with_an_empty_one_is_opened(self):
        self.write("open.pdf", pdf("10 10 40 20 re f"))
        self.tool("qpdf", "--encrypt", "", "owner", "256", "--", "open.pdf", "empty.pdf")
        self.assertEqual(len(self.lines("empty.pdf")), 1)
        self.run_cli("new", "empty.pdf", "-o", "e.hasami")
        self.run_cli("make", "e.hasami", "--print", "e-out.pdf")
        self.assertIn("10 10 40 20 re f", self.tool("qpdf", "--qdf", "--object-streams=disable", "e-out.pdf", "-"))
        self.tool("qpdf", "--encrypt", "secret", "owner", "256", "--", "open.pdf", "locked.pdf")
        self.refused("locked2.pdf", (self.folder / "locked.pdf").read_bytes(), "password")

    def test_nothing_but_the_file_is_read(self):
        self.write("secret.png", png(letter_f()))
        self.write("x.svg", svg('<rect x="1" y="1" width="5" height="5"/><image xlink:href="secret.png" x="20" y="5" width="20" height="20"/>'
                                '<image xlink:href="http://127.0.0.1:9/x.png" width="30" height="30"/>'))
        self.assertEqual(self.areas("x.svg"), [25])
        entity = b"<!DOCTYPE svg [<!ENTITY x SYSTEM 'file:///etc/passwd'>]>"
        self.write("y.svg", entity + svg('<rect x="1" y="1" width="5" height="5"/><text x="5" y="30" font-size="9">&x;</text>'))
        done = subprocess.run([PROGRAM, "outline", "y.svg", "--offset", "0", "-o", "y.json"], cwd=self.folder, capture_output=True, text=True)
        if done.returncode == 0:
            self.assertEqual(len(json.loads((self.folder / "y.json").read_text())["lines"]), 1)
        self.refused("spy.ps", b"%!PS\n(/etc/passwd) (r) file 100 string readline pop show showpage\n")

    def test_forms_that_use_themselves_and_many_paths_end(self):
        form = stream("0 0 10 10 re f /Form Do", "/Type /XObject /Subtype /Form /BBox [0 0 30 30] /Resources << /XObject << /Form 5 0 R >> >>")
        self.write("self.pdf", pdf("/Form Do", "/XObject << /Form 5 0 R >>", objects=[form]))
        self.assertEqual(len(self.lines("self.pdf")), 1)
        nested = "q " * 20000 + "10 10 40 20 re f " + "Q " * 20000
        self.write("deep.pdf", pdf(nested))
        self.assertEqual(len(self.lines("deep.pdf")), 1)
        many = "\n".join(f"{i % 400 * 2} {i // 400 * 2} 1 1 re f" for i in range(100_000))
        self.write("many.pdf", pdf(many, box=(0, 0, 800, 1000)))
        begin = time.monotonic()
        self.run_cli("outline", "many.pdf", "--min-speck", "0", "--offset", "0", "--width", "200mm", "-o", "many.json")
        self.assertLess(time.monotonic() - begin, 60)

    def test_what_a_file_is_its_content_tells(self):
        self.write("art.png", pdf("10 10 40 20 re f"))
        self.assertEqual(self.info("art.png")["kind"], "PDF")
        self.write("art.pdf", b"junk before\n" + pdf("10 10 40 20 re f"))
        self.assertEqual(self.info("art.pdf")["kind"], "PDF")
        import gzip
        self.write("art.txt", gzip.compress(svg('<rect x="5" y="5" width="30" height="20"/>')))
        self.assertEqual(self.areas("art.txt"), [600])
        self.refused("notes.svg", b"no artwork at all", "not artwork that Hasami reads")


class PrivateData(CliTest):
    def test_attached_files_and_programs_data_stay_out_of_the_print_file(self):
        form = stream("0 0 1 rg 0 0 100 100 re f", "/Type /XObject /Subtype /Form /BBox [0 0 100 100] /PieceInfo << /Draft << /Private 6 0 R >> >> "
                                                   "/AF [7 0 R] /Metadata 9 0 R")
        objects = [form, stream("SECRET-NOTES"), "<< /Type /Filespec /F (contract.txt) /EF << /F 8 0 R >> >>", stream("SECRET-CONTRACT"),
                   stream("SECRET-AUTHOR", "/Type /Metadata /Subtype /XML")]
        self.write("logo.pdf", pdf("/Logo Do", "/XObject << /Logo 5 0 R >>", objects=objects, page="/PieceInfo << /Draft << /Private 6 0 R >> >>"))
        self.run_cli("new", "logo.pdf", "-o", "l.hasami")
        self.run_cli("make", "l.hasami", "--print", "p.pdf")
        self.tool("qpdf", "--qdf", "--object-streams=disable", "p.pdf", "q.pdf")
        plain = (self.folder / "q.pdf").read_bytes()
        self.assertIn(b"0 0 100 100 re", plain)
        for secret in (b"SECRET", b"contract.txt", b"PieceInfo"):
            self.assertNotIn(secret, plain)


class PostScriptSizes(CliTest):
    def test_what_stands_before_a_header_or_at_the_end_hides_no_size(self):
        plain = eps("1 0 0 setrgbcolor 10 10 80 30 rectfill", 100, 50)
        late = plain.replace(b"%%BoundingBox: 0 0 101 51\n", b"%%BoundingBox: (atend)\n") \
            .replace(b"%%HiResBoundingBox: 0 0 100 50\n", b"%%HiResBoundingBox: (atend)\n") \
            .replace(b"%%EOF", b"%%Trailer\n%%BoundingBox: 0 0 101 51\n%%HiResBoundingBox: 0 0 100 50\n%%EOF")
        for name, data in (("plain", plain), ("late", late), ("mark", b"\xef\xbb\xbf" + plain), ("end", b"\x04" + plain),
                           ("blank", b"\n\r\n" + plain),
                           ("returns", late.replace(b"\n", b"\r"))):
            with self.subTest(name):
                self.write(f"{name}.eps", data)
                about = json.loads(self.run_cli("info", f"{name}.eps", "--json").stdout)
                self.assertAlmostEqual(about["size_mm"][0], 100 * 25.4 / 72, delta=0.5)
                self.assertAlmostEqual(about["size_mm"][1], 50 * 25.4 / 72, delta=0.5)


if __name__ == "__main__":
    unittest.main()
