"""What goes over the wire in Trim: marks, sheets, edits."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tijera.core.marks.mark import MOST_POINTS
from tijera.web.base import Id, RectWire, SizeOut, Wire

Point = tuple[float, float]


OptionValue = Annotated[bool | float | str, Field(union_mode="smart")]


Options = dict[Annotated[str, Field(max_length=40)], OptionValue]


_SPARE_POINTS = 5_000
"""Over what is taken, so that a stroke that is too long gets the words made for it."""


Points = Annotated[list[Point], Field(max_length=MOST_POINTS + _SPARE_POINTS)]


Ids = Annotated[list[Id], Field(max_length=5_000)]


Number = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]


class ChoiceOut(Wire):
    """One of the values of an option."""

    value: str
    label: str
    colour: str | None = None


class OptionOut(Wire):
    """An option of a kind of mark, and how it is set now for the next one."""

    name: str
    label: str
    form: Literal["choice", "colour", "amount", "words", "switch"]
    value: OptionValue
    choices: list[ChoiceOut] = Field(default_factory=list)
    least: float | None = None
    most: float | None = None
    unit: str = ""
    lines: bool = False


class DerivedOut(Wire):
    """Something that can be typed instead of drawn."""

    name: str
    label: str
    unit: str


class KindOut(Wire):
    """A kind of mark."""

    id: str
    name: str
    gesture: Literal["drag", "box", "click", "stroke"]
    options: list[OptionOut]
    derived: list[DerivedOut]


class KindsOut(Wire):
    """All kinds of mark, with the palette."""

    kinds: list[KindOut]
    colours: list[ChoiceOut]


class MarkOut(Wire):
    """A mark as it is drawn. `touch` is where it can be taken hold of, `box` all that it covers, both in clipping pixels."""

    id: str
    kind: str
    svg: str
    """Its drawing in clipping pixels: the very text that leaves as pixels."""
    points: list[Point]
    options: Options
    touch: list[Point]
    touch_closed: bool
    box: tuple[float, float, float, float]
    number: int
    says: str
    missing: str
    """Signs that the typeface lacks."""
    derived: dict[str, float]
    picture: str | None
    """Of a clipping that is laid on: its version."""


class TurnWire(Wire):
    """Mirrored first, then turned by quarters, then by an angle; both clockwise."""

    flipped: bool = False
    quarters: Annotated[int, Field(ge=0, le=3)] = 0
    degrees: Number = 0


class TonesWire(Wire):
    """Tones in per cent."""

    brightness: Number = 0
    contrast: Number = 0
    paler: Number = 0
    grey: bool = False
    print_friendly: bool = False


class RoomWire(Wire):
    """Margins in clipping pixels."""

    left: Annotated[int, Field(ge=-100_000, le=100_000)] = 0
    top: Annotated[int, Field(ge=-100_000, le=100_000)] = 0
    right: Annotated[int, Field(ge=-100_000, le=100_000)] = 0
    bottom: Annotated[int, Field(ge=-100_000, le=100_000)] = 0


class EdgeWire(Wire):
    """A line round the picture and its shadow, in points at the placed size."""

    weight_pt: Number = 0
    colour: Annotated[str, Field(max_length=40)] = "ink"
    dash: Annotated[str, Field(max_length=40)] = "solid"
    shadow_pt: Number = 0


class LegendLineOut(Wire):
    """A pennant and what it says."""

    label: str
    text: str


class BoundOut(Wire):
    """What a clipping was fitted into where it stands, and how its width was found there.

    For measures that follow the pointer while a crop is pulled; those of the clipping as it is are its own.
    """

    width_emu: int
    height_emu: int
    rule: Literal["fit", "fill", "given"]


class SheetOut(Wire):
    """A clipping as it lies on the mat, its marks in their order."""

    clipping: str
    version: str
    mat_version: str
    """Changes whenever the picture beneath the marks does, as the mat shows it."""
    base: SizeOut
    crop: RectWire
    turn: TurnWire
    tones: TonesWire
    room: RoomWire
    ground: str | None
    edge: EdgeWire
    scale: float
    outer: SizeOut
    """Pixels of the finished picture."""
    inset_px: tuple[int, int]
    """Where the crop's left upper corner lies on it: margins, edge and shadow stand before it."""
    px_per_pt: float
    """Of the finished picture, in its place."""
    width_emu: int
    height_emu: int
    bound: BoundOut
    marks: list[MarkOut]
    legend: list[LegendLineOut]
    undo: str | None
    redo: str | None
    held_back: str | None
    """Words from the window's title that stay here until they are allowed to leave."""
    allowed: bool
    """Whether somebody allowed them."""
    added: list[str] = Field(default_factory=list)
    """The ids of the marks that an edit made."""


class MarkIn(Wire):
    """A mark to make; options left out are those of the last one of its kind."""

    id: Annotated[str, Field(pattern="^[0-9a-f]{12}$")] | None = None
    """One that the caller made, so that a repeated request can be told."""
    kind: Annotated[str, Field(max_length=40)]
    points: Points
    options: Options = Field(default_factory=dict)
    pressures: list[float] = Field(default_factory=list, max_length=MOST_POINTS + _SPARE_POINTS)


class AddEdit(Wire):
    """Make marks. `exact` takes their options as they are given, as for copies."""

    do: Literal["add"]
    marks: Annotated[list[MarkIn], Field(max_length=2_000)]
    exact: bool = False


class RestyleEdit(Wire):
    """Set options of marks."""

    do: Literal["restyle"]
    ids: Ids
    options: Options


class MoveEdit(Wire):
    """Move marks, in clipping pixels."""

    do: Literal["move"]
    ids: Ids
    dx: Number
    dy: Number


class ReshapeEdit(Wire):
    """Set the anchors of a mark."""

    do: Literal["reshape"]
    id: Id
    points: Points


class DeriveEdit(Wire):
    """Set something that follows from the anchors, such as the angle of a line."""

    do: Literal["derive"]
    id: Id
    name: Annotated[str, Field(max_length=40)]
    value: Number


class RemoveEdit(Wire):
    """Delete marks."""

    do: Literal["remove"]
    ids: Ids


class OrderEdit(Wire):
    """Move marks in their order."""

    do: Literal["order"]
    ids: Ids
    to: Literal["front", "back", "up", "down"]


class LayEdit(Wire):
    """Lay another clipping on this one, its left upper corner at a point."""

    do: Literal["lay"]
    clipping: Id
    at: Point


class CropEdit(Wire):
    """Crop, in the pixels of the turned area."""

    do: Literal["crop"]
    crop: RectWire


class TurnEdit(Wire):
    """Turn the picture; crop and marks go along."""

    do: Literal["turn"]
    turn: TurnWire


class TonesEdit(Wire):
    """Set the tones."""

    do: Literal["tones"]
    tones: TonesWire


class RoomEdit(Wire):
    """Set the margins and the ground."""

    do: Literal["room"]
    room: RoomWire
    ground: Annotated[str, Field(max_length=40)] | None = None


class EdgeEdit(Wire):
    """Set edge and shadow."""

    do: Literal["edge"]
    edge: EdgeWire


class ScaleEdit(Wire):
    """Scale the picture; 1 is as it was taken."""

    do: Literal["scale"]
    scale: Number


AnyEdit = Annotated[
    AddEdit
    | RestyleEdit
    | MoveEdit
    | ReshapeEdit
    | DeriveEdit
    | RemoveEdit
    | OrderEdit
    | LayEdit
    | CropEdit
    | TurnEdit
    | TonesEdit
    | RoomEdit
    | EdgeEdit
    | ScaleEdit,
    Field(discriminator="do"),
]


class EditIn(Wire):
    """One change, made on a version; another version now means that somebody else was quicker."""

    version: Annotated[str, Field(max_length=4_000)]
    edit: AnyEdit


class SuggestedOut(Wire):
    """Crops that can be taken at once."""

    border: RectWire | None
    marks: RectWire | None
    panes: list[RectWire]


class PartsIn(Wire):
    """The areas that become clippings of their own."""

    areas: Annotated[list[RectWire], Field(max_length=200)]


class JoinIn(Wire):
    """Clippings to join into one."""

    clippings: Annotated[list[Id], Field(max_length=50)]
    stacked: bool = False


class MadeOut(Wire):
    """New clippings."""

    clippings: list[str]


class ConsentIn(Wire):
    """Whether words from the window's title may leave."""

    allowed: bool


class DoorOut(Wire):
    """Something that would make small text larger, and how large. What it does stands in the field of its name."""

    name: Literal["crop", "place", "natural", "file"]
    text_pt: float
    crop: RectWire | None = None
    spot: str | None = None
    spot_text: str = ""
    width_emu: int | None = None


class SmallestOut(Wire):
    """The smallest text on the picture as placed, in points; null where none was found. `grade` is "fine", "small" or "weak"."""

    text_pt: float | None
    em_px: float | None
    grade: Literal["fine", "small", "weak", "none"]
    doors: list[DoorOut]
