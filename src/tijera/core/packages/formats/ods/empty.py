"""A new, empty spreadsheet with one sheet."""

from __future__ import annotations

from tijera.core.packages.families.odf.empty import empty_package
from tijera.core.packages.formats.ods.document import MEDIA_TYPE


def empty() -> bytes:
    """The spreadsheet's bytes; the same every time."""
    body = (
        '<office:spreadsheet><table:table table:name="Sheet 1"><table:table-column/>'
        "<table:table-row><table:table-cell/></table:table-row></table:table></office:spreadsheet>"
    )
    return empty_package(MEDIA_TYPE, body, '<style:style style:name="Graphics" style:family="graphic"/>')
