"""What every spreadsheet format says of its sheets: how wide and high their cells are, what stands in them.

Cells go by the names that people type, `B3` and `B3:F20`; a spot is named by its sheet and its cells, `Timetable!B3`.
Rows and columns are counted from 0 here.
"""

from __future__ import annotations

import re
from bisect import bisect_left, bisect_right
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from fractions import Fraction

from tijera.core.errors import SpotUnknown
from tijera.core.packages.containers.lazy_reading import Pulled
from tijera.core.packages.places.spots import WHOLE, Crop, Follows, Side, Spot, SpotKind, Stand
from tijera.core.units import EMU_PER_PIXEL, EMU_PER_POINT, Length

MOST_ROWS, MOST_COLUMNS = 1_048_576, 16_384
"""Of a sheet (ECMA-376 Part 1 §18.3.1.73 and common practice for OpenDocument; from memory)."""
MOST_ROW_HEIGHT = Fraction(EMU_PER_POINT * 409)
"""The highest that a row may become (from memory)."""
FREE = Length(20_000 * EMU_PER_PIXEL)
"""How wide and high a picture may become where no cells bound it."""
_LETTERS = 26
_CELL = re.compile(r"\$?([A-Za-z]{1,3})\$?([1-9][0-9]{0,6})")
_COLUMNS = re.compile(r"([A-Za-z]{1,3}):([A-Za-z]{1,3})")


def column_name(index: int) -> str:
    """The letters of a column: 0 is A, 26 is AA."""
    letters, number = "", index + 1
    while number:
        number, rest = divmod(number - 1, _LETTERS)
        letters = chr(ord("A") + rest) + letters
    return letters


def column_index(letters: str) -> int:
    """The column that letters name."""
    index = 0
    for letter in letters.upper():
        index = index * _LETTERS + ord(letter) - ord("A") + 1
    return index - 1


@dataclass(frozen=True)
class CellRange:
    """A rectangle of cells; both corners belong to it."""

    top: int
    left: int
    bottom: int
    right: int

    @classmethod
    def parse(cls, text: str) -> CellRange | None:
        """Read "B3" or "F20:B3"; None for anything else and for cells that no sheet has."""
        corners = [_CELL.fullmatch(corner) for corner in text.strip().split(":")]
        if len(corners) not in (1, 2) or None in corners:
            return None
        rows = sorted(int(corner[2]) - 1 for corner in corners if corner)
        columns = sorted(column_index(corner[1]) for corner in corners if corner)
        if rows[-1] >= MOST_ROWS or columns[-1] >= MOST_COLUMNS:
            return None
        return cls(rows[0], columns[0], rows[-1], columns[-1])

    @property
    def is_cell(self) -> bool:
        """Whether it is one cell."""
        return self.top == self.bottom and self.left == self.right

    def contains(self, row: int, column: int) -> bool:
        """Whether a cell lies in it."""
        return self.top <= row <= self.bottom and self.left <= column <= self.right

    def __str__(self) -> str:
        """As people write it."""
        first = f"{column_name(self.left)}{self.top + 1}"
        return first if self.is_cell else f"{first}:{column_name(self.right)}{self.bottom + 1}"


def columns_of(text: str) -> tuple[int, int] | None:
    """Read "B:F" as its first and last column; None for anything else."""
    match = _COLUMNS.fullmatch(text.strip())
    columns = sorted((column_index(match[1]), column_index(match[2]))) if match else []
    return (columns[0], columns[1]) if columns and columns[1] < MOST_COLUMNS else None


@dataclass(frozen=True)
class Run:
    """Columns or rows that follow each other and have the same size, in EMU before rounding."""

    first: int
    last: int
    size: Fraction


@dataclass(frozen=True)
class Tracks:
    """The columns or the rows of a sheet: a usual size, and runs that have their own, in order."""

    usual: Fraction
    own: tuple[Run, ...]
    _firsts: tuple[int, ...] = field(init=False, repr=False, compare=False)
    _starts: tuple[Fraction, ...] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        starts, at, index = [], Fraction(0), 0
        for run in self.own:
            at += (run.first - index) * self.usual
            starts.append(at)
            at += (run.last - run.first + 1) * run.size
            index = run.last + 1
        object.__setattr__(self, "_starts", tuple(starts))
        object.__setattr__(self, "_firsts", tuple(run.first for run in self.own))

    def _run(self, index: int) -> int:
        return bisect_right(self._firsts, index) - 1

    def size(self, index: int) -> Fraction:
        """How wide or high one is."""
        at = self._run(index)
        return self.own[at].size if at >= 0 and index <= self.own[at].last else self.usual

    def start(self, index: int) -> Fraction:
        """How far it begins from the sheet's corner."""
        at = self._run(index)
        if at < 0:
            return index * self.usual
        run = self.own[at]
        inside = min(index, run.last + 1) - run.first
        return self._starts[at] + inside * run.size + max(index - run.last - 1, 0) * self.usual

    def span(self, first: int, last: int) -> Fraction:
        """How wide or high several are together."""
        return self.start(last + 1) - self.start(first)

    def at(self, offset: Fraction, most: int) -> tuple[int, Fraction]:
        """Which one lies so far from the corner, and how far into it; the last one that there may be, beyond that."""
        low, high = 0, most - 1
        while low < high:
            middle = (low + high + 1) // 2
            if self.start(middle) <= offset:
                low = middle
            else:
                high = middle - 1
        return low, min(offset - self.start(low), self.size(low))


def tracks(usual: Fraction, runs: Iterable[Run]) -> Tracks:
    """Tracks from runs in any order; of two that overlap the first one counts, those of the usual size are left out."""
    own: list[Run] = []
    for run in sorted(runs, key=lambda run: run.first):
        first = max(run.first, own[-1].last + 1) if own else run.first
        if first > run.last:
            continue
        last = own[-1] if own else None
        if last is not None and last.last + 1 == first and last.size == run.size:
            own[-1] = Run(last.first, run.last, run.size)
        else:
            own.append(Run(first, run.last, run.size))
    return Tracks(usual, tuple(run for run in own if run.size != usual))


@dataclass(frozen=True)
class GridCell:
    """A cell that shows something."""

    row: int
    column: int
    text: str
    is_number: bool = False


@dataclass(frozen=True)
class GridBox:
    """A picture, chart or shape on a sheet, from the sheet's corner."""

    kind: str
    """"picture", "chart" or "shape"."""
    x: Length
    y: Length
    width: Length
    height: Length
    member: str | None = None
    """The picture's; None for all that is shown as an outline."""
    crop: Crop = WHOLE
    description: str = ""


@dataclass(frozen=True)
class GridSheet:
    """One sheet: its measures at once, its cells when they are asked for."""

    name: str
    columns: Tracks
    rows: Tracks
    frozen_columns: int
    frozen_rows: int
    merged: tuple[CellRange, ...]
    boxes: Sequence[GridBox]
    hidden: bool
    read_used: Callable[[], tuple[int, int]]
    """How many rows and columns hold something; asked for when it is shown, not when it is placed into."""
    read_cells: Callable[[], Pulled[GridCell]]
    """All cells that show something, in order of rows, read as far as they are asked for."""

    @property
    def used_rows(self) -> int:
        """How many rows hold something, empty ones before them counted."""
        return self.read_used()[0]

    @property
    def used_columns(self) -> int:
        """The same of columns."""
        return self.read_used()[1]

    def cells_between(self, first: int, last: int) -> Sequence[GridCell]:
        """The cells of some rows that show something."""
        cells = self.read_cells().up_to(lambda cell: cell.row > last)
        return cells[bisect_left(cells, first, key=_row_of) : bisect_right(cells, last, key=_row_of)]

    def area(self, cells: CellRange) -> CellRange:
        """The cells that are meant: one that is merged with others stands for all of them."""
        if not cells.is_cell:
            return cells
        return next((each for each in self.merged if each.contains(cells.top, cells.left)), cells)

    def spot(self, text: str) -> Spot | None:
        """The place that some cells are; None where the text names none."""
        named = CellRange.parse(text)
        if named is None:
            return None
        cells = self.area(named)
        width = self.columns.span(cells.left, cells.right)
        height = self.rows.span(cells.top, cells.bottom)
        if width <= 0 or height <= 0:
            return None
        one_row = cells.top == cells.bottom
        stands = (Stand.HANGS, Stand.STRETCHES, Stand.STAYS)
        return Spot(
            id=spot_id(self.name, named),
            kind=SpotKind.SHEET,
            follows=Follows.CELLS,
            after_text=str(named),
            widths=(Length.exactly(width),),
            height=FREE if one_row else Length.exactly(height),
            section=0,
            side=Side.AFTER,
            indent_left=Length(0),
            indent_right=Length(0),
            stands=stands if one_row else (Stand.STRETCHES, Stand.HANGS, Stand.STAYS),
            free_width=FREE if named.is_cell and cells.is_cell else None,
            grows_to=Length.exactly(MOST_ROW_HEIGHT) if one_row else None,
        )

    def grown(self, wishes: Iterable[tuple[CellRange, Length]]) -> dict[int, Fraction]:
        """The rows that become higher, in EMU, for pictures that want their own row so: as high as the highest."""
        heights: dict[int, Fraction] = {}
        for cells, height in wishes:
            wanted = max(Fraction(height.emu), heights.get(cells.top, Fraction(0)))
            if cells.top == cells.bottom and wanted > self.rows.size(cells.top):
                heights[cells.top] = wanted
        return heights

    def corner(self, cells: CellRange, heights: Mapping[int, Fraction]) -> tuple[Length, Length]:
        """Where cells begin, from the sheet's corner, once some rows have grown."""
        more = sum((high - self.rows.size(row) for row, high in heights.items() if row < cells.top), Fraction(0))
        return Length.exactly(self.columns.start(cells.left)), Length.exactly(self.rows.start(cells.top) + more)

    def end(
        self, cells: CellRange, width: Length, height: Length, heights: Mapping[int, Fraction]
    ) -> tuple[int, Length, int, Length]:
        """Where a picture that begins with these cells ends: its last column and row, and how far into each."""
        column, x = self.columns.at(self.columns.start(cells.left) + width.emu, MOST_COLUMNS)
        if height.emu <= heights.get(cells.top, Fraction(0)):
            return column, Length(int(x)), cells.top, height
        row, y = self.rows.at(self.rows.start(cells.top) + height.emu, MOST_ROWS)
        return column, Length(int(x)), row, Length(int(y))


def _row_of(cell: GridCell) -> int:
    return cell.row


def spot_id(sheet: str, cells: CellRange) -> str:
    """How a place on a sheet is named."""
    return f"{sheet}!{cells}"


def find_spot(sheets: Sequence[GridSheet], wanted: str) -> tuple[int, CellRange, Spot]:
    """The sheet, the cells as named and the spot of an id; the first sheet where none is named. Raises `SpotUnknown`."""
    name, _, cells = wanted.rpartition("!")
    for number, sheet in enumerate(sheets):
        named = CellRange.parse(cells)
        if (not name or sheet.name == name) and named is not None:
            spot = sheet.spot(cells)
            if spot is not None:
                return number, sheet.area(named), spot
            break
    raise SpotUnknown(spot=wanted)


_MOST_LISTED = 200


def usual_spots(sheets: Sequence[GridSheet]) -> Iterator[Spot]:
    """A place for each column of each sheet that is in use, in the first row below what the sheet holds.

    Any other cell is a place as well; nobody wants a million of them listed, nor more columns than can be read.
    """
    for sheet in sheets:
        row = min(sheet.used_rows, MOST_ROWS - 1)
        for column in range(min(sheet.used_columns + 1, _MOST_LISTED)):
            spot = sheet.spot(f"{column_name(column)}{row + 1}")
            if spot is not None:
                yield spot


def find_words(
    sheets: Sequence[GridSheet], words: str, after: tuple[int, int, int] | None
) -> tuple[int, int, int] | None:
    """The next cell, as (sheet, row, column), whose text holds the words; goes round once, None where there is none."""
    wanted = words.casefold().strip()
    found = [
        (number, cell.row, cell.column)
        for number, sheet in enumerate(sheets)
        if not sheet.hidden
        for cell in sheet.read_cells()
        if wanted and wanted in cell.text.casefold()
    ]
    return next((each for each in found if after is None or each > after), found[0] if found else None)
