"""What leaves is written down with its very bytes, so that they can be got again."""

from __future__ import annotations

from tijera.records import DestinationRecord, HandoverRecord
from tijera.usecases.destinations import CURRENT, open_destination
from tijera.usecases.workshop import Workshop


def note_left(
    workshop: Workshop,
    data: bytes,
    name: str,
    media_type: str,
    what: str,
    *,
    destination: str | None = None,
    clipping: str | None = None,
) -> HandoverRecord:
    """Keep the bytes, and note what they are of: a copy of a file, or a clipping."""
    record = HandoverRecord(
        id=workshop.new_id(),
        name=name,
        media_type=media_type,
        blob=workshop.store.blobs.put(data),
        bytes=len(data),
        what=what,
        made_at=workshop.now(),
        destination=destination,
        clipping=clipping,
    )
    workshop.store.add(record)
    return record


def look_at(workshop: Workshop, blob: str, name: str) -> DestinationRecord:
    """Open a file that left, as it left: looked at twice, it is opened once. What is worked on stays what it was.

    Raises `InputRefused` for what is no file to place into.
    """
    known = next((each for each in workshop.store.destinations() if each.blob == blob), None)
    if known is not None:
        return known
    worked_on = workshop.store.setting(CURRENT)
    # Ours, with a signature that was accepted to be lost where there was one.
    opened = open_destination(workshop, workshop.store.blobs.get(blob), name, signed=True)
    workshop.store.remember(CURRENT, worked_on or "")
    return opened
