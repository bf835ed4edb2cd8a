"""Pages made at random of spaces, blend modes, opacities, groups and soft masks: each plate of the print file is that of the
page by itself, with white, bleed and cut lines around it."""
import random

from plates import PROCESS, plates_of
from support import *
from vector_art import pdf, stream

SIDE = 144  # points: 50.8 mm
DPI = 127  # five pixels a millimetre
NAMES = (*PROCESS, "Amber")
SPOT = "/ColorSpace << /A [/Separation /Amber /DeviceCMYK << /FunctionType 2 /Domain [0 1] /C0 [0 0 0 0] " \
       "/C1 [0 0.3 0.8 0.1] /N 1 >>] >>"


def colour(of):
    numbers = lambda count: " ".join(f"{of.randint(0, 10) / 10:g}" for _ in range(count))
    return of.choice([f"{numbers(4)} k", f"{numbers(3)} rg", f"{numbers(1)} g", f"/A cs {of.randint(2, 10) / 10:g} scn"])


def area(of):
    x, y = of.randint(0, 90), of.randint(0, 90)
    return f"{x} {y} {of.randint(20, SIDE - x)} {of.randint(20, SIDE - y)} re f"


def page(seed):
    of = random.Random(seed)
    modes = ("Normal", "Multiply", "Screen", "Darken", "Lighten", "Overlay")
    states = " ".join(f"/B{i} << /BM /{mode} >>" for i, mode in enumerate(modes)) + \
        " /O0 << /ca 0.3 >> /O1 << /ca 0.7 >> /S << /SMask << /S /Luminosity /G 5 0 R >> >>"
    form = f"/Type /XObject /Subtype /Form /BBox [0 0 {SIDE} {SIDE}]"
    mask = stream("0.3 g 0 0 144 144 re f 0.9 g 30 30 60 60 re f", f"{form} /Group << /S /Transparency /CS /DeviceGray >>")
    group = stream(" ".join(f"{colour(of)} {area(of)}" for _ in range(2)),
                   f"{form} /Resources << {SPOT} >> /Group << /S /Transparency /I {of.choice(['true', 'false'])} "
                   f"/K {of.choice(['true', 'false'])} >>")
    body = ["0.1 0.1 0.1 0 k 0 0 144 144 re f"]
    for _ in range(of.randint(3, 6)):
        state = of.choice([f"/B{of.randint(0, 5)} gs", "/O0 gs", "/O1 gs", "/S gs", ""])
        body.append(f"q {state} {'/G Do' if of.random() < 0.3 else f'{colour(of)} {area(of)}'} Q")
    space = of.choice(["", "/Group << /S /Transparency /CS /DeviceCMYK >>", "/Group << /S /Transparency /CS /DeviceRGB >>",
                       "/Group << /S /Transparency >>"])
    return pdf(" ".join(body), f"/ExtGState << {states} >> {SPOT} /XObject << /G 6 0 R >>", box=(0, 0, SIDE, SIDE),
               objects=[mask, group], page=space)


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


class GeneratedPlates(CliTest):
    def test_each_plate_is_the_pages_own(self):
        for seed in (1, 4, 7, 11, 13):
            self.write("page.pdf", page(seed))
            own = numpy.rot90(stacked(plates_of(self.folder / "page.pdf", DPI)), -1)
            watched = even(own)
            self.assertGreater(watched.mean(), 0.5)
            for options, bleed in ((("--white", "0mm", "--bleed", "0"), 0), (("--bleed", "2mm",), 10)):
                with self.subTest(seed=seed, options=options):
                    self.run_cli("new", "page.pdf", "-o", "p.hasami", "--medium", "roll:150mm", "--count", 1, "--shape", "box",
                                 "--offset", "0", "--use", "stickers", "--with-backdrop", "--marks", "none", *options)
                    self.run_cli("make", "p.hasami", "--print", "p.pdf")
                    printed = stacked(plates_of(self.folder / "p.pdf", DPI))
                    rows, columns = numpy.nonzero(printed.sum(-1))
                    top, left = rows.min() + bleed, columns.min() + bleed
                    parts = [printed[top + dy:top + dy + len(own), left + dx:left + dx + len(own)]
                             for dy in (-1, 0, 1) for dx in (-1, 0, 1)]
                    self.assertLessEqual(min((numpy.abs(part - own).max(-1) * watched).max() for part in parts
                                             if part.shape == own.shape), 2)
                    if bleed:
                        middle = [row for row in range(20, len(own) - 20) if watched[row - 4:row + 5, 3:8].all()]
                        for row in middle:
                            self.assertLessEqual(numpy.abs(printed[top + row, left - 5] - printed[top + row, left + 4]).max(), 2)


if __name__ == "__main__":
    unittest.main()
