"""The pictures of a text document: those in the text, in headers and in footers."""

from __future__ import annotations

from tijera.core.packages.odf.shown import frames
from tijera.core.packages.odt.document import OdtDocument
from tijera.core.packages.reports import PictureReport, Showing, reports_of


def report_pictures(document: OdtDocument) -> tuple[PictureReport, ...]:
    """Every embedded picture that the document shows, the heaviest first."""
    uses: dict[str, list[Showing]] = {}
    for part in (document.content, document.common):
        for use in () if part is None else frames(part.root):
            uses.setdefault(use.member, []).append(Showing(use.width, use.height, description=use.description))
    return reports_of(document.package, uses)
