#!/usr/bin/python3
"""Measures nesting beside its plain peer on instances of our own: bench/nesting.py BUILD [SECONDS…] [--kind NAME] [--seeds N].
Copies of one shape are measured against the best lattice that a slow program finds in two minutes as well, and
for many parts it is told when the peer's last length is reached. Each layout is checked by brute force (nest-check), and drawn into BUILD/nesting/ as SVG."""
import argparse
import json
import math
import random
import statistics
import subprocess
import sys
from pathlib import Path


def turned(loop, angle):
    c, s = math.cos(angle), math.sin(angle)
    return [[c * x - s * y, s * x + c * y] for x, y in loop]


def star(tips, radius, waist):
    return [[(radius if i % 2 == 0 else radius * waist) * f(math.pi * i / tips) for f in (math.cos, math.sin)] for i in range(2 * tips)]


def blob(rng, radius, points=48):
    waves = [(k + 1, rng.uniform(-0.18, 0.18), rng.uniform(0, 2 * math.pi)) for k in range(5)]
    loop = []
    for i in range(points):
        t = 2 * math.pi * i / points
        r = radius * (1 + sum(a * math.cos(k * t + f) for k, a, f in waves))
        loop.append([r * math.cos(t), r * math.sin(t)])
    return loop


def crescent(radius, opening=60, points=30):
    outer = [[radius * math.cos(t), radius * math.sin(t)]
             for t in (math.radians(opening + (360 - 2 * opening) * i / points) for i in range(points + 1))]
    x, y = outer[0]
    centre = x + radius * 0.35
    inner, half = math.hypot(x - centre, y), math.atan2(y, x - centre)
    return outer + [[centre + inner * math.cos(t), inner * math.sin(t)]
                    for t in (2 * math.pi - half - (2 * math.pi - 2 * half) * i / points for i in range(1, points))]


def heart(size, points=50):
    return [[size * 16 * math.sin(t) ** 3 / 16, -size * (13 * math.cos(t) - 5 * math.cos(2 * t) - 2 * math.cos(3 * t) - math.cos(4 * t)) / 16]
            for t in (2 * math.pi * i / points for i in range(points))]


def arrow(size):
    return [[-size, -size * 0.3], [0, -size * 0.3], [0, -size * 0.7], [size, 0], [0, size * 0.7], [0, size * 0.3], [-size, size * 0.3]]


def bracket(size):
    return [[0, 0], [size, 0], [size, size * 0.3], [size * 0.3, size * 0.3], [size * 0.3, size * 1.4], [size, size * 1.4], [size, size * 1.7],
            [0, size * 1.7]]


def gear(radius, teeth):
    loop = []
    for i in range(teeth):
        for step, r in ((0, 0.82), (0.15, 1), (0.5, 1), (0.65, 0.82)):
            t = 2 * math.pi * (i + step) / teeth
            loop.append([radius * r * math.cos(t), radius * r * math.sin(t)])
    return loop


def bubble(size):
    body = [[size * 1.3 * math.cos(t), size * math.sin(t)] for t in (math.radians(120 + 330 * i / 36) for i in range(37))]
    return body + [[-size * 0.9, size * 1.5]]


def letter(size):
    return [[0, 0], [size, 0], [size, size * 0.25], [size * 0.3, size * 0.25], [size * 0.3, size * 0.65], [size * 0.8, size * 0.65],
            [size * 0.8, size * 0.9], [size * 0.3, size * 0.9], [size * 0.3, size * 1.5], [0, size * 1.5]]


def bone(size):
    loop = []
    for x, y, start in ((1, -0.35, 200), (1, 0.35, -90), (-1, 0.35, 20), (-1, -0.35, 90)):
        loop += [[size * (x + 0.45 * math.cos(math.radians(start + 250 * i / 10))), size * (y + 0.45 * math.sin(math.radians(start + 250 * i / 10)))]
                 for i in range(11)]
    return hull_order(loop)


def hull_order(loop):
    return sorted(loop, key=lambda p: math.atan2(p[1], p[0]))


def some_shape(rng, size):
    return rng.choice((lambda: star(rng.randint(4, 8), size, rng.uniform(0.4, 0.7)), lambda: blob(rng, size), lambda: crescent(size),
                       lambda: heart(size), lambda: arrow(size), lambda: bracket(size), lambda: gear(size, rng.randint(6, 12)),
                       lambda: bubble(size * 0.8), lambda: letter(size * 1.2), lambda: bone(size * 0.7)))()


def part(name, outline, copies, rotations="any"):
    return {"id": name, "copies": copies, "rotations": rotations, "mirror": False, "outline": outline, "holes": []}


def problem(parts, width, gap, length=None, margin=0):
    return {"units": "mm", "media": {"width": width, "length": length}, "margin": margin, "gap": gap, "parts": parts}


def pieces_of_rectangle(rng, width, height, count):
    def cut(polygon, n):
        if n <= 1:
            return [polygon]
        xs, ys = [p[0] for p in polygon], [p[1] for p in polygon]
        at = [min(v) + rng.uniform(0.35, 0.65) * (max(v) - min(v)) for v in (xs, ys)]
        angle = rng.uniform(0, math.pi)
        normal = (math.cos(angle), math.sin(angle))

        def side(sign):
            kept = []
            for p, q in zip(polygon, polygon[1:] + polygon[:1]):
                a, b = (sign * sum((v[k] - at[k]) * normal[k] for k in (0, 1)) for v in (p, q))
                if a >= 0:
                    kept.append(p)
                if a * b < 0:
                    kept.append([p[k] + (q[k] - p[k]) * a / (a - b) for k in (0, 1)])
            return kept

        def area(loop):
            return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(loop, loop[1:] + loop[:1]))) / 2
        one, other = side(1), side(-1)
        share = max(1, min(n - 1, round(n * area(one) / (area(one) + area(other)))))
        return cut(one, share) + cut(other, n - share)
    return cut([[0, 0], [width, 0], [width, height], [0, height]], count)


def with_bent_cuts(rng, pieces):
    """Each piece cut once more, from side to side around a corner: pairs of which one is hollow."""
    bent = []
    for piece in pieces:
        n = len(piece)
        first = rng.randrange(n)
        second = (first + n // 2) % n
        ends = [[(a + b) / 2 for a, b in zip(piece[i], piece[(i + 1) % n])] for i in (first, second)]
        weights = [rng.uniform(0.5, 1.5) for _ in piece]
        corner = [sum(w * p[k] for w, p in zip(weights, piece)) / sum(weights) for k in (0, 1)]
        one = [piece[(first + 1 + i) % n] for i in range((second - first) % n)]
        other = [piece[(second + 1 + i) % n] for i in range((first - second) % n)]
        bent += [[ends[0], *one, ends[1], corner], [ends[1], *other, ends[0], corner]]
    return bent


def wavy(pieces, width, height, swing):
    """The plane within the rectangle bent in waves, so that all cuts are."""
    def moved(p):
        x, y = p
        return [x + swing * math.sin(5 * math.pi * y / height) * math.sin(math.pi * x / width),
                y + swing * math.sin(7 * math.pi * x / width) * math.sin(math.pi * y / height)]

    corners = [p for piece in pieces for p in piece]

    def fine(piece):
        """With each corner of a neighbour on its sides, and points at even places, the same for both sides of a cut."""
        for a, b in zip(piece, piece[1:] + piece[:1]):
            d = [b[k] - a[k] for k in (0, 1)]
            k = 0 if abs(d[0]) > abs(d[1]) else 1
            at = {0.0} | {(8 * i - a[k]) / d[k] for i in range(math.ceil(min(a[k], b[k]) / 8), math.floor(max(a[k], b[k]) / 8) + 1)}
            for c in corners:
                t = sum((c[j] - a[j]) * d[j] for j in (0, 1)) / math.dist(a, b) ** 2
                if abs(d[0] * (c[1] - a[1]) - d[1] * (c[0] - a[0])) < 1e-6 * math.dist(a, b):
                    at.add(t)
            kept = []
            for t in sorted(t for t in at if -1e-9 < t < 1 - 1e-9):
                if not kept or t - kept[-1] > 1e-7:
                    kept.append(t)
            yield from ([a[j] + d[j] * t for j in (0, 1)] for t in kept)
    return [[moved(p) for p in fine(piece)] for piece in pieces]


def instances():
    """By kind: name, problem."""
    rng = random.Random(1)
    kinds = {"jigsaw": [], "one shape": [], "few shapes": [], "many parts": []}
    for i, (count, rotations) in enumerate(((12, [0]), (24, [0, 90, 180, 270]), (40, [0]), (20, "any"), (60, [0, 90, 180, 270]))):
        pieces = pieces_of_rectangle(rng, 600, 400, count)
        if rotations != [0]:
            pieces = [turned(p, math.pi / 2 * rng.randrange(4) if rotations != "any" else rng.uniform(0, 6.28)) for p in pieces]
        kinds["jigsaw"].append((f"{count} pieces", problem([part(f"p{k}", p, 1, rotations) for k, p in enumerate(pieces)], 400, 0)))
    others = random.Random(2)
    bent = with_bent_cuts(others, pieces_of_rectangle(others, 600, 400, 14))
    kinds["jigsaw"].append(("28 bent pieces", problem([part(f"p{k}", turned(p, math.pi / 2 * others.randrange(4)), 1, [0, 90, 180, 270])
                                                       for k, p in enumerate(bent)], 400, 0)))
    waves = wavy(pieces_of_rectangle(others, 600, 400, 20), 600, 400, 14)
    kinds["jigsaw"].append(("20 wavy pieces", problem([part(f"p{k}", p, 1, [0]) for k, p in enumerate(waves)], 400, 0)))
    for name, outline, copies, width in (("star", star(5, 30, 0.45), 100, 600), ("crescent", crescent(28), 120, 450),
                                         ("heart", heart(25), 80, 900), ("bracket", bracket(35), 60, 600), ("gear", gear(22, 9), 150, 1350),
                                         ("arrow", arrow(30), 40, 450), ("bubble", bubble(25), 30, 600), ("letter", letter(24), 240, 1350),
                                         ("bone", bone(20), 50, 700), ("blob", blob(random.Random(3), 26), 20, 450)):
        kinds["one shape"].append((name, problem([part(name, outline, copies)], width, 2, margin=5)))
    for i in range(2):
        shapes = [some_shape(rng, rng.uniform(18, 40)) for _ in range(2 + i)]
        kinds["few shapes"].append((f"{2 + i} shapes", problem([part(f"s{k}", s, rng.randint(20, 60)) for k, s in enumerate(shapes)], 600, 2, margin=5)))
    for i in range(3):
        parts = [part(f"s{k}", some_shape(rng, rng.uniform(14, 45)), rng.randint(1, 10)) for k in range(12 + 14 * i)]
        kinds["few shapes"].append((f"{12 + 14 * i} shapes", problem(parts, 600, 1 + i, 420 if i == 1 else None, 5)))
    for count in (100, 300, 1000, 3000):
        parts = [part(f"s{k}", some_shape(rng, rng.uniform(14, 45)), count // 50) for k in range(50)]
        kinds["many parts"].append((f"{count} parts", problem(parts, 900, 2, margin=5)))
    return kinds


def material(task, answer):
    """Length used of the medium, all sheets after each other."""
    return (answer["sheets"] - 1) * (task["media"]["length"] or 0) + answer["used_length"]


def draw(task, answer, path):
    outlines = {p["id"]: [p["outline"], *p["holes"]] for p in task["parts"]}
    names = list(outlines)
    length, width = task["media"]["length"] or answer["used_length"], task["media"]["width"]
    shapes = []
    for p in answer["placements"]:
        place = f'translate({p["x"] + p["sheet"] * (length + 10)},{p["y"]}) rotate({p["rotation"]}) scale({-1 if p["mirror"] else 1},1)'
        course = " ".join("M" + " L".join(f"{x:g} {y:g}" for x, y in loop) + "Z" for loop in outlines[p["id"]])
        hue = names.index(p["id"]) * 67 % 360
        shapes.append(f'<path transform="{place}" d="{course}" fill="hsl({hue},55%,72%)" fill-rule="evenodd" stroke="#222" stroke-width=".3"/>')
    sheets = [f'<rect x="{i * (length + 10)}" width="{length}" height="{width}" fill="#fff"/>' for i in range(answer["sheets"])]
    path.write_text(f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="-5 -5 {answer["sheets"] * (length + 10)} {width + 10}">'
                    + "".join(sheets + shapes) + "</svg>")


def lattice(options, task):
    path = options.build / "nesting/in.json"
    path.write_text(json.dumps(task))
    return float(subprocess.run([options.build / "bench/nest-lattice", path, "120", "1"], check=True, capture_output=True, text=True).stdout)


def seconds_to(options, task, seconds, length):
    """Until no more of the medium is used than the peer uses in the end."""
    path = options.build / "nesting/in.json"
    path.write_text(json.dumps(task))
    told = subprocess.run([options.build / "bench/nest-progress", path, str(seconds), "1"], check=True, capture_output=True, text=True).stdout
    return next((line.split()[0] for line in told.splitlines() if float(line.split()[1]) <= length), "not")


def main():
    arguments = argparse.ArgumentParser(description=__doc__)
    arguments.add_argument("build", type=Path)
    arguments.add_argument("seconds", nargs="*", type=float, default=[10, 30])
    arguments.add_argument("--kind")
    arguments.add_argument("--seeds", type=int, default=3)
    options = arguments.parse_args()
    folder = options.build / "nesting"
    folder.mkdir(exist_ok=True)

    def run(program, task, seconds, seed):
        source, target = folder / "in.json", folder / "out.json"
        source.write_text(json.dumps(task))
        if program == "peer":
            command = [options.build / "bench/nest-peer", source, target, str(seconds), str(seed)]
        else:
            command = [options.build / "src/hasami-cli", "nest", source, "-o", target, "--seconds", str(seconds), "--seed", str(seed), "--threads", "2"]
        subprocess.run(command, check=True)
        checked = subprocess.run([options.build / "bench/nest-check", source, target], capture_output=True, text=True)
        if checked.returncode != 0:
            sys.exit(f"{program} on {task['parts'][0]['id']}: {checked.stdout}")
        return json.loads(target.read_text())

    lattices = {}
    print("| kind | instance | seconds | density | peer's density | saving | to the lattice | seconds to the peer's |\n|---|---|---|---|---|---|---|---|")
    for kind, members in instances().items():
        if options.kind and kind != options.kind:
            continue
        for seconds in options.seconds:
            ratios, densities, to_lattice = [], [], []
            for name, task in members:
                own = [run("own", task, seconds, seed) for seed in range(1, options.seeds + 1)]
                peer = [run("peer", task, seconds, seed) for seed in range(1, options.seeds + 1)]
                length, other = (statistics.median(material(task, a) for a in answers) for answers in (own, peer))
                density, peers = (statistics.median(a["density"] for a in answers) for answers in (own, peer))
                ratios.append(other / length)
                densities.append(density)
                draw(task, own[-1], folder / f"{kind} {name} {seconds:g} s.svg".replace(" ", "-"))
                if kind == "one shape":
                    lattices[name] = lattices.get(name) or lattice(options, task)
                    to_lattice.append(lattices[name] / length)
                reached = seconds_to(options, task, seconds, other) if kind == "many parts" and other >= length else ""
                print(f"| {kind} | {name} | {seconds:g} | {density:.3f} | {peers:.3f} | {100 * (1 - length / other):.1f} % | "
                      f"{f'{to_lattice[-1]:.3f}' if to_lattice else ''} | {reached} |", flush=True)
            print(f"| {kind} | **all** | {seconds:g} | **{statistics.mean(densities):.3f}** | to the peer **{statistics.mean(ratios):.3f}** | | "
                  f"{f'**{statistics.mean(to_lattice):.3f}**' if to_lattice else ''} | |", flush=True)


if __name__ == "__main__":
    main()
