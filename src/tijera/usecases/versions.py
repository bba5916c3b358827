"""Newer versions of a file: places found again, those lost named; and writing back to the file itself, when asked.

Nothing is overwritten by itself: the bytes that were opened first are kept, and so is every version in between.
"""

from __future__ import annotations

import hashlib
import os
import stat
from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from pathlib import Path

from tijera.core.errors import ChangedOnDisk, FileUnreachable, InputTooHeavy, NotADocument, NotFound
from tijera.core.packages.places.finding_again import find_again, find_cells_again
from tijera.core.packages.places.format import Document, View
from tijera.core.packages.places.spots import Spot
from tijera.core.packages.registry import as_sheets, format_of, open_document
from tijera.records import ClippingRecord, DestinationRecord, PlacementRecord
from tijera.usecases.destinations import CURRENT, document_of, open_destination
from tijera.usecases.placing import rendition_bytes, write_copy
from tijera.usecases.recent import Recent
from tijera.usecases.standings import standing
from tijera.usecases.whole import write_whole
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
    data = _read(workshop, before)
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


_PACKAGES = (b"PK", b"\xd0\xcf\x11\xe0")
"""As ZIP packages (APPNOTE.TXT 4.3.7) and compound files ([MS-CFB] 2.2) begin; of the latter it is said what they are."""
_SEEN: Recent[str] = Recent(8)
"""Digests of files by path, time and size."""


def open_path(workshop: Workshop, path: Path) -> DestinationRecord:
    """Open a file of this computer, and remember where it lies. Raises `FileUnreachable`, `InputRefused`."""
    if "\0" in str(path):
        raise FileUnreachable(path=str(path).replace("\0", "�"), why="a path has no such sign in it")
    # Where it really lies: what is written back is written there, and the user is told.
    whole = Path(os.path.realpath(path.expanduser().absolute()))
    data = _bytes_of(whole, workshop.guards.file_bytes)
    # Any text with a colon in its first line begins like a message; a message that lies on a disk has its ending.
    if data and not data.startswith(_PACKAGES) and whole.suffix.lower() != ".eml":
        raise NotADocument(why="it is no package, and its name does not end in .eml as a message's does")
    record = open_destination(workshop, data, whole.name)
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
        digest = _SEEN.get(key, lambda: _digest(_bytes_of(path, workshop.guards.file_bytes)))
    except InputTooHeavy:
        return OnDisk.CHANGED
    except (OSError, FileUnreachable):
        return OnDisk.GONE
    return OnDisk.SAME if digest in _ours(workshop, destination) else OnDisk.CHANGED


def write_back(workshop: Workshop, destination_id: str) -> int:
    """Write the copy over the file itself, whole or not at all, and only if it is still the version that was read.

    Returns its bytes. Raises `NotFound`, `FileUnreachable`, `ChangedOnDisk`.
    """
    destination = workshop.store.find(DestinationRecord, destination_id)
    if _digest(_read(workshop, destination)) not in _ours(workshop, destination):
        raise ChangedOnDisk(name=destination.name)
    data = write_copy(workshop, destination).written.data
    # What stood there is kept, whatever wrote it last.
    stood = _read(workshop, destination)
    kept = workshop.store.blobs.put(stood)
    workshop.store.remember(f"before writing back {destination.id} {kept[:12]}", kept)
    path = Path(str(destination.path))

    def is_still_ours() -> None:
        if _digest(_read(workshop, destination)) not in _ours(workshop, destination):
            raise ChangedOnDisk(name=destination.name)

    try:
        write_whole(path, data, is_still_ours)
    except OSError as error:
        raise FileUnreachable(path=str(path), why=error.strerror or "it can't be written") from error
    workshop.store.remember(_written_key(destination), _digest(data))
    return len(data)


def _written_key(destination: DestinationRecord) -> str:
    return f"written back {destination.id}"


def _ours(workshop: Workshop, destination: DestinationRecord) -> tuple[str | None, ...]:
    """What may lie there without anybody else having changed it: what was read, or what was written back."""
    return destination.blob, workshop.store.setting(_written_key(destination))


def _read(workshop: Workshop, destination: DestinationRecord) -> bytes:
    if destination.path is None:
        raise NotFound(what="file on this computer", key=destination.name)
    return _bytes_of(Path(destination.path), workshop.guards.file_bytes)


def _bytes_of(path: Path, most_bytes: int) -> bytes:
    """What lies there. Only of a regular file: a pipe would be waited for, a device has no end. Its size is asked first."""
    try:
        # Opened without waiting, and looked at once it is open: nobody can put another thing in its place in between.
        with open(path, "rb", opener=_without_waiting) as file:
            found = os.fstat(file.fileno())
            if not stat.S_ISREG(found.st_mode):
                raise FileUnreachable(path=str(path), why="it is not a file but a folder, a pipe or a device")
            if found.st_size > most_bytes:
                raise InputTooHeavy(name=path.name, most_bytes=most_bytes)
            data = file.read(most_bytes + 1)
    except OSError as error:
        raise FileUnreachable(path=str(path), why=error.strerror or "it can't be read") from error
    if len(data) > most_bytes:
        raise InputTooHeavy(name=path.name, most_bytes=most_bytes)
    return data


def _without_waiting(path: str, flags: int) -> int:
    return os.open(path, flags | getattr(os, "O_NONBLOCK", 0))


def _digest(data: bytes) -> str:
    """As the store names bytes."""
    return hashlib.sha256(data).hexdigest()
