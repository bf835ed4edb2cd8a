"""hasami-cli nest, from its JSON to its JSON: the layout is told again from the answer alone."""
import json
import os
import signal
import subprocess
import time

from support import *


def star(tips, radius, waist):
    return [[(radius if i % 2 == 0 else radius * waist) * f(math.pi * i / tips) for f in (math.cos, math.sin)] for i in range(2 * tips)]


def part(name, outline, copies=1, rotations="any", mirror=False, holes=()):
    return {"id": name, "copies": copies, "rotations": rotations, "mirror": mirror, "outline": outline, "holes": list(holes)}


def box(width, height):
    return [[0, 0], [width, 0], [width, height], [0, height]]


def problem(parts, width=200, length=None, gap=2, margin=3):
    return {"units": "mm", "media": {"width": width, "length": length}, "margin": margin, "gap": gap, "parts": parts}


def placed(outline, placement):
    points = numpy.array(outline, float)
    if placement["mirror"]:
        points[:, 0] *= -1
    c, s = math.cos(math.radians(placement["rotation"])), math.sin(math.radians(placement["rotation"]))
    return points @ numpy.array([[c, s], [-s, c]]) + [placement["x"], placement["y"]]


class Nest(CliTest):
    def nest(self, task, *options, status=0, name="out.json"):
        self.write("in.json", json.dumps(task).encode())
        done = self.run_cli("nest", "in.json", "-o", name, *options, status=status)
        path = self.folder / name
        return (json.loads(path.read_text()) if path.exists() else None), done.stderr

    def check(self, task, answer):
        outlines = {p["id"]: p["outline"] for p in task["parts"]}
        loops = [(p["sheet"], placed(outlines[p["id"]], p)) for p in answer["placements"]]
        margin, width = task["margin"], task["media"]["width"]
        for sheet, loop in loops:
            self.assertGreaterEqual(loop.min(), margin - 0.01)
            self.assertLessEqual(loop[:, 1].max(), width - margin + 0.01)
        for i, (sheet, one) in enumerate(loops):
            for other_sheet, other in loops[:i]:
                if sheet == other_sheet:
                    self.assertGreaterEqual(min(distances(one, other).min(), distances(other, one).min()), task["gap"] - 0.01)
                    self.assertFalse(inside(one[0], other) or inside(other[0], one))
        last = max((loop[:, 0].max() for sheet, loop in loops if sheet == answer["sheets"] - 1), default=0)
        self.assertAlmostEqual(answer["used_length"], last + margin, delta=1e-3)
        whole = (answer["sheets"] - 1) * (task["media"]["length"] or 0) + answer["used_length"]
        self.assertAlmostEqual(answer["density"], sum(abs(area(loop)) for _, loop in loops) / (whole * width), delta=1e-6)
        self.assertEqual(len(answer["placements"]) + sum(u["copies"] for u in answer["unplaced"]), sum(p["copies"] for p in task["parts"]))

    def test_a_roll_is_nested_soundly_and_better_than_in_rows(self):
        task = problem([part("star", star(5, 20, 0.45), 12), part("box", box(30, 14), 8, [0, 90])])
        answer, _ = self.nest(task, "--seconds", "2")
        self.check(task, answer)
        self.assertEqual(answer["sheets"], 1)
        rows, _ = self.nest(task, "--seconds", "0")
        self.check(task, rows)
        self.assertLess(answer["used_length"], 0.85 * rows["used_length"])
        self.assertTrue(all(p["rotation"] % 90 == 0 for p in answer["placements"] if p["id"] == "box"))
        for name in ("star", "box"):
            copies = [p["copy"] for p in answer["placements"] if p["id"] == name]
            self.assertEqual(copies, list(range(len(copies))))

    def test_sheets_are_filled_and_what_fits_nowhere_is_listed(self):
        task = problem([part("star", star(6, 30, 0.6), 9), part("plank", box(500, 20))], 160, 150.0)
        answer, told = self.nest(task, "--seconds", "1", status=1)
        self.check(task, answer)
        self.assertGreater(answer["sheets"], 1)
        self.assertEqual([(u["id"], u["copies"]) for u in answer["unplaced"]], [("plank", 1)])
        self.assertIn("1 of plank not placed", told)

    def test_counted_moves_give_the_same_bytes_but_for_the_seconds(self):
        task = problem([part("star", star(5, 20, 0.45), 7), part("box", box(30, 12), 5, mirror=True)])
        texts = []
        for threads in (1, 2, 5):
            self.nest(task, "--moves", "1500", "--seed", "7", "--threads", str(threads), name=f"{threads}.json")
            text = (self.folder / f"{threads}.json").read_text()
            texts.append("\n".join(line for line in text.split("\n") if '"seconds"' not in line))
        self.assertEqual(texts[0], texts[1])
        self.assertEqual(texts[0], texts[2])

    def test_an_interrupt_ends_the_search_and_the_best_is_written(self):
        task = problem([part("star", star(5, 20, 0.45), 30)])
        self.write("in.json", json.dumps(task).encode())
        with subprocess.Popen([os.environ["HASAMI_CLI"], "nest", "in.json", "-o", "out.json", "--seconds", "600"], cwd=self.folder,
                              stderr=subprocess.PIPE) as running:
            time.sleep(1.5)
            running.send_signal(signal.SIGINT)
            running.communicate(timeout=60)
        self.assertEqual(running.returncode, 0)
        answer = json.loads((self.folder / "out.json").read_text())
        self.check(task, answer)
        self.assertLess(answer["seconds"], 60)

    def test_a_second_interrupt_ends_the_program_and_nothing_is_written(self):
        comb = [[0, 0]]  # of so many teeth that it takes seconds before there is anything to stop
        for i in range(2498):
            comb += [[300 * i / 2498, 40], [300 * (i + 0.5) / 2498, 12]]
        task = problem([part("comb", comb + [[300, 40], [300, 0]], 6)], 700)
        self.write("in.json", json.dumps({**task, "gap": 2}).encode())
        with subprocess.Popen([os.environ["HASAMI_CLI"], "nest", "in.json", "-o", "out.json"], cwd=self.folder,
                              stderr=subprocess.PIPE) as running:
            for _ in range(2):
                time.sleep(0.5)
                running.send_signal(signal.SIGINT)
            running.communicate(timeout=60)
        self.assertEqual(running.returncode, 128 + signal.SIGINT)
        self.assertFalse((self.folder / "out.json").exists())

    def test_three_thousand_parts_take_less_than_a_gigabyte(self):
        task = problem([part(f"p{i}", star(3 + i % 6, 8 + i % 30, 0.4 + i % 5 / 10), 75) for i in range(40)], 900)
        answer, _ = self.nest(task, "--seconds", "2")
        self.assertEqual(len(answer["placements"]), 3000)
        self.assertLess(peak_memory_of_children(), 1 << 30)

    def test_bad_input_is_refused_by_the_part_and_nothing_is_written(self):
        good = part("bee", box(20, 20))
        for change, words in (({"outline": [[0, 0], [20, 20], [20, 0], [0, 20]]}, "bee crosses itself"), ({"outline": [[0, 0], [5, 5]]}, "bee"),
                              ({"outline": [[0, 0], [9, 0], [4, 0]]}, "bee has no area"), ({"copies": -1}, "bee"), ({"copies": 100000}, "bee"),
                              ({"rotations": "round"}, "bee"), ({"holes": [box(30, 30)]}, "bee")):
            answer, told = self.nest(problem([{**good, **change}]), status=3)
            self.assertIsNone(answer)
            self.assertIn(words, told)
            self.assertIn("in.json", told)
            self.assertEqual(told.count("\n"), 1)
        for task in (problem([good], gap=-1), problem([good], margin=100), {"parts": []}):
            self.assertIsNone(self.nest(task, status=3)[0])
        self.write("nan.json", b'{"media":{"width":NaN,"length":null},"parts":[]}')
        self.run_cli("nest", "nan.json", "-o", "out.json", status=3)
        self.run_cli("nest", "gone.json", "-o", "out.json", status=3)
        self.write("in.json", json.dumps(problem([good])).encode())
        self.run_cli("nest", "in.json", "-o", "out.txt", status=2)
        self.run_cli("nest", "in.json", "-o", "out.json", "--seconds", "1", "--moves", "5", status=2)
        self.run_cli("nest", "in.json", "-o", "no/folder/out.json", "--seconds", "0", status=4)
        empty, _ = self.nest(problem([{**good, "copies": 0}]))
        self.assertEqual((empty["placements"], empty["used_length"]), ([], 0))


if __name__ == "__main__":
    unittest.main()
