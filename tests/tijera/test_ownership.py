"""One application a folder, and what lies there for nobody but the user; with real processes."""

import contextlib
import errno
import io
import json
import os
import signal
import stat
import subprocess
import sys
import tempfile
import unittest
import urllib.error
import urllib.request
from pathlib import Path
from typing import IO
from unittest import mock

from tijera.cli import main
from tijera.core.errors import FolderInUse, FolderUnusable
from tijera.ownership import LOCK, NOTE, SECRET, Ownership, Running, running, secret_of, write_secretly


def _mode(path: Path) -> int:
    return stat.S_IMODE(path.stat().st_mode)


class Folder(unittest.TestCase):
    """The lock, the note and the secret."""

    def setUp(self) -> None:
        """A folder that others can read, as it was made by an earlier version."""
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory())) / "data"
        self.folder.mkdir(mode=0o755)

    def test_a_second_owner_is_refused_with_the_address_of_the_first(self) -> None:
        """Until the first lets go."""
        owner = Ownership(self.folder)
        owner.tell(Running("http://127.0.0.1:7420", "key"))
        with self.assertRaises(FolderInUse) as caught:
            Ownership(self.folder)
        self.assertIn("It answers at http://127.0.0.1:7420.", caught.exception.detail)
        found = running(self.folder)
        assert found
        self.assertEqual((found.address, found.key), ("http://127.0.0.1:7420", "key"))
        owner.release()
        self.assertIsNone(running(self.folder))
        Ownership(self.folder).release()

    def test_a_folder_that_can_not_be_written_is_said_with_its_name(self) -> None:
        """It lies on a read-only disk, is another user's, is a file: refused before anything is made there."""
        with mock.patch("filelock.FileLock.acquire", side_effect=PermissionError(errno.EACCES, "Permission denied")):
            with self.assertRaises(FolderUnusable) as caught:
                Ownership(self.folder)
            self.assertIn(f"{self.folder}: Permission denied", caught.exception.detail)
        file = self.folder / "file"
        file.touch()
        for place in (file, file / "data"):
            said = io.StringIO()
            with contextlib.redirect_stderr(said):
                self.assertEqual(main(["serve", "--data", str(place)]), 2)
            self.assertIn(f"The data folder can't be written: Tijera can't write where it keeps your clippings: {place}", said.getvalue())  # fmt: skip
        self.assertEqual([each.name for each in self.folder.iterdir()], ["file"])

    def test_what_a_killed_one_left_behind_says_nothing(self) -> None:
        """A note without a lock that is held."""
        (self.folder / NOTE).write_text(json.dumps({"address": "http://127.0.0.1:1", "key": "k"}), encoding="utf-8")
        (self.folder / LOCK).touch()
        (self.folder / f".{SECRET}.1234").write_bytes(b"half")
        self.assertIsNone(running(self.folder))
        with Ownership(self.folder):
            self.assertEqual([path.name for path in self.folder.iterdir()], [LOCK])

    def test_nobody_else_can_read_what_lies_there(self) -> None:
        """Folder 0700, files 0600; the secret is made once."""
        owner = Ownership(self.folder)
        self.addCleanup(owner.release)
        owner.tell(Running("http://127.0.0.1:7420", "key"))
        first = secret_of(self.folder)
        self.assertEqual((len(first), secret_of(self.folder)), (32, first))
        self.assertEqual(_mode(self.folder), 0o700)
        self.assertEqual({_mode(self.folder / name) for name in (LOCK, NOTE, SECRET)}, {0o600})

    def test_a_secret_that_is_none_is_made_anew(self) -> None:
        """Cut off, or not of our making."""
        for text in ("", "zz", "ab" * 7):
            (self.folder / SECRET).write_text(text, encoding="ascii")
            self.assertEqual(len(secret_of(self.folder)), 32)

    def test_a_link_under_the_name_is_replaced_and_not_followed(self) -> None:
        """What somebody planted leads nowhere."""
        victim = self.folder / "victim"
        victim.write_text("mine", encoding="utf-8")
        (self.folder / SECRET).symlink_to(victim)
        write_secretly(self.folder / SECRET, b"new")
        self.assertEqual((victim.read_text(encoding="utf-8"), (self.folder / SECRET).read_bytes()), ("mine", b"new"))


class Served(unittest.TestCase):
    """`tijera serve` itself."""

    def setUp(self) -> None:
        """A folder that is not there yet."""
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory())) / "data"

    def start(self) -> tuple[subprocess.Popen[str], str]:
        """Start it; the process and the address that it prints."""
        command = [sys.executable, "-m", "tijera", "serve", "--data", str(self.folder)]
        process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
        self.addCleanup(self._end, process)
        output: IO[str] | None = process.stdout
        assert output
        line = output.readline()
        self.assertTrue(line.startswith("Tijera is ready: http://127.0.0.1:"), line)
        return process, line.split()[3]

    def _end(self, process: subprocess.Popen[str]) -> None:
        process.kill()
        process.communicate()

    def status(self, address: str, **headers: str) -> int:
        """Of an answer, redirections not followed."""
        opener = urllib.request.build_opener(
            type("Stays", (urllib.request.HTTPRedirectHandler,), {"redirect_request": lambda *_: None})
        )
        try:
            with opener.open(urllib.request.Request(address, headers=headers), timeout=60) as answer:
                return int(answer.status)
        except urllib.error.HTTPError as error:
            with error:
                return error.code

    def test_a_second_one_is_refused_and_a_killed_one_leaves_the_folder_free(self) -> None:
        """Its note is true while it runs, and believed no longer afterwards."""
        process, entrance = self.start()
        again = subprocess.run(
            [sys.executable, "-m", "tijera", "serve", "--data", str(self.folder)],
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(again.returncode, 2)
        self.assertIn("Already running: Another Tijera works on", again.stderr)
        found = io.StringIO()
        with contextlib.redirect_stdout(found):
            self.assertEqual(main(["address", "--data", str(self.folder)]), 0)
        self.assertEqual(found.getvalue().strip(), entrance)
        bare = entrance.split("/enter")[0]
        self.assertEqual([self.status(f"{bare}/api/v1/bench"), self.status(entrance)], [401, 303])
        written = [path for path in self.folder.rglob("*") if path.is_file()]
        self.assertGreater(len(written), 3)
        self.assertEqual({path.name: _mode(path) for path in written if _mode(path) & 0o077}, {})
        os.kill(process.pid, signal.SIGKILL)
        process.wait()
        said = io.StringIO()
        with contextlib.redirect_stderr(said):
            self.assertEqual(main(["address", "--data", str(self.folder)]), 2)
        self.assertIn("Not running", said.getvalue())
        self.start()
