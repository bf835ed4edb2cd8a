import os
import xml.etree.ElementTree as ElementTree

from support import *
from vector_art import svg

BUILD = os.environ["HASAMI_BUILD_DIR"]


class Install(CliTest):
    def setUp(self):
        super().setUp()
        self.tool("cmake", "--install", BUILD, "--prefix", self.folder / "usr")

    def test_programs_data_and_man_pages_are_in_their_places(self):
        for name in ("bin/hasami", "bin/hasami-cli", "libexec/hasami/hasami-reader", "share/locale/de/LC_MESSAGES/hasami.mo",
                     "share/applications/hasami.desktop", "share/mime/packages/hasami.xml",
                     "share/metainfo/hasami.metainfo.xml", "share/icons/hicolor/scalable/apps/hasami.svg",
                     "share/man/man1/hasami.1", "share/man/man1/hasami-cli.1", "share/hasami/demo/quillmoor-honey.hasami"):
            self.assertTrue((self.folder / "usr" / name).is_file(), name)
        for name in ("share/mime/packages/hasami.xml", "share/metainfo/hasami.metainfo.xml"):
            ElementTree.parse(self.folder / "usr" / name)

    def test_the_installed_program_makes_the_installed_demo(self):
        usr = self.folder / "usr"
        self.tool(usr / "bin/hasami-cli", "make", usr / "share/hasami/demo/quillmoor-honey.hasami", "--print", "p.pdf")
        self.assertIn("No syntax", self.tool("qpdf", "--check", "p.pdf"))

    def test_the_installed_program_reads_vector_art(self):
        self.write("art.svg", svg('<rect x="5" y="5" width="30" height="20"/>'))
        self.tool(self.folder / "usr/bin/hasami-cli", "outline", "art.svg", "-o", "o.json")
        self.assertTrue((self.folder / "o.json").is_file())

    def test_the_man_page_tells_every_command_and_option(self):
        page = (self.folder / "usr/share/man/man1/hasami-cli.1").read_text().replace("\\-", "-")
        for word in ("outline", "new", "make", "info", "--width", "--offset", "--medium", "--report"):
            self.assertIn(word, page)


if __name__ == "__main__":
    unittest.main()
