import errno
import os
import subprocess

from support import *

FAILING_DISK = os.environ["HASAMI_FAILING_DISK"]


class FailingDisk(CliTest):
    """A disk that is full, read-only, or taken away while files are written: told in a sentence, and what was
    there stays."""

    def run_on_failing_disk(self, call, error, after, *arguments):
        environment = {**os.environ, "LD_PRELOAD": FAILING_DISK, "FAILING_FOLDER": str(self.folder / "disk"),
                       "FAILING_CALL": call, "FAILING_ERROR": str(error), "FAILING_AFTER": str(after)}
        return subprocess.run([PROGRAM, *map(str, arguments)], capture_output=True, text=True, timeout=60,
                              cwd=self.folder, env=environment)

    def setUp(self):
        super().setUp()
        self.disk = self.folder / "disk"
        self.disk.mkdir()
        self.job = self.f_job("--count", "3")
        self.outputs = {self.disk / "out.pdf": b"old print", self.disk / "out.svg": b"old cut",
                        self.disk / "out.json": b"old report"}
        self.make = ["make", self.job, "--print", self.disk / "out.pdf", "--cut", self.disk / "out.svg",
                     "--report", self.disk / "out.json"]

    def put_old(self):
        for path, old in self.outputs.items():
            path.write_bytes(old)

    def assert_untouched(self, done, message):
        self.assertEqual(done.returncode, 4, done.stderr)
        self.assertEqual(len(done.stderr.strip().split("\n")), 1, done.stderr)
        self.assertIn("can't be written", done.stderr)
        self.assertIn(message, done.stderr)
        self.assertEqual(sorted(self.disk.iterdir()), sorted(self.outputs))
        for path, old in self.outputs.items():
            self.assertEqual(path.read_bytes(), old)

    def test_a_disk_that_fills_up_at_any_moment_leaves_all_that_was_there(self):
        self.put_old()
        self.assertEqual(self.run_on_failing_disk("none", 0, 0, *self.make).returncode, 0)
        whole = sum(path.stat().st_size for path in self.outputs)
        for after in [0, 1, whole // 3, whole // 2, whole * 9 // 10, whole - 1]:
            self.put_old()
            done = self.run_on_failing_disk("write", errno.ENOSPC, after, *self.make)
            self.assert_untouched(done, "No space left on device")
        self.put_old()
        self.assertEqual(self.run_on_failing_disk("write", errno.ENOSPC, whole, *self.make).returncode, 0)
        self.assertTrue((self.disk / "out.pdf").read_bytes().startswith(b"%PDF"))

    def test_a_disk_that_can_only_be_read_says_so(self):
        self.put_old()
        self.assert_untouched(self.run_on_failing_disk("open", errno.EROFS, 0, *self.make), "Read-only file system")
        self.assert_untouched(self.run_on_failing_disk("open", errno.EACCES, 0, *self.make), "Permission denied")

    def test_a_disk_taken_away_while_writing_says_so(self):
        self.put_old()
        for call in ("write", "fsync"):
            self.assert_untouched(self.run_on_failing_disk(call, errno.EIO, 0, *self.make), "Input/output error")

    def test_a_folder_that_went_away_is_named(self):
        done = self.run_cli("make", self.job, "--print", "gone/out.pdf", status=4)
        self.assertIn("the folder gone is not there", done.stderr)

    def test_a_job_that_can_not_be_saved_keeps_the_old_one(self):
        old = self.job.read_bytes()
        on_disk = self.disk / "f.hasami"
        on_disk.write_bytes(old)
        for call, error in (("write", errno.ENOSPC), ("open", errno.EROFS), ("fsync", errno.EIO), ("rename", errno.EIO)):
            done = self.run_on_failing_disk(call, error, 0, "new", "f.png", "-o", on_disk, "--width", "80mm")
            self.assertEqual(done.returncode, 4, call)
            self.assertIn("f.hasami can't be written", done.stderr)
            self.assertEqual(on_disk.read_bytes(), old)
            self.assertEqual(list(self.disk.iterdir()), [on_disk])


if __name__ == "__main__":
    unittest.main()
