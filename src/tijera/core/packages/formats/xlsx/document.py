"""An .xlsx file, opened: its workbook, its sheets."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from tijera.core.errors import PartMissing
from tijera.core.packages.containers.zipped import Guards, Package, open_package
from tijera.core.packages.families.opc.document import OpcDocument
from tijera.core.packages.families.opc.package import check_other_parts, main_part, of_kind
from tijera.core.packages.formats.xlsx.cells import CellStyles, read_strings, read_styles
from tijera.core.packages.formats.xlsx.names import MAIN_TYPES, XlsxNames, names_of
from tijera.core.packages.formats.xlsx.tracks import USUAL_DIGIT_PX, digit_px, is_on
from tijera.core.packages.formats.xlsx.worksheet import Worksheet, read_sheet
from tijera.core.packages.places.grid import GridSheet, find_spot, usual_spots
from tijera.core.packages.places.spots import Spot


@dataclass(frozen=True, eq=False)
class XlsxDocument(OpcDocument[XlsxNames]):
    """An opened workbook. Nothing of it ever changes; `place.write` makes a new package."""

    @cached_property
    def sheets(self) -> tuple[Worksheet, ...]:
        """Its worksheets, in the order of their tabs; chart sheets have no cells and are none."""
        found = []
        for node in self.main.root.iterfind(f"{self.names.q('sheets')}/{self.names.q('sheet')}"):
            relationship = self.relationships.get(node.get(f"{{{self.names.r}}}id", ""))
            there = relationship is not None and relationship.is_kind("worksheet") and not relationship.external
            if relationship is None or not there or relationship.target not in self.package:
                continue
            hidden = node.get("state", "visible") != "visible"
            found.append(read_sheet(self, node.get("name", ""), relationship.target, hidden=hidden))
        return tuple(found)

    @property
    def grids(self) -> tuple[GridSheet, ...]:
        """What its sheets show."""
        return tuple(sheet.grid for sheet in self.sheets)

    @property
    def ending(self) -> str:
        """The ending of its file's name, by what its main part is."""
        return MAIN_TYPES.get(str(main_part(self.package)[1]), "xlsx")

    def spot(self, spot_id: str) -> Spot:
        """Find a spot; raise `SpotUnknown`."""
        return find_spot(self.grids, spot_id)[2]

    def spots(self) -> Iterable[Spot]:
        """A place below each column that is in use."""
        return usual_spots(self.grids)

    @cached_property
    def strings(self) -> tuple[str, ...]:
        """The shared strings."""
        return read_strings(self._related("sharedStrings"), self.names)

    @cached_property
    def cell_styles(self) -> CellStyles:
        """How numbers are shown."""
        properties = self.main.root.find(self.names.q("workbookPr"))
        is_1904 = properties is not None and is_on(properties.get("date1904"))
        return read_styles(self._related("styles"), self.names, is_1904=is_1904)

    @cached_property
    def digit_px(self) -> int:
        """The width of the widest digit of the usual font: what column widths count in."""
        styles = self._related("styles")
        font = None if styles is None else styles.find(f"{self.names.q('fonts')}/{self.names.q('font')}")
        name = None if font is None else font.find(self.names.q("name"))
        size = None if font is None else font.find(self.names.q("sz"))
        if name is None or size is None:
            return USUAL_DIGIT_PX
        try:
            points = float(size.get("val", ""))
        except ValueError:
            return USUAL_DIGIT_PX
        return digit_px(name.get("val", ""), points) if 1 <= points <= 100 else USUAL_DIGIT_PX


def open_xlsx(data: bytes, name: str = "workbook", guards: Guards | None = None) -> XlsxDocument:
    """Open and check a workbook from outside. Raises subclasses of `InputRefused`."""
    return open_package_as_xlsx(open_package(data, name, guards))


def recognises(package: Package) -> bool:
    """Whether a package says that its main part is of this kind."""
    return of_kind(package, MAIN_TYPES)


def open_package_as_xlsx(package: Package) -> XlsxDocument:
    """Read a package that passed the guards. Raises subclasses of `InputRefused`."""
    document = XlsxDocument.of(package, names_of)
    # Read once here, so that a malformed sheet is refused at the door.
    if not document.sheets:
        raise PartMissing(part="worksheet")
    check_other_parts(package, (document.main.name, *(sheet.member for sheet in document.sheets)), ())
    return document
