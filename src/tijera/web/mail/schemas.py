"""What goes over the wire when a message is sent."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tijera.web.base import Wire

Security = Literal["none", "starttls", "tls"]
DispatchState = Literal["waiting", "going", "unclear", "sent", "refused", "withdrawn"]


class MailServerIn(Wire):
    """A mail server to give mail in at."""

    host: Annotated[str, Field(min_length=1, max_length=253)]
    port: Annotated[int, Field(ge=1, le=65_535)]
    security: Security
    user: Annotated[str, Field(max_length=200)] = ""
    password: Annotated[str, Field(max_length=1_000)] = ""
    """Left empty, it stays as it was for the same user there."""


class MailOut(Wire):
    """Which server takes the mail now. `host` is null where none does."""

    host: str | None
    port: int | None
    security: Security | None
    user: str
    has_password: bool
    is_own: bool
    """Whether the user has set it up."""
    has_postbox: bool
    """Whether the stand-in is there, whose mailboxes can be looked into."""


class RecipientIn(Wire):
    """Somebody who is written to often."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    address: Annotated[str, Field(min_length=3, max_length=400)]
    subject: Annotated[str, Field(max_length=200)] = ""
    """What the subject begins with; {window} stands for the title of the window that the first clipping shows."""
    limit: Annotated[str, Field(max_length=40)] | None = None
    """What they take, as people write it; null where that is not known."""


class RecipientOut(Wire):
    """Somebody who is written to often."""

    name: str
    address: str
    subject: str
    limit_bytes: int | None


class RecipientsOut(Wire):
    """Those that are saved, and addresses that messages went to, the last used first."""

    saved: list[RecipientOut]
    used: list[str]


class TryOut(Wire):
    """One try to send, with the server's own words."""

    at: str
    kind: Literal["taken", "later", "refused", "away", "unclear"]
    words: str


class DispatchOut(Wire):
    """A message on its way, or gone; the very bytes are at `/dispatches/{id}/file`."""

    id: str
    destination: str
    """The message that it was made of."""
    name: str
    recipients: list[str]
    reached: list[str]
    refused: list[list[str]]
    """Addresses that were not taken, each with the server's words."""
    bytes: int
    message_id: str
    made_at: str
    state: DispatchState
    tries: list[TryOut]
    tried: int
    next_at: str | None
    """When it is tried again."""
