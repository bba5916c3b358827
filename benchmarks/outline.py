"""The outline of a document of 300 pages, against parsing its XML once. Outside: opening the package.

Twice: as far as the galley needs it to show its first lanes, which is what somebody waits for, and all of it, which
the galley asks for once they are there.
"""

from __future__ import annotations

from lxml import etree

from benchmarks.measure import Result, compare, ratio
from tests.support.docx import Docx, section
from tests.support.odt import Odt
from tijera.core.packages.formats import FORMATS, as_text
from tijera.core.packages.zipped import open_package
from tijera.web.schemas import OutlineOut
from tijera.web.wire import outline

FIRST_BLOCKS = 40
"""As many as the galley asks for at first (`FIRST_BLOCKS` in frontend/src/api/bench.ts)."""

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
    return [*_measure("docx", _docx(), "word/document.xml"), *_measure("odt", _odt(), "content.xml")]


def _measure(extension: str, data: bytes, part: str) -> list[Result]:
    package = open_package(data, f"a.{extension}")
    form = next(each for each in FORMATS if each.extension == extension)
    xml = package.read(part)

    def control() -> None:
        etree.fromstring(xml)

    def begin() -> OutlineOut:
        return outline(as_text(form.open(package)), 0, FIRST_BLOCKS)

    def whole() -> int:
        return len(as_text(form.open(package)).outline.spots)

    first, every = len(begin().spots), whole()
    size = f"{len(xml) / 1e6:.1f} MB of XML; ours parses it and checks the other parts too"
    return [
        ratio(
            f"A 300-page .{extension} to its first lanes",
            2.0,
            *compare(begin, control, 7),
            f"{first} of {every} places, {size}",
        ),
        ratio(f"Outline of a 300-page .{extension}", 2.0, *compare(whole, control, 7), f"{every} places, {size}"),
    ]
