"""A page of the history over 20,000 clippings, against one indexed SQLite query of as many rows."""

from __future__ import annotations

import tempfile
from pathlib import Path

from benchmarks.measure import Result, compare, ratio
from tests.support.rack import fill_rack
from tijera.desk.desk import PracticeDesk
from tijera.store.store import Store
from tijera.usecases import history
from tijera.usecases.workshop import Workshop

_COUNT, _PAGE = 20_000, 100
_NOW = "2026-03-12T12:00:00.000000+00:00"
_QUERY = "SELECT taken_at, kind, name, '', id, NULL, NULL, NULL FROM clipping WHERE taken_at < ? ORDER BY taken_at DESC LIMIT ?"


def run() -> list[Result]:
    """Measure."""
    with tempfile.TemporaryDirectory() as folder:
        store = Store(Path(folder), lambda: _NOW)
        workshop = Workshop(store, {"desk": PracticeDesk()}, lambda: _NOW)
        fill_rack(workshop, _COUNT)

        def page() -> int:
            return len(history.happenings(workshop, before="9", most=_PAGE))

        def control() -> int:
            with store._open():
                return len(store._database.execute_sql(_QUERY, ("9", _PAGE)).fetchall())

        first = ratio("A page of the history over 20,000 clippings", 3, *compare(page, control, 25), f"{page()} rows")
        store.close()
        return [first]
