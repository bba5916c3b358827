"""Finding a text among 5,000 clippings, against one indexed SQLite query of the same text on the same index."""

from __future__ import annotations

import tempfile
from pathlib import Path

from benchmarks.measure import Result, compare, ratio
from tests.support.rack import fill_rack
from tijera.desk.desk import PracticeDesk
from tijera.store.store import Store
from tijera.usecases.workshop import Workshop

_COUNT = 5_000
_QUERY = (
    "SELECT c.id, c.name, c.window, c.taken_at, c.kind, c.crop_width, c.crop_height FROM clipping c "
    "JOIN clipping_words w ON w.rowid = c.rowid WHERE w.words MATCH ? ORDER BY c.taken_at DESC"
)


def run() -> Result:
    """Measure."""
    with tempfile.TemporaryDirectory() as folder:
        store = Store(Path(folder), lambda: "2026-03-12T12:00:00.000000+00:00")
        desk = PracticeDesk()
        fill_rack(Workshop(store, {"desk": desk}, lambda: "2026-03-12T12:00:00.000000+00:00"), _COUNT)

        def ours() -> int:
            return len(store.slips(["roster", "march"]))

        def control() -> int:
            with store._open():
                return len(store._database.execute_sql(_QUERY, ('"roster" AND "march"',)).fetchall())

        found = ours()
        result = ratio("Find over 5,000 clippings", 3, *compare(ours, control, 15), f"{found} found")
        store.close()
        return result
