"""Looking things up: what the interface asks for by its id, page by page, and what undo would do."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from tijera.records import ClippingRecord, DestinationRecord, FrameRecord, HandoverRecord, PlacementRecord, Slip
from tijera.usecases.naming import find_terms
from tijera.usecases.workshop import Workshop


def clipping(workshop: Workshop, clipping_id: str) -> ClippingRecord:
    """A clipping by its id. Raises `NotFound`."""
    return workshop.store.find(ClippingRecord, clipping_id)


def frame(workshop: Workshop, frame_id: str) -> FrameRecord:
    """A frozen screen by its id. Raises `NotFound`."""
    return workshop.store.find(FrameRecord, frame_id)


def destination(workshop: Workshop, destination_id: str) -> DestinationRecord:
    """An opened file by its id. Raises `NotFound`."""
    return workshop.store.find(DestinationRecord, destination_id)


def placement(workshop: Workshop, placement_id: str) -> PlacementRecord:
    """A placed clipping by its id. Raises `NotFound`."""
    return workshop.store.find(PlacementRecord, placement_id)


def handover(workshop: Workshop, handover_id: str) -> HandoverRecord:
    """Something that left, by its id. Raises `NotFound`."""
    return workshop.store.find(HandoverRecord, handover_id)


def kept_bytes(workshop: Workshop, key: str) -> bytes:
    """Bytes that are kept, by their key. Raises `NotFound`."""
    return workshop.store.blobs.get(key)


def opened(workshop: Workshop, first: int, most: int) -> Sequence[DestinationRecord]:
    """A page of the files that were opened, the last opened first."""
    return workshop.store.destinations(first, most)


def handovers(workshop: Workshop, first: int, most: int) -> Sequence[HandoverRecord]:
    """A page of what left, the last first."""
    return workshop.store.handovers(first, most)


def count_placed(workshop: Workshop, destination_id: str) -> int:
    """How many clippings stand in a file."""
    return len(workshop.store.placements(destination_id))


def count_places(workshop: Workshop, clipping_id: str) -> int:
    """In how many places, of all files, a clipping stands."""
    return workshop.store.count_places(clipping_id)


@dataclass(frozen=True)
class RackPage:
    """A page of the rack, or of what was found on it."""

    slips: Sequence[Slip]
    first: int
    found: int
    """How many there are, on all pages."""
    count: int
    """How many hang on the rack in all."""


def rack(workshop: Workshop, words: str, first: int, most: int, round_id: str | None = None) -> RackPage:
    """A page of the rack, the newest first; with words only what has them all, with rounds only what those took."""
    terms, store = find_terms(workshop, words), workshop.store
    slips, found = store.slips(terms, first, most, round_id), store.count_slips(terms, round_id)
    return RackPage(slips, first, found, store.count_clippings())


@dataclass(frozen=True)
class History:
    """What undo and redo would do, in words; None where there is nothing to do."""

    undo: str | None
    redo: str | None


def history(workshop: Workshop, clipping_id: str | None = None) -> History:
    """Of the whole bench, or of one clipping."""
    undo, redo = workshop.store.undoable(clipping_id), workshop.store.redoable(clipping_id)
    return History(undo.label if undo else None, redo.label if redo else None)


def undo(workshop: Workshop, clipping_id: str | None = None) -> None:
    """Take the last change back, of all or of one clipping. Raises `NothingToUndo`."""
    workshop.store.undo(clipping_id)


def redo(workshop: Workshop, clipping_id: str | None = None) -> None:
    """Make the last undone change again. Raises `NothingToUndo`."""
    workshop.store.redo(clipping_id)


def newest(workshop: Workshop) -> ClippingRecord | None:
    """The clipping that came last."""
    return workshop.store.newest_clipping()


def count(workshop: Workshop) -> int:
    """How many clippings hang on the rack."""
    return workshop.store.count_clippings()
