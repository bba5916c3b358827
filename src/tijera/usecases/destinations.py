"""Destinations: opening a file or message, choosing the place for the next clipping."""

from __future__ import annotations

from dataclasses import replace

from tijera.core.naming import file_name
from tijera.core.packages.places.format import Document
from tijera.records import DestinationRecord
from tijera.usecases.limits import remembered_for_name
from tijera.usecases.workshop import Workshop

CURRENT = "current destination"


def open_destination(
    workshop: Workshop, data: bytes, name: str, limit_bytes: int | None = None, *, signed: bool = False
) -> DestinationRecord:
    """Take a document in, keep its bytes as they came and make it the one worked on.

    It has the limit that a file of its name had the last time, else `limit_bytes`. `signed` says that the user accepts the
    loss of its signature. Raises `InputRefused`.
    """
    blob, document = workshop.take_in(data, name, signed=signed)
    kept_name = file_name(name, document.ending)
    remembered = remembered_for_name(workshop, kept_name)
    record = DestinationRecord(
        id=workshop.new_id(),
        name=kept_name,
        blob=blob,
        limit_bytes=limit_bytes if remembered is None else remembered,
        spot=None,
        opened_at=(now := workshop.now()),
        unsigned=signed,
        worked_at=now,
    )
    workshop.store.add(record)
    workshop.store.remember(CURRENT, record.id)
    return record


def current(workshop: Workshop) -> DestinationRecord | None:
    """The destination that is worked on."""
    remembered = workshop.store.setting(CURRENT)
    return None if remembered is None else workshop.store.find_or_none(DestinationRecord, remembered)


def shown(workshop: Workshop, destination_id: str | None) -> DestinationRecord | None:
    """The file that a window shows: the one that it names, none for an empty name or one that is gone.

    A window that names nothing shows the file that was worked on last.
    """
    if destination_id is None:
        return current(workshop)
    return workshop.store.find_or_none(DestinationRecord, destination_id)


def switch_to(workshop: Workshop, destination_id: str | None) -> None:
    """Work on another opened destination, or on none; what was placed stays. Raises `NotFound`."""
    if destination_id is not None:
        workshop.store.find(DestinationRecord, destination_id)
    workshop.store.remember(CURRENT, destination_id or "")


def document_of(workshop: Workshop, destination: DestinationRecord) -> Document:
    """The opened document of a destination."""
    return workshop.document(destination.blob, destination.name, signed=destination.unsigned)


def choose_spot(workshop: Workshop, destination_id: str, spot_id: str | None) -> DestinationRecord:
    """Choose the place that the next clipping goes to. Raises `NotFound`, `SpotUnknown`."""
    destination = workshop.store.find(DestinationRecord, destination_id)
    if spot_id is not None:
        document_of(workshop, destination).spot(spot_id)
    return workshop.store.set_aside(DestinationRecord, destination_id, lambda now: replace(now, spot=spot_id))
