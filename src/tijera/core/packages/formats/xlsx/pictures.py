"""The pictures of a workbook: on its sheets, and those that a sheet names otherwise, such as its background."""

from __future__ import annotations

from tijera.core.packages.formats.xlsx.document import XlsxDocument
from tijera.core.packages.places.reports import PictureReport, Showing, reports_of


def report_pictures(document: XlsxDocument) -> tuple[PictureReport, ...]:
    """Every embedded picture that a sheet or its drawing refers to, the heaviest first."""
    uses: dict[str, list[Showing]] = {}
    for sheet in document.sheets:
        drawing = sheet.drawing
        for relationships in (sheet.relationships, *(() if drawing is None else (drawing.relationships,))):
            for relationship in relationships.all:
                if relationship.is_kind("image") and not relationship.external:
                    uses.setdefault(relationship.target, [])
        for box in sheet.grid.boxes:
            if box.member is not None:
                uses.setdefault(box.member, []).append(Showing(box.width, box.height, box.crop, box.description))
    return reports_of(document.package, uses)
