"""A new, empty text document: A4, margins of 2 cm, with styles for headings and captions."""

from __future__ import annotations

from tijera.core.packages.families.odf.empty import empty_package
from tijera.core.packages.formats.odt.document import MEDIA_TYPE

_STYLES = (
    '<style:style style:name="Standard" style:family="paragraph" style:class="text"><style:paragraph-properties '
    'fo:margin-bottom="0.2cm"/><style:text-properties fo:font-size="11pt"/></style:style>'
    '<style:style style:name="Heading" style:family="paragraph" style:parent-style-name="Standard">'
    '<style:text-properties fo:font-weight="bold"/></style:style>'
    '<style:style style:name="Caption" style:family="paragraph" style:parent-style-name="Standard" style:class="extra">'
    '<style:paragraph-properties fo:margin-top="0.1cm" fo:margin-bottom="0.35cm"/>'
    '<style:text-properties fo:font-size="9pt" fo:font-style="italic"/></style:style>'
    '<style:style style:name="Graphics" style:family="graphic"/>'
)
_LAYOUT = (
    '<style:page-layout style:name="Page"><style:page-layout-properties fo:page-width="21cm" fo:page-height="29.7cm" '
    'fo:margin="2cm"/></style:page-layout>'
)


def empty() -> bytes:
    """The document's bytes; the same every time."""
    body = '<office:text><text:p text:style-name="Standard"/></office:text>'
    master = '<style:master-page style:name="Standard" style:page-layout-name="Page"/>'
    return empty_package(MEDIA_TYPE, body, _STYLES, _LAYOUT, master)
