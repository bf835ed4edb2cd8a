"""White ink that the artwork brings: a separation of its name, a layer, a channel of a TIFF; and where it is printed."""
import json
import struct
import unittest
import zipfile

import numpy

from plates import *
from vector_art import pdf

WHITE = "[/Separation /White /DeviceCMYK << /FunctionType 2 /Domain [0 1] /N 1 /C0 [0 0 0 0] /C1 [0 0 0 0.1] >>]"
SPACES = f"/ColorSpace << /W {WHITE} >>"
BODY = "0 1 0 0 k 10 10 100 100 re f "  # magenta, 35.28 mm wide


def tiff_of_inks(channels, name, extra_kind=0, kinds=None):
    """CMYK and more channels, 8 bits, at 100 dots an inch; `name`: of the first channel beside the colours."""
    height, width, count = channels.shape
    data = channels.tobytes()
    names = bytes([len(name)]) + name.encode()
    resources = b"8BIM" + struct.pack(">H", 1006) + b"\0\0" + struct.pack(">I", len(names)) + names + b"\0" * (len(names) % 2)
    if kinds is not None:
        body = b"".join(bytes(12) + bytes([kind, 0]) for kind in kinds)
        resources += b"8BIM" + struct.pack(">H", 1007) + b"\0\0" + struct.pack(">I", len(body)) + body
    fields, extra = [], b""
    at = 8 + 2 + 14 * 12 + 4

    def put(tag, kind, values, packed=None):
        nonlocal extra
        size = {1: 1, 3: 2, 4: 4, 5: 8}[kind]
        packed = packed if packed is not None else b"".join(struct.pack("<" + {1: "B", 3: "H", 4: "I"}[kind], v) for v in values)
        number = len(packed) // size
        if len(packed) > 4:
            fields.append(struct.pack("<HHII", tag, kind, number, at + len(extra)))
            extra += packed + b"\0" * (len(packed) % 2)
        else:
            fields.append(struct.pack("<HHI", tag, kind, number) + packed.ljust(4, b"\0"))

    put(256, 4, [width])
    put(257, 4, [height])
    put(258, 3, [8] * count)
    put(259, 3, [1])
    put(262, 3, [5])
    put(273, 4, [0])  # set below
    put(277, 3, [count])
    put(278, 4, [height])
    put(279, 4, [len(data)])
    put(282, 5, None, struct.pack("<II", 100, 1))
    put(283, 5, None, struct.pack("<II", 100, 1))
    put(296, 3, [2])
    put(338, 3, [extra_kind] * (count - 4))
    put(34377, 1, None, resources)
    fields[5] = struct.pack("<HHII", 273, 4, 1, at + len(extra))
    return b"II" + struct.pack("<HI", 42, 8) + struct.pack("<H", len(fields)) + b"".join(fields) + bytes(4) + extra + data


class BroughtWhiteTest(PlatesTest):
    def white(self, path, dpi=400):
        plates = plates_of(path, dpi)
        return plates.get("White", numpy.zeros((1, 1), int)), plates

    def area(self, plate, dpi=400, amount=128):
        return (plate > amount).sum() * (25.4 / dpi) ** 2

    def test_a_separation_of_its_name_becomes_the_white_plate(self):
        art = pdf(BODY + "/W cs 1 scn 30 30 60 40 re f", SPACES, box=BOX)
        out = self.printed(art, "--bleed", "0", "--marks", "none")
        self.assertNotIn("spot-name-taken", self.findings())
        white, plates = self.white(out)
        self.assertAlmostEqual(self.area(white), 60 * 40 * (25.4 / 72) ** 2, delta=5)
        magenta = plates["Magenta"]
        self.assertEqual(magenta[white > 200].min(), 255)  # printed under, not knocked out
        self.assert_inks(out, {"Magenta": 255, "White": 255}, {"Magenta": 255})

    def test_as_tint_it_stays_a_tint(self):
        art = pdf(BODY + "/W cs 0.4 scn 30 30 60 40 re f", SPACES, box=BOX)
        white, _ = self.white(self.printed(art, "--bleed", "0", "--marks", "none"))
        self.assertAlmostEqual(int(numpy.median(white[white > 0])), 102, delta=2)
        self.assertAlmostEqual(self.area(white, amount=50), 60 * 40 * (25.4 / 72) ** 2, delta=6)

    def test_a_layer_of_its_name_becomes_the_white_plate(self):
        layer = "/OC /L BDC 0.7 g 30 30 60 40 re f BT ET EMC "
        art = pdf(BODY + layer + "0 0 1 0 k 10 10 15 15 re f", "/Properties << /L << /Type /OCG /Name (White) >> >>", box=BOX)
        out = self.printed(art, "--bleed", "0", "--marks", "none")
        white, plates = self.white(out)
        self.assertAlmostEqual(self.area(white), 60 * 40 * (25.4 / 72) ** 2, delta=5)
        self.assertEqual(plates["Black"].max(), 0)  # its grey is no print
        self.assertAlmostEqual(self.area(plates["Yellow"]), 15 * 15 * (25.4 / 72) ** 2, delta=2)
        self.assertEqual(plates["Magenta"][white > 200].min(), 255)

    def job_of(self, name="a"):
        with zipfile.ZipFile(self.folder / f"{name}.hasami") as file:
            return json.loads(file.read("job.json"))

    def with_white(self, name="a", **values):
        """The job with its white in another way, as changed.hasami."""
        job = self.job_of(name)
        job["designs"][0]["recipe"]["inks"] = [{"ink": "white", "area": "brought", "choke": 0, "threshold": 5, **values}]
        with zipfile.ZipFile(self.folder / f"{name}.hasami") as file, \
                zipfile.ZipFile(self.folder / "changed.hasami", "w") as changed:
            for entry in file.namelist():
                changed.writestr(entry, json.dumps(job) if entry == "job.json" else file.read(entry))

    def test_it_is_choked_or_as_it_is(self):
        self.printed(pdf(BODY + "/W cs 1 scn 30 30 60 40 re f", SPACES, box=BOX), "--bleed", "0", "--marks", "none")
        ink = self.job_of()["designs"][0]["recipe"]["inks"]
        self.assertEqual([(i["ink"], i["area"], i["choke"]) for i in ink], [("white", "brought", 0)])
        self.with_white(choke=0.5)
        self.run_cli("make", "changed.hasami", "--print", "c.pdf", "--no-cut-lines")
        side = 25.4 / 72
        white, _ = self.white(self.folder / "c.pdf", 300)
        self.assertAlmostEqual(self.area(white, 300), (60 * side - 1) * (40 * side - 1), delta=3)

    def test_own_lettering_in_its_name_is_white_ink(self):
        self.printed(pdf(BODY, box=BOX), "--lettering", "O", "--cap-height", "15mm", "--fill", "White = 0 0 0 10", "--bleed", "0",
                     "--marks", "none")
        self.assertEqual(self.findings(), ["spot-name-taken"])  # as long as it is ordinary artwork
        self.with_white()
        self.run_cli("make", "changed.hasami", "--print", "c.pdf", "--no-cut-lines")
        self.assert_only(self.folder / "c.pdf", {"Magenta": 255}, {"Magenta": 255, "White": 255})

    def test_eps_and_pictures_have_it_too(self):
        art = pdf(BODY + "/W cs 1 scn 30 30 60 40 re f", SPACES, box=BOX)
        eps = self.printed(art, "--bleed", "0", "--marks", "none", out="eps")
        plates = plates_of(eps, 400, ("-dEPSCrop",))
        self.assertAlmostEqual(self.area(plates["White"]), 60 * 40 * (25.4 / 72) ** 2, delta=5)
        self.assertEqual(plates["Magenta"][plates["White"] > 200].min(), 255)
        self.printed(art, "--bleed", "0", "--marks", "none", out="png", make=("--dpi", "200"))
        with Image.open(self.folder / "a-print-white.png") as picture:
            dark = (numpy.array(picture.convert("L")) < 128).sum() * (25.4 / 200) ** 2
        self.assertAlmostEqual(dark, 60 * 40 * (25.4 / 72) ** 2, delta=5)

    def test_a_channel_of_a_tiff(self):
        inks = numpy.zeros((200, 200, 5), numpy.uint8)
        inks[20:180, 20:180, 1] = 255
        inks[60:140, 40:160, 4] = 255
        for name, kinds in (("White", None), ("White", [2])):
            out = self.printed(tiff_of_inks(inks, name, kinds=kinds), "--bleed", "0", "--marks", "none", "--find", "brightness",
                               kind="tif")
            white, plates = self.white(out)
            self.assertAlmostEqual(self.area(white), 120 * 80 * 0.254 ** 2, delta=6)
            self.assertEqual(plates["Magenta"][white > 200].min(), 255)
            self.assertNotIn("channel-left-out", self.findings())
        half = inks.copy()
        half[..., 4] //= 2
        white, _ = self.white(self.printed(tiff_of_inks(half, "White"), "--bleed", "0", "--marks", "none", "--find", "brightness",
                                           kind="tif", name="half"))
        self.assertAlmostEqual(int(numpy.median(white[white > 0])), 127, delta=2)

    def test_another_channel_is_said_to_be_left_out(self):
        inks = numpy.zeros((200, 200, 5), numpy.uint8)
        inks[20:180, 20:180, 1] = 255
        inks[60:140, 40:160, 4] = 255
        out = self.printed(tiff_of_inks(inks, "Comb Gold"), "--bleed", "0", "--find", "brightness", kind="tif")
        self.assertIn("channel-left-out", self.findings())
        self.assertNotIn("Comb Gold", plates_of(out, 50))
        self.printed(tiff_of_inks(inks, "Mask 1", kinds=[1]), "--find", "brightness", kind="tif", name="mask")
        self.assertNotIn("channel-left-out", self.findings("mask"))

    def layers(self, path):
        """As the file orders them, the topmost first."""
        text = self.tool("qpdf", "--qdf", "--object-streams=disable", str(path), "-")
        numbers = re.search(r"/Order \[(.*?)\]", text, re.S).group(1)
        return [re.search(rf"^{n} 0 obj\n<<.*?/Name \((.*?)\)", text, re.S | re.M).group(1)
                for n in re.findall(r"(\d+) 0 R", numbers)]

    def test_the_order_of_inks_is_kept_in_layers_report_and_job(self):
        art = pdf(BODY, box=BOX)
        for lies, order in (("under", ["white", "colours"]), ("over", ["colours", "white"]),
                            ("between", ["colours", "white", "colours"])):
            out = self.printed(art, "--white", "0.2mm", "--white-place", lies, "--bleed", "0", name=lies, make=("--report", f"{lies}.json"))
            self.assertEqual(json.loads((self.folder / f"{lies}.json").read_text())["print_order"], order)
            names = [n for n in self.layers(out) if n in ("Print", "White")]
            self.assertEqual(names, ["Print", "White"] if lies != "over" else ["White", "Print"])
            self.assertEqual("white-hides" in self.findings(lies), lies == "over")
            self.assert_inks(out, {"Magenta": 255, "White": 255})

    def test_white_goes_over_the_colours_of_what_is_read_through_glass(self):
        self.printed(pdf(BODY, box=BOX), "--use", "window", "--clear-film")
        self.assertNotIn("white-hides", self.findings())
        job = self.job_of()
        self.assertEqual(job["profile"]["inkOrder"], ["primer", "colours", "white", "gloss"])
        self.assertTrue(job["sheet"]["medium"]["clear"])
        self.printed(pdf(BODY, box=BOX), "--use", "window", "--white-place", "under", name="b")
        self.assertIn("white-hides", self.findings("b"))


if __name__ == "__main__":
    unittest.main()
