"""What goes over the wire of rounds."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from tijera.web.base import Wire


class RoundIn(Wire):
    """When a clipping's area is taken: every so many minutes, or at times of the clock on the wall."""

    name: Annotated[str, Field(max_length=120)] = ""
    every_min: Annotated[int, Field(ge=1, le=10_080)] | None = None
    at: Annotated[str, Field(max_length=400)] = ""
    """Times as people write them."""
    until: datetime
    """What the wall shows at the end, without a zone."""
    only_changed: bool = False


class GapOut(Wire):
    """Times, one after the other, at which nothing could be taken."""

    first: str
    last: str
    count: int
    why: str


class RoundOut(Wire):
    """An area that is taken at set times."""

    id: str
    name: str
    model: str
    every_min: int | None
    at: list[str]
    begun_at: str
    until: str
    only_changed: bool
    next_at: str | None
    state: Literal["going", "stopped", "ended"]
    taken: int
    same: int
    gaps: list[GapOut]
