"""Tables of a text document: rows, cells and the width that a cell's content has (ODF 1.2 Part 1 §9.1, §17.15–17.18)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from tijera.core.packages.containers.xmlspan import Element, percentage, whole_number
from tijera.core.packages.families.odf.names import borders, length_of, q, share, sides
from tijera.core.packages.families.odf.styles import OdfStyles

_MOST_COLUMNS = 1_024
_ROW_HOLDERS = ("table:table-header-rows", "table:table-rows", "table:table-row-group")
_COLUMN_HOLDERS = ("table:table-header-columns", "table:table-columns", "table:table-column-group")


@dataclass(frozen=True)
class OdtCell:
    """A cell that is shown."""

    node: Element
    column_span: int
    row_span: int
    outer_width: Fraction
    width: Fraction
    exact_height: Fraction | None
    is_repeated: bool
    """Whether it stands for several cells: nothing can be put into one of them."""


def read_rows(table: Element, styles: OdfStyles, container: Fraction) -> list[list[OdtCell]]:
    """The rows of a table in a container that is so wide."""
    tables_columns = list(_columns(table))
    widths = _column_widths(table, tables_columns, styles, container)
    return [list(_cells(row, tables_columns, widths, styles)) for row in _rows(table)]


def _rows(node: Element) -> Iterator[Element]:
    for child in node:
        if child.tag == q("table:table-row"):
            yield child
        elif child.tag in [q(name) for name in _ROW_HOLDERS]:
            yield from _rows(child)


def _columns(node: Element) -> Iterator[Element]:
    """Every column's element, as often as it stands for one."""
    left = _MOST_COLUMNS
    for child in node:
        if child.tag == q("table:table-column"):
            times = whole_number(child.get(q("table:number-columns-repeated")), 1, 1)
            yield from (child,) * min(times, left)
            left -= min(times, left)
        elif child.tag in [q(name) for name in _COLUMN_HOLDERS]:
            yield from _columns(child)


def _column_widths(table: Element, columns: list[Element], styles: OdfStyles, container: Fraction) -> list[Fraction]:
    own = [
        styles.properties("table-column", each.get(q("table:style-name")), "style:table-column-properties")
        for each in columns
    ]
    given = [length_of(each, "style:column-width") or Fraction(0) for each in own]
    shares = [(None if each is None else share(each.get(q("style:rel-column-width")))) or Fraction(0) for each in own]
    width = _table_width(table, sum(given, Fraction(0)), styles, container)
    parts = shares if all(shares) else given
    total = sum(parts, Fraction(0))
    return [width * part / total if total else width / len(parts) for part in parts]


def _table_width(table: Element, given: Fraction, styles: OdfStyles, container: Fraction) -> Fraction:
    """Between its margins where it is aligned to them, else its share of the container, its own width or its columns'."""
    own = styles.properties("table", table.get(q("table:style-name")), "style:table-properties")
    if own is not None and own.get(q("table:align"), "margins") != "margins":
        part = percentage(own.get(q("style:rel-width"), ""))
        width = container * part if part else length_of(own, "style:width") or given
        if width:
            return width
    return container - sides(own, "margin", "left", "right")


def _cells(row: Element, columns: list[Element], widths: list[Fraction], styles: OdfStyles) -> Iterator[OdtCell]:
    row_style = styles.properties("table-row", row.get(q("table:style-name")), "style:table-row-properties")
    rows_repeated = whole_number(row.get(q("table:number-rows-repeated")), 1, 1) > 1
    at = 0
    for node in row:
        if node.tag not in (q("table:table-cell"), q("table:covered-table-cell")):
            continue
        times = whole_number(node.get(q("table:number-columns-repeated")), 1, 1)
        if node.tag == q("table:table-cell") and at < len(widths):
            span = whole_number(node.get(q("table:number-columns-spanned")), 1, 1, _MOST_COLUMNS)
            outer = sum(widths[at : at + span], Fraction(0))
            style = (
                node.get(q("table:style-name"))
                or row.get(q("table:default-cell-style-name"))
                or columns[at].get(q("table:default-cell-style-name"))
            )
            own = styles.properties("table-cell", style, "style:table-cell-properties")
            inner = outer - sides(own, "padding", "left", "right") - borders(own, "left", "right")
            exact = length_of(row_style, "style:row-height")
            if exact is not None:
                exact -= sides(own, "padding", "top", "bottom") + borders(own, "top", "bottom")
            rows = whole_number(node.get(q("table:number-rows-spanned")), 1, 1)
            yield OdtCell(node, span, rows, outer, inner, exact, times > 1 or rows_repeated)
        at += times
