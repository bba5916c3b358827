"""The last that is done to a message before it leaves: what tells it from all others, or that it is a draft."""

from __future__ import annotations

_NEWLINE = b"\r\n"


def message_id_of(token: str, sender: str) -> str:
    """A Message-ID by the sender's host (RFC 5322 §3.6.4), by which who gets it twice knows that it is the same."""
    return f"<{token}@{sender.rpartition('@')[2] or 'localhost'}>"


def as_draft(message: bytes) -> bytes:
    """The message marked as one that was not sent yet: mail programs open it for writing (common practice)."""
    return b"X-Unsent: 1" + _NEWLINE + message
