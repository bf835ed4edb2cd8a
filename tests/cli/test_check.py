"""Findings by the command line."""
import json
import unittest
from pathlib import Path

from support import *


class Check(CliTest):
    def findings(self, job, status=0):
        return json.loads(self.run_cli("check", job, "--json", status=status).stdout)

    def test_clean_work_has_none(self):
        self.run_cli("new", "--lettering", "HH", "--cap-height", "30mm", "-o", "c.hasami", "--offset", "3mm", "--medium", "a4")
        self.assertEqual(self.findings("c.hasami"), [])
        self.assertEqual(self.run_cli("check", "c.hasami").stdout, "")

    def test_the_demo_jobs_have_no_errors_or_warnings(self):
        for demo in sorted((Path(PROGRAM).parent.parent / "demo").glob("*.hasami")):
            with self.subTest(demo=demo.name):
                self.assertEqual([f for f in self.findings(demo) if f["severity"] != "note"], [])

    def test_a_finding_says_what_where_and_what_helps(self):
        self.run_cli("new", "--lettering", "H H", "--cap-height", "30mm", "-o", "p.hasami", "--offset", "1mm", "--medium", "a4")
        found = self.findings("p.hasami")
        self.assertEqual([f["code"] for f in found], ["several-parts"])
        self.assertEqual(found[0]["severity"], "note")
        self.assertEqual(found[0]["design"], "H H")
        self.assertEqual(set(found[0]["place"]), {"x", "y"})
        self.assertEqual(found[0]["fix"], "Split it into 2 designs")
        self.assertTrue(self.run_cli("check", "p.hasami").stdout.startswith("note several-parts: H H: "))

    def test_an_error_ends_with_status_1(self):
        self.run_cli("new", "--lettering", "HHHHHH", "--cap-height", "200mm", "-o", "l.hasami", "--medium", "a4", status=1)
        found = self.findings("l.hasami", status=1)
        self.assertEqual(found[0]["code"], "copies-lost")
        self.assertEqual(found[0]["severity"], "error")

    @unittest.skipIf(SANITIZED, "a sanitizer's own memory counts")
    def test_many_large_shapes_in_a_small_job_take_little_memory(self):
        self.run_cli("new", "--lettering", "H", "-o", "m.hasami", "--medium", "roll:1370mm")

        def edit(job):
            design = job["designs"][0]
            ellipse = {"kind": "shape", "name": "disc", "x": 0, "y": 0, "width": 1000, "height": 1000,
                       "fill": {"kind": "colour", "colour": "#000000"},
                       "shape": {"form": "ellipse", "width": 1000, "height": 1000}}
            job["designs"] = [design | {"id": f"disc-{number}", "name": f"disc {number}", "items": [ellipse]}
                              for number in range(30)]

        self.change("m.hasami", edit)
        self.findings("m.hasami")
        self.assertLess(peak_memory_of_children(), 350 << 20)


if __name__ == "__main__":
    unittest.main()
