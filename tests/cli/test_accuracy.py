import json

import analytic
from support import *

# Bounds of the line on shapes whose outline is known, in pixels at 300 dots an inch.
BOUNDS = {
    ("PNG", "rms"): 0.06, ("PNG", "largest"): 0.30, ("PNG", "corner"): 0.6,
    ("JPEG", "rms"): 0.10, ("JPEG", "largest"): 0.9, ("JPEG", "corner"): 0.9,
}


class Accuracy(CliTest):
    """How far the line lies from shapes whose outline is known (analytic.py prints all figures)."""

    def check(self, kind, make, ending):
        for shape in analytic.shapes():
            m = analytic.measured(shape, analytic.outline(PROGRAM, make(shape), ending))
            with self.subTest(shape=shape.name, kind=kind):
                self.assertIsNotNone(m, "nothing was found")
                self.assertTrue(m["right loops"])
                self.assertLessEqual(m["points"], 40 + 0.12 * m["length"])
                for what in ("rms", "largest", "corner"):
                    if (kind, what) in BOUNDS:
                        self.assertLessEqual(m[what], BOUNDS[kind, what], what)

    def test_transparency(self):
        self.check("PNG", analytic.transparent_png, ".png")

    def test_jpeg_on_a_graded_noisy_backdrop(self):
        self.check("JPEG", analytic.noisy_jpeg, ".jpg")

    def test_changed_pictures_need_few_points_too(self):
        most = {"sharpened by 1.5": 0.1, "sharpened by 3": 0.15, "gamma of 1.6": 0.15, "resized by 0.8 and back": 0.06,
                "enlarged three times": 0.12, "stairs": 0.2, "softly thresholded": 0.13, "blurred": 0.1}
        for shape in analytic.shapes():
            if shape.name not in ("circle", "ellipse", "gear", "blob 1"):
                continue
            clean = analytic.measured(shape, analytic.outline(PROGRAM, analytic.transparent_png(shape), ".png"))
            for name, rms in most.items():
                there, picture = analytic.changed(shape, name)
                m = analytic.measured(there, analytic.outline(PROGRAM, picture, ".png"))
                with self.subTest(shape=shape.name, change=name):
                    self.assertTrue(m["right loops"])
                    self.assertLessEqual(m["points"], 3 * clean["points"] + 20)
                    self.assertLessEqual(m["rms"], rms)

    def test_a_margin_needs_few_points(self):
        self.run_cli("outline", SOURCE / "data/demo/bee.png", "-o", "o.json", "--width", "50mm", "--offset", "2mm")
        lines = json.loads((self.folder / "o.json").read_text())["lines"]
        self.assertEqual(len(lines), 1)
        self.assertLessEqual(lines[0]["points"], 90)


if __name__ == "__main__":
    unittest.main()
