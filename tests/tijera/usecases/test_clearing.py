"""Clearing out: only what may go, what it frees, and that nothing brings it back once it is emptied."""

import os
import unittest
from datetime import datetime, timedelta
from pathlib import Path

from tests.support.bench import BenchCase
from tijera.core.errors import NothingToClear, NothingToUndo
from tijera.core.geometry import Rect
from tijera.core.packages.registry import new_document
from tijera.records import ClippingRecord
from tijera.usecases import clearing, destinations, placing, rack, trimming


class Clearing(BenchCase):
    """A rack of forty days."""

    def setUp(self) -> None:
        """It is noon."""
        super().setUp()
        self.moment = datetime.fromisoformat("2026-03-12T12:00:00.000000+00:00")
        self.workshop.now = lambda: self.moment.isoformat(timespec="microseconds")

    def old(self, x: int = 90) -> ClippingRecord:
        """A clipping of forty days ago."""
        self.moment -= timedelta(days=40)
        taken = self.take(Rect(x, 130, 300, 200))
        self.moment += timedelta(days=40)
        return taken

    def names(self, days: int = 30) -> set[str]:
        """The ids of what may go."""
        return {each.id for each in clearing.may_go(self.workshop, days).clippings}

    def test_what_stands_somewhere_is_pinned_laid_on_or_new_stays(self) -> None:
        """All else may go."""
        goes, placed, pinned, one, other = (self.old(90 + 10 * number) for number in range(5))
        new = self.take()
        rack.pin(self.workshop, pinned.id, pinned=True)
        _, data = new_document("docx")
        file = self.open(data, "Rules.docx")
        spot = next(iter(destinations.document_of(self.workshop, file).spots())).id
        placing.place(self.workshop, file.id, placed.id, spot)
        trimming.join(self.workshop, [one.id, other.id], stacked=True)
        self.assertEqual(self.names(), {goes.id})
        clearing.clear_out(self.workshop, 30)
        left = {each.id for each in self.workshop.store.clippings()}
        self.assertLessEqual({placed.id, pinned.id, one.id, other.id, new.id}, left)
        self.assertNotIn(goes.id, left)
        with self.assertRaises(NothingToClear):
            clearing.clear_out(self.workshop, 30)

    def test_what_it_frees_is_what_only_it_names(self) -> None:
        """A frame that another clipping shows too frees nothing."""
        frees = self.old()
        found = clearing.may_go(self.workshop, 30)
        frame = self.workshop.pictures.frame(frees.frame)
        assert frame.pointer is not None
        sizes = [self.workshop.store.blobs.size(key) for key in (frame.blob, frame.pointer.blob)]
        self.assertEqual(found.bytes, sum(sizes))
        self.take()
        # The desk shows the same: the same bytes are kept once.
        self.assertEqual(clearing.may_go(self.workshop, 30).bytes, 0)

    def test_undo_brings_it_back_until_it_is_emptied(self) -> None:
        """Then its bytes are gone too."""
        clipping = self.old()
        key = self.workshop.pictures.frame(clipping.frame).blob
        clearing.clear_out(self.workshop, 30)
        self.workshop.store.undo()
        self.assertEqual(self.names(), {clipping.id})
        clearing.clear_out(self.workshop, 30)
        # As old as it says it is.
        old = (self.moment - timedelta(days=40)).timestamp()
        for path in Path(self.folder).rglob(key):
            os.utime(path, (old, old))
        freed = clearing.empty(self.workshop)
        self.assertGreater(freed, 0)
        self.assertEqual(self.workshop.store.blobs.size(key), 0)
        self.assertEqual(self.workshop.store.clippings(), [])
        with self.assertRaises(NothingToUndo):
            self.workshop.store.undo()
        with self.assertRaises(NothingToUndo):
            self.workshop.store.redo()

    def test_what_is_pinned_hangs_on_top(self) -> None:
        """Until it is let go; undo knows of it."""
        first, second = self.take(), self.take()
        rack.pin(self.workshop, first.id, pinned=True)
        self.assertEqual(
            [(each.id, each.pinned) for each in self.workshop.store.slips()], [(first.id, True), (second.id, False)]
        )
        self.workshop.store.undo()
        self.assertEqual([each.id for each in self.workshop.store.slips()], [second.id, first.id])


if __name__ == "__main__":
    unittest.main()
