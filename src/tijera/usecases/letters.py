"""New messages: written here, so that what they say can be changed while pictures stand in them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from email.utils import format_datetime

from tijera.core.errors import NotFound
from tijera.core.packages.formats.eml.compose import Letter, compose
from tijera.core.packages.places.finding_again import find_again
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.spots import Spot, Stand
from tijera.core.packages.registry import as_text, open_document
from tijera.records import ClippingRecord, DestinationRecord
from tijera.store.letters import letter_as_json, letter_from_json
from tijera.usecases.consent import leaving
from tijera.usecases.destinations import CURRENT, document_of
from tijera.usecases.limits import remembered_for_addresses
from tijera.usecases.mailing import Recipient, own_address
from tijera.usecases.standings import Standing
from tijera.usecases.workshop import Workshop

NAME = "New message.eml"
WINDOW = "{window}"
"""Stands in a subject for the title of the window that the first clipping shows."""


def new_message(workshop: Workshop, to: Recipient | None = None) -> DestinationRecord:
    """Begin a message, to somebody or to nobody yet, and make it the destination that is worked on."""
    opened_at = workshop.now()
    letter = Letter(
        sender=own_address(workshop),
        to=to.address if to else "",
        subject=to.subject if to else "",
        date=format_datetime(workshop.local_time(opened_at)),
        token=workshop.new_token(),
    )
    record = DestinationRecord(
        id=workshop.new_id(),
        name=NAME,
        blob=workshop.store.blobs.put(compose(letter)),
        limit_bytes=None if to is None else to.limit_bytes or remembered_for_addresses(workshop, to.address),
        spot="h.0",
        opened_at=opened_at,
        letter=letter_as_json(letter),
        worked_at=opened_at,
    )
    workshop.store.add(record)
    workshop.store.remember(CURRENT, record.id)
    return record


def letter_of(destination: DestinationRecord) -> Letter | None:
    """What a new message says; None for all that came from outside."""
    return None if destination.letter is None else letter_from_json(destination.letter)


def called(destination: DestinationRecord) -> str:
    """What a file is called where it is spoken of: a new message by its subject, else by whom it goes to."""
    letter = letter_of(destination)
    if letter is None:
        return destination.name
    subject = without_window(letter.subject)
    return subject or (f"Message to {letter.to.strip()}" if letter.to.strip() else destination.name)


def without_window(subject: str) -> str:
    """A subject that waits for no window's title any more."""
    return subject.replace(WINDOW, "").strip(" :,-") if WINDOW in subject else subject.strip()


def write_letter(workshop: Workshop, destination_id: str, letter: Letter) -> DestinationRecord:
    """Change what a new message says; pictures stay behind the paragraphs that they follow. Raises `NotFound`."""
    before = workshop.store.find(DestinationRecord, destination_id)
    own = letter_of(before)
    if own is None:
        raise NotFound(what="new message", key=before.name)
    dated = replace(letter, date=own.date, token=own.token)
    data = compose(dated)
    after = replace(before, blob=workshop.store.blobs.put(data), letter=letter_as_json(dated))
    if after == before:
        return before
    if before.limit_bytes is None and (letter.to, letter.cc) != (own.to, own.cc):
        after = replace(after, limit_bytes=remembered_for_addresses(workshop, letter.to, letter.cc))
    old = list(as_text(document_of(workshop, before)).outline.spots.values())
    new = list(as_text(open_document(data, before.name)).outline.spots.values())
    after = replace(after, spot=None if before.spot is None else _waiting(old, new, before.spot).id)
    with workshop.store.change("Write the message") as change:
        after = change.update(before, after)
        for placed in workshop.store.placements(destination_id):
            spot = _nearest(old, new, placed.spot)
            if spot.id != placed.spot:
                change.update(placed, replace(placed, spot=spot.id))
    return after


def with_subject_of(workshop: Workshop, destination: DestinationRecord, clipping: ClippingRecord) -> DestinationRecord:
    """A new message whose subject waits for a window's title gets the clipping's; all else as it is."""
    letter = letter_of(destination)
    if letter is None or WINDOW not in letter.subject:
        return destination
    title = leaving(workshop, clipping, clipping.window or clipping.name)
    named = replace(letter, subject=letter.subject.replace(WINDOW, title))
    return replace(destination, blob=workshop.store.blobs.put(compose(named)), letter=letter_as_json(named))


def _waiting(old: Sequence[Spot], new: Sequence[Spot], wanted: str) -> Spot:
    """The place that waits for the next picture: behind the last paragraph it stays there, whatever is written on."""
    ends = _in_body(old)[-1], _in_body(new)[-1]
    return ends[1] if wanted == ends[0].id else _nearest(old, new, wanted)


def _in_body(spots: Sequence[Spot]) -> list[Spot]:
    return [spot for spot in spots if Stand.IN_BODY in spot.stands]


def _nearest(old: Sequence[Spot], new: Sequence[Spot], wanted: str) -> Spot:
    """The place found again, else the one as far down as it was: nothing is lost by writing."""
    found = find_again(old, new, wanted)
    if found is not None:
        return found
    at = next((number for number, spot in enumerate(old) if spot.id == wanted), 0)
    in_body = _in_body(new)
    return in_body[min(at, len(in_body) - 1)]


def document_to_write(workshop: Workshop, destination: DestinationRecord, placed: Sequence[Standing]) -> Document:
    """The document that pictures are written into; a new message's plain text says which ones its HTML shows."""
    letter = letter_of(destination)
    if letter is None:
        return document_of(workshop, destination)
    shown: dict[int, list[str]] = {}
    for each in placed:
        stand = each.record.layout.stand or each.spot.stands[0]
        if stand in (Stand.IN_BODY, Stand.BOTH) and each.spot.id.startswith("h."):
            shown.setdefault(int(each.spot.id.removeprefix("h.")), []).append(each.described or each.called)
    return open_document(compose(letter, shown), destination.name, workshop.guards)
