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
_READ_COUNT = 20_000
_VOCABULARY = (
    "berth",
    "tide",
    "crew",
    "engine",
    "fender",
    "gangway",
    "lighthouse",
    "marigold",
    "pilot",
    "quay",
    "roster",
)
_QUERY = (
    "SELECT c.id, c.name, c.window, c.taken_at, c.kind, c.crop_width, c.crop_height FROM clipping c "
    "JOIN findable f ON f.rowid = c.rowid WHERE findable MATCH ? ORDER BY c.taken_at DESC"
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


def words_on_pictures() -> Result:
    """Finding a word among 20,000 clippings that were read, 40 words on each, against one query of the same index."""
    with tempfile.TemporaryDirectory() as folder:
        store = Store(Path(folder), lambda: "2026-03-12T12:00:00.000000+00:00")
        fill_rack(Workshop(store, {"desk": PracticeDesk()}, lambda: "2026-03-12T12:00:00.000000+00:00"), _READ_COUNT)
        with store._open(), store._database.atomic():
            rows = store._database.execute_sql("SELECT rowid FROM clipping").fetchall()
            for number, (row,) in enumerate(rows):
                text = " ".join(
                    f"{_VOCABULARY[(number * 7 + at * 3) % len(_VOCABULARY)]}{(number + at) % 97}" for at in range(40)
                )
                store._database.execute_sql("UPDATE findable SET shown = ? WHERE rowid = ?", [text, row])

        def ours() -> int:
            return len(store.slips(["berth41", "tide"], 0, 100)) + store.count_slips(["berth41", "tide"])

        def control() -> int:
            with store._open():
                return len(store._database.execute_sql(_QUERY, ('"berth41" AND "tide"',)).fetchall())

        found = ours()
        result = ratio("Find words on 20,000 pictures", 3, *compare(ours, control, 15), f"{found} found and counted")
        store.close()
        return result
