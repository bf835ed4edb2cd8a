import io

from PIL import Image

from support import *


class Jpeg(CliTest):
    """JPEG pictures: shown turned as their files say, printed with their own bytes."""

    def jpeg(self, name, orientation=1, mode="RGB", **options):
        """The letter F, dark on white; stored so that the orientation turns it upright."""
        pixels = numpy.full((620, 420, 3), 255, numpy.uint8)
        pixels[letter_f()[..., 3] > 0] = (40, 60, 120)
        upright = Image.fromarray(pixels)
        back = {1: None, 2: Image.Transpose.FLIP_LEFT_RIGHT, 3: Image.Transpose.ROTATE_180,
                4: Image.Transpose.FLIP_TOP_BOTTOM, 5: Image.Transpose.TRANSPOSE, 6: Image.Transpose.ROTATE_90,
                7: Image.Transpose.TRANSVERSE, 8: Image.Transpose.ROTATE_270}[orientation]
        stored = upright.transpose(back) if back is not None else upright
        exif = Image.Exif()
        exif[0x0112] = orientation
        out = io.BytesIO()
        stored.convert(mode).save(out, "JPEG", quality=92, exif=exif, **options)
        return self.write(name, out.getvalue())

    def printed(self, name):
        """The sheet as pdftoppm sees it, and the PDF's bytes."""
        self.run_cli("new", name, "-o", "f.hasami", "--width", "42mm", "--offset", "2mm", "--medium", "sheet:120mmx120mm")
        self.run_cli("make", "f.hasami", "--print", "f.pdf")
        self.tool("pdftoppm", "-r", "72", "-png", "f.pdf", "page")
        return numpy.asarray(Image.open(self.folder / "page-1.png").convert("L")).astype(int)

    def test_every_orientation_is_seen_and_printed_upright(self):
        reference = None
        for orientation in (1, 6) if SANITIZED else range(1, 9):
            data = self.jpeg("f.jpg", orientation).read_bytes()
            info = self.run_cli("info", "f.jpg", "--json").stdout
            self.assertIn('"JPEG picture"', info)
            page = self.printed("f.jpg")
            if reference is None:
                reference = page
                self.assertLess(reference.min(), 100)
            self.assertLess(numpy.abs(page - reference).mean(), 2, f"orientation {orientation}")
            images = self.tool("pdfimages", "-list", "f.pdf")
            self.assertIn("jpeg", images)
            self.tool("pdfimages", "-all", "f.pdf", "image")
            self.assertEqual((self.folder / "image-000.jpg").read_bytes(), data)

    def test_grey_and_cmyk_keep_their_bytes_and_colours(self):
        for mode, space in (("L", "gray"), ("CMYK", "cmyk")):
            data = self.jpeg("f.jpg", mode=mode).read_bytes()
            page = self.printed("f.jpg")
            self.assertLess(page.min(), 110)
            self.assertGreater(numpy.median(page), 240)
            listed = self.tool("pdfimages", "-list", "f.pdf").split("\n")[2].split()
            self.assertEqual(listed[5], space)
            self.assertIn(data, (self.folder / "f.pdf").read_bytes())

    def test_resolution_comes_from_the_file(self):
        self.jpeg("f.jpg", dpi=(254, 254))
        self.assertIn('"resolution_dpi": 254', self.run_cli("info", "f.jpg", "--json").stdout.replace("254.0", "254"))

    def test_damaged_files_are_refused_in_a_sentence(self):
        whole = self.jpeg("f.jpg").read_bytes()
        for name, data, why in (("cut.jpg", whole[:-3000], "is cut short"), ("head.jpg", whole[:30], "JPEG"),
                                ("odd.jpg", whole[:4] + b"\xff" * 40, "JPEG"),
                                ("tiny.jpg", b"\xff\xd8\xff\xd9", "JPEG")):
            self.write(name, data)
            done = self.run_cli("outline", name, "-o", "out.json", status=3)
            self.assertIn(why, done.stderr)
            self.assertIn(name, done.stderr)
            self.assertEqual(len(done.stderr.strip().split("\n")), 1)


if __name__ == "__main__":
    unittest.main()
