"""What takes messages along: a mail server, or the stand-in for one. It is asked first, then given the message.

RFC 5321; SIZE by RFC 1870.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from enum import Enum
from typing import Protocol

MOST_AT_ONCE = 100
"""Recipients of one transaction: as many as every server takes (RFC 5321 §4.5.3.1.8)."""


@dataclass(frozen=True)
class MailServer:
    """Where mail is given in. `security` is "none", "starttls" (RFC 3207) or "tls" (RFC 8314)."""

    host: str
    port: int
    security: str = "starttls"
    user: str = ""
    password: str = field(default="", repr=False)


@dataclass(frozen=True)
class Reply:
    """What a server said: three digits and its own words; 0 where it said nothing."""

    code: int
    words: str

    @property
    def is_yes(self) -> bool:
        """Whether it takes it (RFC 5321 §4.2.1)."""
        return 200 <= self.code < 400

    @property
    def is_no(self) -> bool:
        """Whether trying again is of no use."""
        return 500 <= self.code < 600

    def __str__(self) -> str:
        return f"{self.code} {self.words}".strip() if self.code else self.words


class Kind(Enum):
    """How it went."""

    TAKEN = "taken"
    LATER = "later"
    """It said: not now. It may be tried again."""
    REFUSED = "refused"
    AWAY = "away"
    """No server, or one that broke off before it had the message: it certainly has not arrived."""
    UNCLEAR = "unclear"
    """The message was given, and no reply came: it may have arrived."""


@dataclass(frozen=True)
class Envelope:
    """From whom, to whom, how heavy."""

    sender: str
    recipients: tuple[str, ...]
    bytes: int
    needs_utf8: bool = False


@dataclass(frozen=True)
class Delivery:
    """How one try went. `refused` and `later` are recipients that were not taken while others were."""

    kind: Kind
    reply: Reply
    refused: tuple[tuple[str, Reply], ...] = ()
    later: tuple[tuple[str, Reply], ...] = ()
    takes_bytes: int | None = None
    """What the server says that it takes at most; None where it says nothing."""
    is_too_heavy: bool = False
    """Whether it was refused for its weight."""


class Post(Protocol):
    """A way to a mail server."""

    def ask(self, envelope: Envelope) -> Delivery:
        """What it would say, without the message: sender, recipients and weight are checked by the server itself."""
        ...

    def deliver(self, envelope: Envelope, message: bytes, going: Callable[[], None]) -> Delivery:
        """Give it the message; `going` is called right before it leaves. Never raises for what a server does."""
        ...
