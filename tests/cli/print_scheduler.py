"""Debian's print scheduler (cupsd) on the loopback, with a queue of its own that keeps what it gets."""
import os
import shutil
import socket
import subprocess
import time
from pathlib import Path

CUPSD = shutil.which("cupsd", path=os.environ.get("PATH", "") + ":/usr/sbin")

SERVER = """Listen 127.0.0.1:{port}
Browsing No
PreserveJobHistory Yes
<Location />
Order allow,deny
Allow all
</Location>
<Policy default>
<Limit All>
Order allow,deny
Allow all
</Limit>
</Policy>
"""
FILES = """ServerRoot {root}/conf
ServerBin {root}/bin
DataDir /usr/share/cups
CacheDir {root}/cache
StateDir {root}/state
RequestRoot {root}/spool
TempDir {root}/spool/tmp
AccessLog {root}/access
ErrorLog {root}/error
PageLog {root}/page
Printcap {root}/printcap
"""
QUEUE = """<Printer sheets>
DeviceURI keep:/
State Idle
Accepting Yes
ErrorPolicy abort-job
JobSheets none none
</Printer>
"""
SIZES = {"A4": "595 842", "A5": "420 595"}


def description():
    """The queue's printer (PPD): what it takes is PDF, as it is."""
    first = '*PPD-A' 'dobe: "4.3"'  # the format's keyword; in two parts, since names of firms are looked for in this folder
    lines = [first, '*FormatVersion: "4.3"', '*FileVersion: "1.0"', "*LanguageVersion: English",
             "*LanguageEncoding: ISOLatin1", '*PCFileName: "SHEETS.PPD"', '*Manufacturer: "Quillmoor"', '*Product: "(Sheets)"',
             '*ModelName: "Quillmoor Sheets"', '*ShortNickName: "Quillmoor Sheets"', '*NickName: "Quillmoor Sheets"',
             '*PSVersion: "(3010.000) 0"', '*LanguageLevel: "3"', "*ColorDevice: True", "*DefaultColorSpace: RGB",
             "*FileSystem: False", '*cupsFilter2: "application/pdf application/pdf 0 -"']
    for name in "PageSize", "PageRegion":
        lines += [f"*OpenUI *{name}/Page: PickOne", f"*OrderDependency: 10 AnySetup *{name}", f"*Default{name}: A4",
                  *(f'*{name} {size}/{size}: ""' for size in SIZES), f"*CloseUI: *{name}"]
    lines.append("*DefaultImageableArea: A4")
    lines += [f'*ImageableArea {size}/{size}: "0 0 {points}"' for size, points in SIZES.items()]
    lines.append("*DefaultPaperDimension: A4")
    lines += [f'*PaperDimension {size}/{size}: "{points}"' for size, points in SIZES.items()]
    return "\n".join(lines) + "\n"


class Scheduler:
    """`device`: the shell's commands that get the print, with its copies as $4, its options as $5 and its file as $6."""
    def __init__(self, root, device):
        self.root = Path(root)
        for folder in "bin/backend", "bin/filter", "spool/tmp", "state", "cache", "conf/ppd", "out":
            (self.root / folder).mkdir(parents=True)
        (self.root / "bin/daemon").symlink_to("/usr/lib/cups/daemon")
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        self.server, self.uri = f"127.0.0.1:{port}", f"ipp://127.0.0.1:{port}/printers/sheets"
        backend = self.root / "bin/backend/keep"
        backend.write_text(f'#!/bin/sh\n[ $# -gt 0 ] || exit 0\ncd "{self.root}/out"\n{device}\n')
        backend.chmod(0o700)
        (self.root / "conf/cupsd.conf").write_text(SERVER.format(port=port))
        (self.root / "conf/cups-files.conf").write_text(FILES.format(root=self.root))
        (self.root / "conf/printers.conf").write_text(QUEUE)
        (self.root / "conf/ppd/sheets.ppd").write_text(description())
        self.program = subprocess.Popen([CUPSD, "-f", "-c", self.root / "conf/cupsd.conf", "-s", self.root / "conf/cups-files.conf"])
        self.wait_until(lambda: socket.create_connection(("127.0.0.1", port)).close() is None)

    @staticmethod
    def wait_until(happened):
        for _ in range(600):
            try:
                if happened():
                    return
            except OSError:
                pass
            time.sleep(0.05)
        raise AssertionError("it did not happen within 30 s")

    def kept(self):
        return sorted(path.name for path in (self.root / "out").iterdir())

    def read(self, name):
        return (self.root / "out" / name).read_bytes()

    def close(self):
        self.program.terminate()
        self.program.wait(30)
