"""A worksheet: its measures, its cells, what hangs on it."""

from __future__ import annotations

import contextlib
import re
from dataclasses import dataclass
from functools import cache, cached_property
from typing import Protocol

from tijera.core.errors import PartMalformed
from tijera.core.packages.containers.lazy_reading import Pulled
from tijera.core.packages.containers.xmlspan import Element, XmlPart, whole_number
from tijera.core.packages.containers.zipped import Package
from tijera.core.packages.families.opc.relationships import Relationship, Relationships
from tijera.core.packages.formats.xlsx.cells import CellStyles, read_cells
from tijera.core.packages.formats.xlsx.drawings import Drawing
from tijera.core.packages.formats.xlsx.names import XlsxNames
from tijera.core.packages.formats.xlsx.tracks import read_columns, read_rows, row_number
from tijera.core.packages.places.grid import CellRange, GridCell, GridSheet

_LAST_CELL = re.compile(r"([A-Za-z]{1,3}[0-9]{1,7})")
_MOST_FROZEN = 200


@dataclass(frozen=True, eq=False)
class Worksheet:
    """One sheet of a workbook, by its part. The tree is not kept: a large sheet's is ten times its text."""

    package: Package
    names: XlsxNames
    name: str
    member: str
    hidden: bool
    drawing_id: str | None
    """The relationship that its `drawing` names."""
    child_tags: tuple[str, ...]
    """What stands in its root, in order."""
    grid: GridSheet

    @cached_property
    def relationships(self) -> Relationships:
        """The relationships of its part."""
        return Relationships(self.package, self.member)

    @property
    def drawing_relationship(self) -> Relationship | None:
        """The relationship to its drawing part, whether or not that part is there."""
        found = self.relationships.get(self.drawing_id) if self.drawing_id else None
        return found if found is not None and not found.external else None

    @property
    def drawing(self) -> Drawing | None:
        """Its drawing part; None where it has none, or names one that is not there."""
        return drawing_of(self.package, self.drawing_relationship)


def drawing_of(package: Package, relationship: Relationship | None) -> Drawing | None:
    """The drawing that a relationship leads to; one that can't be read is passed over when looking."""
    if relationship is None or relationship.target not in package:
        return None
    part = XmlPart(relationship.target, package.read(relationship.target))
    return Drawing(part, Relationships(package, relationship.target))


class Workbook(Protocol):
    """What a sheet shares with the others of its workbook; read when a cell first needs it."""

    @property
    def package(self) -> Package:
        """Where it lies."""

    @property
    def names(self) -> XlsxNames:
        """Its namespaces."""

    @property
    def strings(self) -> tuple[str, ...]:
        """The shared strings."""

    @property
    def cell_styles(self) -> CellStyles:
        """How numbers are shown."""

    @property
    def digit_px(self) -> int:
        """The width of the widest digit of the usual font, in pixels."""


def read_sheet(workbook: Workbook, name: str, member: str, *, hidden: bool) -> Worksheet:
    """Read a sheet's measures. Raises `PartMalformed`, `DoctypeRefused`."""
    package, names = workbook.package, workbook.names
    root = XmlPart(member, package.read(member)).root
    columns = read_columns(root, names, workbook.digit_px)
    rows = read_rows(root, names)
    node = root.find(names.q("drawing"))
    drawing_id = None if node is None else node.get(f"{{{names.r}}}id")
    relationship = Relationships(package, member).get(drawing_id) if drawing_id else None
    boxes = []
    with contextlib.suppress(PartMalformed):
        drawing = drawing_of(package, None if relationship is None or relationship.external else relationship)
        boxes = list(drawing.boxes(names, columns, rows)) if drawing else []
    frozen = root.find(f"{names.q('sheetViews')}/{names.q('sheetView')}/{names.q('pane')}")
    if frozen is not None and frozen.get("state") not in ("frozen", "frozenSplit"):
        frozen = None
    used = _used(root, names)
    merged = (CellRange.parse(each.get("ref", "")) for each in root.iter(names.q("mergeCell")))

    def cells() -> Pulled[GridCell]:
        # Parsed anew, and kept only until all of it was read.
        again = XmlPart(member, package.read(member)).root
        return Pulled(read_cells(again, names, workbook.strings, workbook.cell_styles))

    grid = GridSheet(
        name=name,
        columns=columns,
        rows=rows,
        frozen_columns=_split(frozen, "xSplit"),
        frozen_rows=_split(frozen, "ySplit"),
        merged=tuple(each for each in merged if each is not None),
        boxes=tuple(boxes),
        hidden=hidden,
        read_used=lambda: used,
        read_cells=cache(cells),
    )
    return Worksheet(package, names, name, member, hidden, drawing_id, tuple(child.tag for child in root), grid)


def _split(pane: Element | None, name: str) -> int:
    text = ("" if pane is None else pane.get(name, "")).split(".")[0]
    return whole_number(text, 0, 0, _MOST_FROZEN)


def _used(root: Element, names: XlsxNames) -> tuple[int, int]:
    """How many rows and columns hold something."""
    rows, columns, at = 0, 0, -1
    for row in root.iterfind(f"{names.q('sheetData')}/{names.q('row')}"):
        at = row_number(row, at)
        if len(row) == 0:
            continue
        rows = max(rows, at + 1)
        match = _LAST_CELL.fullmatch(row[-1].get("r", "")) if isinstance(row[-1].tag, str) else None
        cell = CellRange.parse(match[1]) if match else None
        columns = max(columns, cell.right + 1 if cell else len(row))
    return rows, columns
