"""Pictures of every kind in: size, colours, coverage and pages as an independent writer laid them down."""
import io
import json
import struct
import zlib

from PIL import Image, ImageDraw

from support import *


class Pictures(CliTest):
    def save(self, name, image, **options):
        out = io.BytesIO()
        image.save(out, name.split(".")[-1].replace("tif", "tiff").replace("tifff", "tiff"), **options)
        return self.write(name, out.getvalue())

    def info(self, name):
        return json.loads(self.run_cli("info", name, "--json").stdout)

    def disc(self, mode="RGBA", side=300):
        y, x = numpy.mgrid[0:side, 0:side] + 0.5
        coverage = numpy.clip(side * 0.4 + 0.5 - numpy.hypot(x - side / 2, y - side / 2), 0, 1)
        pixels = numpy.zeros((side, side, 4), numpy.uint8)
        pixels[..., 0] = 200
        pixels[..., 3] = coverage * 255
        image = Image.fromarray(pixels, "RGBA")
        if mode == "RGBA":
            return image
        flat = Image.new("RGB", image.size, "white")
        flat.paste(image, mask=image.getchannel("A"))
        return flat.convert(mode)

    def area(self, name, *options):
        self.run_cli("outline", name, "--offset", "0", "--dpi", "254", *options, "-o", "o.json")
        line, = json.loads((self.folder / "o.json").read_text())["lines"]
        return line["area"]

    def test_a_large_picture_in_inks_takes_a_few_times_its_file(self):
        side = 4000  # 64 MB
        pixels = numpy.zeros((side, side, 4), numpy.uint8)
        pixels[500:3500, 500:3500] = 100
        self.write("large.tif", tiff(pixels.tobytes(), side, side, 8, 4, 5))
        self.assertEqual(self.info("large.tif")["colours"], "CMYK")
        if not SANITIZED:
            self.assertLess(peak_memory_of_children(), 4.5 * pixels.nbytes)

    def test_the_edge_is_found_in_each_kind(self):
        wanted = math.pi * (300 * 0.4 / 10) ** 2
        self.save("a.tif", self.disc(), dpi=(200, 200))
        self.save("b.tif", self.disc("RGB"))
        self.save("c.tif", self.disc("CMYK"))
        self.save("d.tif", self.disc("L"), compression="tiff_lzw")
        self.save("e.webp", self.disc(), lossless=True)
        self.save("f.gif", self.disc("RGB"))
        for name in ("a.tif", "b.tif", "c.tif", "d.tif", "e.webp", "f.gif"):
            with self.subTest(name):
                self.assertAlmostEqual(self.area(name), wanted, delta=wanted * 0.01)
        self.assertEqual(self.info("a.tif")["resolution_dpi"], 200)
        self.assertTrue(self.info("a.tif")["transparency"])
        self.assertEqual([self.info(n)["kind"] for n in ("a.tif", "e.webp", "f.gif")],
                         ["TIFF picture", "WebP picture", "GIF picture"])
        self.assertEqual([self.info(n)["colours"] for n in ("b.tif", "c.tif", "d.tif")], ["RGB", "CMYK", "grey"])

    def test_cmyk_inks_are_printed_as_they_are(self):
        inks = Image.new("CMYK", (40, 40), (10, 200, 30, 40))
        self.save("inks.tif", inks)
        self.assertIn(bytes((10, 200, 30, 40)) * 100, self.printed("inks.tif"))

    def printed(self, name):
        """The bytes of the print file made of a picture 20 mm wide, streams laid open."""
        self.run_cli("new", name, "-o", "i.hasami", "--shape", "box", "--width", "20mm", "--medium", "roll:100mm")
        self.run_cli("make", "i.hasami", "--print", "i.pdf")
        self.tool("qpdf", "--qdf", "--object-streams=disable", "--decode-level=all", "i.pdf", "q.pdf")
        return (self.folder / "q.pdf").read_bytes()

    def test_sixteen_bits_are_printed(self):
        ramp = numpy.linspace(1000, 60000, 40 * 40).astype(">u2").reshape(40, 40)
        colours = numpy.stack([ramp, ramp + 77, ramp + 154], axis=2).astype(">u2")
        raw = b"".join(b"\0" + row.tobytes() for row in colours)
        self.write("deep.png", png_of(raw, 40, 40, 16, 2))
        self.assertEqual(self.info("deep.png")["bits"], 16)
        text = self.printed("deep.png")
        self.assertIn(colours.tobytes(), text)
        self.assertIn(b"/BitsPerComponent 16", text)
        self.write("deep.tif", tiff(colours.astype("<u2").tobytes(), 40, 40, 16, 3, 2))
        self.assertIn(colours.tobytes(), self.printed("deep.tif"))
        self.write("deep-grey.tif", tiff(ramp.astype("<u2").tobytes(), 40, 40, 16, 1, 1))
        self.assertIn(ramp.tobytes(), self.printed("deep-grey.tif"))

    def test_cmyk_with_coverage_and_16_bits(self):
        inks = numpy.zeros((40, 60, 5), "<u2")
        inks[..., :4] = (1000, 30000, 65535, 4000)
        inks[10:30, 10:50, 4] = 65535
        self.write("deep.tif", tiff(inks.tobytes(), 60, 40, 16, 5, 5, extra=2))
        info = self.info("deep.tif")
        self.assertEqual((info["colours"], info["bits"], info["transparency"]), ("CMYK", 16, True))
        self.assertAlmostEqual(self.area("deep.tif"), 4.0 * 2.0, delta=0.05)
        self.assertIn(inks[0, 0, :4].astype(">u2").tobytes() * 60, self.printed("deep.tif"))

    def test_a_tiff_on_its_side_is_upright(self):
        pixels = letter_f().astype(numpy.uint8)
        turned = numpy.rot90(pixels)  # orientation 6: the first row is the right side
        self.write("upright.tif", tiff(pixels.tobytes(), 420, 620, 8, 4, 2, extra=2))
        self.write("side.tif", tiff(turned.tobytes(), 620, 420, 8, 4, 2, extra=2, orientation=6))
        lines = []
        for name in ("upright", "side"):
            self.run_cli("outline", name + ".tif", "--offset", "0", "--dpi", "254", "-o", name + ".json")
            lines.append(json.loads((self.folder / (name + ".json")).read_text())["lines"][0]["path"])
        self.assertEqual(lines[0], lines[1])

    def test_a_page_of_a_tiff_file_is_chosen(self):
        pages = [self.disc("RGB", side) for side in (100, 200, 300)]
        self.save("p.tif", pages[0], save_all=True, append_images=pages[1:])
        self.assertEqual(self.info("p.tif")["pages"], 3)
        self.assertAlmostEqual(self.area("p.tif", "--page", "2"), math.pi * 8 ** 2, delta=3)
        self.assertIn("has no page 4: it has 3",
                      self.run_cli("outline", "p.tif", "--page", "4", "-o", "x.json", status=3).stderr)
        self.run_cli("new", "p.tif", "--page", "3", "-o", "p.hasami", "--width", "30mm", "--medium", "roll:100mm")
        self.run_cli("make", "p.hasami", "--print", "p.pdf")

    def test_damaged_ones_are_one_sentence(self):
        for name, options in (("t.tif", {}), ("w.webp", {"lossless": True}), ("g.gif", {})):
            whole = self.save(name, self.disc("RGB" if name == "g.gif" else "RGBA"), **options).read_bytes()
            for part in (len(whole) // 2, 40, 13):
                with self.subTest(name=name, part=part):
                    self.write("cut-" + name, whole[:part])
                    told = self.run_cli("outline", "cut-" + name, "-o", "never.json", status=3).stderr
                    self.assertEqual(len(told.strip().split("\n")), 1, told)
                    self.assertIn("cut-" + name, told)
                    self.assertFalse((self.folder / "never.json").exists())
        huge = bytearray(self.save("h.gif", self.disc("RGB")).read_bytes())
        huge[6:10] = b"\xff\xff\xff\xff"  # 65,535 pixels square
        self.write("h.gif", bytes(huge))
        self.assertIn("h.gif", self.run_cli("outline", "h.gif", "-o", "never.json", status=3).stderr)


class Numbers(CliTest):
    """What a file says of its numbers beside the pixels."""

    def test_pixels_of_a_fax_keep_its_shape(self):
        for dpi in ((204, 98), (98, 204)):
            with self.subTest(dpi=dpi):
                disc = Image.new("L", (int(2 * dpi[0]), int(2 * dpi[1])), 255)  # two inches
                ImageDraw.Draw(disc).ellipse((dpi[0] // 2, dpi[1] // 2, 3 * dpi[0] // 2, 3 * dpi[1] // 2), fill=0)
                disc.save(self.folder / "fax.tif", dpi=dpi)
                self.run_cli("outline", "fax.tif", "-o", "o.json", "--offset", "0")
                line = numpy.array(json.loads((self.folder / "o.json").read_text())["lines"][0]["polyline"])
                for size in numpy.ptp(line, axis=0):
                    self.assertAlmostEqual(size, 25.4, delta=0.4)

    def test_a_png_of_another_gamma_is_seen_and_printed_as_it_says(self):
        def chunk(kind, data):
            return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))
        rows = b"".join(b"\0" + bytes([128, 64, 200]) * 60 for _ in range(40))
        self.write("linear.png", b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", struct.pack(">IIBBBBB", 60, 40, 8, 2, 0, 0, 0)) +
                   chunk(b"gAMA", struct.pack(">I", 100000)) + chunk(b"pHYs", struct.pack(">IIB", 2000, 2000, 1)) +
                   chunk(b"IDAT", zlib.compress(rows)) + chunk(b"IEND", b""))
        self.run_cli("new", "linear.png", "-o", "g.hasami", "--medium", "roll:100", "--marks", "none", "--shape", "box", "--offset", "0")
        self.run_cli("make", "g.hasami", "--print", "g.png", "--dpi", "60", "--no-cut-lines")
        colours = {c for n, c in Image.open(self.folder / "g.png").convert("RGB").getcolors(1 << 20) if n > 200} - {(255, 255, 255)}
        standard = [round(255 * (1.055 * (v / 255) ** (1 / 2.4) - 0.055)) for v in (128, 64, 200)]
        self.assertEqual(len(colours), 1)
        for seen, wanted in zip(colours.pop(), standard):
            self.assertAlmostEqual(seen, wanted, delta=3)


if __name__ == "__main__":
    unittest.main()
