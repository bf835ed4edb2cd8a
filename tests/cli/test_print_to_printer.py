"""Prints sent to a printer, which gets them as they were written."""
import json
import signal
import socket
import subprocess
import time
import unittest

import numpy
from PIL import Image

import printer
from print_scheduler import CUPSD, Scheduler
from support import *

A4 = (210, 297)


class PrintToPrinter(CliTest):
    def setUp(self):
        super().setUp()
        self.f_job("--medium", "a4", "--count", "3")

    def there(self, *arguments, **more):
        made = printer.Printer(*arguments, **more)
        self.addCleanup(made.close)
        return made

    def test_the_printer_gets_the_very_file_on_the_sheets_medium_never_scaled(self):
        there = self.there([(100, 148), A4, (297, 420)])
        self.run_cli("send", "f.hasami", "--to", f"printer:{there.uri}", "--copies", "2")
        self.run_cli("make", "f.hasami", "--print", "p.pdf", "--sheet", "1")
        self.assertEqual(len(there.jobs), 1)
        job, = there.jobs
        self.assertEqual(job["document"], (self.folder / "p.pdf").read_bytes())
        self.assertEqual(job["attributes"]["print-scaling"], "none")
        self.assertEqual((job["attributes"]["x-dimension"], job["attributes"]["y-dimension"]), (21000, 29700))
        self.assertEqual(job["attributes"]["copies"], 2)
        self.assertEqual(job["attributes"]["job-name"], "f")
        self.assertNotIn("media-type", job["attributes"])
        self.run_cli("send", "f.hasami", "--to", there.uri, "--no-cut-lines", "--media-type", "labels")  # named alone
        self.assertEqual(there.jobs[1]["attributes"]["media-type"], "labels")
        self.assertIn("no medium of the type foil", self.run_cli("send", "f.hasami", "--to", f"printer:{there.uri}",
                                                                 "--media-type", "foil", status=4).stderr)
        self.assertNotIn(b"CutContour", there.jobs[1]["document"])

    def test_what_is_no_name_is_refused_with_those_there_are(self):
        said = self.run_cli("send", "f.hasami", "--to", "http://127.0.0.1/print", status=3).stderr
        for name in ("tcp:HOST:PORT", "folder:PATH", "printer:QUEUE", "ipp://HOST:PORT/ipp/print", "http://127.0.0.1/print"):
            self.assertIn(name, said)

    def test_each_sheet_is_a_job_and_one_can_be_chosen(self):
        self.f_job("--medium", "sheet:100x150", "--count", "5")
        there = self.there([A4, (100, 150)])
        self.run_cli("send", "f.hasami", "--to", f"printer:{there.uri}")
        sheets = len(there.jobs)
        self.assertGreater(sheets, 1)
        self.assertEqual({job["attributes"]["x-dimension"] for job in there.jobs}, {10000})
        self.run_cli("send", "f.hasami", "--to", f"printer:{there.uri}", "--sheet", "2")
        self.assertEqual(there.jobs[sheets]["document"], there.jobs[1]["document"])

    def test_a_roll_is_printed_as_long_as_it_is_used(self):
        self.f_job("--medium", "roll:300", "--count", "4")
        there = self.there([A4, ((200, 610), (50, 5000))])
        self.run_cli("send", "f.hasami", "--to", f"printer:{there.uri}")
        self.run_cli("make", "f.hasami", "--report", "r.json")
        length = json.loads((self.folder / "r.json").read_text())["sheets"][0]["used_length"]
        attributes = there.jobs[0]["attributes"]
        self.assertEqual(attributes["x-dimension"], 30000)
        self.assertAlmostEqual(attributes["y-dimension"], 100 * length, delta=2)

    def test_a_sheet_larger_than_every_medium_is_refused_before_anything_is_sent(self):
        there = self.there([(100, 148), (148, 210)])
        done = self.run_cli("send", "f.hasami", "--to", f"printer:{there.uri}", status=4)
        self.assertIn("larger than every medium", done.stderr)
        self.assertEqual(there.jobs, [])

    def test_in_tiles_it_is_printed_at_its_scale_with_marks_and_numbers(self):
        self.f_job("--medium", "sheet:300x400", "--count", "12")
        there = self.there([(100, 148), A4])
        self.run_cli("send", "f.hasami", "--to", f"printer:{there.uri}", "--tiles")
        self.run_cli("make", "f.hasami", "--print", "p.pdf")
        job, = there.jobs
        self.assertEqual((job["attributes"]["x-dimension"], job["attributes"]["y-dimension"]), (21000, 29700))
        self.write("t.pdf", job["document"])
        self.tool("qpdf", "--check", "t.pdf")
        for name in ("p", "t"):
            self.tool("pdftoppm", "-r", 254, "-gray", f"{name}.pdf", name)  # ten pixels a millimetre
        whole = numpy.asarray(Image.open(next(self.folder.glob("p-*.pgm")))).astype(int)
        tiles = [numpy.asarray(Image.open(path)).astype(int) for path in sorted(self.folder.glob("t-*.pgm"))]
        self.assertEqual(len(tiles), 4)  # two across 300 mm, two along 400
        margin, shown = 60, (1980, 2850)
        for i, tile in enumerate(tiles):
            self.assertLess(max(abs(a - b) for a, b in zip(tile.shape, (2970, 2100))), 3)
            row, column = divmod(i, 2)
            top, left = row * (shown[1] - 100), column * (shown[0] - 100)
            part = whole[top:top + shown[1], left:left + shown[0]]
            there_ = tile[margin:margin + part.shape[0], margin:margin + part.shape[1]]
            part = part[:there_.shape[0], :there_.shape[1]]
            self.assertLess((numpy.abs(there_ - part) > 100).mean(), 0.003)  # rims, a pixel off
            rim = tile.copy()
            rim[margin - 2:margin + shown[1] + 2, margin - 2:margin + shown[0] + 2] = 255
            self.assertGreater((rim < 128).sum(), 100)  # crop marks and the number
            self.assertTrue((rim[:5] > 200).all() and (rim[:, :5] > 200).all())

    def test_what_the_printer_does_to_lengths_is_undone(self):
        there = self.there([A4])
        self.run_cli("make", "f.hasami", "--print", "p.pdf")
        self.change("f.hasami", lambda job: job["profile"].update(printScale={"across": 1.02, "along": 0.96}))
        self.run_cli("send", "f.hasami", "--to", f"printer:{there.uri}")
        self.write("q.pdf", there.jobs[0]["document"])
        self.tool("qpdf", "--check", "q.pdf")
        sizes = []
        for name in ("p", "q"):
            self.tool("pdftoppm", "-r", 254, "-gray", "-singlefile", f"{name}.pdf", name)
            ink = numpy.argwhere(numpy.asarray(Image.open(self.folder / f"{name}.pgm")) < 128)  # rows, columns
            sizes.append((ink.max(0) - ink.min(0), (ink.max(0) + ink.min(0)) / 2))
        (before, middle), (after, middle_after) = sizes
        self.assertAlmostEqual(after[1] * 1.02, before[1], delta=3)  # of some 1,900 pixels: the marks
        self.assertAlmostEqual(after[0] * 0.96, before[0], delta=3)
        page = numpy.array([2970, 2100]) / 2
        for i, scale in ((0, 0.96), (1, 1.02)):
            self.assertAlmostEqual((middle_after - page)[i] * scale, (middle - page)[i], delta=3)

    def test_what_the_printer_says_is_told(self):
        there = self.there([A4], states=[printer.ABORTED])
        self.assertIn("gave the job up: media-jam",
                      self.run_cli("send", "f.hasami", "--to", f"printer:{there.uri}", status=4).stderr)
        there = self.there([A4], formats=("image/pwg-raster",))
        self.assertIn("takes no PDF", self.run_cli("send", "f.hasami", "--to", f"printer:{there.uri}", status=4).stderr)
        self.assertEqual(there.jobs, [])
        uri = there.uri
        there.close()
        self.assertIn("no connection", self.run_cli("send", "f.hasami", "--to", f"printer:{uri}", status=4).stderr)
        self.assertIn("no printer called", self.run_cli("send", "f.hasami", "--to", "printer:nowhere", status=4).stderr)

    def test_a_job_that_is_stopped_is_cancelled(self):
        there = self.there([A4], states=[printer.PROCESSING])
        program = subprocess.Popen([PROGRAM, "send", "f.hasami", "--to", f"printer:{there.uri}"], cwd=self.folder,
                                   stderr=subprocess.PIPE, text=True)
        for _ in range(600):
            if there.jobs and there.jobs[0]["document"]:
                break
            time.sleep(0.1)
        program.send_signal(signal.SIGINT)
        self.assertEqual(program.wait(30), 4)
        self.assertIn("cancelled", program.stderr.read())
        program.stderr.close()
        self.assertEqual(there.cancelled, [1])

    def test_a_job_is_cancelled_whenever_it_is_stopped(self):
        for silent in printer.SEND_DOCUMENT, printer.GET_JOB:  # which the printer has, but does not answer
            there = self.there([A4])
            there.silent = {silent}
            program = subprocess.Popen([PROGRAM, "send", "f.hasami", "--to", f"printer:{there.uri}"], cwd=self.folder,
                                       stderr=subprocess.PIPE, text=True)
            while not (there.jobs and there.jobs[0]["document"]):
                time.sleep(0.02)
            program.send_signal(signal.SIGINT)
            self.assertEqual(program.wait(30), 4)
            program.stderr.close()
            self.assertEqual(there.cancelled, [1])

    def test_a_silent_printer_can_be_left_at_once(self):
        silent = socket.create_server(("127.0.0.1", 0))
        self.addCleanup(silent.close)
        program = subprocess.Popen([PROGRAM, "send", "f.hasami", "--to", f"printer:ipp://127.0.0.1:{silent.getsockname()[1]}/ipp/print"],
                                   cwd=self.folder, stderr=subprocess.PIPE, text=True)
        line, _ = silent.accept()
        self.addCleanup(line.close)
        self.assertTrue(line.recv(10))  # the question that it never answers
        program.send_signal(signal.SIGTERM)
        begin = time.monotonic()
        self.assertEqual(program.wait(30), 4)
        self.assertLess(time.monotonic() - begin, 5 * (10 if SANITIZED else 1))
        self.assertIn("Stopped", program.stderr.read())
        program.stderr.close()


@unittest.skipUnless(CUPSD, "Debian's package cups-daemon is not installed")
class PrintToScheduler(CliTest):
    def setUp(self):
        super().setUp()
        self.f_job("--medium", "a4", "--count", "3")

    def there(self, device):
        made = Scheduler(self.folder / "scheduler", device)
        self.addCleanup(made.close)
        return made

    def test_a_queue_gets_the_very_file_by_its_address_and_by_its_name(self):
        there = self.there('cp "$6" $1.pdf; printf "copies=%s %s" "$4" "$5" > $1.options')
        self.run_cli("make", "f.hasami", "--print", "p.pdf", "--sheet", "1")
        self.run_cli("send", "f.hasami", "--to", there.uri, "--copies", "2")
        self.run_cli("send", "f.hasami", "--to", "printer:sheets", environment={"CUPS_SERVER": there.server})
        self.assertEqual(there.kept(), ["1.options", "1.pdf", "2.options", "2.pdf"])
        for job, copies in ("1", 2), ("2", 1):
            self.assertEqual(there.read(job + ".pdf"), (self.folder / "p.pdf").read_bytes())
            options = there.read(job + ".options").decode().split()
            for option in f"copies={copies}", "print-scaling=none", "PageSize=A4":
                self.assertIn(option, options)

    def test_a_sheet_that_no_medium_of_the_queue_takes_is_refused(self):
        there = self.there('cp "$6" $1.pdf')
        self.f_job("--medium", "sheet:300x400", "--count", "3")
        self.assertIn("larger than every medium", self.run_cli("send", "f.hasami", "--to", there.uri, status=4).stderr)
        self.assertEqual(there.kept(), [])

    def test_a_job_that_the_queue_gives_up_is_an_error(self):
        there = self.there("exit 1")
        self.assertIn("gave the job up", self.run_cli("send", "f.hasami", "--to", there.uri, status=4).stderr)

    def test_a_job_that_is_stopped_ends_in_the_queue(self):
        there = self.there('trap "touch ended; exit 0" TERM; touch begun; while :; do sleep 0.05; done')
        program = subprocess.Popen([PROGRAM, "send", "f.hasami", "--to", there.uri], cwd=self.folder, stderr=subprocess.PIPE, text=True)
        there.wait_until(lambda: there.kept() == ["begun"])
        program.send_signal(signal.SIGINT)
        self.assertEqual(program.wait(30), 4)
        self.assertIn("cancelled", program.stderr.read())
        program.stderr.close()
        there.wait_until(lambda: there.kept() == ["begun", "ended"])


if __name__ == "__main__":
    unittest.main()
