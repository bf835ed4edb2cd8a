"""The plates of artwork made at random are its own in print files, whatever lies around them: white ink, bleed, cut lines."""
from PIL import Image

from generated_art import blended_pdf, boxes, plain_eps, plain_pdf, plain_tiff
from plates import PROCESS, plates_of, plates_of_all
from support import *

DPI = 127  # five pixels a millimetre
SIDE = 127  # pixels of a page
NAMES = (*PROCESS, "Amber")
WHITE = {"ink": "white", "area": "silhouette", "choke": 0.0, "threshold": 5.0}
RECIPES = {"alone": (0, []), "white": (0, [WHITE]), "bleed": (2, [])}


def stacked(plates):
    none = numpy.zeros_like(next(iter(plates.values())))
    return numpy.stack([plates.get(name, none) for name in NAMES], -1)


def even(plates):
    """Where nothing changes within two pixels, which the place of a pixel could be off by."""
    found = numpy.ones(plates.shape[:2], bool)
    for dy in range(-2, 3):
        for dx in range(-2, 3):
            found &= (numpy.roll(plates, (dy, dx), (0, 1)) == plates).all(-1)
    found[:3] = found[-3:] = False
    found[:, :3] = found[:, -3:] = False
    return found


def inked(line):
    """The runs of places that have ink: first and end."""
    edges = numpy.flatnonzero(numpy.diff(numpy.concatenate(([0], line > 0, [0])).astype(int)))
    return edges.reshape(-1, 2)


def places_in(printed, aside):
    """Where each artwork begins, `aside` pixels from where ink begins. A sheet's first sticker is at its right, turned right."""
    rows, columns = inked(printed.sum((1, 2))), inked(printed.sum((0, 2)))
    return [(row[0] + aside, column[0] + aside) for row in rows for column in columns[::-1]]


class GeneratedPlates(CliTest):
    def own_plates(self, pages):
        """Of PDF files, turned as the stickers are."""
        all_of = plates_of_all([self.write(f"own-{i}.pdf", page) for i, page in enumerate(pages)], DPI)
        return [numpy.rot90(stacked(plates), -1) for plates in all_of]

    def lay_out(self, kind, contents):
        """One sticker of each artwork, in rows."""
        names = [self.write(f"{i:03}.{kind}", content).name for i, content in enumerate(contents)]
        self.run_cli("new", *names, "-o", "p.hasami", "--medium", "roll:600mm", "--count", 1, "--shape", "box", "--offset", "0",
                     "--width", "25.4mm", "--use", "stickers", "--with-backdrop", "--marks", "none", "--bleed", "0", timeout=600)

    def print_with(self, recipe, out, *options):
        bleed, inks = RECIPES[recipe]

        def change(job):
            for design in job["designs"]:
                design["recipe"]["bleed"]["amount"] = bleed
                design["recipe"]["inks"] = inks
        self.change("p.hasami", change)
        self.run_cli("make", "p.hasami", "--print", out, *options, timeout=600)
        if out.endswith(".tiff"):
            inks = numpy.array(Image.open(self.folder / out)).astype(int)
            plates = {name: inks[..., i] for i, name in enumerate(PROCESS)}
        else:
            plates = plates_of(self.folder / out, DPI, ("-dEPSCrop",))
        printed = stacked(plates)
        return printed, places_in(printed, round(bleed * DPI / 25.4))

    def assert_own(self, own, out="p.pdf", recipes=tuple(RECIPES), options=()):
        """Each artwork has its own plates."""
        for recipe in recipes:
            printed, places = self.print_with(recipe, out, *options)
            self.assertGreaterEqual(len(places), len(own))
            for i, (plates, (top, left)) in enumerate(zip(own, places)):
                with self.subTest(artwork=i, recipe=recipe, out=out):
                    watched = even(plates)
                    self.assertGreater(watched.mean(), 0.2)
                    parts = [printed[top + dy:top + dy + SIDE, left + dx:left + dx + SIDE]
                             for dy in (-1, 0, 1) for dx in (-1, 0, 1)]
                    self.assertLessEqual(min((numpy.abs(part - plates).max(-1) * watched).max() for part in parts
                                             if part.shape == plates.shape), 2)
                    if recipe == "bleed":
                        self.assert_bleeds(printed, plates, top, left)

    def assert_bleeds(self, printed, plates, top, left):
        """The left side's colours go on past it, where they are the same for a while along it and into the artwork."""
        for row in range(15, SIDE - 15):
            if (plates[row - 4:row + 5, :8] == plates[row, 0]).all():
                self.assertLessEqual(numpy.abs(printed[top + row, left - 5] - printed[top + row, left + 4]).max(), 2)

    def assert_all(self, kind, contents, pages, **how):
        own = self.own_plates(pages)
        self.lay_out(kind, contents)
        self.assert_own(own, **how)

    def test_pages_with_transparency(self):
        pages = [blended_pdf(seed) for seed in range(100)]
        self.assert_all("pdf", pages, pages, recipes=("alone", "white"))

    def test_the_bleed_of_pages_with_transparency(self):
        pages = [blended_pdf(seed) for seed in range(100, 125)]  # each is separated at 1,200 dots an inch
        self.assert_all("pdf", pages, pages, recipes=("bleed",))

    def test_eps_files(self):
        contents = [boxes(seed) for seed in range(25)]
        self.assert_all("eps", map(plain_eps, contents), map(plain_pdf, contents), recipes=("alone", "white"))

    def test_prints_as_eps(self):
        pages = [plain_pdf(boxes(seed)) for seed in range(50)]
        self.assert_all("pdf", pages, pages, out="p.eps", recipes=("alone", "white"))

    def test_prints_as_tiff(self):
        pages = [plain_pdf(boxes(seed, 4)) for seed in range(25)]
        self.assert_all("pdf", pages, pages, out="p.tiff", options=("--cmyk", "--dpi", DPI))

    def test_tiff_pictures(self):
        for channels, bits in ((4, 8), (4, 16), (1, 8), (3, 8), (3, 16)):
            contents = [boxes(seed, channels, step=2) for seed in range(10 * channels, 10 * channels + 10)]
            self.assert_all("tiff", [plain_tiff(content, bits, 2) for content in contents], map(plain_pdf, contents))


if __name__ == "__main__":
    unittest.main()
