"""What goes over the wire about the rack: clippings and slips."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tijera.web.base import Id, RectWire, SizeOut, Wire
from tijera.web.take.schemas import PointIn


class ClippingOut(Wire):
    """A clipping on the rack. `version` changes whenever its picture does."""

    id: str
    frame: str
    name: str
    kind: str
    window: str | None
    area: RectWire
    crop: RectWire
    scale_factor: float
    taken_at: str
    version: str
    places: int
    has_pointer: bool
    pointer: PointIn | None
    """The pointer's tip in the area's pixels; null while hidden."""
    pointer_hot: PointIn | None
    """Where the tip lies on the pointer's own picture."""
    base: SizeOut
    """Width and height of its whole area as it is turned: what the mat shows and the crop lies on."""
    outer: SizeOut
    """Pixels of the finished picture at natural size."""
    is_turned: bool
    held_back: str | None
    """Words from the window's title that stay here until they are allowed to leave."""


class FoundOut(Wire):
    """Where the words that are looked for stand on a picture of that size."""

    width: int
    height: int
    boxes: list[RectWire]


class SlipOut(Wire):
    """What the rack shows of a clipping."""

    id: str
    name: str
    window: str | None
    taken_at: str
    kind: str
    width: int
    height: int
    version: str
    places: int
    rank: int
    """The order in which clippings came, the newest highest."""
    pinned: bool
    """Whether it stays on top of the rack, and is never cleared out."""
    round: str | None
    """The rounds by which it was taken."""
    shown: FoundOut | None = None
    """Where words that were looked for stand on it; null where none does."""


class RackOut(Wire):
    """A page of the rack or of what was found on it, the newest first, from the `first` one on."""

    slips: list[SlipOut]
    first: int
    found: int
    """How many there are, on all pages."""
    count: int
    """How many hang on the rack in all."""
    reads_words: bool
    """Whether words on pictures are read and searched: whether this computer has a recogniser."""
    unread: int
    """How many pictures have yet to be read."""


class PointerIn(Wire):
    """Show or hide the pointer; `at` moves its tip to a pixel of the clipping's area."""

    shown: bool
    at: PointIn | None = None


class RemoveIn(Wire):
    """Clippings to take off the rack at once."""

    clippings: Annotated[list[Id], Field(min_length=1, max_length=10_000)]


class RenameIn(Wire):
    """A new name."""

    name: Annotated[str, Field(min_length=1, max_length=200)]


class SaveManyIn(Wire):
    """Which clippings to save, and as what."""

    clippings: Annotated[list[Id], Field(min_length=1, max_length=1_000)]
    format: Literal["png", "jpeg", "bmp", "webp", "tiff"] = "png"


class PinIn(Wire):
    """Whether it stays on top of the rack."""

    pinned: bool


class ClearingOut(Wire):
    """Clippings that may go, and what that frees."""

    count: int
    names: list[str]
    """The first of them."""
    bytes: int


class ForgottenOut(Wire):
    """What was forgotten for good."""

    changes: int
    bytes: int


class ClearIn(Wire):
    """What may go."""

    older_days: Annotated[int, Field(ge=0, le=36_500)]
