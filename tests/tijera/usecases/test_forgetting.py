"""Deleted means deleted: what was removed is in no file any more, and what stays is whole."""

import os
import sqlite3
import time
from datetime import UTC, datetime
from pathlib import Path
from unittest import mock

from tests.support.bench import BenchCase
from tests.support.pictures import encoded, text_like
from tijera.core.errors import FolderUnusable, NothingToUndo, StoreBusy
from tijera.core.geometry import Rect
from tijera.store.checking import check
from tijera.store.cleaning import clean
from tijera.usecases import clearing, looking, rack, saving, taking

_NAME = "Harbourmaster's own mooring"


class Removed(BenchCase):
    """A clipping with a name of its own, taken off the rack."""

    def setUp(self) -> None:
        """It is now."""
        super().setUp()
        self.workshop.now = lambda: datetime.now(UTC).isoformat(timespec="microseconds")

    def files_with(self, words: bytes) -> list[str]:
        """Every file below the folder that has these bytes in it, the database's log as well."""
        every = (path for path in self.folder.rglob("*") if path.is_file())
        return sorted(path.name for path in every if words in path.read_bytes())

    def test_forgotten_now_it_is_in_no_file(self) -> None:
        """Neither its name nor its picture; before that undo still has it, and what stays can still be looked at."""
        stays = self.take(Rect(90, 130, 300, 200))
        goes = taking.bring_in(self.workshop, encoded(text_like(300, 200)), f"{_NAME}.png")
        frame = self.workshop.pictures.frame(goes.frame).blob
        gone, kept = (
            saving.note_saved(self.workshop, saving.save(self.workshop, each.id, "png")) for each in (goes, stays)
        )
        rack.thumbnail(self.workshop, goes.id)
        rack.remove(self.workshop, [goes.id])
        self.assertNotEqual(self.files_with(_NAME.encode()), [])
        later = time.time() + 120
        with mock.patch.object(self.workshop, "now", lambda: datetime.fromtimestamp(later, UTC).isoformat()):
            freed = clearing.forget_removed(self.workshop)
        self.assertGreaterEqual(freed.changes, 2)
        self.assertEqual((self.files_with(_NAME.encode()), self.files_with(goes.id.encode())), ([], []))
        self.assertEqual([path.name for blob in (frame, gone.blob) for path in self.folder.rglob(blob)], [])
        self.assertEqual(len(list(self.folder.rglob(kept.blob))), 1)
        self.assertEqual([path for path in (self.folder / "thumbnails").rglob("*") if path.is_file()], [])
        with self.assertRaises(NothingToUndo):
            self.workshop.store.undo()
        self.assertEqual([each.id for each in looking.rack(self.workshop, "", 0, 9).slips], [stays.id])
        self.workshop.pictures.finished(stays)
        found = check(self.folder)
        self.assertEqual((found.integrity, found.missing, found.broken), ("ok", 0, 0))

    def test_what_a_killed_process_left_half_written_is_gone_at_the_next_start(self) -> None:
        """And what is being written at that moment is left alone."""
        taken = self.take()
        folder = next(path.parent for path in (self.folder / "blobs").rglob("*") if path.is_file())
        left, fresh = folder / "tmp1234abcd", folder / "tmp5678efgh"
        for path in (left, fresh):
            path.write_bytes(b"half a picture")
        os.utime(left, (time.time() - 3_600,) * 2)
        clean(self.workshop.store, datetime.now(UTC))
        self.assertEqual((left.exists(), fresh.exists()), (False, True))
        self.workshop.pictures.finished(taken)


class Busy(BenchCase):
    """Somebody else has the database, or the folder is gone."""

    def test_a_database_that_another_program_holds_is_waited_for_and_then_said(self) -> None:
        """Nothing is half done; once it is free all goes on."""
        self.take()
        store = self.workshop.store
        store._database.execute_sql("PRAGMA busy_timeout = 50")
        other = sqlite3.connect(self.folder / "tijera.sqlite")
        self.addCleanup(other.close)
        other.execute("BEGIN EXCLUSIVE")
        with self.assertRaises(StoreBusy):
            self.take()
        other.rollback()
        self.assertEqual(store.count_clippings(), 1)
        self.take()
        self.assertEqual(store.count_clippings(), 2)

    def test_it_is_waited_for_five_seconds(self) -> None:
        """As SQLite is told."""
        self.assertEqual(self.workshop.store._database.execute_sql("PRAGMA busy_timeout").fetchone()[0], 5_000)
        self.assertEqual(self.workshop.store._database.execute_sql("PRAGMA secure_delete").fetchone()[0], 1)

    def test_a_folder_that_is_gone_is_said(self) -> None:
        """By name, and what was there is there when it is back."""
        self.take()
        away = Path(f"{self.folder}-away")
        (self.folder / "blobs").rename(away)
        (self.folder / "blobs").write_text("in the way", encoding="utf-8")
        with self.assertRaises(FolderUnusable):
            self.take()
        (self.folder / "blobs").unlink()
        away.rename(self.folder / "blobs")
        self.take()
        self.assertEqual(self.workshop.store.count_clippings(), 2)
