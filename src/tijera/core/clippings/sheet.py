"""What is done to a clipping, all as data: turned, toned, given room, an edge, a scale, and marks on top."""

from __future__ import annotations

from dataclasses import dataclass, replace

from tijera.core.errors import MarkGone, OptionUnreadable, TooManyMarks
from tijera.core.marks.blackout import covered
from tijera.core.marks.colours import COLOURS
from tijera.core.marks.mark import Mark
from tijera.core.marks.operations import Point

MOST_MARKS = 2_000


def _within(name: str, value: float, least: float, most: float) -> None:
    if not least <= value <= most:
        raise OptionUnreadable(option=name, value=value, why=f"it must lie between {least:g} and {most:g}")


@dataclass(frozen=True)
class Turn:
    """Mirrored first, then turned by quarters, then straightened by an angle; both clockwise."""

    flipped: bool = False
    quarters: int = 0
    degrees: float = 0.0

    def __post_init__(self) -> None:
        _within("the angle", self.degrees, -45, 45)

    @property
    def is_none(self) -> bool:
        """Whether the picture stands as it was taken."""
        return not self.flipped and self.quarters % 4 == 0 and self.degrees == 0


@dataclass(frozen=True)
class Tones:
    """Brightness and contrast from −100 to 100, paler from 0 to 100."""

    brightness: float = 0.0
    contrast: float = 0.0
    paler: float = 0.0
    grey: bool = False
    print_friendly: bool = False

    def __post_init__(self) -> None:
        _within("the brightness", self.brightness, -100, 100)
        _within("the contrast", self.contrast, -100, 100)
        _within("paler", self.paler, 0, 100)


@dataclass(frozen=True)
class Margins:
    """Margins round the crop, in clipping pixels, in which marks may stand."""

    left: int = 0
    top: int = 0
    right: int = 0
    bottom: int = 0

    def __post_init__(self) -> None:
        for side in (self.left, self.top, self.right, self.bottom):
            _within("a margin", side, 0, 10_000)


@dataclass(frozen=True)
class Edge:
    """A line round the picture and the shadow that it throws; in points at the placed size."""

    weight_pt: float = 0.0
    colour: str = "ink"
    dash: str = "solid"
    shadow_pt: float = 0.0

    def __post_init__(self) -> None:
        _within("the edge", self.weight_pt, 0, 24)
        _within("the shadow", self.shadow_pt, 0, 36)
        if self.colour not in COLOURS or self.dash not in ("solid", "dashed", "dotted"):
            raise OptionUnreadable(option="the edge", value=f"{self.colour}, {self.dash}", why="there is no such edge")


@dataclass(frozen=True)
class Sheet:
    """All of it. `ground` is the colour where the picture is transparent and in its margins; None leaves it so."""

    marks: tuple[Mark, ...] = ()
    turn: Turn = Turn()
    tones: Tones = Tones()
    room: Margins = Margins()
    ground: str | None = None
    edge: Edge = Edge()
    scale: float = 1.0

    def __post_init__(self) -> None:
        _within("the scale", self.scale, 0.01, 8)
        if self.ground is not None and self.ground not in (*COLOURS, "white"):
            raise OptionUnreadable(option="the ground", value=self.ground, why="there is no such colour")
        if len(self.marks) > MOST_MARKS:
            raise TooManyMarks(count=len(self.marks), most=MOST_MARKS)

    @property
    def is_plain(self) -> bool:
        """Whether nothing is done at all."""
        return self == Sheet()

    @property
    def black_outs(self) -> tuple[tuple[Point, ...], ...]:
        """The corners of what is blacked out."""
        return tuple(covered(mark.points) for mark in self.marks if mark.kind == "black-out")

    @property
    def insets(self) -> tuple[Mark, ...]:
        """The clippings that are laid on."""
        return tuple(mark for mark in self.marks if mark.kind == "inset")

    @property
    def parts(self) -> tuple[str, ...]:
        """The ids of the clippings that are laid on, each once."""
        return tuple(dict.fromkeys(str(mark.options.get("clipping", "")) for mark in self.insets))

    def mark(self, mark_id: str, name: str = "") -> Mark:
        """A mark by its id; `name` is the clipping's, for the error. Raises `MarkGone`."""
        found = next((mark for mark in self.marks if mark.id == mark_id), None)
        if found is None:
            raise MarkGone(name=name)
        return found

    def with_marks(self, marks: tuple[Mark, ...]) -> Sheet:
        """The same with other marks."""
        return replace(self, marks=marks)


PLAIN = Sheet()
