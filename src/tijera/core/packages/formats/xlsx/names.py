"""Namespaces of SpreadsheetML, transitional and strict (ECMA-376 Part 4 and ISO/IEC 29500-1)."""

from __future__ import annotations

from dataclasses import dataclass

from tijera.core.packages.families.opc import relationships

MC = "http://schemas.openxmlformats.org/markup-compatibility/2006"
MAIN_TYPES = {
    f"application/vnd.{name}.main+xml": ending
    for name, ending in (
        ("openxmlformats-officedocument.spreadsheetml.sheet", "xlsx"),
        ("openxmlformats-officedocument.spreadsheetml.template", "xltx"),
        ("ms-excel.sheet.macroEnabled", "xlsm"),
        ("ms-excel.template.macroEnabled", "xltm"),
    )
}
"""Of main parts, with the ending that a file of each has."""
DRAWING_TYPE = "application/vnd.openxmlformats-officedocument.drawing+xml"


@dataclass(frozen=True)
class XlsxNames:
    """The namespaces that one workbook uses throughout."""

    main: str
    r: str
    xdr: str
    a: str
    relationships: str
    """What the types of its relationships begin with."""

    def q(self, local: str) -> str:
        """The expanded name of an element of the main namespace."""
        return f"{{{self.main}}}{local}"

    def x(self, local: str) -> str:
        """The expanded name of an element of a drawing part."""
        return f"{{{self.xdr}}}{local}"


_FORMATS = "http://schemas.openxmlformats.org"
_STRICT = "http://purl.oclc.org/ooxml"
TRANSITIONAL = XlsxNames(
    main=f"{_FORMATS}/spreadsheetml/2006/main",
    r=relationships.TRANSITIONAL,
    xdr=f"{_FORMATS}/drawingml/2006/spreadsheetDrawing",
    a=f"{_FORMATS}/drawingml/2006/main",
    relationships=relationships.TRANSITIONAL,
)
STRICT = XlsxNames(
    main=f"{_STRICT}/spreadsheetml/main",
    r=relationships.STRICT,
    xdr=f"{_STRICT}/drawingml/spreadsheetDrawing",
    a=f"{_STRICT}/drawingml/main",
    relationships=relationships.STRICT,
)


def names_of(root_tag: str) -> XlsxNames | None:
    """The namespaces of a workbook by its root element; None when it is no SpreadsheetML workbook."""
    return next((names for names in (TRANSITIONAL, STRICT) if root_tag == names.q("workbook")), None)
