"""Everything as one file, and back: whole, or nothing is changed."""

import io
import json
import tempfile
import unittest
import zipfile
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path

from tijera import cli
from tijera.core.errors import BackupBroken, BackupWouldReplace
from tijera.records import HandoverRecord
from tijera.store.backups import back_up, restore
from tijera.store.store import Store


class Backups(unittest.TestCase):
    """A store with a few pictures in it."""

    def setUp(self) -> None:
        """Three hand-overs."""
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.store = Store(self.folder / "data", lambda: "now")
        self.addCleanup(self.store.close)
        for number in range(3):
            blob = self.store.blobs.put(bytes([number]) * 1_000)
            self.store.add(HandoverRecord(f"h{number}", f"{number}.png", "image/png", blob, 1_000, "clipping", "now"))
        self.backup = self.folder / "backup.zip"

    def restored(self, folder: Path) -> list[bytes]:
        """The bytes of all hand-overs of a folder."""
        store = Store(folder, lambda: "now")
        self.addCleanup(store.close)
        return [store.blobs.get(each.blob) for each in store.handovers()]

    def test_what_is_restored_is_what_was_there(self) -> None:
        """While the store is open and somebody writes to it; into a folder that is not there, or is empty."""
        self.assertEqual(back_up(self.folder / "data", self.backup), 3)
        self.store.blobs.put(b"later")
        (self.folder / "empty").mkdir()
        for name in ("new", "empty"):
            self.assertEqual(restore(self.backup, self.folder / name, aside=None), 3)
            self.assertEqual(self.restored(self.folder / name), [bytes([number]) * 1_000 for number in (2, 1, 0)])

    def test_what_is_there_is_never_replaced_but_moved_aside(self) -> None:
        """And only when asked for."""
        back_up(self.folder / "data", self.backup)
        other = self.folder / "other"
        other.mkdir()
        (other / "mine").write_bytes(b"mine")
        with self.assertRaises(BackupWouldReplace):
            restore(self.backup, other, aside=None)
        restore(self.backup, other, aside=self.folder / "aside")
        self.assertEqual((self.folder / "aside" / "mine").read_bytes(), b"mine")
        self.assertEqual(len(self.restored(other)), 3)

    def test_a_broken_one_changes_nothing(self) -> None:
        """Cut off, changed, with a picture missing, with one too many outside, from a newer version, no backup at all."""
        back_up(self.folder / "data", self.backup)
        whole = self.backup.read_bytes()
        cases = {
            "cut": whole[:-100],
            "changed": whole.replace(bytes([1]) * 1_000, bytes([9]) * 1_000),
            "none": b"no backup",
            "missing": self.edited(lambda name, data: None if name.startswith("blobs/") else data),
            "outside": self.edited(lambda name, data: data, ("blobs/../../planted", b"x")),
            "newer": self.edited(lambda name, data: _newer(data) if name == "backup.json" else data),
        }
        for name, data in cases.items():
            with self.subTest(name):
                self.backup.write_bytes(data)
                with self.assertRaises(BackupBroken):
                    restore(self.backup, self.folder / "target", aside=None)
                self.assertFalse((self.folder / "target").exists())
        self.assertFalse((self.folder / "planted").exists())
        self.assertEqual({path.name for path in self.folder.iterdir()}, {"data", "backup.zip"})

    def edited(self, change, also: tuple[str, bytes] | None = None) -> bytes:  # type: ignore[no-untyped-def]  # noqa: ANN001
        """The backup with members changed, left out, or added."""
        out = io.BytesIO()
        with zipfile.ZipFile(self.backup) as old, zipfile.ZipFile(out, "w") as new:
            for name in old.namelist():
                data = change(name, old.read(name))
                if data is not None:
                    new.writestr(name, data)
            if also:
                new.writestr(*also)
        return out.getvalue()

    def test_by_command(self) -> None:
        """With words for what was done, and a status for what was not."""

        def run(*arguments: object) -> tuple[int, str]:
            out = io.StringIO()
            with redirect_stdout(out), redirect_stderr(out):
                status = cli.main([str(each) for each in arguments])
            return status, out.getvalue()

        data = self.folder / "data"
        self.assertEqual(run("backup", self.backup, "--data", data)[0], 0)
        self.assertEqual(run("backup", self.backup, "--data", data)[0], 2)
        self.assertEqual(run("backup", self.backup, "--data", data, "--force")[0], 0)
        self.assertEqual(run("backup", self.folder / "no" / "x.zip", "--data", data)[0], 2)
        self.assertEqual(run("backup", self.folder / "y.zip", "--data", self.folder / "nothing")[0], 2)
        self.assertEqual(run("restore", self.backup, "--data", data)[0], 2)
        status, said = run("restore", self.backup, "--data", data, "--force")
        self.assertEqual(status, 0)
        self.assertIn("3 pictures and files are back", said)
        self.assertIn("What was there before lies in", said)
        self.assertEqual(run("restore", self.folder / "data" / "tijera.sqlite", "--data", self.folder / "z")[0], 4)


def _newer(data: bytes) -> bytes:
    return json.dumps(json.loads(data) | {"schema": 10_000}).encode()


if __name__ == "__main__":
    unittest.main()
