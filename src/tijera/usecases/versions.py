"""Newer versions of a file: places found again, those lost named; and writing back to the file itself, when asked.

Nothing is overwritten by itself: the bytes that were opened first are kept, and so is every version in between.
"""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from pathlib import Path

from tijera.core.errors import ChangedOnDisk, FileUnreachable, NotFound
from tijera.core.packages.places.finding_again import find_again, find_cells_again
from tijera.core.packages.places.format import Document, View
from tijera.core.packages.places.spots import Spot
from tijera.core.packages.registry import as_sheets, format_of, open_document
from tijera.records import ClippingRecord, DestinationRecord, PlacementRecord
from tijera.usecases.destinations import CURRENT, document_of, open_destination
from tijera.usecases.placing import rendition_bytes, write_copy
from tijera.usecases.recent import Recent
from tijera.usecases.standings import standing
from tijera.usecases.workshop import Workshop


@dataclass(frozen=True)
class Lost:
    """A placed clipping whose place is not in the newer version any more."""

    name: str
    after_text: str
    """What stood before it; empty where nothing did."""


@dataclass(frozen=True)
class Renewed:
    """What became of the placed clippings."""

    found: int
    lost: tuple[Lost, ...]
    already: int = 0
    """How many stand in the newer version themselves: it was made from a copy that was written back."""


class OnDisk(StrEnum):
    """How a file on this computer stands to what was read of it."""

    SAME = "same"
    CHANGED = "changed"
    GONE = "gone"


def earlier_version(workshop: Workshop, destination_id: str) -> DestinationRecord | None:
    """The newest other destination of the same name in which clippings stand."""
    fresh = workshop.store.find(DestinationRecord, destination_id)
    for each in workshop.store.destinations():
        is_other = each.id != fresh.id and each.name.casefold() == fresh.name.casefold()
        if is_other and workshop.store.placements(each.id):
            return each
    return None


def take_over(workshop: Workshop, destination_id: str, newer_id: str) -> Renewed:
    """Go on with the bytes of another opened file, the newer version, and find every place again in it.

    One step that can be undone. Raises `NotFound`.
    """
    newer = workshop.store.find(DestinationRecord, newer_id)
    return _renew(workshop, destination_id, newer.blob, newer)


def take_over_from_disk(workshop: Workshop, destination_id: str) -> Renewed:
    """The same with the file as it lies on this computer now. Raises `NotFound`, `FileUnreachable`, `InputRefused`."""
    before = workshop.store.find(DestinationRecord, destination_id)
    data = _read(before)
    # Refused here, before anything is changed.
    open_document(data, before.name, workshop.guards_for(signed=before.unsigned))
    return _renew(workshop, destination_id, workshop.store.blobs.put(data), None)


def _renew(workshop: Workshop, destination_id: str, blob: str, replaces: DestinationRecord | None) -> Renewed:
    before = workshop.store.find(DestinationRecord, destination_id)
    after = replace(before, blob=blob, first_blob=before.first_blob or before.blob)
    old, new = document_of(workshop, before), document_of(workshop, after)
    if format_of(old).view is not format_of(new).view:
        raise NotFound(what="version of the same kind", key=before.name)
    kept: list[tuple[PlacementRecord, PlacementRecord]] = []
    already: list[PlacementRecord] = []
    lost: list[tuple[PlacementRecord, Lost]] = []
    was_written = workshop.store.setting(_written_key(before)) is not None
    there = _contents(new) if was_written else frozenset()
    for each in workshop.store.placements(destination_id):
        if was_written and _digest(rendition_bytes(workshop, standing(workshop, each))[0]) in there:
            already.append(each)
            continue
        spot = found_in(old, new, each.spot)
        if spot is None:
            name = workshop.store.find(ClippingRecord, each.clipping).name
            lost.append((each, Lost(name, old.spot(each.spot).after_text)))
        else:
            width = each.place_width_emu if each.place_width_emu in {w.emu for w in spot.widths} else spot.width.emu
            kept.append((each, replace(each, spot=spot.id, place_width_emu=width)))
    chosen = None if before.spot is None else found_in(old, new, before.spot)
    with workshop.store.change(f"Take over a newer version of {before.name}") as change:
        change.update(before, replace(after, spot=None if chosen is None else chosen.id))
        for was, becomes in kept:
            change.update(was, becomes)
        for record in (*already, *(record for record, _ in lost)):
            change.remove(record)
        if replaces is not None:
            change.remove(replaces)
    workshop.store.remember(CURRENT, before.id)
    return Renewed(len(kept), tuple(each for _, each in lost), len(already))


def _contents(document: Document) -> frozenset[str]:
    """What the members of a document hold, by their digests."""
    return frozenset(_digest(document.read(member)) for member in document.member_names)


def found_in(old: Document, new: Document, spot_id: str) -> Spot | None:
    """A spot of an older version found again in a newer one; None where it is lost."""
    if format_of(old).view is View.GRID:
        return find_cells_again(as_sheets(old).grids, as_sheets(new).grids, spot_id)
    before: Sequence[Spot] = list(old.spots())
    return find_again(before, list(new.spots()), spot_id)


# On this computer


_SEEN: Recent[str] = Recent(8)
"""Digests of files by path, time and size."""


def open_path(workshop: Workshop, path: Path) -> DestinationRecord:
    """Open a file of this computer, and remember where it lies. Raises `FileUnreachable`, `InputRefused`."""
    if "\0" in str(path):
        raise FileUnreachable(path=str(path).replace("\0", "�"), why="a path has no such sign in it")
    whole = path.expanduser().absolute()
    record = open_destination(workshop, _bytes_of(whole), whole.name)
    return workshop.store.set_aside(DestinationRecord, record.id, lambda now: replace(now, path=str(whole)))


def on_disk(workshop: Workshop, destination: DestinationRecord) -> OnDisk | None:
    """How the file stands to what was read; None for one whose place is not known."""
    if destination.path is None:
        return None
    path = Path(destination.path)
    try:
        # A file that nobody touched is not read again: it is looked at every few seconds.
        seen = path.stat()
        key = (destination.path, seen.st_mtime_ns, seen.st_size)
        digest = _SEEN.get(key, lambda: _digest(_bytes_of(path)))
    except (OSError, FileUnreachable):
        return OnDisk.GONE
    return OnDisk.SAME if digest in _ours(workshop, destination) else OnDisk.CHANGED


def write_back(workshop: Workshop, destination_id: str) -> int:
    """Write the copy over the file itself, whole or not at all, and only if it is still the version that was read.

    Returns its bytes. Raises `NotFound`, `FileUnreachable`, `ChangedOnDisk`.
    """
    destination = workshop.store.find(DestinationRecord, destination_id)
    if _digest(_read(destination)) not in _ours(workshop, destination):
        raise ChangedOnDisk(name=destination.name)
    data = write_copy(workshop, destination).written.data
    # What stood there is kept, whatever wrote it last.
    kept = workshop.store.blobs.put(_read(destination))
    workshop.store.remember(f"before writing back {destination.id} {kept[:12]}", kept)
    path = Path(str(destination.path))
    beside = path.with_name(f".{path.name}.part")
    try:
        beside.write_bytes(data)
        beside.chmod(path.stat().st_mode)
        if _digest(_read(destination)) not in _ours(workshop, destination):
            raise ChangedOnDisk(name=destination.name)
        beside.replace(path)
    except OSError as error:
        raise FileUnreachable(path=str(path), why=error.strerror or "it can't be written") from error
    finally:
        beside.unlink(missing_ok=True)
    workshop.store.remember(_written_key(destination), _digest(data))
    return len(data)


def _written_key(destination: DestinationRecord) -> str:
    return f"written back {destination.id}"


def _ours(workshop: Workshop, destination: DestinationRecord) -> tuple[str | None, ...]:
    """What may lie there without anybody else having changed it: what was read, or what was written back."""
    return destination.blob, workshop.store.setting(_written_key(destination))


def _read(destination: DestinationRecord) -> bytes:
    if destination.path is None:
        raise NotFound(what="file on this computer", key=destination.name)
    return _bytes_of(Path(destination.path))


def _bytes_of(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError as error:
        raise FileUnreachable(path=str(path), why=error.strerror or "it can't be read") from error


def _digest(data: bytes) -> str:
    """As the store names bytes."""
    return hashlib.sha256(data).hexdigest()
