"""Cut files sent to a machine: stand-ins for one on the network and one on a serial line take them."""
import os
import pty
import signal
import socket
import subprocess
import threading
import time
import tty
import unittest

from support import *


class Machine(threading.Thread):
    """Listens on loopback; `take` handles the connection."""
    def __init__(self, take):
        super().__init__(daemon=True)
        self.server = socket.create_server(("127.0.0.1", 0))
        self.port = self.server.getsockname()[1]
        self.take, self.got = take, b""
        self.start()

    def run(self):
        connection, _ = self.server.accept()
        with connection:
            self.take(self, connection)
        self.server.close()

    def read_all(self, connection, pause=0):
        while piece := connection.recv(1000 if pause else 65536):
            self.got += piece
            time.sleep(pause)


class Send(CliTest):
    def setUp(self):
        super().setUp()
        self.f_job("--medium", "roll:1500", "--die-offset", "6mm", "--count", "400")
        self.run_cli("make", "f.hasami", "--cut", "f.plt")
        self.plot = (self.folder / "f.plt").read_bytes()
        self.assertGreater(len(self.plot), 50_000)

    def test_a_machine_on_the_network_gets_the_very_file(self):
        for pause in (0, 0.005):
            machine = Machine(lambda self, connection: self.read_all(connection, pause))
            self.run_cli("send", "f.hasami", "--to", f"tcp:127.0.0.1:{machine.port}")
            machine.join(30)
            self.assertEqual(machine.got, self.plot)

    def test_the_profiles_connection_is_taken_where_none_is_named(self):
        self.assertIn("send needs --to", self.run_cli("send", "f.hasami", status=2).stderr)
        machine = Machine(Machine.read_all)
        self.change("f.hasami", lambda job: job["profile"].update(connection=f"tcp:127.0.0.1:{machine.port}"))
        self.run_cli("send", "f.hasami")
        machine.join(30)
        self.assertEqual(machine.got, self.plot)

    def test_kinds_are_sent_alone(self):
        machine = Machine(Machine.read_all)
        self.run_cli("send", "f.hasami", "--to", f"tcp:localhost:{machine.port}", "--kinds", "die")
        machine.join(30)
        self.run_cli("make", "f.hasami", "--cut", "d.plt", "--kinds", "die")
        self.assertEqual(machine.got, (self.folder / "d.plt").read_bytes())

    def test_a_connection_that_ends_too_soon_is_said(self):
        def take(machine, connection):
            machine.got = connection.recv(2000)
            time.sleep(0.3)

        machine = Machine(take)
        done = self.run_cli("send", "f.hasami", "--to", f"tcp:127.0.0.1:{machine.port}", status=4)
        self.assertIn("ended the connection", done.stderr)
        closed = socket.create_server(("127.0.0.1", 0))
        port = closed.getsockname()[1]
        closed.close()
        self.assertIn("There is no connection", self.run_cli("send", "f.hasami", "--to", f"tcp:127.0.0.1:{port}", status=4).stderr)

    def serial(self, *options):
        """The machine's side of a serial line, and the program that sends to the other."""
        master, slave = pty.openpty()
        tty.setraw(master)
        self.addCleanup(os.close, master)
        program = subprocess.Popen([PROGRAM, "send", "f.hasami", "--to", "device:" + os.ttyname(slave) + ",9600", *options],
                                   cwd=self.folder, stderr=subprocess.PIPE, text=True)
        self.addCleanup(os.close, slave)
        return master, program

    def read_until_done(self, master, program):
        got, end = b"", time.monotonic() + 60
        os.set_blocking(master, False)
        while time.monotonic() < end:
            try:
                got += os.read(master, 65536)
            except BlockingIOError:
                if program.poll() is not None:
                    break
                time.sleep(0.01)
        return got

    def test_a_serial_device_gets_the_very_file(self):
        master, program = self.serial()
        self.assertEqual(self.read_until_done(master, program), self.plot)
        self.assertEqual(program.wait(10), 0, program.stderr.read())
        program.stderr.close()

    def test_a_machine_that_stops_reading_can_be_left_and_its_knife_is_lifted(self):
        master, program = self.serial()
        first = os.read(master, 100)
        time.sleep(1)  # its memory is full by now
        self.assertIsNone(program.poll())
        program.send_signal(signal.SIGINT)
        time.sleep(0.3)
        got = first + self.read_until_done(master, program)
        self.assertEqual(program.wait(10), 4)
        self.assertIn("Stopped", program.stderr.read())
        program.stderr.close()
        self.assertTrue(got.endswith(b";PU;SP0;\n"))
        self.assertEqual(got[:-9], self.plot[:len(got) - 9])
        self.assertIn(got[-10:-9], (b";", b"\n"))  # no number was cut short: the knife would go there
        self.assertLess(len(got), len(self.plot))

    def test_a_watched_folder_gets_a_whole_file_of_the_sheets_name(self):
        (self.folder / "watched").mkdir()
        self.run_cli("send", "f.hasami", "--to", f"folder:{self.folder}/watched")
        self.assertEqual([p.name for p in (self.folder / "watched").iterdir()], ["f-1-cut.plt"])
        self.assertEqual((self.folder / "watched/f-1-cut.plt").read_bytes(), self.plot)
        self.assertIn("can't be written", self.run_cli("send", "f.hasami", "--to", "folder:/nonexistent", status=4).stderr)

    def test_what_is_no_machine_is_refused(self):
        for to in ("tcp:somewhere", "tcp::9100", "folder:", "device:/dev/null,9600,cts", "tcp:host:99999", "device:", "device:/dev/null,12", "printer", "file.plt"):
            with self.subTest(to):
                self.assertIn("A machine is named", self.run_cli("send", "f.hasami", "--to", to, status=3).stderr)
        self.write("plain.txt", b"keep")
        self.assertIn("no device", self.run_cli("send", "f.hasami", "--to", f"device:{self.folder}/plain.txt", status=4).stderr)
        self.assertEqual((self.folder / "plain.txt").read_bytes(), b"keep")
        self.assertIn("can't be opened", self.run_cli("send", "f.hasami", "--to", "device:/dev/no-such-machine", status=4).stderr)


if __name__ == "__main__":
    unittest.main()
