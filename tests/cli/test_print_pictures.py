"""The print as PNG and TIFF pictures, read by a program that knows nothing of Hasami."""
import unittest

import numpy
from PIL import Image

from support import *

DPI = 120
PER_MM = DPI / 25.4


class PrintPictures(CliTest):
    def setUp(self):
        super().setUp()
        self.f_job("--medium", "sheet:100x150", "--count", "2")

    def made(self, name, *options, size=(100, 150)):
        """The picture as levels of red, green and blue; exact in size."""
        self.run_cli("make", "f.hasami", "--print", name, "--dpi", DPI, *options)
        picture = Image.open(self.folder / name)
        for pixels, length in zip(picture.size, size):
            self.assertAlmostEqual(pixels, length * PER_MM, delta=1)
        for resolution in picture.info["dpi"]:
            self.assertAlmostEqual(float(resolution), DPI, delta=0.1)
        return numpy.asarray(picture).astype(int)

    def test_png_and_tiff_show_the_print_at_its_size_without_cut_lines(self):
        png, tiff = self.made("p.png"), self.made("p.tiff")
        self.assertTrue((png == tiff).all())
        red, green, blue = png[..., 0], png[..., 1], png[..., 2]
        letters = (red > 150) & (green < 90) & (blue < 90)
        # Two letters of 40 x 60 mm in strokes of 12 mm: 60, 28 and 16 long.
        self.assertAlmostEqual(letters.sum() / PER_MM ** 2, 2 * 12 * (60 + 28 + 16), delta=40)
        lines = (green > 100) & (red < 100)  # of a kiss line
        self.assertLess(lines.sum(), 5)
        self.run_cli("make", "f.hasami", "--print", "p.pdf", "--no-cut-lines")
        self.tool("pdftoppm", "-r", DPI, "-png", "-singlefile", "p.pdf", "q")
        other = numpy.asarray(Image.open(self.folder / "q.png")).astype(int)
        rows, columns = min(len(png), len(other)), min(png.shape[1], other.shape[1])
        is_far = numpy.abs(png[:rows, :columns] - other[:rows, :columns]).max(2) > 60
        self.assertLess(is_far.mean(), 0.01)  # pixels on rims, which each draws a little otherwise

    def test_sheets_and_special_inks_have_pictures_of_their_own(self):
        self.run_cli("new", "f.png", "-o", "f.hasami", "--width", "42mm", "--medium", "sheet:100x100", "--count", "3", "--white", "0.5mm")
        self.made("s.png", size=(100, 100))
        self.assertEqual(sorted(p.name for p in self.folder.glob("s*.png")),
                         ["s-2-white.png", "s-2.png", "s-3-white.png", "s-3.png", "s-white.png", "s.png"])
        print_, white = (numpy.asarray(Image.open(self.folder / name)).astype(int) for name in ("s.png", "s-white.png"))
        self.assertEqual(white.ndim, 2)
        letter = (print_[..., 0] > 150) & (print_[..., 1] < 90)
        inked = white < 128
        self.assertEqual(white[inked].min(), 0)
        self.assertGreater(inked.sum(), 0.8 * letter.sum())
        self.assertLess((inked & ~letter).sum(), 0.002 * letter.sum())

    def test_what_can_not_be_written_is_said(self):
        self.run_cli("new", "f.png", "-o", "g.hasami", "--width", "42mm", "--medium", "sheet:2000x9000")
        done = self.run_cli("make", "g.hasami", "--print", "p.png", "--dpi", "1200", status=4)
        self.assertIn("million pixels", done.stderr)
        self.assertIn("a print file ends in", self.run_cli("make", "g.hasami", "--print", "p.bmp", status=4).stderr)


if __name__ == "__main__":
    unittest.main()
