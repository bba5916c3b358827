"""An .ods file, opened: its sheets, their measures and what stands on them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cache, cached_property

from tijera.core.errors import NotADocument, PartMissing
from tijera.core.packages.containers.elements import parent
from tijera.core.packages.containers.lazy_reading import Pulled
from tijera.core.packages.containers.xmlspan import Element, parse_safely, whole_number
from tijera.core.packages.containers.zipped import Guards, Package, open_package
from tijera.core.packages.families.odf.clips import Clips
from tijera.core.packages.families.odf.document import OdfDocument
from tijera.core.packages.families.odf.names import length_of, q
from tijera.core.packages.families.odf.package import FAMILY, SETTINGS, check_other_parts, of_kind, open_parts
from tijera.core.packages.families.odf.shown import member_of
from tijera.core.packages.formats.ods.tables import (
    Repeated,
    cells_of,
    read_cells,
    read_columns,
    read_merged,
    read_rows,
    rows_of,
    used,
)
from tijera.core.packages.places.grid import CellRange, GridBox, GridCell, GridSheet, Tracks, find_spot, usual_spots
from tijera.core.packages.places.spots import Spot
from tijera.core.units import Length

MEDIA_TYPE = f"{FAMILY}.spreadsheet"
_CONFIG = "{urn:oasis:names:tc:opendocument:xmlns:config:1.0}"
_FROZEN = "2"
_MOST_FROZEN = 200


@dataclass(frozen=True, eq=False)
class OdsDocument(OdfDocument):
    """An opened spreadsheet. Nothing of it ever changes; `place.write` makes a new package."""

    @cached_property
    def tables(self) -> tuple[Element, ...]:
        """Its sheets as elements, in the order of their tabs."""
        return tuple(self.content.root.iterfind(f"{q('office:body')}/{q('office:spreadsheet')}/{q('table:table')}"))

    @cached_property
    def rows(self) -> dict[Element, tuple[Repeated, ...]]:
        """The rows of each sheet."""
        return {table: tuple(rows_of(table)) for table in self.tables}

    @cached_property
    def grids(self) -> tuple[GridSheet, ...]:
        """What its sheets show."""
        frozen = _frozen(self.package)
        return tuple(self._grid(table, frozen) for table in self.tables)

    def _grid(self, table: Element, frozen: dict[str, tuple[int, int]]) -> GridSheet:
        name = table.get(q("table:name"), "")
        found = self.rows[table]
        columns, rows = read_columns(table, self.styles), read_rows(found, self.styles)
        properties = self.styles.properties("table", table.get(q("table:style-name")), "style:table-properties")

        def cells() -> Pulled[GridCell]:
            return Pulled(read_cells(found))

        return GridSheet(
            name=name,
            columns=columns,
            rows=rows,
            frozen_columns=frozen.get(name, (0, 0))[0],
            frozen_rows=frozen.get(name, (0, 0))[1],
            merged=tuple(read_merged(table, found)),
            boxes=Pulled(self._cropped(_boxes(table, found, columns, rows))),
            hidden=properties is not None and properties.get(q("table:display")) == "false",
            read_used=cache(lambda: used(found)),
            read_cells=cache(cells),
        )

    def _cropped(self, boxes: Iterable[tuple[Element, GridBox]]) -> Iterator[GridBox]:
        clips = Clips(self.styles, self.read)
        for node, box in boxes:
            is_here = box.member is not None and box.member in self.package
            yield replace(box, crop=clips.of(node, str(box.member))) if is_here else box

    @property
    def ending(self) -> str:
        """The ending of its file's name: a template has another one."""
        return "ots" if self.media_type.endswith("-template") else "ods"

    def spot(self, spot_id: str) -> Spot:
        """Find a spot; raise `SpotUnknown`."""
        return find_spot(self.grids, spot_id)[2]

    def spots(self) -> Iterable[Spot]:
        """A place below each column that is in use."""
        return usual_spots(self.grids)


def _frozen(package: Package) -> dict[str, tuple[int, int]]:
    """How many columns and rows of each sheet stay when it is scrolled: by the settings of the view."""
    if SETTINGS not in package:
        return {}
    root = parse_safely(SETTINGS, package.read(SETTINGS))
    found: dict[str, tuple[int, int]] = {}
    for tables in root.iter(f"{_CONFIG}config-item-map-named"):
        if tables.get(f"{_CONFIG}name") != "Tables":
            continue
        for entry in tables:
            items = {item.get(f"{_CONFIG}name"): (item.text or "").strip() for item in entry}
            across, down = (
                whole_number(items.get(f"{way}SplitPosition"), 0, 0, _MOST_FROZEN)
                if items.get(f"{way}SplitMode") == _FROZEN
                else 0
                for way in ("Horizontal", "Vertical")
            )
            found[entry.get(f"{_CONFIG}name", "")] = (across, down)
    return found


def _boxes(
    table: Element, found: Sequence[Repeated], columns: Tracks, rows: Tracks
) -> Iterator[tuple[Element, GridBox]]:
    """What stands on a sheet: by itself, and hanging from cells, where positions count from the cell."""
    for shapes in table.iterfind(q("table:shapes")):
        for node in shapes:
            yield from _box(node, Fraction(0), Fraction(0), columns, rows)
    holders = {parent(parent(node)) for node in table.iter(f"{{{_DRAW[1:-1]}}}*")}
    for row in found if holders else ():
        for cell in cells_of(row.node) if row.node in holders else ():
            for node in cell.node:
                if isinstance(node.tag, str) and node.tag.startswith(_DRAW):
                    yield from _box(node, columns.start(cell.first), rows.start(row.first), columns, rows)


_DRAW = q("draw:frame").removesuffix("frame")


def _box(node: Element, x: Fraction, y: Fraction, columns: Tracks, rows: Tracks) -> Iterator[tuple[Element, GridBox]]:
    left = x + (length_of(node, "svg:x") or 0)
    top = y + (length_of(node, "svg:y") or 0)
    wide, high = length_of(node, "svg:width"), length_of(node, "svg:height")
    end = _end(node, columns, rows)
    if end is not None:
        wide, high = end[0] - left, end[1] - top
    if wide is None or high is None or wide <= 0 or high <= 0:
        return
    image = node.find(q("draw:image"))
    member = None if image is None or node.find(q("draw:object")) is not None else member_of(image)
    chart = node.find(q("draw:object")) is not None
    kind = "picture" if member else ("chart" if chart else "shape")
    words = node.findtext(q("svg:desc")) or node.findtext(q("svg:title")) or node.get(q("draw:name")) or ""
    x_emu, y_emu, width, height = (Length.exactly(each) for each in (left, top, wide, high))
    yield node, GridBox(kind, x_emu, y_emu, width, height, member, description=words)


def _end(node: Element, columns: Tracks, rows: Tracks) -> tuple[Fraction, Fraction] | None:
    """Where a shape that sizes with the cells ends, from the sheet's corner."""
    address = node.get(q("table:end-cell-address"), "").rpartition(".")[2]
    cell = CellRange.parse(address)
    if cell is None:
        return None
    x, y = (length_of(node, name) or Fraction(0) for name in ("table:end-x", "table:end-y"))
    return columns.start(cell.left) + x, rows.start(cell.top) + y


def open_ods(data: bytes, name: str = "spreadsheet", guards: Guards | None = None) -> OdsDocument:
    """Open and check a spreadsheet from outside. Raises subclasses of `InputRefused`."""
    return open_package_as_ods(open_package(data, name, guards))


def recognises(package: Package) -> bool:
    """Whether a package says that it is a spreadsheet."""
    return of_kind(package, "spreadsheet")


def open_package_as_ods(package: Package) -> OdsDocument:
    """Read a package that passed the guards. Raises subclasses of `InputRefused`."""
    parts = open_parts(package)
    if parts.content.root.find(f"{q('office:body')}/{q('office:spreadsheet')}") is None:
        raise NotADocument(why="its content holds no sheets")
    document = OdsDocument(package, parts.media_type, parts.manifest, parts.content, parts.common)
    # Read once here, so that a malformed part is refused at the door.
    if not document.grids:
        raise PartMissing(part="table:table")
    check_other_parts(package)
    return document
