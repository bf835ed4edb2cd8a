"""Artwork made at random, of pages whose plates can be known: boxes of colours, alone or with blend modes, opacities, groups
and soft masks."""
import random

from support import numpy, tiff
from vector_art import eps, pdf, stream

SIDE = 72  # points: 25.4 mm
SPOT = "/ColorSpace << /A [/Separation /Amber /DeviceCMYK << /FunctionType 2 /Domain [0 1] /C0 [0 0 0 0] " \
       "/C1 [0 0.3 0.8 0.1] /N 1 >>] >>"
OPERATORS = {4: ("k", "setcmykcolor"), 3: ("rg", "setrgbcolor"), 1: ("g", "setgray")}


class Box:
    """A colour and where it is: `channels` 4, 3 or 1, or 0 of the spot colour; levels of 255."""

    def __init__(self, of, channels=None, step=1):
        self.channels = of.choice([4, 3, 1, 0]) if channels is None else channels
        self.levels = [of.randint(0, 255) for _ in range(max(1, self.channels))]
        x, y = of.randint(0, 45 // step) * step, of.randint(0, 45 // step) * step
        self.box = (x, y, of.randint(12 // step, (SIDE - x) // step) * step, of.randint(12 // step, (SIDE - y) // step) * step)

    def numbers(self):
        return " ".join(f"{level / 255:.6f}" for level in self.levels)

    def in_pdf(self):
        colour = f"{self.numbers()} {OPERATORS[self.channels][0]}" if self.channels else f"/A cs {self.numbers()} scn"
        return f"{colour} {' '.join(map(str, self.box))} re f"

    def in_postscript(self):
        colour = f"{self.numbers()} {OPERATORS[self.channels][1]}" if self.channels else \
            "[/Separation (Amber) /DeviceCMYK {dup dup 0 exch 0.3 mul 3 -1 roll 0.8 mul 4 -1 roll 0.1 mul}] setcolorspace " \
            f"{self.numbers()} setcolor"
        return f"{colour} {' '.join(map(str, self.box))} rectfill"


def ground(channels=4):
    """All of the page, so that its place in a print is plain."""
    box = Box(random.Random(0), channels)
    box.levels, box.box = {4: [25, 25, 25, 0], 3: [200, 220, 210], 1: [220]}[channels], (0, 0, SIDE, SIDE)
    return box


def boxes(seed, channels=None, step=1):
    of = random.Random(seed)
    return [ground(channels or 4)] + [Box(of, channels, step) for _ in range(of.randint(4, 8))]


def plain_pdf(content):
    return pdf(" ".join(box.in_pdf() for box in content), SPOT, box=(0, 0, SIDE, SIDE))


def plain_eps(content):
    return eps("\n".join(box.in_postscript() for box in content), SIDE, SIDE)


def plain_tiff(content, bits, step):
    """A pixel for each `step` points."""
    channels, side = content[0].channels, SIDE // step
    pixels = numpy.zeros((side, side, channels), numpy.uint16)
    for box in content:
        x, y, width, height = (v // step for v in box.box)
        pixels[side - y - height:side - y, x:x + width] = box.levels
    samples = (pixels * 257).astype("<u2") if bits == 16 else pixels.astype(numpy.uint8)
    return tiff(samples.tobytes(), side, side, bits, channels, {4: 5, 3: 2, 1: 1}[channels])


def blended_pdf(seed):
    """With all that a page's transparency can be."""
    of = random.Random(seed)
    modes = ("Normal", "Multiply", "Screen", "Darken", "Lighten", "Overlay")
    states = " ".join(f"/B{i} << /BM /{mode} >>" for i, mode in enumerate(modes)) + \
        " /O0 << /ca 0.3 >> /O1 << /ca 0.7 >> /S << /SMask << /S /Luminosity /G 5 0 R >> >>"
    form = f"/Type /XObject /Subtype /Form /BBox [0 0 {SIDE} {SIDE}]"
    mask = stream("0.3 g 0 0 72 72 re f 0.9 g 15 15 30 30 re f", f"{form} /Group << /S /Transparency /CS /DeviceGray >>")
    group = stream(" ".join(Box(of).in_pdf() for _ in range(2)),
                   f"{form} /Resources << {SPOT} >> /Group << /S /Transparency /I {of.choice(['true', 'false'])} "
                   f"/K {of.choice(['true', 'false'])} >>")
    body = [ground().in_pdf()]
    for _ in range(of.randint(3, 6)):
        state = of.choice([f"/B{of.randint(0, 5)} gs", "/O0 gs", "/O1 gs", "/S gs", ""])
        body.append(f"q {state} {'/G Do' if of.random() < 0.3 else Box(of).in_pdf()} Q")
    space = of.choice(["", "/Group << /S /Transparency /CS /DeviceCMYK >>", "/Group << /S /Transparency /CS /DeviceRGB >>",
                       "/Group << /S /Transparency >>"])
    return pdf(" ".join(body), f"/ExtGState << {states} >> {SPOT} /XObject << /G 6 0 R >>", box=(0, 0, SIDE, SIDE),
               objects=[mask, group], page=space)
