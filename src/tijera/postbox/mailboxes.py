"""The mailboxes of the harbour office, what each takes, and what arrived in them; kept as files below one folder."""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from tijera.postbox.seen import Seen, look_at

HOST = "quillhaven.example"
_ORDERS_FROM = 4_417
"""Work orders are numbered from here on, in the demo's scenario."""


@dataclass(frozen=True)
class Mailbox:
    """One address and what it takes."""

    name: str
    words: str
    limit_bytes: int
    opens_orders: bool = False

    @property
    def address(self) -> str:
        """Where it is written to."""
        return f"{self.name}@{HOST}"


MAILBOXES = (
    Mailbox("help-desk", "Help desk", 2_000_000),
    Mailbox("work-orders", "Work orders", 2_000_000, opens_orders=True),
    Mailbox("harbour-office", "Harbour office", 10_000_000),
    Mailbox("pilot-station", "Pilot station, strict", 500_000),
)
LARGEST_BYTES = max(each.limit_bytes for each in MAILBOXES)


@dataclass(frozen=True)
class Arrived:
    """A message as it arrived: its number in the mailbox, when, and what a reader sees of it."""

    mailbox: str
    number: int
    at: str
    data: bytes
    seen: Seen
    copy_of: int | None
    """The message of the same Message-ID that came before it."""
    order: int | None
    """The work order that it opened."""


class Mailboxes:
    """What arrived, by mailbox; several threads may look and one may put in."""

    def __init__(self, folder: Path, now: Callable[[], str]) -> None:
        self._folder = folder
        self._now = now
        self._lock = threading.Lock()
        self._arrived: dict[str, list[Arrived]] = {each.name: [] for each in MAILBOXES}
        for each in MAILBOXES:
            for path in sorted((folder / each.name).glob("*.eml")):
                self._note(each, path.read_bytes(), path.stem.partition(" ")[2].replace("_", ":"))

    def of(self, address: str) -> Mailbox | None:
        """The mailbox of an address; None where there is none."""
        return next((each for each in MAILBOXES if each.address == address.lower()), None)

    def put(self, address: str, data: bytes) -> Arrived | None:
        """Put a message into the mailbox of an address and return it; None where there is none."""
        mailbox = self.of(address)
        if mailbox is None:
            return None
        with self._lock:
            arrived = self._note(mailbox, data, self._now())
            path = self._folder / mailbox.name / f"{arrived.number:05} {arrived.at.replace(':', '_')}.eml"
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_bytes(data)
        return arrived

    def arrived(self, name: str) -> list[Arrived]:
        """What lies in a mailbox, the newest first."""
        with self._lock:
            return list(reversed(self._arrived.get(name, [])))

    def message(self, name: str, number: int) -> Arrived | None:
        """A message of a mailbox by its number."""
        with self._lock:
            return next((each for each in self._arrived.get(name, []) if each.number == number), None)

    def _note(self, mailbox: Mailbox, data: bytes, at: str) -> Arrived:
        before = self._arrived[mailbox.name]
        seen = look_at(data)
        same = next(
            (each.number for each in before if seen.message_id and each.seen.message_id == seen.message_id), None
        )
        # A message that comes twice opens no second order.
        opened = sum(1 for each in before if each.order is not None)
        order = _ORDERS_FROM + opened if mailbox.opens_orders and same is None else None
        arrived = Arrived(mailbox.name, len(before) + 1, at, data, seen, same, order)
        before.append(arrived)
        return arrived
