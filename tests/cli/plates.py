"""The plates of a print file as two programs separate it: Ghostscript, and MuPDF for a second pair of eyes."""
import json
import re
import struct
import subprocess
import zlib

import numpy
from PIL import Image

from support import *

PROCESS = ("Cyan", "Magenta", "Yellow", "Black")
BOX = (0, 0, 120, 120)  # of a small page


def plates_of(path, dpi=100, options=()):
    """By Ghostscript: arrays of 0 (no ink) to 255, by the name of the ink."""
    folder, name = path.parent, f"{path.stem}-{dpi}"
    for old in folder.glob(f"{name}*.tif"):
        old.unlink()
    subprocess.run(["gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", *options, "-sDEVICE=tiffsep", f"-r{dpi}",
                    f"-sOutputFile={name}.tif", path.name], check=True, capture_output=True, cwd=folder, timeout=300)
    return {re.sub(r".*\((.*)\).*", r"\1", p.name): 255 - numpy.array(Image.open(p)).astype(int)
            for p in folder.glob(f"{name}(*).tif")}


def plates_of_all(paths, dpi=100):
    """By Ghostscript, of many files of one page each, in one run."""
    folder, name = paths[0].parent, f"all-{dpi}"
    subprocess.run(["gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", f"-r{dpi}", f"-sOutputFile={name}-%d.tif",
                    *(path.name for path in paths)], check=True, capture_output=True, cwd=folder, timeout=600)
    return [{re.sub(r".*\((.*)\).*", r"\1", p.name): 255 - numpy.array(Image.open(p)).astype(int)
             for p in folder.glob(f"{name}-{i + 1}(*).tif")} for i in range(len(paths))]


def plates_by_mupdf(path, dpi=100):
    """The same by MuPDF, as it writes them into a PSD file."""
    out = path.with_suffix(".psd")
    subprocess.run(["mutool", "draw", "-q", "-F", "psd", "-c", "cmyk", "-N", "-O", "2", "-A", "0", "-r", str(dpi), "-o",
                    str(out), str(path)], check=True, capture_output=True, timeout=300)
    data = out.read_bytes()
    channels, height, width, depth = struct.unpack(">HIIH", data[12:24])
    assert depth == 8
    at = 26
    (size,) = struct.unpack(">I", data[at:at + 4])
    at += 4 + size
    (size,) = struct.unpack(">I", data[at:at + 4])
    names = spot_names(data[at + 4:at + 4 + size])
    at += 4 + size
    (size,) = struct.unpack(">I", data[at:at + 4])
    at += 4 + size
    (packing,) = struct.unpack(">H", data[at:at + 2])
    at += 2
    if packing == 1:
        counts = numpy.frombuffer(data[at:at + 2 * channels * height], ">u2")
        at += counts.nbytes
        rows = []
        for count in counts:
            rows.append(unpacked(data[at:at + int(count)]))
            at += int(count)
        pixels = numpy.array([list(row[:width]) for row in rows], int).reshape(channels, height, width)
    else:
        raw = data[at:] if packing == 0 else zlib.decompress(data[at:])
        pixels = numpy.frombuffer(raw[:channels * height * width], numpy.uint8).astype(int).reshape(channels, height, width)
    return dict(zip(PROCESS + tuple(names), 255 - pixels))


def spot_names(resources):
    """Those of the channels beside the process inks (resource 1006: strings with their lengths)."""
    at = 0
    while at + 12 <= len(resources):
        (kind,) = struct.unpack(">H", resources[at + 4:at + 6])
        at += 6 + (resources[at + 6] + 2) // 2 * 2
        (size,) = struct.unpack(">I", resources[at:at + 4])
        body = resources[at + 4:at + 4 + size]
        at += 4 + (size + 1) // 2 * 2
        if kind == 1006:
            names = []
            while body:
                names.append(body[1:1 + body[0]].decode())
                body = body[1 + body[0]:]
            return names
    return []


def unpacked(row):
    """PackBits."""
    out, at = bytearray(), 0
    while at < len(row):
        count = row[at]
        if count < 128:
            out += row[at + 1:at + 2 + count]
            at += 2 + count
        else:
            if count > 128:
                out += row[at + 1:at + 2] * (257 - count)
            at += 2
    return bytes(out)


def inks_at(plates, x, y, dpi=100):
    """What all plates have at a place, mm from the page's top left: {"Cyan": 127, …} without those that have none."""
    row, column = int(y / 25.4 * dpi), int(x / 25.4 * dpi)
    return {name: int(plate[row, column]) for name, plate in plates.items() if plate[row, column] > 0}


class PlatesTest(CliTest):
    """Prints stickers, and looks at their plates."""

    def printed(self, data, *options, name="a", kind="pdf", make=(), out="pdf", offset="2mm"):
        """The print of one sticker, cut lines left out; what it gives is the file's path."""
        self.write(f"{name}.{kind}", data)
        self.run_cli("new", f"{name}.{kind}", "-o", f"{name}.hasami", "--medium", "roll:150mm", "--count", 1, "--offset", offset,
                     *options)
        self.run_cli("make", f"{name}.hasami", "--print", f"{name}-print.{out}", "--no-cut-lines", *make)
        return self.folder / f"{name}-print.{out}"

    def findings(self, name="a"):
        return [f["code"] for f in json.loads(self.run_cli("check", f"{name}.hasami", "--json").stdout)]

    def combinations(self, path, least=100):
        """The combinations of inks that cover more than some pixels, by both programs."""
        both = []
        for plates in (plates_of(path, 60), plates_by_mupdf(path, 60)):
            names = sorted(plates)
            pixels = numpy.stack([plates[name] for name in names], -1).reshape(-1, len(names))
            kinds, counts = numpy.unique(pixels, axis=0, return_counts=True)
            found = [dict((n, int(v)) for n, v in zip(names, kind) if v) for kind, count in zip(kinds, counts) if count > least]
            both.append([kind for kind in found if kind])
        return both

    MARKS = {"Black": 255}

    def assert_inks(self, path, *wanted, least=100):
        for found in self.combinations(path, least):
            for inks in wanted:
                with self.subTest(inks=inks, found=found):
                    self.assertTrue(any(self.are_alike(inks, kind) for kind in found))

    def assert_only(self, path, *wanted):
        """Nothing but these combinations of inks, each in both programs."""
        self.assert_inks(path, *wanted)
        for found in self.combinations(path, least=150):
            for kind in found:
                self.assertTrue(any(self.are_alike(kind, inks) for inks in wanted), (kind, wanted))

    @staticmethod
    def are_alike(one, other):
        return all(abs(one.get(name, 0) - other.get(name, 0)) <= 2 for name in {*one, *other})
