"""What goes over the wire in Place: destinations, their texts and grids, spots, placements."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tijera.web.base import Id, Wire

SpotId = Annotated[str, Field(max_length=400)]


StandName = Literal[
    "lines",
    "word",
    "text-left",
    "text-right",
    "under",
    "hangs",
    "stretches",
    "stays",
    "in-body",
    "attached",
    "both",
]


class SpotOut(Wire):
    """A place that can take a picture."""

    id: str
    kind: Literal["body", "cell", "sheet", "message"]
    follows: Literal["start", "paragraph", "table", "control", "cells", "attachments"]
    after_text: str
    widths_emu: list[int]
    height_emu: int
    section: int
    stands: list[StandName]
    free_width_emu: int | None
    """Where the width is only an offer: the most that a picture may be."""
    grows_to_emu: int | None
    """How high its row may be made; null where nothing grows."""


class LayoutOut(Wire):
    """How a picture stands in its place, and what stands with it."""

    stand: StandName
    align: Literal["left", "centre", "right"]
    margin_emu: int | None
    """Null for the usual one of its place."""
    caption: str
    caption_above: bool
    legend: bool
    beside: str
    along_outline: bool
    grows_row: bool


class LegendOut(Wire):
    """A pennant's sign and what it says."""

    label: str
    text: str


class PlacementOut(Wire):
    """A clipping in its place."""

    id: str
    clipping: str
    spot: str
    say: Literal["usual", "keep-as-it-is", "matters-more", "may-suffer", "may-become-unreadable"]
    width_emu: int
    height_emu: int
    ppi: float
    enlarged: bool
    bound_by: Literal["place", "natural", "height", "given"]
    place_width_emu: int
    spot_width_emu: int
    """The width that it is fitted into by itself: the place's, or the most where no place bounds it."""
    spot_height_emu: int
    description: str
    leaves_as: str
    """The description that leaves: other words where it holds a window's title that is held back."""
    note: str | None
    """What *Make it fit* gave up."""
    layout: LayoutOut
    keeps_scale: bool
    """Whether another crop keeps its scale; else it fits its place again."""
    alike: str | None
    """The group whose clippings all get one scale."""
    has_legend: bool
    """Whether its pennants say something."""
    legend: list[LegendOut]
    """What follows as a list."""
    caption_number: str
    """What stands before its caption, such as "Figure 3:"; empty where nothing counts."""
    has_outline: bool
    """Whether it was cut freehand, so that text can run along its outline."""
    version: str


class DestinationOut(Wire):
    """The document that is worked on."""

    id: str
    name: str
    limit_bytes: int | None
    keeps_fitting: bool
    view: Literal["galley", "grid", "message"]
    is_letter: bool
    """Whether it is a message that was begun here, which can be sent."""
    follows: str | None
    """Where it lies on this computer; null where that is not known."""
    version: str
    """Changes whenever the file itself does: a newer version of it, or another text of a new message."""
    spot: SpotOut | None
    placements: list[PlacementOut]


class ExampleIn(Wire):
    """Which of the made-up files to open."""

    name: Annotated[str, Field(max_length=100)]


class DestinationIn(Wire):
    """Which destination to work on."""

    id: Id | None


class OpenedOut(Wire):
    """An opened destination."""

    id: str
    name: str


class EarlierOut(Wire):
    """An earlier version of the same file in which clippings stand; `same` when its bytes are the very same."""

    id: str
    name: str
    places: int
    same: bool


class OpenedFileOut(OpenedOut):
    """An opened file, and an earlier version of it that is there already."""

    earlier: EarlierOut | None


class LostOut(Wire):
    """A clipping whose place is lost, and the text that it stood after."""

    name: str
    after_text: str


class RenewedOut(Wire):
    """What became of the placed clippings in a newer version."""

    found: int
    already: int
    """How many stand in it themselves, because it was made from a copy that was written back."""
    lost: list[LostOut]


class PathIn(Wire):
    """Where a file lies on this computer."""

    path: Annotated[str, Field(max_length=4_000)]


class OnDiskOut(Wire):
    """How a file on this computer stands to what was read of it; null where its place is not known."""

    state: Literal["same", "changed", "gone"] | None
    path: str | None


class SpotIn(Wire):
    """The place that the next clipping goes to."""

    spot: SpotId | None


class PlaceIn(Wire):
    """A clipping and the spot that it goes to."""

    clipping: Id
    spot: SpotId


class LayoutIn(Wire):
    """What changes about how a picture stands; what is left out stays. A margin is "3 mm", or "usual"."""

    stand: StandName | None = None
    align: Literal["left", "centre", "right"] | None = None
    margin: Annotated[str, Field(max_length=40)] | None = None
    caption: Annotated[str, Field(max_length=500)] | None = None
    caption_above: bool | None = None
    legend: bool | None = None
    beside: Annotated[str, Field(max_length=1_000)] | None = None
    along_outline: bool | None = None
    grows_row: bool | None = None


class AlikeIn(Wire):
    """The placement whose scale another one takes over; null for a scale of its own."""

    placement: Id | None


class AdjustIn(Wire):
    """What changes about a placement; what is left out stays. `width` is "60mm", "50 %", "fit" or "fill"."""

    layout: LayoutIn | None = None
    keeps_scale: bool | None = None
    """Keep the scale that it has now, whatever is cropped."""
    clipping: Id | None = None
    """Another clipping that takes the place of the one there."""

    width: Annotated[str, Field(max_length=40)] | None = None
    place_width_emu: int | None = None
    description: Annotated[str, Field(max_length=2_000)] | None = None
    spot: Annotated[str, Field(max_length=400)] | None = None


Share = Annotated[float, Field(ge=0, le=1)]


class CropWire(Wire):
    """What is hidden of a picture at each side, as shares of the whole."""

    left: Share = 0
    top: Share = 0
    right: Share = 0
    bottom: Share = 0


class ShownPictureOut(Wire):
    """A picture that stands in the text already."""

    member: str
    width_emu: int
    height_emu: int
    crop: CropWire


class TakeOutIn(Wire):
    """A picture of a document that is taken out, and how it is cropped there."""

    member: Annotated[str, Field(max_length=300)]
    crop: CropWire = CropWire()


class ContainerOut(Wire):
    """What a body, a cell or a control holds; `spots` lie before the first block."""

    spots: list[str]
    blocks: list[BlockOut]


class CellOut(Wire):
    """A table cell."""

    column_span: int
    row_span: int
    width_emu: int
    content: ContainerOut


class BlockOut(Wire):
    """A paragraph, table or control; `spots` lie after it."""

    id: str
    kind: str
    level: int
    text: str
    section: int
    pictures: list[ShownPictureOut]
    rows: list[list[CellOut]]
    content: ContainerOut | None
    spots: list[str]


class SectionOut(Wire):
    """A section: its columns and its page."""

    columns_emu: list[int]
    text_height_emu: int
    page_width_emu: int
    page_height_emu: int
    header: str
    footer: str


class OutlineOut(Wire):
    """A document's text, or a stretch of it, with every place in it.

    `sections` are at least those of what was read so far; `more` says that the text goes on behind the last block.
    """

    sections: list[SectionOut]
    body: ContainerOut
    spots: dict[str, SpotOut]
    more: bool


class TracksOut(Wire):
    """Columns or rows: a usual size, and runs (first, last, size) with another one, in order; EMU, not rounded."""

    usual_emu: float
    own: list[list[float]]


class BoxOut(Wire):
    """What stands on a sheet already, from its corner. `member` is a picture's that can be shown."""

    kind: str
    x_emu: int
    y_emu: int
    width_emu: int
    height_emu: int
    member: str | None
    crop: CropWire
    description: str


class SheetOfGridOut(Wire):
    """A sheet's measures; rows and columns count from 0. `merged` are (top, left, bottom, right)."""

    name: str
    hidden: bool
    columns: TracksOut
    rows: TracksOut
    frozen_columns: int
    frozen_rows: int
    used_columns: int
    used_rows: int
    merged: list[list[int]]
    boxes: list[BoxOut]


class GridOut(Wire):
    """A spreadsheet's sheets, in the order of their tabs."""

    sheets: list[SheetOfGridOut]


class GridCellOut(Wire):
    """A cell that shows something."""

    row: int
    column: int
    text: str
    is_number: bool


class FoundCellOut(Wire):
    """A cell that was found: its sheet's number, its row and column."""

    sheet: int
    row: int
    column: int


class AttachmentOut(Wire):
    """Something that hangs on a message; `bytes` as it is written, encoded."""

    member: str
    name: str
    type: str
    bytes: int


class FieldOut(Wire):
    """A header field that a reader shows."""

    name: str
    value: str


class MessageOut(Wire):
    """A message beside its text: header fields, what hangs on it, whether its body can show pictures."""

    fields: list[FieldOut]
    attachments: list[AttachmentOut]
    takes_pictures: bool
    sealed: bool
    """A mail server signed its body (DKIM), which a change makes invalid."""
    letter: LetterWire | None
    """What a new message says; null for one that came from outside, whose words stay as they are."""


class LetterWire(Wire):
    """What a new message says."""

    sender: Annotated[str, Field(max_length=1_000)] = ""
    to: Annotated[str, Field(max_length=60_000)] = ""
    cc: Annotated[str, Field(max_length=60_000)] = ""
    subject: Annotated[str, Field(max_length=1_000)] = ""
    text: Annotated[str, Field(max_length=200_000)] = ""
