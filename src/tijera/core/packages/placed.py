"""What goes into a document of any format, and what comes out."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from tijera.core.packages.spots import Spot, SpotKind, Stand
from tijera.core.units import Length

CLEAR = Length.from_mm(3)
"""Room above and below a picture in the body."""
_CLEAR_IN_CELL = Length.from_mm(1)


class Align(StrEnum):
    """At which side of its place a picture stands."""

    LEFT = "left"
    CENTRE = "centre"
    RIGHT = "right"


@dataclass(frozen=True)
class Layout:
    """How a picture stands in its place, and what stands with it; what a place can't do is left out there."""

    stand: Stand | None = None
    """None for the usual way of its place."""
    align: Align = Align.CENTRE
    margin: Length | None = None
    """Round it; None for the usual one of its place."""
    caption: str = ""
    """What follows the number; empty for no caption."""
    caption_above: bool = False
    legend: bool = False
    """Whether the lines of its pennants follow as a numbered list."""
    beside: str = ""
    """A line of text beside it; empty for none."""
    along_outline: bool = False
    """Whether text beside it runs along its freehand outline."""
    grows_row: bool = False
    """Whether its row is made as high as it is, where a row can grow."""


PLAIN = Layout()


@dataclass(frozen=True)
class LegendLine:
    """A pennant's sign and the line that belongs to it."""

    sign: str
    text: str


@dataclass(frozen=True)
class PlacedPicture:
    """A picture as it goes into a document: encoded bytes and measures."""

    spot: str
    data: bytes
    extension: str
    """"png" or "jpeg"."""
    width: Length
    height: Length
    description: str
    """The alternative text; may be empty."""
    layout: Layout = PLAIN
    legend: tuple[LegendLine, ...] = ()
    outline: tuple[tuple[float, float], ...] | None = None
    """Its freehand outline, as shares of its width and height."""
    name: str = ""
    """What it is called as a file, without an ending; for where pictures go as files."""

    def stand_at(self, spot: Spot) -> Stand:
        """How it stands there: as asked for where that is possible, else in the usual way of the place."""
        return self.layout.stand if self.layout.stand in spot.stands else spot.stands[0]


@dataclass(frozen=True)
class Written:
    """A written copy, and the member that each placed picture went into."""

    data: bytes
    members: tuple[str, ...]


def clear_of(spot: Spot, height: Length) -> Length:
    """The room above and below a picture: one as high as its place leaves no room to be clear of anything."""
    clear = CLEAR if spot.kind is SpotKind.BODY else _CLEAR_IN_CELL
    return min(clear, Length(max((spot.height.emu - height.emu) // 2, 0)))
