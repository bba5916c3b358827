"""Files that are written whole: what stood there, what was planted, what must be kept."""

import os
import stat
import tempfile
import unittest
from pathlib import Path

from tijera.usecases import whole
from tijera.usecases.whole import write_whole


class Whole(unittest.TestCase):
    """In a folder of the user's."""

    def setUp(self) -> None:
        """With a file in it."""
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.file = self.folder / "Rules.docx"
        self.file.write_bytes(b"before")

    def test_mode_and_attributes_of_what_stood_there_are_kept(self) -> None:
        """As far as the system lets us."""
        self.file.chmod(0o640)
        with_attributes = hasattr(os, "setxattr")
        if with_attributes:
            try:
                os.setxattr(self.file, "user.quillhaven", b"pier 2")
            except OSError:
                with_attributes = False
        write_whole(self.file, b"after")
        self.assertEqual((self.file.read_bytes(), stat.S_IMODE(self.file.stat().st_mode)), (b"after", 0o640))
        if with_attributes:
            self.assertEqual(os.getxattr(self.file, "user.quillhaven"), b"pier 2")
        self.assertEqual([each.name for each in self.folder.iterdir()], ["Rules.docx"])

    def test_a_new_file_is_readable_as_the_users_files_are(self) -> None:
        """However the application keeps its own: the mask counts that there was before."""
        usual = self.folder / "usual"
        self.addCleanup(os.umask, os.umask(whole._USUAL))
        usual.touch()
        os.umask(whole.OTHERS)
        write_whole(self.folder / "new.png", b"x")
        self.assertEqual((self.folder / "new.png").stat().st_mode, usual.stat().st_mode)

    def test_a_linked_file_stays_linked(self) -> None:
        """What the link leads to is written."""
        link = self.folder / "link.docx"
        link.symlink_to(self.file)
        write_whole(link, b"after")
        self.assertEqual((link.is_symlink(), self.file.read_bytes()), (True, b"after"))

    def test_what_was_planted_beside_it_is_not_followed(self) -> None:
        """Names that an earlier version, or somebody who guesses, would have used."""
        victim = self.folder / "victim"
        victim.write_bytes(b"mine")
        for name in (".Rules.docx.part", f".Rules.docx.{os.getpid()}.part"):
            (self.folder / name).symlink_to(victim)
        write_whole(self.file, b"after")
        self.assertEqual((self.file.read_bytes(), victim.read_bytes()), (b"after", b"mine"))

    def test_what_fails_at_the_last_moment_changes_nothing(self) -> None:
        """And leaves nothing behind."""

        def no() -> None:
            raise KeyError

        with self.assertRaises(KeyError):
            write_whole(self.file, b"after", no)
        self.assertEqual(self.file.read_bytes(), b"before")
        self.assertEqual([each.name for each in self.folder.iterdir()], ["Rules.docx"])
