"""How wide a table's cells are inside (ECMA-376 Part 1 §17.4; clause from memory)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from tijera.core.packages.containers.xmlspan import Element, percentage, whole_number
from tijera.core.packages.formats.docx.names import DocxNames
from tijera.core.packages.formats.docx.styles import DocxStyles, measure_of, side_margins
from tijera.core.units import EMU_PER_TWIP

_FIFTIETHS_OF_PERCENT = 5_000
_MOST_PERCENT = 100_000
"""Twenty times the container; whatever is more was not meant."""
_MOST_GRID = 1_000


@dataclass(frozen=True)
class DocxCell:
    """A cell of a table: where it stands and how wide its inside is, in EMU."""

    node: Element
    column: int
    span: int
    width: Fraction
    outer_width: Fraction
    continues_merge: bool
    """Continues a vertical merge: it shows nothing, the cell that starts the merge does."""
    is_covered: bool
    """Merged into the cell to its left in the older way (`w:hMerge`): it shows nothing either."""
    exact_height: Fraction | None


@dataclass(frozen=True)
class Row:
    """A row of a table."""

    node: Element
    cells: tuple[DocxCell, ...]


def read_rows(table: Element, names: DocxNames, styles: DocxStyles, container: Fraction) -> Iterator[Row]:
    """Go through a table's rows; `container` is the width in EMU that the table stands in."""
    q = names.q
    properties = table.find(q("tblPr"))
    grid = [measure_of(column, q("w")) or Fraction(0) for column in table.iterfind(f"{q('tblGrid')}/{q('gridCol')}")]
    table_width = _width(None if properties is None else properties.find(q("tblW")), names, container)
    if table_width is None:
        table_width = sum(grid, Fraction(0)) or container
    margins = styles.cell_margins(properties)
    usual_spacing = styles.cell_spacing(properties)
    for row in _children(table, "tr", names):
        column = _grid_skip(row, names)
        cells = []
        own_spacing = measure_of(row.find(f"{q('trPr')}/{q('tblCellSpacing')}"), q("w"))
        spacing = usual_spacing if own_spacing is None else own_spacing
        nodes = list(_children(row, "tc", names))
        for node in nodes:
            own = node.find(q("tcPr"))
            span = _span(own, names)
            outer = _width(None if own is None else own.find(q("tcW")), names, table_width)
            if outer is None:
                in_grid = sum(grid[column : column + span], Fraction(0))
                outer = in_grid or table_width * span / max(len(grid), 1)
            sides = side_margins(None if own is None else own.find(q("tcMar")), names)
            taken = sum(
                (margin if given is None else given for given, margin in zip(sides, margins, strict=True)), Fraction(0)
            )
            # Each side of a cell gives way by the spacing, at the table's edge twice (common practice, from memory).
            taken += spacing * (2 + (node is nodes[0]) + (node is nodes[-1]))
            merge, across = (None if own is None else own.find(q(name)) for name in ("vMerge", "hMerge"))
            cells.append(
                DocxCell(
                    node=node,
                    column=column,
                    span=span,
                    width=max(outer - taken, Fraction(0)),
                    outer_width=outer,
                    continues_merge=merge is not None and merge.get(q("val"), "continue") != "restart",
                    is_covered=across is not None and across.get(q("val"), "continue") != "restart",
                    exact_height=_exact_height(row, names),
                )
            )
            column += span
        yield Row(row, tuple(cells))


def _children(parent: Element, name: str, names: DocxNames) -> Iterator[Element]:
    """Rows or cells, also where a content control or custom XML wraps them."""
    q = names.q
    for child in parent:
        if child.tag == q(name):
            yield child
        elif child.tag == q("sdt"):
            content = child.find(q("sdtContent"))
            if content is not None:
                yield from _children(content, name, names)
        elif child.tag == q("customXml"):
            yield from _children(child, name, names)


def _width(node: Element | None, names: DocxNames, whole: Fraction) -> Fraction | None:
    """A `w:tblW` or `w:tcW`: twips, fiftieths of a percent or, in strict files, "33.3%"; None for auto and nil."""
    if node is None:
        return None
    q = names.q
    text, kind = node.get(q("w"), ""), node.get(q("type"), "dxa")
    share = percentage(text)
    if share is None and kind == "pct":
        share = Fraction(whole_number(text, 0, most=_MOST_PERCENT), _FIFTIETHS_OF_PERCENT)
    if share is not None:
        measure: Fraction | None = whole * share
    else:
        measure = measure_of(node, q("w")) if kind == "dxa" else None
    return measure if measure and measure > 0 else None


def _span(properties: Element | None, names: DocxNames) -> int:
    """How many grid columns a cell covers."""
    node = None if properties is None else properties.find(names.q("gridSpan"))
    return 1 if node is None else whole_number(node.get(names.q("val")), 1, 1, _MOST_GRID)


def _grid_skip(row: Element, names: DocxNames) -> int:
    """How many grid columns a row leaves free at its beginning."""
    node = row.find(f"{names.q('trPr')}/{names.q('gridBefore')}")
    return 0 if node is None else whole_number(node.get(names.q("val")), 0, 0, _MOST_GRID)


def _exact_height(row: Element, names: DocxNames) -> Fraction | None:
    """The height in EMU of a row that may not grow; such a row clips what is higher."""
    q = names.q
    node = row.find(f"{q('trPr')}/{q('trHeight')}")
    if node is None or node.get(q("hRule")) != "exact":
        return None
    height = measure_of(node, q("val"))
    return None if height is None else max(height, Fraction(EMU_PER_TWIP))
