"""Placing pictures on sheets: a frame in the cell that it hangs from, or among the shapes of the sheet.

Sources: ODF 1.2 Part 1 §9.2.8 (table:shapes), §10.4.2 (frame), §19.627 (table:end-cell-address). Numbers from memory.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from itertools import count
from operator import attrgetter
from xml.sax.saxutils import escape

from tijera.core.packages.containers.elements import required
from tijera.core.packages.containers.xmlspan import Element, Splice, attributes, opened_once, printable
from tijera.core.packages.containers.zipped import write_package
from tijera.core.packages.families.odf import manifest
from tijera.core.packages.families.odf.media import media_members, media_types
from tijera.core.packages.families.odf.names import declared, q, written
from tijera.core.packages.families.odf.package import CONTENT, MIMETYPE
from tijera.core.packages.formats.ods.document import OdsDocument
from tijera.core.packages.formats.ods.save_check import Inserted, check_content
from tijera.core.packages.formats.ods.splitting import new_rows, split_row
from tijera.core.packages.formats.ods.tables import ROW, ROW_HOLDERS
from tijera.core.packages.places.grid import CellRange, GridSheet, column_name, find_spot
from tijera.core.packages.places.placed import PlacedPicture, Written
from tijera.core.packages.places.spots import Stand
from tijera.core.units import Length

_BEFORE_SHAPES = {
    q(name)
    for name in (
        "table:title",
        "table:desc",
        "table:table-source",
        "office:dde-source",
        "table:scenario",
        "office:forms",
    )
}


@dataclass(frozen=True)
class _Placed:
    """A picture with the cells that it goes to and the name of its frame."""

    picture: PlacedPicture
    cells: CellRange
    stand: Stand
    member: str
    frame: str


@dataclass
class _Styles:
    """The automatic styles that are needed: one for the frames, one for each height that a row grows to."""

    document: OdsDocument
    frame: str = ""
    rows: dict[str, str | None] = field(default_factory=dict)
    """Each new style of a row, and the one that it stands in for."""

    def __post_init__(self) -> None:
        taken = self.document.styles.names
        self._free = (name for number in count(1) if (name := f"Placed{number}") not in taken)
        self.frame = next(self._free)
        parent = ' style:parent-style-name="Graphics"' if self.document.styles.has("graphic", "Graphics") else ""
        zero = "".join(f' fo:margin-{side}="0cm"' for side in ("left", "right", "top", "bottom"))
        self._xml = [
            f'<style:style{declared("style", "fo")} style:name="{self.frame}" style:family="graphic"{parent}>'
            f'<style:graphic-properties{zero} fo:padding="0cm" fo:border="none" style:shadow="none"'
            ' style:protect="none"/></style:style>'
        ]

    def row(self, height: Fraction, instead_of: str | None) -> str:
        """The name of a style for a row of this height, else like the one that it stands in for."""
        name = next(self._free)
        self.rows[name] = instead_of
        based = ""
        if instead_of is not None and self._is_common(instead_of):
            based = attributes(**{"style:parent-style-name": instead_of})
        self._xml.append(
            f'<style:style{declared("style", "fo")} style:name="{name}" style:family="table-row"{based}>'
            f'<style:table-row-properties style:row-height="{written(Length.exactly(height).emu)}"'
            ' fo:break-before="auto" style:use-optimal-row-height="false"/></style:style>'
        )
        return name

    def _is_common(self, name: str) -> bool:
        common = self.document.common
        styles = None if common is None else common.root.find(q("office:styles"))
        return styles is not None and any(node.get(q("style:name")) == name for node in styles)

    def splice(self) -> Splice:
        """All of them, at the end of the automatic styles, which are made where there are none."""
        part, xml = self.document.content, "".join(self._xml)
        holder = part.root.find(q("office:automatic-styles"))
        if holder is not None:
            return part.append_to(holder, xml)
        at = part.span(required(part.root, q("office:body"))).start
        return Splice(at, at, f"<office:automatic-styles{declared('office')}>{xml}</office:automatic-styles>")


def write(document: OdsDocument, pictures: Sequence[PlacedPicture]) -> Written:
    """Write a copy of the spreadsheet with the pictures in their places.

    A pure function; with no picture the original's bytes come back. Raises `SpotUnknown`, or `StructureBroken` when the
    structural check fails.
    """
    if not pictures:
        return Written(document.package.data, ())
    members, added = media_members(document.package, document.manifest, pictures)
    taken = {node.get(q("draw:name")) for node in document.content.root.iter(q("draw:frame"))}
    free = (name for number in count(1) if (name := f"Picture {number}") not in taken)
    by_sheet: dict[int, list[_Placed]] = {}
    for picture, member in zip(pictures, members, strict=True):
        number, cells, spot = find_spot(document.grids, picture.spot)
        by_sheet.setdefault(number, []).append(_Placed(picture, cells, picture.stand_at(spot), member, next(free)))
    styles = _Styles(document)
    splices = [splice for number, placed in by_sheet.items() for splice in _on_sheet(document, number, placed, styles)]
    content = document.content.spliced(opened_once([styles.splice(), *splices]))
    changed = {CONTENT: content}
    listed = document.manifest.with_members(media_types(members, pictures))
    if listed is not None:
        changed[manifest.NAME] = listed
    frames = frozenset(each.frame for placed in by_sheet.values() for each in placed)
    made = frozenset((styles.frame, *styles.rows))
    check_content(document, content, Inserted(frames, made, frozenset(added), styles.rows), sorted(by_sheet))
    first = (MIMETYPE, document.media_type.encode("ascii"))
    return Written(write_package(document.package, changed, added, first=first), tuple(members))


def _on_sheet(document: OdsDocument, number: int, placed: Sequence[_Placed], styles: _Styles) -> list[Splice]:
    """What goes into one table."""
    table, grid = document.tables[number], document.grids[number]
    part = document.content
    heights = grid.grown((each.cells, each.picture.height) for each in placed if each.picture.layout.grows_row)
    put: dict[int, dict[int, str]] = {row: {} for row in heights}
    shapes = ""
    for each in placed:
        if each.stand is Stand.STAYS:
            shapes += _frame(styles, grid, each, heights)
            continue
        in_row = put.setdefault(each.cells.top, {})
        in_row[each.cells.left] = in_row.get(each.cells.left, "") + _frame(styles, grid, each, heights)
    splices: list[Splice] = []
    row_styles: dict[int, str] = {}
    rows = document.rows[table]
    last = rows[-1].last if rows else -1
    by_row: dict[int, dict[int, dict[int, str]]] = {}
    for at in sorted(put):
        if at <= last:
            number = bisect_right(rows, at, key=attrgetter("first")) - 1
            by_row.setdefault(number, {})[at] = put[at]
    for number, inside in by_row.items():
        row = rows[number]
        for at in inside:
            if at in heights:
                row_styles[at] = styles.row(heights[at], row.node.get(q("table:style-name")))
        span = part.span(row.node)
        splices.append(Splice(span.start, span.end, split_row(part, row, inside, row_styles)))
    beyond = {at: cells for at, cells in put.items() if at > last}
    for at in beyond:
        if at in heights:
            row_styles[at] = styles.row(heights[at], None)
    if beyond:
        splices.append(_behind_rows(document, table, new_rows(beyond, row_styles, last + 1)))
    # Shapes first: in a table without rows both are put in at one place.
    return [*([_among_shapes(document, table, shapes)] if shapes else []), *splices]


def _behind_rows(document: OdsDocument, table: Element, xml: str) -> Splice:
    """Behind the last row of a table, whatever else stands there."""
    last = next((child for child in reversed(table) if child.tag == ROW or child.tag in ROW_HOLDERS), None)
    if last is None:
        return document.content.append_to(table, xml)
    at = document.content.span(last).end
    return Splice(at, at, xml)


def _among_shapes(document: OdsDocument, table: Element, xml: str) -> Splice:
    """Among the shapes of a table, which are made where there are none."""
    part, holder = document.content, table.find(q("table:shapes"))
    if holder is not None:
        return part.append_to(holder, xml)
    made = f"<table:shapes{declared('table')}>{xml}</table:shapes>"
    behind = next((child for child in table.iterchildren("*") if child.tag not in _BEFORE_SHAPES), None)
    if behind is None:
        return part.append_to(table, made)
    at = part.span(behind).start
    return Splice(at, at, made)


def _frame(styles: _Styles, grid: GridSheet, placed: _Placed, heights: dict[int, Fraction]) -> str:
    """The frame that holds one picture. It declares its own prefixes, whatever the document calls them."""
    picture = placed.picture
    named = {"draw:style-name": styles.frame, "draw:name": placed.frame}
    x = y = Length(0)
    if placed.stand is Stand.STRETCHES:
        named |= _end(grid, placed, heights)
    elif placed.stand is Stand.STAYS:
        x, y = grid.corner(placed.cells, heights)
    words = f"<svg:desc>{escape(printable(picture.description))}</svg:desc>" if picture.description else ""
    return (
        f"<draw:frame{declared('draw', 'svg', 'xlink', 'table')}{attributes(**named)}"
        f' svg:width="{written(picture.width.emu)}" svg:height="{written(picture.height.emu)}"'
        f' svg:x="{written(x.emu)}" svg:y="{written(y.emu)}">'
        f'<draw:image{attributes(**{"xlink:href": placed.member})} xlink:type="simple" xlink:show="embed"'
        f' xlink:actuate="onLoad"/>{words}</draw:frame>'
    )


def _end(grid: GridSheet, placed: _Placed, heights: dict[int, Fraction]) -> dict[str, str]:
    """Where the picture ends: its last cell, and how far into it."""
    column, x, row, y = grid.end(placed.cells, placed.picture.width, placed.picture.height, heights)
    sheet = grid.name.replace("'", "''")
    return {
        "table:end-cell-address": f"'{sheet}'.{column_name(column)}{row + 1}",
        "table:end-x": written(x.emu),
        "table:end-y": written(y.emu),
    }
