"""Properties over documents of any shape: paragraphs, sections, tables, controls, nested as they may be."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st
from lxml import etree

from tests.support.docx import Docx, cell, members, paragraph, row, section, table
from tests.support.opc_checker import complaints
from tests.support.pictures import encoded, text_like
from tests.support.rounds import rounds
from tijera.core.packages.formats.docx.document import open_docx
from tijera.core.packages.formats.docx.writer import write
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.units import Length

_PNG = encoded(text_like(30, 20))
_WORDS = st.sampled_from(["", "Ropes", "the watch &amp; the mate", "Q4 é €"])
_PARAGRAPH = st.builds(
    paragraph,
    _WORDS,
    st.sampled_from(["", '<w:ind w:left="300" w:right="200"/>', '<w:ind w:left="20000"/>', '<w:jc w:val="right"/>']),
)
_BREAK = st.builds(paragraph, _WORDS, st.just(section()))


def _control(inside: str) -> str:
    return f"<w:sdt><w:sdtPr/><w:sdtContent>{inside}</w:sdtContent></w:sdt>"


def _rows(contents: list[list[str]]) -> str:
    rows = [row(*(cell(inside + paragraph()) for inside in cells)) for cells in contents]
    return table(*rows, grid=(3_000,) * max(len(cells) for cells in contents))


_BLOCK = st.recursive(
    _PARAGRAPH,
    lambda inner: st.one_of(
        st.lists(inner, min_size=1, max_size=3).map("".join).map(_control),
        st.lists(st.lists(inner, min_size=1, max_size=3), min_size=1, max_size=2).map(_rows),
    ),
    max_leaves=8,
)
_BODY = st.lists(st.one_of(_BLOCK, _BREAK), min_size=1, max_size=6).map("".join)


class AnyDocument(unittest.TestCase):
    """Whatever its shape."""

    @settings(max_examples=rounds(60))
    @given(_BODY, st.data())
    def test_any_spots_take_pictures_and_the_text_stays(self, body: str, data: st.DataObject) -> None:
        """The copy is sound, every paragraph's text is there in order, and its own spots include the old texts."""
        document = open_docx(Docx(body + section()).build())
        spots = list(document.outline.spots)
        if not spots:
            return
        chosen = data.draw(st.lists(st.sampled_from(spots), min_size=1, max_size=4))
        pictures = [PlacedPicture(spot, _PNG, "png", Length.from_mm(9), Length.from_mm(6), "Tide") for spot in chosen]
        written = write(document, pictures)
        self.assertEqual(complaints(written.data), [])
        texts = []
        for xml in (document.main.data, members(written.data)["word/document.xml"]):
            paragraphs = etree.fromstring(xml).iter("{*}p")
            texts.append(
                ["".join(map(str, each.itertext())) for each in paragraphs if each.find(".//{*}drawing") is None]
            )
        self.assertEqual(*texts)
        again = open_docx(written.data)
        self.assertEqual(len(again.sections), len(document.sections))
        self.assertGreaterEqual(len(again.outline.spots), len(spots))

    @settings(max_examples=rounds(60))
    @given(_BODY)
    def test_every_width_is_positive_and_no_wider_than_its_section(self, body: str) -> None:
        """An indent that leaves nothing leaves no spot."""
        document = open_docx(Docx(body + section()).build())
        for spot in document.outline.spots.values():
            widest = max(document.sections[spot.section].columns)
            self.assertTrue(all(0 < width.emu <= widest.emu for width in spot.widths if spot.kind == "body"))
            self.assertGreater(spot.height.emu, 0)
