"""Sending a message: checked by the server itself, queued, tried until it is decided; never lost and never doubled unsaid.

What is queued is written down before anything is tried. Right before the message leaves, that too is written down: who is
found so after a start broke off there, and nobody knows whether it arrived. It is tried again under the same Message-ID, by
which who gets it twice knows that it is the same.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta
from email.utils import format_datetime
from functools import partial

from tijera.core.errors import (
    NoAddress,
    NotAMessage,
    NotTaken,
    NotWaiting,
    RecipientNotTaken,
    SenderNotTaken,
    TakenTooHeavy,
)
from tijera.core.mail.addresses import one_address, read_addresses
from tijera.core.mail.leaving import as_draft, message_id_of
from tijera.core.mail.post import MOST_AT_ONCE, Delivery, Envelope, Kind, Post
from tijera.core.mail.queueing import MOST_TRIES_KEPT, State, is_due, pause_s, state_after
from tijera.core.naming import file_name, file_stem
from tijera.core.packages.formats.eml.compose import Letter
from tijera.core.packages.formats.eml.document import MEDIA_TYPE as MESSAGE_TYPE
from tijera.core.units import format_bytes
from tijera.records import DestinationRecord, DispatchRecord, HandoverRecord, Try
from tijera.store.letters import letter_as_json
from tijera.usecases.handing_over import note_left
from tijera.usecases.letters import letter_of, without_window
from tijera.usecases.mailing import remember_addresses, remember_own_address
from tijera.usecases.placing import write_copy
from tijera.usecases.workshop import Workshop

_WORDS = {
    State.GOING: "leaving at this moment",
    State.SENT: "sent",
    State.REFUSED: "refused",
    State.WITHDRAWN: "withdrawn",
}
_ASKED_LATER = (Kind.AWAY, Kind.LATER)


def send(workshop: Workshop, post: Post, destination_id: str) -> DispatchRecord:
    """Write the message, have the server check it, and queue it; the very bytes are kept.

    Where the server is away it is queued all the same. Raises `NotAMessage`, `NoAddress`, `AddressUnreadable`,
    `TooManyAddresses`, and `NotTaken` where the server says no to all of it: then nothing is queued.
    """
    destination = workshop.store.find(DestinationRecord, destination_id)
    letter = _letter(destination)
    sender = one_address(letter.sender)
    recipients = read_addresses(letter.to, letter.cc)
    if not recipients:
        raise NoAddress(what="somebody to go to")
    made_at = workshop.now()
    subject = without_window(letter.subject)
    leaving = replace(
        letter, subject=subject, date=format_datetime(workshop.local_time(made_at)), token=workshop.new_token()
    )
    data = write_copy(workshop, replace(destination, letter=letter_as_json(leaving))).written.data
    record = DispatchRecord(
        id=workshop.new_id(),
        destination=destination_id,
        name=subject or "No subject",
        sender=sender.address,
        recipients=tuple(each.address for each in recipients),
        blob=workshop.store.blobs.put(data),
        bytes=len(data),
        message_id=message_id_of(leaving.token, sender.address),
        made_at=made_at,
        next_at=made_at,
        needs_utf8=sender.needs_utf8 or any(each.needs_utf8 for each in recipients),
    )
    asked = post.ask(_envelope(record, record.recipients[:MOST_AT_ONCE]))
    _refuse(record, asked)
    workshop.store.add(record)
    remember_addresses(workshop, letter.to, letter.cc)
    remember_own_address(workshop, letter.sender)
    return record


def _letter(destination: DestinationRecord) -> Letter:
    letter = letter_of(destination)
    if letter is None:
        raise NotAMessage(name=destination.name)
    return letter


def _refuse(record: DispatchRecord, asked: Delivery) -> None:
    """Raise what the server says no to, as long as nothing has left."""
    if asked.kind in _ASKED_LATER:
        return
    heavy = [reply for _, reply in asked.refused if reply.code == 552] or [asked.reply]
    if asked.is_too_heavy:
        raise TakenTooHeavy(bytes=format_bytes(record.bytes), words=str(heavy[0]), takes_bytes=asked.takes_bytes)
    if asked.refused:
        # One address that is wrong is better corrected than left out.
        address, reply = asked.refused[0]
        raise RecipientNotTaken(address=address, words=str(reply))
    if asked.kind is Kind.REFUSED:
        if asked.reply.code:
            raise SenderNotTaken(sender=record.sender, words=str(asked.reply))
        raise NotTaken(words=str(asked.reply))


def _envelope(record: DispatchRecord, recipients: tuple[str, ...]) -> Envelope:
    return Envelope(record.sender, recipients, record.bytes, record.needs_utf8)


def recover(workshop: Workshop) -> list[DispatchRecord]:
    """What was leaving when the application ended, or when nothing could be noted any more, is unclear, and says so."""
    return [
        workshop.store.set_aside(
            DispatchRecord,
            record.id,
            lambda before: replace(
                _tried(
                    before,
                    workshop.now(),
                    Kind.UNCLEAR,
                    "Tijera ended, or could note nothing, while the message was leaving.",
                ),
                state=State.UNCLEAR.value,
                next_at=_later(workshop, pause_s(before.tried + 1)),
            ),
        )
        for record in workshop.store.open_dispatches(State.GOING.value)
    ]


def due(workshop: Workshop) -> list[DispatchRecord]:
    """The messages whose time has come, the first first."""
    now = _seconds(workshop.now())
    waiting = workshop.store.open_dispatches(State.WAITING.value, State.UNCLEAR.value)
    return [each for each in waiting if each.next_at is None or is_due(_seconds(each.next_at), now)]


def seconds_to_next(workshop: Workshop) -> float | None:
    """How long until the next one is due; None where none waits."""
    now = _seconds(workshop.now())
    waiting = workshop.store.open_dispatches(State.WAITING.value, State.UNCLEAR.value)
    return min((max(0.0, _seconds(each.next_at or "") - now) for each in waiting if each.next_at), default=None)


def attempt(workshop: Workshop, post: Post, dispatch_id: str) -> DispatchRecord:
    """Try to send one message now, to those of whom nothing is decided yet. Raises `NotFound`, `NotWaiting`."""
    record = _still_open(workshop.store.find(DispatchRecord, dispatch_id))
    data = workshop.store.blobs.get(record.blob)

    def going() -> None:
        workshop.store.set_aside(
            DispatchRecord, dispatch_id, lambda before: replace(_still_open(before), state=State.GOING.value)
        )

    while True:
        batch = record.left[:MOST_AT_ONCE]
        delivery = post.deliver(_envelope(record, batch), data, going)
        note = partial(_after, workshop, batch=batch, delivery=delivery)
        record = workshop.store.set_aside(DispatchRecord, dispatch_id, note)
        if delivery.kind is not Kind.TAKEN or delivery.later or not record.left:
            break
    if record.state == State.SENT.value and workshop.store.find_or_none(HandoverRecord, record.id) is None:
        workshop.store.add(_handover(record, workshop.now(), f"message to {', '.join(record.reached)}"))
    return record


def _still_open(record: DispatchRecord) -> DispatchRecord:
    state = State(record.state)
    if not state.is_open and state is not State.GOING:
        raise NotWaiting(state=_WORDS[state])
    return record


def _after(workshop: Workshop, before: DispatchRecord, batch: tuple[str, ...], delivery: Delivery) -> DispatchRecord:
    """The record after one transaction."""
    if before.state == State.WITHDRAWN.value:
        # Withdrawn between two looks, and nothing had left.
        return before
    now = workshop.now()
    reached, refused = before.reached, before.refused
    if delivery.kind is Kind.TAKEN:
        missed = {address for address, _ in (*delivery.refused, *delivery.later)}
        reached = (*reached, *(each for each in batch if each not in missed))
    if delivery.kind in (Kind.TAKEN, Kind.REFUSED):
        refused = (*refused, *((address, str(reply)) for address, reply in delivery.refused))
    words = "; ".join(
        [str(delivery.reply), *(f"{who}: {reply}" for who, reply in (*delivery.refused, *delivery.later))]
    )
    after = replace(_tried(before, now, delivery.kind, words), reached=reached, refused=refused)
    age = _seconds(now) - _seconds(before.made_at)
    state = state_after(delivery, len(after.left), len(after.reached), age)
    pause = pause_s(after.tried)
    return replace(after, state=state.value, next_at=_later(workshop, pause) if state.is_open else None)


def _tried(before: DispatchRecord, at: str, kind: Kind, words: str) -> DispatchRecord:
    tries = (*before.tries, Try(at, kind.value, words))[-MOST_TRIES_KEPT:]
    return replace(before, tries=tries, tried=before.tried + 1)


def try_now(workshop: Workshop, dispatch_id: str) -> DispatchRecord:
    """Have a message that waits tried at once. Raises `NotFound`, `NotWaiting`."""

    def at_once(before: DispatchRecord) -> DispatchRecord:
        if not State(before.state).is_open:
            raise NotWaiting(state=_WORDS[State(before.state)])
        return replace(before, next_at=workshop.now())

    return workshop.store.set_aside(DispatchRecord, dispatch_id, at_once)


def withdraw(workshop: Workshop, dispatch_id: str) -> DispatchRecord:
    """Have a message that waits not sent any more. Raises `NotFound`, `NotWaiting`."""

    def withdrawn(before: DispatchRecord) -> DispatchRecord:
        if not State(before.state).is_open:
            raise NotWaiting(state=_WORDS[State(before.state)])
        return replace(before, state=State.WITHDRAWN.value, next_at=None)

    return workshop.store.set_aside(DispatchRecord, dispatch_id, withdrawn)


def draft(workshop: Workshop, destination_id: str) -> HandoverRecord:
    """The message as a file that a mail program opens for writing. Raises `NotAMessage`."""
    destination = workshop.store.find(DestinationRecord, destination_id)
    letter = _letter(destination)
    # Who sends it gives it an identity of its own.
    unsent = replace(destination, letter=letter_as_json(replace(letter, token="")))
    data = as_draft(write_copy(workshop, unsent).written.data)
    name = file_name(f"{file_stem(letter.subject.strip() or 'New message')}.eml", "eml")
    return note_left(workshop, data, name, MESSAGE_TYPE, "draft for a mail program", destination=destination_id)


def _handover(record: DispatchRecord, at: str, what: str) -> HandoverRecord:
    name = file_name(f"{file_stem(record.name)}.eml", "eml")
    return HandoverRecord(record.id, name, MESSAGE_TYPE, record.blob, record.bytes, what, at, record.destination)


def dispatches(workshop: Workshop, first: int, most: int) -> list[DispatchRecord]:
    """A page of the messages that were sent or wait, the last first."""
    return workshop.store.dispatches(first, most)


def dispatch(workshop: Workshop, dispatch_id: str) -> DispatchRecord:
    """One of them. Raises `NotFound`."""
    return workshop.store.find(DispatchRecord, dispatch_id)


def _later(workshop: Workshop, seconds: int) -> str:
    return (datetime.fromisoformat(workshop.now()) + timedelta(seconds=seconds)).isoformat(timespec="microseconds")


def _seconds(moment: str) -> float:
    return datetime.fromisoformat(moment).timestamp() if moment else 0.0
