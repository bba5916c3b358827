"""What every format says of its places: spots, and the outline that shows them in their text."""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction
from typing import Any

from tijera.core.errors import SpotUnknown
from tijera.core.geometry import Rect, Size
from tijera.core.units import EMU_PER_MM, Length, round_half_up

_LEAST_WIDTH = Fraction(EMU_PER_MM)


class SpotKind(StrEnum):
    """Where a spot lies."""

    BODY = "body"
    CELL = "cell"
    SHEET = "sheet"
    MESSAGE = "message"


class Stand(StrEnum):
    """How a picture stands in its place."""

    LINES = "lines"
    """On lines of its own."""
    WORD = "word"
    """Like a word: at the end of the paragraph before the place."""
    TEXT_LEFT = "text-left"
    TEXT_RIGHT = "text-right"
    """The text runs beside it."""
    UNDER = "under"
    """The text runs over it."""
    HANGS = "hangs"
    """From a cell: moves with it and keeps its size."""
    STRETCHES = "stretches"
    """Over cells: moves and sizes with them."""
    STAYS = "stays"
    """On the sheet, whatever becomes of the cells."""
    IN_BODY = "in-body"
    ATTACHED = "attached"
    BOTH = "both"
    """In a message: shown in its body, handed along as a file, or both."""


ON_LINES = (Stand.LINES, Stand.TEXT_LEFT, Stand.TEXT_RIGHT, Stand.UNDER)
"""How a picture can stand between two paragraphs, the usual way first."""
AS_WORD = (Stand.LINES, Stand.WORD, Stand.TEXT_LEFT, Stand.TEXT_RIGHT, Stand.UNDER)
"""The same where the paragraph before it may also take it in."""


class Follows(StrEnum):
    """What stands directly before a spot."""

    START = "start"
    PARAGRAPH = "paragraph"
    TABLE = "table"
    CONTROL = "control"
    CELLS = "cells"
    """Nothing: it is the cells of a sheet themselves."""
    ATTACHMENTS = "attachments"
    """It is among what hangs on a message."""


class Side(StrEnum):
    """On which side of its element a spot lies."""

    BEFORE = "before"
    AFTER = "after"
    SECTION_END = "section-end"
    """After the last paragraph of a section, and still in that section."""


@dataclass(frozen=True)
class Spot:
    """A place that can take a picture. The same bytes give the same ids."""

    id: str
    kind: SpotKind
    follows: Follows
    after_text: str
    """The text of the paragraph before it; empty where no paragraph is."""
    widths: tuple[Length, ...]
    """One width, or every column's where they differ and only laying out would tell which one it is."""
    height: Length
    """The most that a picture may be high here."""
    section: int
    side: Side
    indent_left: Length
    indent_right: Length
    stands: tuple[Stand, ...] = (Stand.LINES,)
    """How a picture can stand here, the usual way first."""
    free_width: Length | None = None
    """Where the width is no bound but an offer: the most that a picture may be; it takes its natural width by itself."""
    grows_to: Length | None = None
    """How high its row may be made for a picture; None where nothing grows."""
    element: Any = field(default=None, repr=False, compare=False)
    """The element that it lies beside, in the tree of the opened document; None where it lies beside none."""

    @property
    def width(self) -> Length:
        """The width that is sure to be there: the narrowest."""
        return min(self.widths)

    @property
    def fit_width(self) -> Length:
        """The width that a picture is fitted into by itself."""
        return self.free_width or self.width

    @property
    def most_width(self) -> Length:
        """The widest that a picture may be made here."""
        return self.free_width or max(self.widths)


@dataclass(frozen=True)
class Crop:
    """How much of a picture is hidden at each side where it is shown, as shares of its width and height, 0 to 1."""

    left: float = 0.0
    top: float = 0.0
    right: float = 0.0
    bottom: float = 0.0

    @property
    def visible_width(self) -> float:
        """The share of the width that is shown."""
        return max(0.0, 1 - self.left - self.right)

    @property
    def visible_height(self) -> float:
        """The share of the height that is shown."""
        return max(0.0, 1 - self.top - self.bottom)

    def rectangle(self, size: Size) -> Rect:
        """The pixels that are shown, at least one each way; all of them where the crop leaves nothing."""
        x, y = round_half_up(self.left * size.width), round_half_up(self.top * size.height)
        right, bottom = round_half_up((1 - self.right) * size.width), round_half_up((1 - self.bottom) * size.height)
        width, height = right - x, bottom - y
        return Rect(x, y, width, height) if width > 0 and height > 0 else Rect.whole(size)

    def kept(self, size: Size) -> Rect:
        """The least whole pixels that hold all that is shown; all of them where the crop leaves nothing."""
        x, y = (
            math.floor(share * side + _NOTHING) for share, side in ((self.left, size.width), (self.top, size.height))
        )
        right = math.ceil((1 - self.right) * size.width - _NOTHING)
        bottom = math.ceil((1 - self.bottom) * size.height - _NOTHING)
        return Rect(x, y, right - x, bottom - y) if right > x and bottom > y else Rect.whole(size)

    def within(self, size: Size, kept: Rect) -> Crop:
        """What still has to be hidden to show the same where only the `kept` pixels of a picture of this size are left."""
        sides = (
            (self.left * size.width - kept.x, kept.width),
            (self.top * size.height - kept.y, kept.height),
            (self.right * size.width - (size.width - kept.right), kept.width),
            (self.bottom * size.height - (size.height - kept.bottom), kept.height),
        )
        return Crop(*(max(0.0, hidden / side) if hidden > _NOTHING else 0.0 for hidden, side in sides))


_NOTHING = 0.02
"""Of a pixel: less than that is rounding, of lengths that are written to the hundredth of a millimetre."""
WHOLE = Crop()


@dataclass(frozen=True)
class ShownPicture:
    """A picture as it stands in the text."""

    member: str
    width: Length
    height: Length
    crop: Crop = WHOLE


@dataclass(frozen=True)
class Container:
    """Something that holds paragraphs: the body, a cell, a content control. `spots` lie before its first block."""

    spots: tuple[str, ...]
    blocks: Sequence[Block]


@dataclass(frozen=True)
class CellOutline:
    """A cell with its place in the grid, for showing it."""

    column_span: int
    row_span: int
    width: Length
    content: Container


@dataclass(frozen=True)
class Block:
    """A paragraph, table or content control, and the spots that lie after it."""

    id: str
    kind: str
    """"title", "heading", "paragraph", "list", "table", "control" or "other"."""
    level: int
    text: str
    section: int
    pictures: tuple[ShownPicture, ...] = ()
    rows: tuple[tuple[CellOutline, ...], ...] = ()
    content: Container | None = None
    spots: tuple[str, ...] = ()


def spot_ids(container: Container) -> Iterator[str]:
    """The ids of the spots in a container, in reading order."""
    yield from container.spots
    for block in container.blocks:
        for row in block.rows:
            for cell in row:
                yield from spot_ids(cell.content)
        if block.content is not None:
            yield from spot_ids(block.content)
        yield from block.spots


@dataclass(frozen=True)
class Round:
    """What is round the blocks of a container while they are read."""

    path: str
    kind: SpotKind
    widths: tuple[Fraction, ...] | None
    """None in the body, where the page or section decides."""
    most_height: Fraction | None
    depth: int
    offers_spots: bool = True


@dataclass(frozen=True)
class TextOutline:
    """The body's content and all spots by id, in document order. Long ones are read as far as they are asked for."""

    body: Container
    spots: Mapping[str, Spot]
    sections: Sequence[Section]
    """What each section gives its text, by the number that spots and blocks name; at least those of what was read."""


class Outlined(ABC):
    """A document whose places are those of its outline."""

    @property
    @abstractmethod
    def outline(self) -> TextOutline:
        """Its text in containers, with every spot."""

    def spot(self, spot_id: str) -> Spot:
        """Find a spot; raise `SpotUnknown`."""
        spot = self.outline.spots.get(spot_id)
        if spot is None:
            raise SpotUnknown(spot=spot_id)
        return spot

    def spots(self) -> Iterable[Spot]:
        """All of them, in reading order."""
        return self.outline.spots.values()


@dataclass(frozen=True)
class Section:
    """What one section gives its text, in EMU before rounding."""

    column_widths: tuple[Fraction, ...]
    text_height: Fraction
    page_width: Fraction
    page_height: Fraction
    header: str = ""
    """The text that stands above every page of it, for context; empty where none does."""
    footer: str = ""
    """The same below."""

    @property
    def has_equal_columns(self) -> bool:
        """Whether every column has the same width."""
        return len(set(self.column_widths)) == 1

    @property
    def columns(self) -> tuple[Length, ...]:
        """The columns' widths, rounded."""
        return tuple(Length.exactly(width) for width in self.column_widths)


@dataclass(frozen=True)
class SpotExtent:
    """What a spot has, rounded."""

    widths: tuple[Length, ...]
    height: Length
    left: Length
    right: Length


class SpotExtents:
    """What spots have between their indents. The same few measures meet again and again: they are known by identity."""

    def __init__(self) -> None:
        self._known: dict[tuple[int, ...], tuple[SpotExtent | None, object]] = {}

    def between(
        self, widths: tuple[Fraction, ...], left: Fraction, right: Fraction, height: Fraction, highest: Fraction | None
    ) -> SpotExtent | None:
        """What is left of widths between two indents, each width once; None where nothing can stand.

        `height` is the text's, `highest` what a cell bounds it to; all in EMU before rounding.
        """
        measures = (widths, left, right, height, highest)
        key = (*map(id, measures),)
        known = self._known.get(key)
        if known is None:
            # The measures are kept with what they give, so that nothing else gets their identity.
            known = self._known[key] = (_room_between(*measures), measures)
        return known[0]


def _room_between(
    widths: tuple[Fraction, ...], left: Fraction, right: Fraction, height: Fraction, highest: Fraction | None
) -> SpotExtent | None:
    bound = height if highest is None else min(height, highest)
    offered = (Length.exactly(width - left - right) for width in widths if width - left - right >= _LEAST_WIDTH)
    sure = tuple(dict.fromkeys(offered))
    return SpotExtent(sure, *(Length.exactly(each) for each in (bound, left, right))) if sure and bound > 0 else None
