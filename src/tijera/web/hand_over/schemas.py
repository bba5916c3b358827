"""What goes over the wire when something leaves: weight, limit, arrival, hand-overs."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tijera.web.base import Id, Wire
from tijera.web.place.schemas import AttachmentOut

Said = Literal["usual", "keep-as-it-is", "matters-more", "may-suffer", "may-become-unreadable"]


class SayIn(Wire):
    """What the user says of a picture."""

    say: Said


class LimitIn(Wire):
    """A limit as people write it; null for none."""

    limit: Annotated[str, Field(max_length=40)] | None


class KeepsFittingIn(Wire):
    """Whether the file is kept under its limit."""

    keeps_fitting: bool


class SplitIn(Wire):
    """What goes to the second message."""

    placements: Annotated[list[Id], Field(min_length=1, max_length=1_000)]
    """Ids of placed clippings."""


class SplitOut(Wire):
    """The second message."""

    second: str


class TextOnPictureOut(Wire):
    """The smallest text on a picture, as it is written and where it is shown."""

    member: str
    em_px: float
    """Its em in pixels of the picture as it is written."""
    text_pt: float | None
    """Null where it is not known how large the picture is shown."""
    grade: Literal["fine", "small", "weak", "none"]


class ArrivalOut(Wire):
    """How the message arrives: where pictures show (a page of its own, where it has HTML), and where they don't."""

    has_page: bool
    version: str
    """Of the message as it would be written now."""
    plain: str
    listed: list[AttachmentOut]
    listed_plain: list[AttachmentOut]


class WeighedOut(Wire):
    """A picture of the written copy. `clipping` is null for one that was in the document before."""

    label: str
    member: str
    width_px: int | None
    height_px: int | None
    shown_emu: list[list[int]]
    ppi: float | None
    bytes: int
    record_bytes: int
    times_used: int
    hidden_share: float
    clipping: str | None
    placement: str | None
    """One of its places; null for a picture that was in the document before."""
    placements: list[str]
    """All of its places; none for a picture that was in the document before."""
    say: Said | None
    """What the user says of it; null as above."""
    was_bytes: int | None
    """What a picture of the document's own weighed before it was made lighter; null where it was not."""
    note: str | None


class WeightOut(Wire):
    """What the written copy weighs; `rest_bytes` is all that is not a picture."""

    file_bytes: int
    rest_bytes: int
    limit_bytes: int | None
    pictures: list[WeighedOut]


class OpenedCopyOut(Wire):
    """A file that left, opened as it left."""

    destination: str
    view: Literal["galley", "grid", "message"]


class HandoverOut(Wire):
    """Something that left; the very bytes are at `/handovers/{id}/file`."""

    id: str
    name: str
    bytes: int
    what: str
    media_type: str
    made_at: str
