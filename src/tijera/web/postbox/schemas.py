"""What goes over the wire about the postbox."""

from __future__ import annotations

from typing import Literal

from tijera.web.base import Wire

ConductName = Literal["usual", "slow", "away", "refusing", "busy", "breaking-off", "silent"]


class ConductWire(Wire):
    """How the postbox behaves."""

    conduct: ConductName


class HangingOut(Wire):
    """A file that hangs on a message that arrived."""

    name: str
    media_type: str
    bytes: int


class ArrivedOut(Wire):
    """A message as it arrived; its bytes are at `/postbox/{mailbox}/{number}/file`."""

    number: int
    at: str
    sender: str
    subject: str
    bytes: int
    message_id: str
    copy_of: int | None
    """The message that came before it under the same Message-ID."""
    order: int | None
    """The work order that it opened."""
    has_page: bool
    pictures_shown: int
    plain: str
    attached: list[HangingOut]
    """Where pictures show."""
    attached_plain: list[HangingOut]
    """Where they don't."""


class MailboxOut(Wire):
    """A mailbox, what it takes, and what lies in it, the newest first."""

    name: str
    words: str
    address: str
    limit_bytes: int
    arrived: list[ArrivedOut]


class PostboxOut(Wire):
    """All mailboxes."""

    conduct: ConductName
    mailboxes: list[MailboxOut]
