"""Clearing out: what may go, how much that frees, and emptying, after which nothing brings it back.

What may go are clippings that stand nowhere, are laid on none, and are older than some days; never one that is pinned. Cleared
out, they can be brought back by undo until it is emptied.
"""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime, timedelta

from tijera.core.errors import NothingToClear
from tijera.records import ClippingRecord
from tijera.store.cleaning import Freed, clean, forget_now
from tijera.usecases.workshop import Workshop

LABEL = "Clear out"


@dataclass(frozen=True)
class Clearing:
    """What may go, and how many bytes of pictures only that names."""

    clippings: tuple[ClippingRecord, ...]
    bytes: int


def may_go(workshop: Workshop, older_days: int) -> Clearing:
    """What may go that is older than so many days."""
    before = (datetime.fromisoformat(workshop.now()) - timedelta(days=older_days)).isoformat()
    every = workshop.store.clippings()
    placed = {each.clipping for each in workshop.store.placements()}
    laid_on = {part for each in every for part in each.parts}
    going = tuple(
        each
        for each in every
        if not each.pinned and each.id not in placed and each.id not in laid_on and each.taken_at < before
    )
    gone = {each.id for each in going}
    staying = {each.frame for each in every if each.id not in gone}
    return Clearing(going, _bytes_of(workshop, {each.frame for each in going} - staying, staying))


def _bytes_of(workshop: Workshop, frames: Collection[str], staying: Collection[str]) -> int:
    """What the pictures of some frames weigh that no other one has."""
    kept = {key for each in staying for key in _keys(workshop, each)}
    return sum(
        workshop.store.blobs.size(key) for key in {key for each in frames for key in _keys(workshop, each)} - kept
    )


def _keys(workshop: Workshop, frame_id: str) -> list[str]:
    frame = workshop.pictures.frame(frame_id)
    pointer = None if frame.pointer is None else frame.pointer.blob
    return [key for key in (frame.blob, frame.original, pointer) if key is not None]


def clear_out(workshop: Workshop, older_days: int) -> Clearing:
    """Take all that may go off the rack, as one change; one undo brings it back. Raises `NothingToClear`."""
    going = may_go(workshop, older_days)
    if not going.clippings:
        raise NothingToClear(days=older_days)
    count = len(going.clippings)

    def clear() -> None:
        with workshop.store.change(f"{LABEL} {count} {'clipping' if count == 1 else 'clippings'}") as change:
            for each in going.clippings:
                change.remove(each)

    workshop.store.reserve.used_for(clear)
    return going


def empty(workshop: Workshop) -> int:
    """Forget what was cleared out, so that nothing brings it back, and free its bytes; how many that were.

    What came within a day is freed at a later start: another window may hold it.
    """
    workshop.store.reserve.used_for(lambda: workshop.store.forget_changes_called(LABEL))
    return clean(workshop.store, datetime.fromisoformat(workshop.now())).bytes


def forget_removed(workshop: Workshop) -> Freed:
    """Forget all that undo could bring back, and free it at once: what was removed is gone from every file."""
    return workshop.store.reserve.used_for(lambda: forget_now(workshop.store, datetime.fromisoformat(workshop.now())))
