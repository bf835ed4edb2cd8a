"""Analytic shapes with their exact outlines, rendered with exact coverage, and how far a line lies from them.
`python3 analytic.py` prints the table of docs/benchmarks.md."""
import functools
import copy
import io
import json
import math
import os
import subprocess
import sys
import tempfile
from pathlib import Path

import numpy
from PIL import Image

DPI = 300
SAMPLES = 16  # a side, of each pixel


class Shape:
    """`outlines` are dense closed polylines in pixels, `corners` their true corners."""

    def __init__(self, name, size, outlines, corners=()):
        self.name, self.size = name, size
        self.outlines = [numpy.asarray(o, float) for o in outlines]
        self.corners = numpy.asarray(list(corners), float).reshape(-1, 2)

    @functools.cached_property
    def _coverage(self):
        """By scan lines of SAMPLES a pixel: across exact, down sampled."""
        width, height = self.size
        start = numpy.concatenate(self.outlines)
        end = numpy.concatenate([numpy.roll(outline, -1, axis=0) for outline in self.outlines])
        # The scan lines that each side crosses, and where.
        first = numpy.ceil(numpy.minimum(start[:, 1], end[:, 1]) * SAMPLES - 0.5).astype(int).clip(0, height * SAMPLES)
        last = numpy.ceil(numpy.maximum(start[:, 1], end[:, 1]) * SAMPLES - 0.5).astype(int).clip(0, height * SAMPLES)
        side = numpy.repeat(numpy.arange(len(start)), last - first)
        scan = numpy.arange(len(side)) - numpy.repeat(numpy.cumsum(last - first) - last, last - first)
        share = ((scan + 0.5) / SAMPLES - start[side, 1]) / (end[side, 1] - start[side, 1])
        x = (start[side, 0] + share * (end[side, 0] - start[side, 0])).clip(0, width)
        order = numpy.lexsort((x, scan))
        scan, x = scan[order], x[order]
        # From every other crossing on a scan line is inside, and from the next one outside again.
        change = numpy.where(numpy.arange(len(x)) % 2, -1, 1) / SAMPLES
        cell = numpy.floor(x).astype(int)
        grid = numpy.zeros((height, width + 2))
        numpy.add.at(grid, (scan // SAMPLES, cell), change * (cell + 1 - x))
        numpy.add.at(grid, (scan // SAMPLES, cell + 1), change * (x - cell))
        return numpy.clip(grid.cumsum(1)[:, :width], 0, 1)

    def coverage(self):
        return self._coverage


def dense(corners, step=0.05):
    """A polygon's sides in steps."""
    corners = numpy.asarray(corners, float)
    points = []
    for a, b in zip(corners, numpy.roll(corners, -1, axis=0)):
        n = max(1, int(numpy.hypot(*(b - a)) / step))
        points.extend(a + (b - a) * k / n for k in range(n))
    return numpy.array(points)


def polar(radius, centre, n=6000):
    t = numpy.arange(n) * 2 * math.pi / n
    r = radius(t) if callable(radius) else numpy.full(n, radius)
    return numpy.stack([centre[0] + r * numpy.cos(t), centre[1] + r * numpy.sin(t)], 1)


def polygon(name, size, corners):
    return Shape(name, size, [dense(corners)], corners)


def star(centre, outer, inner, points, turn):
    return [(centre[0] + r * math.cos(a), centre[1] + r * math.sin(a))
            for k in range(2 * points) for r, a in [((outer, inner)[k % 2], turn + k * math.pi / points)]]


def gear(centre, teeth, outer, inner, turn):
    corners = []
    for k in range(teeth):
        for part, r in ((0.0, inner), (0.15, outer), (0.4, outer), (0.55, inner)):
            a = turn + (k + part) * 2 * math.pi / teeth
            corners.append((centre[0] + r * math.cos(a), centre[1] + r * math.sin(a)))
    return corners


def rounded_box(left, top, right, bottom, radius, n=400):
    points = []
    for cx, cy, start in ((right - radius, bottom - radius, 0), (left + radius, bottom - radius, 90),
                          (left + radius, top + radius, 180), (right - radius, top + radius, 270)):
        for k in range(n + 1):
            a = math.radians(start + 90 * k / n)
            points.append((cx + radius * math.cos(a), cy + radius * math.sin(a)))
    return dense(points)


def wave(left, right, middle, swing, period, thick):
    x = numpy.arange(left, right, 0.05)
    y = middle + swing * numpy.sin(2 * math.pi * (x - left) / period)
    slope = swing * 2 * math.pi / period * numpy.cos(2 * math.pi * (x - left) / period)
    normal = numpy.stack([-slope, numpy.ones_like(slope)], 1) / numpy.hypot(slope, 1)[:, None]
    line = numpy.stack([x, y], 1)
    one, other = line + normal * thick / 2, (line - normal * thick / 2)[::-1]
    return (numpy.concatenate([one, dense([one[-1], other[0]])[:-1], other, dense([other[-1], one[0]])[:-1]]),
            [one[0], one[-1], other[0], other[-1]])


def blob(seed, centre, radius):
    random = numpy.random.default_rng(seed)
    parts = [(k, random.uniform(-0.09, 0.09), random.uniform(0, 2 * math.pi)) for k in range(2, 7)]
    return polar(lambda t: radius * (1 + sum(a * numpy.cos(k * t + p) for k, a, p in parts)), centre)


@functools.cache
def shapes():
    band, ends = wave(20.3, 380.7, 120.2, 60, 120, 8)
    return [
        Shape("circle", (360, 360), [polar(150.3, (180.2, 179.6))]),
        Shape("small circle", (60, 60), [polar(12.4, (30.3, 29.7))]),
        Shape("ellipse", (400, 260), [numpy.stack([200.1 + 170.2 * numpy.cos(t), 130.3 + 95.4 * numpy.sin(t)], 1)
                                      for t in [numpy.arange(6000) * 2 * math.pi / 6000]]),
        polygon("turned square", (340, 340), star((170.3, 169.8), 140.2, 140.2, 2, 0.3)),
        polygon("star", (400, 400), star((200.2, 199.7), 185.3, 82.4, 5, 0.17)),
        Shape("ring", (360, 360), [polar(155.2, (180.1, 180.4)), polar(95.3, (180.1, 180.4))]),
        polygon("gear", (400, 400), gear((200.4, 199.8), 12, 180.2, 145.1, 0.11)),
        Shape("rounded box", (420, 300), [rounded_box(30.3, 25.6, 390.2, 274.7, 30)]),
        Shape("thin wave", (400, 240), [band], ends),
        *[Shape(f"blob {seed}", (400, 400), [blob(seed, (200.3, 199.6), 140)]) for seed in (1, 2, 3)],
    ]


def softened(coverage, sigma):
    reach = math.ceil(4 * sigma)
    weights = numpy.exp(-(numpy.arange(-reach, reach + 1) / sigma) ** 2 / 2)
    weights /= weights.sum()
    padded = numpy.pad(coverage, reach, mode="reflect")
    rows = sum(w * padded[i:i + coverage.shape[0]] for i, w in enumerate(weights))
    return sum(w * rows[:, i:i + coverage.shape[1]] for i, w in enumerate(weights))


def sharpened(coverage, by):
    return coverage + by * (coverage - softened(coverage, 1))


def scaled(coverage, *factors):
    image = Image.fromarray(numpy.rint(coverage * 255).astype(numpy.uint8))
    for factor in factors:
        image = image.resize([round(side * factor) for side in image.size], Image.BICUBIC)
    return numpy.asarray(image) / 255


# What pictures have been through when they come in: how their coverage was changed, and by how much it was enlarged.
CHANGES = {
    "sharpened by 1.5": (lambda c: sharpened(c, 1.5), 1),
    "sharpened by 3": (lambda c: sharpened(c, 3), 1),
    "gamma of 1.6": (lambda c: c ** 1.6, 1),
    "resized by 0.8 and back": (lambda c: scaled(c, 0.8, 1.25), 1),
    "enlarged three times": (lambda c: scaled(c, 3), 3),
    "stairs": (lambda c: (c > 0.5) * 1.0, 1),
    "softly thresholded": (lambda c: (softened(c, 0.6) - 0.5) * 4 + 0.5, 1),
    "blurred": (lambda c: softened(c, 1.5), 1),
}


def changed(shape, name):
    """The shape as it is in the changed picture, and the picture."""
    change, enlarged = CHANGES[name]
    there = copy.copy(shape)
    there.outlines = [outline * enlarged for outline in shape.outlines]
    there.corners = numpy.array(shape.corners) * enlarged
    return there, png_of_coverage(change(shape.coverage()))


def transparent_png(shape):
    return png_of_coverage(shape.coverage())


def png_of_coverage(coverage):
    coverage = numpy.rint(numpy.clip(coverage, 0, 1) * 255).astype(numpy.uint8)
    pixels = numpy.empty((*coverage.shape, 4), numpy.uint8)
    pixels[...] = (200, 60, 40, 255)
    pixels[..., 3] = coverage
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "PNG", dpi=(DPI, DPI))
    return out.getvalue()


def noisy_jpeg(shape, subsampling=0):
    """On a backdrop graded from corner to corner, at least 40 levels from the subject, with noise of 2 levels."""
    coverage = shape.coverage()[..., None]
    height, width, _ = coverage.shape
    y, x = numpy.mgrid[0:height, 0:width]
    grade = ((x / width + y / height) / 2)[..., None]
    backdrop = numpy.array([250, 248, 240]) * (1 - grade) + numpy.array([205, 212, 220]) * grade
    subject = numpy.array([150, 120, 90])
    noise = numpy.random.default_rng(5).normal(0, 2, (height, width, 3))
    pixels = numpy.clip(numpy.rint(subject * coverage + backdrop * (1 - coverage) + noise), 0, 255)
    out = io.BytesIO()
    Image.fromarray(pixels.astype(numpy.uint8)).save(out, "JPEG", quality=88, subsampling=subsampling,
                                                     dpi=(DPI, DPI))
    return out.getvalue()


def nearest(points, loops, chunk=100, near=3):
    """From each point to the nearest of the closed polylines. Points in a row lie close together: first only the sides
    `near` around a chunk of them are looked at, and all sides where none is as near as that."""
    starts = numpy.concatenate(loops)
    ends = numpy.concatenate([numpy.roll(loop, -1, axis=0) for loop in loops])
    least = numpy.empty(len(points))
    for at in range(0, len(points), chunk):
        p = points[at:at + chunk]
        close = ((numpy.maximum(starts, ends) >= p.min(0) - near) & (numpy.minimum(starts, ends) <= p.max(0) + near)).all(1)
        found = to_sides(p, starts[close], ends[close]) if close.any() else numpy.array([numpy.inf])
        least[at:at + chunk] = found if found.max() <= near else to_sides(p, starts, ends)
    return least


def to_sides(points, starts, ends):
    way = ends - starts
    squared = numpy.maximum((way * way).sum(1), 1e-18)
    p = points[:, None]
    t = numpy.clip(((p - starts) * way).sum(2) / squared, 0, 1)
    return numpy.sqrt((((starts + t[..., None] * way) - p) ** 2).sum(2)).min(1)


def away_from(points, corners):
    if not len(corners):
        return points
    return points[numpy.hypot(*(points[:, None] - corners).transpose(2, 0, 1)).min(1) > 2]


def nodes(path):
    """The points that path data of M, L, C, Z goes through."""
    numbers = path.replace("M", " M ").replace("L", " L ").replace("C", " C ").replace("Z", " Z ").split()
    out, i = [], 0
    while i < len(numbers):
        take = {"M": 2, "L": 2, "C": 6, "Z": 0}[numbers[i]]
        if take:
            out.append([float(numbers[i + take - 1]), float(numbers[i + take])])
        i += 1 + take
    return numpy.array(out)


def measured(shape, lines):
    """RMS and largest distance in pixels, corners, points for 10 pixels, and whether the loops are as many."""
    scale = DPI / 25.4
    found = [dense(numpy.array(line["polyline"]) * scale, 0.5) for line in lines]
    if not found:
        return None
    thinned = [outline[:: max(1, len(outline) // 3000)] for outline in shape.outlines]
    there = nearest(away_from(numpy.concatenate(found), shape.corners), thinned)
    back = nearest(away_from(numpy.concatenate(thinned), shape.corners), found)
    points = numpy.concatenate([nodes(line["path"]) for line in lines]) * scale
    corner = max((numpy.hypot(*(points - c).T).min() for c in shape.corners), default=0.0)
    length = sum(numpy.hypot(*(o - numpy.roll(o, -1, axis=0)).T).sum() for o in shape.outlines)
    return {"rms": float(numpy.sqrt((numpy.concatenate([there, back]) ** 2).mean())),
            "largest": float(max(there.max(), back.max())), "corner": float(corner),
            "points": sum(line["points"] for line in lines), "length": float(length),
            "right loops": len(lines) == len(shape.outlines)}


def outline(program, artwork, ending, *options):
    with tempfile.TemporaryDirectory() as folder:
        source, result = Path(folder) / f"shape{ending}", Path(folder) / "shape.json"
        source.write_bytes(artwork)
        done = subprocess.run([program, "outline", source, "-o", result, "--offset", "0mm", "--openings", "cut", *options],
                              capture_output=True, text=True, timeout=120)
        return json.loads(result.read_text())["lines"] if done.returncode == 0 else []


def table(program, only=""):
    print("| shape | artwork | RMS, px | largest, px | corners, px | points | at most | loops |\n|---|---|---|---|---|---|---|---|")
    for name, ending, make in (("PNG, transparency", ".png", transparent_png), ("JPEG 4:4:4", ".jpg", noisy_jpeg),
                               ("JPEG 4:2:0", ".jpg", lambda s: noisy_jpeg(s, 2))):
        for shape in shapes() if only in name else []:
            m = measured(shape, outline(program, make(shape), ending))
            if not m:
                print(f"| {shape.name} | {name} | nothing found |")
                continue
            print(f"| {shape.name} | {name} | {m['rms']:.3f} | {m['largest']:.2f} | {m['corner']:.2f} | {m['points']} "
                  f"| {40 + 0.12 * m['length']:.0f} | {'right' if m['right loops'] else 'WRONG'} |")


def table_of_changes(program):
    print("| shape | clean | " + " | ".join(CHANGES) + " |\n|---|" + "---|" * (len(CHANGES) + 1))
    for shape in shapes():
        row = [measured(shape, outline(program, transparent_png(shape), ".png"))]
        for name in CHANGES:
            there, picture = changed(shape, name)
            row.append(measured(there, outline(program, picture, ".png")))
        print(f"| {shape.name} | " + " | ".join(f"{m['points']} · {m['rms']:.3f}" if m else "nothing" for m in row) + " |")


if __name__ == "__main__":
    program, *only = sys.argv[1:] or [os.environ["HASAMI_CLI"]]
    table_of_changes(program) if only == ["changes"] else table(program, *only)
