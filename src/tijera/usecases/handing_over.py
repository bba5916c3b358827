"""What leaves is written down with its very bytes, so that they can be got again."""

from __future__ import annotations

from tijera.records import HandoverRecord
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
