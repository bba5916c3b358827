"""The columns, rows and cells of a table, in order, each with how often it is repeated (ODF 1.2 Part 1 §9.1).

Clause numbers from memory.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from fractions import Fraction
from itertools import groupby
from typing import NamedTuple, cast

from lxml import etree

from tijera.core.packages.containers.xmlspan import Element, whole_number
from tijera.core.packages.families.odf.names import length_of, q
from tijera.core.packages.families.odf.shown import text_of
from tijera.core.packages.families.odf.styles import OdfStyles
from tijera.core.packages.places.grid import MOST_COLUMNS, MOST_ROWS, CellRange, GridCell, Run, Tracks, tracks
from tijera.core.units import EMU_PER_MM

_USUAL_WIDTH = Fraction(EMU_PER_MM) * Fraction("22.58")
_USUAL_HEIGHT = Fraction(EMU_PER_MM) * Fraction("4.52")
"""Where no style gives a measure (from memory: it is left to the application)."""
_COLUMN_HOLDERS = {q(f"table:{name}") for name in ("table-columns", "table-header-columns", "table-column-group")}
ROW_HOLDERS = {q(f"table:{name}") for name in ("table-rows", "table-header-rows", "table-row-group")}
COLUMN, ROW = q("table:table-column"), q("table:table-row")
CELL, COVERED = q("table:table-cell"), q("table:covered-table-cell")
_SPANNED = etree.XPath(
    ".//table:table-cell[@table:number-columns-spanned or @table:number-rows-spanned]",
    namespaces={"table": CELL[1:].split("}")[0]},
)
_NUMBERS = ("float", "percentage", "currency", "date", "time")
_MOST_SHOWN = 1_000
"""Of a cell that is repeated."""


class Repeated(NamedTuple):
    """An element that stands for several that follow each other."""

    node: Element
    first: int
    times: int

    @property
    def last(self) -> int:
        """The last one that it stands for."""
        return self.first + self.times - 1


def columns_of(table: Element) -> Iterator[Repeated]:
    """The columns, through groups."""
    return _numbered(_leaves(table, COLUMN, _COLUMN_HOLDERS), "table:number-columns-repeated", MOST_COLUMNS)


def rows_of(table: Element) -> Iterator[Repeated]:
    """The rows, through groups and heads."""
    return _numbered(_leaves(table, ROW, ROW_HOLDERS), "table:number-rows-repeated", MOST_ROWS)


def cells_of(row: Element) -> Iterator[Repeated]:
    """The cells of a row, covered ones among them."""
    own = (child for child in row if child.tag in (CELL, COVERED))
    return _numbered(own, "table:number-columns-repeated", MOST_COLUMNS)


def _leaves(node: Element, wanted: str, holders: set[str]) -> Iterator[Element]:
    for child in node:
        if child.tag == wanted:
            yield child
        elif child.tag in holders:
            yield from _leaves(child, wanted, holders)


def _numbered(nodes: Iterator[Element], repeat: str, most: int) -> Iterator[Repeated]:
    at, repeated = 0, q(repeat)
    for node in nodes:
        said = node.get(repeated)
        times = 1 if said is None else whole_number(said, 1, 1)
        yield Repeated(node, at, times)
        at += times
        if at >= most:
            return


def read_columns(table: Element, styles: OdfStyles) -> Tracks:
    """The columns' widths."""
    return _tracks(columns_of(table), styles, "table-column", "style:column-width", _USUAL_WIDTH)


def read_rows(rows: Iterable[Repeated], styles: OdfStyles) -> Tracks:
    """The rows' heights."""
    return _tracks(rows, styles, "table-row", "style:row-height", _USUAL_HEIGHT)


def _tracks(found: Iterable[Repeated], styles: OdfStyles, family: str, measure: str, usual: Fraction) -> Tracks:
    """Sizes of what follows each other; neighbours that say the same are read once."""
    visibility, style_name = q("table:visibility"), q("table:style-name")
    runs = []
    for said, alike in groupby(found, lambda each: (each.node.get(visibility), each.node.get(style_name))):
        first, *more = alike
        last = more[-1] if more else first
        runs.append(Run(first.first, last.last, _size(*said, styles, family, measure, usual)))
    return tracks(usual, runs)


def _size(
    visibility: str | None, style_name: str | None, styles: OdfStyles, family: str, measure: str, usual: Fraction
) -> Fraction:
    if visibility not in (None, "visible"):
        return Fraction(0)
    for style in styles.chain(family, style_name):
        found = length_of(style.find(q(f"style:{family}-properties")), measure)
        if found is not None and found >= 0:
            return found
    return usual


def read_cells(rows: Iterable[Repeated]) -> Iterator[GridCell]:
    """The cells that show something; of those that are repeated a thousand at the most."""
    for row in rows:
        shown = [
            (cell, text, cell.node.get(q("office:value-type")) in _NUMBERS)
            for cell in cells_of(row.node)
            if (text := shown_in(cell.node))
        ]
        for number in range(row.first, row.first + min(row.times, _MOST_SHOWN)) if shown else ():
            for cell, text, is_number in shown:
                for column in range(cell.first, cell.first + min(cell.times, _MOST_SHOWN)):
                    yield GridCell(number, column, text, is_number)


def shown_in(cell: Element) -> str:
    """The text of a cell, its paragraphs in lines."""
    return "\n".join(text_of(each) for each in cell.iterfind(q("text:p"))).strip() if len(cell) else ""


def read_merged(table: Element, rows: Sequence[Repeated]) -> Iterator[CellRange]:
    """The ranges of cells that are merged. Most tables have none, which is seen without counting."""
    spans = q("table:number-columns-spanned"), q("table:number-rows-spanned")
    holders = {cell.getparent() for cell in cast("list[Element]", _SPANNED(table))}
    for row in rows if holders else ():
        for cell in cells_of(row.node) if row.times == 1 and row.node in holders else ():
            wide = whole_number(cell.node.get(spans[0]), 1, 1, MOST_COLUMNS)
            high = whole_number(cell.node.get(spans[1]), 1, 1, MOST_ROWS)
            if wide > 1 or high > 1:
                yield CellRange(row.first, cell.first, row.first + high - 1, cell.first + wide - 1)


def used(found: Iterable[Repeated]) -> tuple[int, int]:
    """How many rows and columns hold something."""
    rows = columns = 0
    repeated = q("table:number-columns-repeated")
    for row in found:
        at = last = 0
        for cell in row.node:
            said = cell.get(repeated)
            at += 1 if said is None else whole_number(said, 1, 1)
            if len(cell):
                last = at
        if last:
            rows, columns = row.last + 1, max(columns, last)
    return min(rows, MOST_ROWS), min(columns, MOST_COLUMNS)
