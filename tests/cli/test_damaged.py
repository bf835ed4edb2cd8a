"""A corpus of damaged files of every kind, made from whole ones with a fixed seed and read on each run: none brings the
program down, keeps it waiting, or leaves anything half-written."""
import concurrent.futures
import io
import subprocess
import random

from PIL import Image

import vector_art
from support import *

EACH = 10 if SANITIZED else 30


def pictures():
    """A whole file of each kind of picture."""
    pixels = letter_f().astype(numpy.uint8)[::4, ::4]
    clear = Image.fromarray(numpy.ascontiguousarray(pixels), "RGBA")
    flat = Image.new("RGB", clear.size, "white")
    flat.paste(clear, mask=clear.getchannel("A"))
    for name, image, options in (("png", clear, {}), ("jpg", flat, {"quality": 90}), ("webp", clear, {"lossless": True}),
                                 ("gif", flat, {}), ("tif", clear, {"compression": "tiff_lzw"}),
                                 ("cmyk.tif", flat.convert("CMYK"), {})):
        out = io.BytesIO()
        kind = name.split(".")[-1]
        image.save(out, {"jpg": "jpeg", "tif": "tiff"}.get(kind, kind), **options)
        yield name, out.getvalue()


def drawings():
    yield "svg", vector_art.svg('<defs><clipPath id="c"><rect width="30" height="30"/></clipPath></defs>'
                                '<g clip-path="url(#c)" transform="rotate(9)"><path d="M1 1h20v9c0 9 -9 9 -20 0z" '
                                'stroke="red" stroke-dasharray="2 1"/></g><text x="3" y="30">F</text>')
    yield "pdf", vector_art.pdf("0.2 0.4 0.6 rg 10 10 40 20 re f 3 w 20 20 m 60 90 90 10 120 60 c S",
                                "/ExtGState << /G << /ca 0.5 >> >>")
    yield "eps", (b"%!PS-A" + b"dobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 100 80\n/box { 4 copy rectfill } def\n"
                  b"1 0 0 setrgbcolor 10 10 40 20 box 4 setlinewidth 20 20 moveto 70 60 lineto stroke showpage\n%%EOF\n")


def damaged(whole, chance):
    """Cut short, bytes changed, a stretch taken out, zeroed or doubled, a number made huge."""
    data = bytearray(whole)
    at = chance.randrange(len(data))
    length = min(len(data) - at, chance.choice((1, 4, 16, len(data) // 4 + 1)))
    way = chance.randrange(6)
    if way == 0:
        return bytes(data[:at])
    if way == 1:
        for _ in range(chance.choice((1, 4, 40))):
            data[chance.randrange(len(data))] = chance.randrange(256)
    elif way == 2:
        del data[at:at + length]
    elif way == 3:
        data[at:at + length] = bytes(length)
    elif way == 4:
        data[at:at] = data[at:at + length] * chance.choice((1, 50))
    else:
        data[at:at + 4] = b"\xff\xff\xff\x7f"
    return bytes(data)


class Damaged(CliTest):
    def replay(self, name, data):
        """What went wrong, or nothing."""
        self.write(name, data)
        try:
            done = subprocess.run([PROGRAM, "outline", name, "-o", name + ".json"], capture_output=True, cwd=self.folder,
                                  timeout=70, text=True, errors="replace")
        except subprocess.TimeoutExpired:
            return f"{name}: no answer in 70 seconds"
        written = (self.folder / (name + ".json")).exists()
        if done.returncode not in (0, 3):
            return f"{name}: status {done.returncode}: {done.stderr[-300:]}"
        if done.returncode == 3 and (written or name.rsplit(".", 1)[0] not in done.stderr or len(done.stderr.strip().split("\n")) != 1):
            return f"{name}: refused with {done.stderr!r}, written: {written}"
        return None if written == (done.returncode == 0) else f"{name}: accepted, but nothing was written"

    def test_none_brings_it_down(self):
        chance = random.Random(11)
        files = []
        for kind, whole in [*pictures(), *drawings()]:
            files.append((f"whole.{kind}", whole))
            files += [(f"{i}.{kind}", damaged(whole, chance)) for i in range(EACH)]
        with concurrent.futures.ThreadPoolExecutor(2) as pool:
            found = list(pool.map(lambda file: self.replay(*file), files))
        self.assertEqual([f for f in found if f], [])
        for kind, _ in [*pictures(), *drawings()]:
            self.assertTrue((self.folder / f"whole.{kind}.json").exists(), kind)


if __name__ == "__main__":
    unittest.main()
