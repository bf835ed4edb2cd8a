"""Puts real artwork from Debian's packages through the command line under eight recipes, reads the outputs back with
programs that know nothing of Hasami, and counts what is wrong: field.py PROGRAM [N]. docs/field.md holds the table."""
import collections
import concurrent.futures
import functools
import json
import os
import random
import resource
import subprocess
import sys
import tempfile
import time
import warnings
import xml.etree.ElementTree as ElementTree
from pathlib import Path

import numpy
from PIL import Image, ImageDraw
from shapely.geometry import LinearRing, MultiLineString, Point, Polygon
from shapely.strtree import STRtree

warnings.filterwarnings("ignore")
SVG = "{http://www.w3.org/2000/svg}"
DPI = 200
PER_MM = DPI / 25.4
SIZE = 60  # mm, the artwork's width
SLOW = 2  # seconds
RECIPES = {
    "white margin": (["--offset", "2mm"], 1),
    "line inside with bleed": (["--offset", "-0.5mm", "--bleed", "1mm"], 1),
    "every detail": (["--offset", "0mm", "--openings", "cut", "--min-speck", "0.1", "--min-opening", "0.1"], 1),
    "plain shape, larger": (["--shape", "rounded", "--margin", "3mm", "--offset", "0mm"], 1),
    "plain shape, smaller": (["--shape", "circle", "--shape-size", "25mmx25mm", "--offset", "0mm"], 1),
    "border": (["--border", "2mm", "--offset", "1mm"], 1),
    "perforated": (["--offset", "1mm", "--die-offset", "4mm", "--tabs", "4"], 1),
    "white ink, mirrored": (["--offset", "0mm", "--use", "window"], 1),
}
COLUMNS = ["refused", "slow", "lines that cross", "short lines", "print outside", "bleed in patches", "offset off", "tabs short",
           "ink plate outside", "plates wrong"]
SPOTS = {"kiss": "CutContour", "die": "DieCut", "perforated": "PerfCutContour"}
PROCESS = {"Cyan", "Magenta", "Yellow", "Black"}


def artworks(count):
    """A fixed sample: as many pictures and stamps as drawn icons."""
    rng = random.Random(22)
    chosen = []
    for package, endings in (("tuxpaint-stamps-default", (".png", ".svg")), ("papirus-icon-theme", (".svg",))):
        listed = subprocess.run(["dpkg", "-L", package], capture_output=True, text=True, check=True).stdout.split("\n")
        files = sorted(f for f in listed if f.endswith(endings) and os.path.isfile(f) and not os.path.islink(f)
                       and ("Papirus/64x64/" in f or package.startswith("tux")))
        chosen += rng.sample(files, min(count // 2 + (count % 2 if not chosen else 0), len(files)))
    return chosen


def polylines(path, steps=32):
    """SVG path data of M, L, C, Z as polylines; curves in even steps."""
    words = path.replace("M", " M ").replace("L", " L ").replace("C", " C ").replace("Z", " Z ").split()
    loops, at = [], 0
    t = numpy.linspace(0, 1, steps + 1)[1:, None]
    while at < len(words):
        command, at = words[at], at + 1
        if command in "ML":
            p = (float(words[at]), float(words[at + 1]))
            at += 2
            if command == "M":
                loops.append([p])
            else:
                loops[-1].append(p)
        elif command == "C":
            a = numpy.array(loops[-1][-1])
            b, c, d = numpy.array(list(map(float, words[at:at + 6]))).reshape(3, 2)
            at += 6
            loops[-1].extend(map(tuple, (1 - t) ** 3 * a + 3 * (1 - t) ** 2 * t * b + 3 * (1 - t) * t * t * c + t ** 3 * d))
    return loops


def crossings(lines, steps=32):
    """Lines that are not simple, and pairs of a kind that cross; what does in chords is looked at again in short ones."""
    count = 0
    for kind in {line["kind"] for line in lines}:
        rings = [LinearRing(loop) for line in lines if line["kind"] == kind for loop in polylines(line["path"], steps)
                 if len(loop) > 2]
        count += sum(not ring.is_simple for ring in rings)
        if len(rings) > 1:
            tree = STRtree(rings)
            count += sum(id(other) > id(ring) and ring.crosses(other) for ring in rings for other in tree.query(ring))
    return count if not count or steps > 500 else crossings(lines, 1024)


def is_offset_off(edge, lines, offset):
    """Whether a line leaves its distance from the edge; where lines run together it is farther from each, never closer."""
    rings = MultiLineString([LinearRing(loop) for line in edge for loop in polylines(line["path"]) if len(loop) > 2])
    for line in lines:
        for loop in polylines(line["path"], 4):
            for p in loop[:: max(1, len(loop) // 200)]:
                if abs(rings.distance(Point(p)) - offset) > 0.03:
                    return True
    return False


def plates_of(print_file, folder):
    """By name, how much ink each plate has, 0 to 255, for each pixel of the sheet."""
    subprocess.run(["gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", f"-r{DPI}", f"-sOutputFile={folder}/s.tif",
                    print_file], check=True, capture_output=True, timeout=120)
    # The page is the sheet turned a quarter.
    return {path.stem[2:-1]: numpy.rot90(255 - numpy.array(Image.open(path)).astype(numpy.int16))
            for path in Path(folder).glob("s(*).tif")}


def darkest(plates, names=None):
    """Of the plates of these names, or of all, the most ink at each pixel."""
    return numpy.max([plate for name, plate in plates.items() if names is None or name in names], axis=0)


def dilated(mask, pixels):
    """The mask grown by that many pixels in each direction."""
    for axis in (0, 1):
        mask = numpy.any([numpy.roll(mask, shift, axis) for shift in range(-pixels, pixels + 1)], axis=0)
    return mask


def allowed_area(shape, cut_file, past):
    """Where ink may be: inside the lines grown by `past` mm and two pixels, and the marks."""
    root = ElementTree.parse(cut_file).getroot()
    left, top = map(float, root.get("viewBox").split()[:2])
    allowed = Image.new("1", shape[::-1])
    draw = ImageDraw.Draw(allowed)
    for path in root.iter(SVG + "path"):
        for loop in polylines(path.get("d")):
            grown = Polygon((numpy.array(loop) - [left, top]) * PER_MM).buffer(past * PER_MM + 2)
            for part in getattr(grown, "geoms", [grown]):
                draw.polygon(list(part.exterior.coords), fill=1)
    for mark in root.iter(SVG + "circle"):
        x, y, r = ((float(mark.get("cx")) - left) * PER_MM, (float(mark.get("cy")) - top) * PER_MM, float(mark.get("r")) * PER_MM + 2)
        draw.ellipse((x - r, y - r, x + r, y + r), fill=1)
    return numpy.array(allowed)


def white_outside(plates, cut_file, past):
    """Pixels of white ink where nothing is printed: outside the lines and their bleed."""
    white = plates["White"] > 8
    return int((white & ~allowed_area(white.shape, cut_file, past)).sum())


def wrong_plates(plates, cut_file, kinds):
    """A word on plates that are missing, too many, or not where they should be; nothing where all are right."""
    spots = set(plates) - PROCESS
    if spots != kinds:
        return f"spots {sorted(spots)}, not {sorted(kinds)}"
    if "White" in kinds and plates["White"].max() < 200:
        return "nothing on the white plate"
    root = ElementTree.parse(cut_file).getroot()
    left, top = map(float, root.get("viewBox").split()[:2])
    drawn = dilated(darkest(plates, kinds - {"White"}) > 0, 2)
    for path in root.iter(SVG + "path"):
        for loop in polylines(path.get("d"), 16):
            points = (numpy.array(loop) - [left, top]) * PER_MM
            columns, rows = points.astype(int).T
            rows, columns = rows.clip(0, drawn.shape[0] - 1), columns.clip(0, drawn.shape[1] - 1)
            if missing := int((~drawn[rows, columns]).sum()):
                return f"{missing} points of a line without ink on its plate"
    return None


def bleed_in_patches(ink, cut_file):
    """Of the places along outer lines that are plainly inked half a millimetre inside, the share that is bare as far
    outside."""
    root = ElementTree.parse(cut_file).getroot()
    left, top = map(float, root.get("viewBox").split()[:2])
    inked = bare = 0
    for path in root.iter(SVG + "path"):
        for loop in polylines(path.get("d"), 16):
            ring = LinearRing(loop)
            way = 1 if ring.is_ccw else -1
            for at in numpy.arange(0, ring.length, 0.25):
                here, ahead = ring.interpolate(at), ring.interpolate((at + 0.05) % ring.length)
                along = numpy.array([ahead.x - here.x, ahead.y - here.y]) / 0.05
                out = way * numpy.array([along[1], -along[0]])
                seen = []
                for far in (-0.5, 0.5):
                    x, y = numpy.array([here.x - left, here.y - top]) + out * far
                    row, column = int(y * PER_MM), int(x * PER_MM)
                    holds = 0 <= row < ink.shape[0] and 0 <= column < ink.shape[1]
                    seen.append(ink[max(row - 1, 0):row + 2, max(column - 1, 0):column + 2] if holds else numpy.zeros(1))
                if seen[0].min() > 25:
                    inked += 1
                    bare += seen[1].max() <= 8
    return bare / inked if inked else 0


def ink_outside(ink, cut_file, past):
    """Pixels with ink, marks aside, outside the lines grown by `past` mm and two pixels."""
    return int(((ink > 8) & ~allowed_area(ink.shape, cut_file, past)).sum())


def processor_time():
    """Seconds of the processor that the programs run from here have used."""
    used = resource.getrusage(resource.RUSAGE_CHILDREN)
    return used.ru_utime + used.ru_stime


def tried(program, artwork, recipe):
    """What is wrong with one artwork under one recipe: names of columns, and a word on each."""
    options, past = RECIPES[recipe]
    wrong = {}
    with tempfile.TemporaryDirectory() as folder:
        def run(*arguments):
            begin, used = time.monotonic(), processor_time()
            done = subprocess.run([program, *map(str, arguments)], capture_output=True, text=True, timeout=300, cwd=folder)
            # Beside other programs it takes longer than its own work, on several threads its work is more than it takes.
            if (took := min(time.monotonic() - begin, processor_time() - used)) > SLOW:
                wrong["slow"] = f"{arguments[0]} {took:.1f} s"
            if done.returncode:
                wrong.setdefault("refused", done.stderr.strip().split("\n")[-1])
            return done.returncode == 0

        if not run("outline", artwork, "-o", "o.json", "--width", f"{SIZE}mm", *options):
            return wrong
        lines = json.loads(Path(folder, "o.json").read_text())["lines"]
        if count := crossings(lines):
            wrong["lines that cross"] = str(count)
        if count := sum(line["points"] < 3 for line in lines):
            wrong["short lines"] = str(count)
        if recipe == "white margin" and run("outline", artwork, "-o", "e.json", "--width", f"{SIZE}mm", "--offset", "0mm"):
            edge = json.loads(Path(folder, "e.json").read_text())["lines"]
            if is_offset_off(edge, lines, 2):
                wrong["offset off"] = "by more than 0.03 mm"
        if short := [len(line["segments"]) for line in lines if line["kind"] == "perforated" and line["role"] == "outer"
                     and len(line.get("segments", [])) < 3 and line["length"] > 30]:
            wrong["tabs short"] = f"{min(short)} on a loop"
        if run("new", artwork, "-o", "j.hasami", "--width", f"{SIZE}mm", "--medium", "roll:320mm", *options) and \
                run("make", "j.hasami", "--print", "p.pdf", "--cut", "c.svg"):
            plates, cut = plates_of(f"{folder}/p.pdf", folder), f"{folder}/c.svg"
            ink = darkest(plates)
            if pixels := ink_outside(ink, cut, past):
                wrong["print outside"] = f"{pixels} pixels"
            if recipe == "line inside with bleed" and (share := bleed_in_patches(ink, cut)) > 0.01:
                wrong["bleed in patches"] = f"{share:.0%} of the inked line"
            expected = {SPOTS[line["kind"]] for line in lines} | ({"White"} if "window" in options else set())
            if word := wrong_plates(plates, cut, expected):
                wrong["plates wrong"] = word
            elif "White" in expected and (pixels := white_outside(plates, cut, past)):
                wrong["ink plate outside"] = f"{pixels} pixels"
    return wrong


def main():
    program = str(Path(sys.argv[1]).resolve())
    tasks = [(artwork, recipe) for artwork in artworks(int(sys.argv[2]) if len(sys.argv) > 2 else 500) for recipe in RECIPES]
    counts, worst = collections.defaultdict(collections.Counter), []
    with concurrent.futures.ProcessPoolExecutor(len(os.sched_getaffinity(0))) as pool:
        for (artwork, recipe), wrong in zip(tasks, pool.map(functools.partial(tried, program), *zip(*tasks))):
            counts[recipe].update(wrong.keys())
            words = [f"{column}: {artwork}, {recipe}: {word}" for column, word in wrong.items()]
            print(*words, sep="\n", end="\n" if words else "", file=sys.stderr, flush=True)
            worst += words
    print(f"{len(tasks) // len(RECIPES)} artworks, {SIZE} mm wide\n")
    print("| recipe | " + " | ".join(COLUMNS) + " |\n|---" + "|---" * len(COLUMNS) + "|")
    for recipe in RECIPES:
        print(f"| {recipe} | " + " | ".join(str(counts[recipe][column]) for column in COLUMNS) + " |")
    print("\n" + "\n".join(sorted(worst)))


if __name__ == "__main__":
    main()
