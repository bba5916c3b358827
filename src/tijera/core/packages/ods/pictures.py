"""The pictures of a spreadsheet: on its sheets, in headers and in footers."""

from __future__ import annotations

from tijera.core.packages.odf.shown import frames
from tijera.core.packages.ods.document import OdsDocument
from tijera.core.packages.reports import PictureReport, Showing, reports_of


def report_pictures(document: OdsDocument) -> tuple[PictureReport, ...]:
    """Every embedded picture that the spreadsheet shows, the heaviest first."""
    uses: dict[str, list[Showing]] = {}
    for part in (document.content, document.common):
        for use in () if part is None else frames(part.root):
            uses.setdefault(use.member, []).append(Showing(use.width, use.height, description=use.description))
    return reports_of(document.package, uses)
