"""The outline of a document of 300 pages, against parsing its XML once. Outside: opening the package."""

from __future__ import annotations

from lxml import etree

from benchmarks.measure import Result, compare, ratio
from tests.support.docx import Docx, section
from tests.support.odt import Odt
from tijera.core.packages.formats import FORMATS, as_text
from tijera.core.packages.zipped import open_package

_PARAGRAPHS = 3_600
"""Twelve of four lines to a page."""
_WORDS = (
    "Ropes are laid out before the vessel has passed the inner light, and nobody stands between a bollard and a rope. "
)


def _docx() -> bytes:
    run = f'<w:r><w:rPr><w:lang w:val="en-GB"/></w:rPr><w:t xml:space="preserve">{_WORDS}</w:t></w:r>'
    paragraphs = (
        f'<w:p w:rsidR="00A1"><w:pPr><w:spacing w:after="120"/><w:ind w:left="284"/></w:pPr>{run * 3}</w:p>'
        * _PARAGRAPHS
    )
    return Docx(paragraphs + section()).build()


def _odt() -> bytes:
    return Odt(
        f"<text:p>{''.join(f'<text:span>{_WORDS}</text:span>' for _ in range(3))}</text:p>" * _PARAGRAPHS
    ).build()


def run() -> list[Result]:
    """Measure both kinds."""
    return [_measure("docx", _docx(), "word/document.xml"), _measure("odt", _odt(), "content.xml")]


def _measure(extension: str, data: bytes, part: str) -> Result:
    package = open_package(data, f"a.{extension}")
    form = next(each for each in FORMATS if each.extension == extension)
    xml = package.read(part)
    places = len(as_text(form.open(package)).outline.spots)
    details = f"{len(xml) / 1e6:.1f} MB of XML, {places} places; ours parses it and checks the other parts too"
    measured = compare(lambda: form.open(package), lambda: etree.fromstring(xml), 7)
    return ratio(f"Outline of a 300-page .{extension}", 2.0, *measured, details)
