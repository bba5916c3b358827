"""What goes into a document of any format, and what comes out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from tijera.core.clippings.legend import LegendLine
from tijera.core.imaging.kinds import media_type_of
from tijera.core.packages.places.spots import Spot, SpotKind, Stand
from tijera.core.units import EMU_PER_POINT, POINTS_PER_INCH, Length

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
    scale: float | None = None
    """Of its natural size, for one that keeps its scale whatever is cropped."""


PLAIN = Layout()


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

    @property
    def media_type(self) -> str:
        """The media type of its bytes."""
        return media_type_of(self.extension)

    def stand_at(self, spot: Spot) -> Stand:
        """How it stands there: as asked for where that is possible, else in the usual way of the place."""
        return self.layout.stand if self.layout.stand in spot.stands else spot.stands[0]


@dataclass(frozen=True)
class Written:
    """A written copy, and the member that each placed picture went into."""

    data: bytes
    members: tuple[str, ...]
    copies: tuple[tuple[str, str], ...] = ()
    """Members that hold a placed picture once more, each with the one that it is a copy of."""


def clear_of(spot: Spot, height: Length) -> Length:
    """The room above and below a picture: one as high as its place leaves no room to be clear of anything."""
    clear = CLEAR if spot.kind is SpotKind.BODY else _CLEAR_IN_CELL
    return min(clear, Length(max((spot.height.emu - height.emu) // 2, 0)))


BESIDE = (Stand.TEXT_LEFT, Stand.TEXT_RIGHT)
"""The stands in which text runs beside the picture."""
_MOST_BESIDE = Fraction(2, 3)


def leaving_room(stand: Stand | None, width: Length, place: Length) -> Length:
    """A picture that fills its place leaves no text room beside it: it becomes half as wide as the place."""
    fills = stand in BESIDE and width.emu > place.emu * _MOST_BESIDE
    return Length(place.emu // 2) if fills else width


_LINE_PT, _CHARACTER_PT, _APART_PT = 12.5, 5.0, 6.0
"""Of words under a picture: reckoned for letters of 10 pt, half an em each (common practice for an estimate)."""


def room_for_words(layout: Layout, lines: Sequence[LegendLine], width: Length) -> Length:
    """About how high caption and legend become under a picture that is so wide: the page's own layout decides."""
    texts = [f"Figure 00 {layout.caption}"] if layout.caption else []
    texts += [f"00  {line.text}" for line in lines] if layout.legend else []
    across = max(int(width.inches * POINTS_PER_INCH / _CHARACTER_PT), 1)
    high = sum(-(-len(text) // across) * _LINE_PT + _APART_PT for text in texts)
    return Length.exactly(Fraction(str(high)) * EMU_PER_POINT)


_MOST_MARGIN = Length.from_mm(50)


def margin_of(text: str) -> Length:
    """Read a margin such as "3 mm"; "0" needs no unit. Raises `LengthUnreadable`."""
    if text.strip() == "0":
        return Length(0)
    return min(Length.parse(text), _MOST_MARGIN)


@dataclass(frozen=True)
class LegendRun:
    """Lines of a legend whose signs follow each other: a list of its own that begins at `start`."""

    letters: bool
    start: int
    texts: tuple[str, ...]


def legend_runs(lines: Sequence[LegendLine]) -> list[LegendRun]:
    """A legend as lists. A pennant that says nothing leaves a gap, which a list that counts by itself would close."""
    runs: list[LegendRun] = []
    for line in lines:
        letters = not line.label.isdigit()
        number = letters_number(line.label) if letters else int(line.label)
        last = runs[-1] if runs else None
        if last is not None and last.letters == letters and last.start + len(last.texts) == number:
            runs[-1] = LegendRun(letters, last.start, (*last.texts, line.text))
        else:
            runs.append(LegendRun(letters, number, (line.text,)))
    return runs


def letters_number(label: str) -> int:
    """What A, B … Z, AA count as."""
    number = 0
    for letter in label.upper():
        number = number * 26 + ord(letter) - ord("A") + 1
    return number
