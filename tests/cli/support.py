"""What the tests of the command line share: pictures made here, and small readers that know nothing of Hasami."""
import json
import math
import os
import re
import resource
import shutil
import struct
import subprocess
import tempfile
import unittest
import zipfile
import zlib
from pathlib import Path

import numpy
from analytic import nearest

PROGRAM = os.environ["HASAMI_CLI"]
SANITIZED = bool(os.environ.get("HASAMI_SANITIZE"))
SOURCE = Path(os.environ["HASAMI_SOURCE_DIR"])


def png(pixels, pixels_per_metre=None):
    """A PNG file of an array (rows, columns, 4) of bytes."""
    rows, columns, _ = pixels.shape
    return png_of(b"".join(b"\0" + row.tobytes() for row in pixels.astype(numpy.uint8)), columns, rows, 8, 6,
                  pixels_per_metre)


def png_of(raw, columns, rows, bits, colour_type, pixels_per_metre=None):
    """A PNG file of filtered rows."""

    def chunk(kind, data):
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    density = chunk(b"pHYs", struct.pack(">IIB", pixels_per_metre, pixels_per_metre, 1)) if pixels_per_metre else b""
    return (b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", struct.pack(">IIBBBBB", columns, rows, bits, colour_type, 0, 0, 0)) + density
            + chunk(b"IDAT", zlib.compress(raw, 1)) + chunk(b"IEND", b""))


def letter_f():
    """The letter F, 400 x 600 pixels of red on transparent, 10 pixels of air around: unlike its image under any
    reflection or turn."""
    pixels = numpy.zeros((620, 420, 4))
    ink = numpy.zeros((620, 420), bool)
    ink[10:610, 10:130] = True
    ink[10:130, 10:410] = True
    ink[250:370, 10:290] = True
    pixels[ink] = (200, 30, 30, 255)
    return pixels


def flattened(path, steps=64):
    """SVG path data of M, L, C, Z with absolute coordinates as a list of closed polylines."""
    loops, loop, at = [], [], None
    tokens = re.findall(r"[MLCZ]|-?[\d.]+(?:e-?\d+)?", path)
    i = 0

    def point():
        nonlocal i
        i += 2
        return numpy.array([float(tokens[i - 2]), float(tokens[i - 1])])

    while i < len(tokens):
        command = tokens[i]
        i += 1
        if command == "M":
            at = point()
            loop = [at]
        elif command == "L":
            at = point()
            loop.append(at)
        elif command == "C":
            one, two, end = point(), point(), point()
            for t in (k / steps for k in range(1, steps + 1)):
                loop.append((1 - t) ** 3 * at + 3 * (1 - t) ** 2 * t * one + 3 * (1 - t) * t * t * two + t ** 3 * end)
            at = end
        else:
            loops.append(numpy.array(loop))
    return loops


def area(loop):
    x, y = loop[:, 0], loop[:, 1]
    return 0.5 * float(numpy.dot(x, numpy.roll(y, -1)) - numpy.dot(y, numpy.roll(x, -1)))


def distances(points, loop):
    """From each point to the closed polyline."""
    return nearest(points, [loop])


def inside(point, loop):
    hits = 0
    for (x1, y1), (x2, y2) in zip(loop, numpy.roll(loop, -1, axis=0)):
        if (y1 > point[1]) != (y2 > point[1]) and point[0] < (x2 - x1) * (point[1] - y1) / (y2 - y1) + x1:
            hits += 1
    return hits % 2 == 1


def tiff(samples, width, height, bits, channels, photometric, extra=None, orientation=1):
    """A plain little-endian TIFF file of one strip."""
    tags = [(256, 4, width), (257, 4, height), (258, 3, None), (259, 3, 1), (262, 3, photometric), (273, 4, 0),
            (274, 3, orientation), (277, 3, channels), (278, 4, height), (279, 4, len(samples))]
    if extra is not None:
        tags.append((338, 3, extra))
    depths_at = 8 + 2 + 12 * len(tags) + 4
    data_at = depths_at + 2 * channels
    out = struct.pack("<2sHIH", b"II", 42, 8, len(tags))
    for tag, kind, value in tags:
        if tag == 258:
            packed = struct.pack("<I", depths_at) if channels > 2 else struct.pack("<HH", bits, 0)
            out += struct.pack("<HHI", tag, 3, channels) + packed
        else:
            value = data_at if tag == 273 else value
            out += struct.pack("<HHI", tag, kind, 1) + struct.pack("<I" if kind == 4 else "<HH", *([value] if kind == 4
                                                                                               else [value, 0]))
    return out + struct.pack("<I", 0) + struct.pack("<H", bits) * channels + samples


class CliTest(unittest.TestCase):
    def setUp(self):
        self.folder = Path(tempfile.mkdtemp(prefix="hasami-test-"))
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)

    def run_cli(self, *arguments, status=0, timeout=60, environment=()):
        done = subprocess.run([PROGRAM, *map(str, arguments)], capture_output=True, text=True, timeout=timeout,
                              cwd=self.folder, env={**os.environ, **dict(environment)})
        self.assertEqual(done.returncode, status, done.stderr)
        return done

    def tool(self, *arguments):
        return subprocess.run(list(map(str, arguments)), capture_output=True, check=True, cwd=self.folder,
                              timeout=120).stdout.decode("utf-8", "replace")

    def write(self, name, data):
        path = self.folder / name
        path.write_bytes(data)
        return path

    def f_job(self, *options):
        """A job with one design, an F of 40 x 60 mm with a kiss line 2 mm around it."""
        self.write("f.png", png(letter_f()))
        self.run_cli("new", "f.png", "-o", "f.hasami", "--width", "42mm", "--offset", "2mm", *options)
        return self.folder / "f.hasami"

    def change(self, name, edit):
        """The job file with its job.json edited, everything else as it is."""
        with zipfile.ZipFile(self.folder / name) as old:
            entries = {entry: old.read(entry) for entry in old.namelist()}
        job = json.loads(entries["job.json"])
        edit(job)
        entries["job.json"] = json.dumps(job).encode()
        with zipfile.ZipFile(self.folder / name, "w") as new:
            for entry, data in entries.items():
                new.writestr(entry, data)


def peak_memory_of_children():
    return resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss * 1024


__all__ = ["CliTest", "PROGRAM", "SANITIZED", "SOURCE", "area", "distances", "flattened", "inside", "letter_f", "math", "numpy",
           "peak_memory_of_children", "png", "png_of", "tiff", "unittest"]
