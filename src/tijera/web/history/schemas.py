"""What goes over the wire of what was done before."""

from __future__ import annotations

from typing import Literal

from tijera.web.base import Wire
from tijera.web.place.schemas import SpotOut


class HappeningOut(Wire):
    """Something that happened."""

    at: str
    kind: Literal["taken", "changed", "left", "waiting", "going", "unclear", "refused", "withdrawn", "rounds"]
    words: str
    """The name of what it happened to, or what was done."""
    detail: str
    """As what it left, or to whom."""
    clipping: str | None
    destination: str | None
    handover: str | None
    """What left; its very bytes are at `/handovers/{id}/file`."""
    bytes: int | None


class ShownClippingOut(Wire):
    """A clipping that stands in a file."""

    id: str
    name: str
    version: str


class WorkOut(Wire):
    """A file that was worked on, as it was left."""

    id: str
    name: str
    ending: str
    recipients: str
    """Whom a message goes to; empty for all else."""
    limit_bytes: int | None
    worked_at: str
    clippings: list[ShownClippingOut]
    last: HappeningOut | None
    """What left of it last, or waits to."""


class StandsOut(Wire):
    """A place in which a clipping stands now."""

    destination: str
    name: str
    placement: str
    spot: SpotOut
