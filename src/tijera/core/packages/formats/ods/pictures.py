"""The pictures of a spreadsheet: on its sheets, in headers and in footers."""

from __future__ import annotations

from tijera.core.packages.families.odf.clips import Clips
from tijera.core.packages.families.odf.shown import frames
from tijera.core.packages.formats.ods.document import OdsDocument
from tijera.core.packages.places.reports import PictureReport, Showing, reports_of
from tijera.core.packages.places.spots import WHOLE


def report_pictures(document: OdsDocument) -> tuple[PictureReport, ...]:
    """Every embedded picture that the spreadsheet shows, the heaviest first."""
    clips = Clips(document.styles, document.read)
    uses: dict[str, list[Showing]] = {}
    for part in (document.content, document.common):
        for use in () if part is None else frames(part.root):
            crop = clips.of(use.frame, use.member) if use.member in document.package else WHOLE
            uses.setdefault(use.member, []).append(Showing(use.width, use.height, crop, use.description))
    return reports_of(document.package, uses)
