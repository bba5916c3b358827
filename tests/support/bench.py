"""A workshop for tests: a real store in a temporary folder, the real desk, a clock that only goes forward."""

from __future__ import annotations

import itertools
import tempfile
import unittest
from pathlib import Path

from tijera.core.geometry import Rect
from tijera.desk.desk import PracticeDesk
from tijera.records import ClippingRecord, DestinationRecord
from tijera.store.store import Store
from tijera.usecases import destinations, taking
from tijera.usecases.workshop import Workshop


class BenchCase(unittest.TestCase):
    """Each test has a workshop of its own."""

    def setUp(self) -> None:
        """An empty store, a fresh desk."""
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.workshop = self.open_workshop()

    def open_workshop(self) -> Workshop:
        """Open the store in this test's folder, as a restart would."""
        moments = itertools.count(len(list(self.folder.rglob("*"))) * 1_000)
        store = Store(self.folder, lambda: f"2026-03-12T12:00:00.{next(moments):09}")
        self.addCleanup(store.close)
        return Workshop(store, {"desk": PracticeDesk()}, lambda: f"2026-03-12T12:00:00.{next(moments):09}")

    def take(self, area: Rect | None = None) -> ClippingRecord:
        """A clipping of the practice desk; the default is a part of the tide board."""
        cut = taking.Cut(taking.CutKind.REGION, area or Rect(90, 130, 900, 420))
        return taking.take(self.workshop, taking.freeze(self.workshop, "desk").id, cut)

    def open(self, data: bytes, name: str = "Rules.docx", limit: int | None = None) -> DestinationRecord:
        """Open a document."""
        return destinations.open_destination(self.workshop, data, name, limit)
