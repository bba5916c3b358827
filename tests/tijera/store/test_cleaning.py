"""Cleaning: what nothing names is freed, what undo could bring back is not."""

from __future__ import annotations

import os
from datetime import UTC, datetime, timedelta
from pathlib import Path

from tests.support.bench import BenchCase
from tests.support.docx import Docx, paragraph, section
from tests.support.sheets import mark
from tijera.core.clippings import edits
from tijera.core.errors import NotFound
from tijera.records import FrameRecord
from tijera.store import cleaning
from tijera.store.cleaning import clean
from tijera.usecases import placing, rack, taking, trimming

_PAPER = Docx(paragraph("Ropes are laid out") + section()).build()
_LATER = datetime(2026, 3, 20, tzinfo=UTC)


class Cleaning(BenchCase):
    """A week later."""

    def setUp(self) -> None:
        """A clipping with a mark, placed and handed over; a frozen screen that was never used; a stray picture."""
        super().setUp()
        self.record = self.take()
        marked = lambda sheet, crop: (edits.add(sheet, [mark("ring", (10, 10), (60, 50))]), crop)  # noqa: E731
        trimming.edit(self.workshop, self.record.id, None, "Mark", marked)
        self.destination = self.open(_PAPER)
        placing.place(self.workshop, self.destination.id, self.record.id, "b.1")
        placing.hand_over(self.workshop, self.destination)
        self.unused = taking.freeze(self.workshop, "desk")
        self.stray = self.workshop.store.blobs.put(b"a rendition that was weighed and not chosen")

    def blobs(self) -> set[str]:
        """The keys of all that is kept."""
        return {path.name for path in (self.folder / "blobs").glob("??/*")}

    def age(self) -> None:
        """Everything was put there long ago."""
        for path in (self.folder / "blobs").glob("??/*"):
            os.utime(path, (0, 0))

    def test_only_what_nothing_names_goes(self) -> None:
        """The frame that is shown, the sheet, the document, what left: all of it stays and still shows."""
        self.age()
        before = self.blobs()
        freed = clean(self.workshop.store, _LATER)
        self.assertEqual(freed.frames, 1)
        self.assertEqual(before - self.blobs(), {self.stray} | ({self.unused.blob} - self._shown()))
        with self.assertRaises(NotFound):
            self.workshop.store.find(FrameRecord, self.unused.id)
        again = self.open_workshop()
        self.assertTrue(placing.write_copy(again, self.destination).written.data.startswith(b"PK"))

    def _shown(self) -> set[str]:
        return {self.workshop.store.find(FrameRecord, self.record.frame).blob}

    def test_what_undo_could_bring_back_stays_until_its_horizon(self) -> None:
        """Removed, cleaned, brought back whole; beyond the horizon it is freed."""
        rack.remove(self.workshop, [self.record.id])
        self.age()
        clean(self.workshop.store, _LATER)
        self.workshop.store.undo()
        again = self.open_workshop()
        self.assertEqual(again.pictures.finished(self.record).size.width, 900)
        again.store.redo()
        horizon = cleaning.MOST_CHANGES
        self.addCleanup(setattr, cleaning, "MOST_CHANGES", horizon)
        cleaning.MOST_CHANGES = 0
        self.age()
        clean(again.store, _LATER)
        self.assertIsNone(again.store.undoable())
        self.assertEqual(len(list(Path(self.folder / "blobs").glob("??/*"))), len(self._named_still()))
        self.assertGreaterEqual(horizon, 1_000)

    def _named_still(self) -> set[str]:
        destination, (left,) = self.destination, self.workshop.store.handovers()
        return {destination.blob, left.blob}

    def test_what_came_lately_is_left_alone(self) -> None:
        """Between keeping bytes and naming them somebody else may clean."""
        now = datetime.now(UTC)
        freed = clean(self.workshop.store, now)
        self.assertEqual((freed.blobs, self.stray in self.blobs()), (0, True))
        self.age()
        self.workshop.store.blobs.put(b"a rendition that was weighed and not chosen")
        self.assertNotIn(self.stray, self.blobs() - {self.stray})
        clean(self.workshop.store, now + timedelta(hours=1))
        self.assertIn(self.stray, self.blobs())
