"""hasami-reader gives what it starts, as itself, no network and few means (src/reader/confinement.h)."""
import os
import subprocess
import tempfile
import unittest
import unittest.mock
from pathlib import Path

from support import *

READER = Path(os.environ["HASAMI_CLI"]).parent / "hasami-reader"


class Confinement(CliTest):
    def confined(self, script):
        return subprocess.run([READER, "confined", "/usr/bin/python3", "-c", script], capture_output=True, text=True, timeout=60)

    def test_there_is_no_network(self):
        for kind in ("AF_INET", "AF_INET6", "AF_UNIX"):
            done = self.confined(f"import socket; socket.socket(socket.{kind})")
            self.assertIn("PermissionError", done.stderr, kind)

    def test_others_are_not_traced_and_nothing_is_mounted(self):
        done = self.confined("import ctypes; c = ctypes.CDLL(None, use_errno=True)\n"
                             "print(c.ptrace(16, 1, 0, 0), ctypes.get_errno(), c.unshare(0x10000000), ctypes.get_errno())")
        self.assertEqual(done.stdout.split(), ["-1", "1", "-1", "1"])

    def test_memory_time_files_and_their_size_have_limits(self):
        done = self.confined("import resource as r\n"
                             "print(*(r.getrlimit(k)[0] for k in (r.RLIMIT_CPU, r.RLIMIT_NOFILE, r.RLIMIT_FSIZE, r.RLIMIT_CORE)))")
        self.assertEqual(done.stdout.split(), ["60", "64", str(2 << 30), "0"])
        if not SANITIZED:
            self.assertIn("MemoryError", self.confined("b = bytearray(5 << 30)").stderr)

    def test_a_postscript_program_reaches_no_file_but_its_own(self):
        with tempfile.NamedTemporaryFile(dir="/tmp", suffix=".txt") as victim, tempfile.TemporaryDirectory() as folder:
            victim.write(b"keep")
            victim.flush()
            inside = Path(folder) / "kept.txt"
            inside.write_text("keep")
            tries = "".join(f"{{ {what} }} stopped clear\n" for path in (victim.name, str(inside)) for what in
                            (f"({path}) (w) file closefile", f"({path}) deletefile", f"({path}) ({path}.moved) renamefile"))
            self.write("bad.eps", f"%!PS\n%%BoundingBox: 0 0 100 100\n{tries}"
                                  "{ (/tmp/hasami-made.txt) (w) file closefile } stopped clear\n10 10 60 60 rectfill showpage\n".encode())
            with unittest.mock.patch.dict(os.environ, TMPDIR=folder):
                self.run_cli("outline", "bad.eps", "-o", "out.svg")
            self.assertEqual(Path(victim.name).read_bytes(), b"keep")
            self.assertIn("kept.txt", {p.name for p in Path(folder).iterdir()})
            self.assertEqual(inside.read_text(), "keep")
            self.assertFalse(Path("/tmp/hasami-made.txt").exists())

    def test_a_program_that_is_not_there_is_told(self):
        done = subprocess.run([READER, "confined", "/nowhere/gs"], capture_output=True, text=True)
        self.assertEqual(done.returncode, 3)
        self.assertIn("%2 can't be started\x1f/nowhere/gs", done.stderr)


if __name__ == "__main__":
    unittest.main()
