"""A rack with many clippings of one frame."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta

from tijera.core.geometry import Rect
from tijera.store import models
from tijera.store.rows import row_of
from tijera.usecases import taking
from tijera.usecases.workshop import Workshop

_BEGIN = datetime(2026, 1, 4, 0, 10, tzinfo=UTC)
_TITLES = ("Tide board, outer quay", "Crew roster, week 11", "Engine log")


def fill_rack(workshop: Workshop, count: int) -> None:
    """Hang up "Quay 0000" and so on, one every 18 minutes; straight into the table, as one transaction."""
    frame = taking.freeze(workshop, "desk")
    first = taking.take(workshop, frame.id, taking.Cut(taking.CutKind.REGION, Rect(60, 60, 320, 200)), "Quay 0000")
    rows = []
    for number in range(count):
        at = _BEGIN + timedelta(minutes=18 * number + 1)
        record = replace(
            first,
            id=f"{number:012x}",
            name=f"Quay {number:04}",
            window=_TITLES[number % 3],
            taken_at=at.isoformat(timespec="microseconds"),
            found_as=f"{at:%Y-%m-%d %A} {at.day} {at:%B %H:%M}",
            area_x=60 + number % 700,
            rank=number + 1,
        )
        rows.append(row_of(record))
    store = workshop.store
    with store._open(), store._database.atomic():
        models.ClippingRow.delete().execute()
        for begin in range(0, count, 500):
            models.ClippingRow.insert_many(rows[begin : begin + 500]).execute()
    store.forget_changes()
