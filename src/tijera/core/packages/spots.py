"""What every format says of its places: spots, and the outline that shows them in their text."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from tijera.core.units import Length


class SpotKind(StrEnum):
    """Where a spot lies."""

    BODY = "body"
    CELL = "cell"


class Follows(StrEnum):
    """What stands directly before a spot."""

    START = "start"
    PARAGRAPH = "paragraph"
    TABLE = "table"
    CONTROL = "control"


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
    element: int
    """Place in document order of the element that the spot lies beside."""
    side: Side
    indent_left: Length
    indent_right: Length

    @property
    def width(self) -> Length:
        """The width that is sure to be there: the narrowest."""
        return min(self.widths)


@dataclass(frozen=True)
class ShownPicture:
    """A picture as it stands in the text."""

    member: str
    width: Length
    height: Length


@dataclass(frozen=True)
class Container:
    """Something that holds paragraphs: the body, a cell, a content control. `spots` lie before its first block."""

    spots: tuple[str, ...]
    blocks: tuple[Block, ...]


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
