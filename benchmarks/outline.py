"""The outline of a document of 300 pages, against parsing its XML once. Outside: opening the package.

Three times. To its first lanes: what somebody waits for. The outline: every block with its kind, every place with its
width, counted to the last; the words of a paragraph are read when it is looked at. And every word and place of it, as
the galley gets them behind its first lanes: for that no goal was set, the figure is told beside the others.
"""

from __future__ import annotations

from lxml import etree

from benchmarks.measure import Result, compare, ratio
from tests.support.docx import Docx, section
from tests.support.odt import Odt, style
from tijera.core.packages.containers.zipped import open_package
from tijera.core.packages.places.format import Source, TextDocument
from tijera.core.packages.registry import FORMATS, as_text
from tijera.web.place.schemas import OutlineOut
from tijera.web.place.wire import outline

FIRST_BLOCKS = 40
"""As many as the galley asks for at first (`FIRST_BLOCKS` in frontend/src/api/bench.ts)."""

_PAGES, _A_PAGE = 300, 12
"""A heading and eleven paragraphs of four lines to a page."""
_WORDS = (
    "Ropes are laid out before the vessel has passed the inner light, and nobody stands between a bollard and a rope. "
)


def _docx() -> bytes:
    run = f'<w:r><w:rPr><w:lang w:val="en-GB"/></w:rPr><w:t xml:space="preserve">{_WORDS}</w:t></w:r>'

    def paragraph(number: int) -> str:
        if number % _A_PAGE == 0:
            return f'<w:p><w:pPr><w:pStyle w:val="H"/></w:pPr><w:r><w:t>Rule {number // _A_PAGE + 1}</w:t></w:r></w:p>'
        indent = 284 if number % 2 else 567
        properties = f'<w:pPr><w:spacing w:after="120"/><w:ind w:left="{indent}"/></w:pPr>'
        return f'<w:p w:rsidR="00A1">{properties}{run * 3}</w:p>'

    heading = '<w:style w:type="paragraph" w:styleId="H"><w:name w:val="heading 1"/></w:style>'
    return Docx("".join(map(paragraph, range(_PAGES * _A_PAGE))) + section(), styles=heading).build()


def _odt() -> bytes:
    run = f"<text:span>{_WORDS}</text:span>"

    def paragraph(number: int) -> str:
        if number % _A_PAGE == 0:
            return f'<text:h text:outline-level="1">Rule {number // _A_PAGE + 1}</text:h>'
        return f'<text:p text:style-name="P{number % 2}">{run * 3}</text:p>'

    styles = "".join(
        style(f"P{number}", "paragraph", f'<style:paragraph-properties fo:margin-left="{number + 5}mm"/>')
        for number in range(2)
    )
    return Odt("".join(map(paragraph, range(_PAGES * _A_PAGE))), automatic=styles).build()


def run() -> list[Result]:
    """Measure both kinds."""
    return [*_measure("docx", _docx(), "word/document.xml"), *_measure("odt", _odt(), "content.xml")]


def _measure(extension: str, data: bytes, part: str) -> list[Result]:
    package = open_package(data, f"a.{extension}")
    form = next(each for each in FORMATS if each.extension == extension)
    xml = package.read(part)

    def control() -> None:
        etree.fromstring(xml)

    def opened() -> TextDocument:
        return as_text(form.open(Source(data, f"a.{extension}")))

    def begin() -> OutlineOut:
        return outline(opened(), 0, FIRST_BLOCKS)

    def whole() -> int:
        return len(opened().outline.spots)

    def every_word() -> OutlineOut:
        return outline(opened())

    first, every = len(begin().spots), whole()
    size = f"{len(xml) / 1e6:.1f} MB of XML; ours unpacks and parses it, and checks the other parts too"
    return [
        ratio(
            f"A 300-page .{extension} to its first lanes",
            2.0,
            *compare(begin, control, 7),
            f"{first} of {every} places with their words, {size}",
        ),
        ratio(
            f"Outline of a 300-page .{extension}",
            2.0,
            *compare(whole, control, 7),
            f"every block and all {every} places, words when they are looked at; {size}",
        ),
        ratio(
            f"Every word of a 300-page .{extension}, ready to be sent",
            None,
            *compare(every_word, control, 7),
            f"behind the first lanes, nobody waits for it; {every} places, {size}",
        ),
    ]
