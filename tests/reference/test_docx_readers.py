"""What was written, read back by two independent readers and checked by the tests' own structural checker.

Readers: python-docx 1.2 and pandoc (through pypandoc). Neither notices a misplaced element, so the checker does.
"""

import io
import json
import tempfile
import unittest
from pathlib import Path
from typing import ClassVar

import docx
import pypandoc

from tests.support.docx import Docx, cell, paragraph, row, section, table
from tests.support.opc_checker import complaints
from tests.support.pictures import encoded, photograph_like, text_like
from tijera.core.packages.formats.docx.document import open_docx
from tijera.core.packages.formats.docx.writer import write
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.packages.places.spots import Spot
from tijera.core.units import Length
from tijera.demo.handbook import make_handbook

_PNG, _JPEG = encoded(text_like(90, 55)), encoded(photograph_like(80, 50), "JPEG")
_WORDS = 'Tide board: "Q4" & <wait>'


def _placed(spot: str, data: bytes = _PNG, extension: str = "png") -> PlacedPicture:
    return PlacedPicture(spot, data, extension, Length(2_826_385), Length(1_727_235), _WORDS)


class HandbookReadBack(unittest.TestCase):
    """Places of every kind in the demo handbook."""

    column: ClassVar[Spot]
    cell: ClassVar[Spot]
    original: ClassVar[bytes]
    written: ClassVar[bytes]

    @classmethod
    def setUpClass(cls) -> None:
        """One picture in a column, one in a cell, one in a content control, one at a section's end."""
        document = open_docx(make_handbook())
        spots = document.outline.spots
        cls.column = next(s for s in spots.values() if s.after_text.startswith("4.2"))
        cls.cell = next(s for s in spots.values() if s.after_text == "Oystercatcher")
        control = next(s for s in spots.values() if ".k." in s.id and s.after_text)
        end = next(s for s in spots.values() if s.side == "section-end" and s.after_text)
        pictures = [_placed(s.id) for s in (cls.column, cls.cell, control)] + [_placed(end.id, _JPEG, "jpeg")]
        cls.original, cls.written = document.package.data, write(document, pictures).data

    def test_the_checker_finds_nothing(self) -> None:
        """Neither in the original nor in the copy."""
        self.assertEqual(complaints(self.original), [])
        self.assertEqual(complaints(self.written), [])

    def test_python_docx_finds_it_at_the_right_paragraph_in_the_right_size(self) -> None:
        """With its alternative text and its very bytes; sections are as many as before."""
        read = docx.Document(io.BytesIO(self.written))
        before = docx.Document(io.BytesIO(self.original))
        self.assertEqual(len(read.sections), len(before.sections))
        texts = [each.text for each in read.paragraphs]
        after = read.paragraphs[texts.index(self.column.after_text) + 1]
        inline = after._p.xpath(".//wp:inline")[0]
        self.assertEqual((inline.extent.cx, inline.extent.cy), (2_826_385, 1_727_235))
        self.assertEqual(inline.docPr.get("descr"), _WORDS)
        blip = inline.xpath(".//a:blip/@r:embed")[0]
        self.assertEqual(read.part.related_parts[blip].blob, _PNG)
        in_cell = read.tables[0].rows[4].cells[1]
        self.assertEqual(len(in_cell._tc.xpath(".//w:drawing")), 1)

    def test_pandoc_finds_it_at_the_right_paragraph_in_the_right_size(self) -> None:
        """Its own parser, in another language; widths in inches."""
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "copy.docx"
            path.write_bytes(self.written)
            tree = json.loads(pypandoc.convert_file(str(path), "json"))
        flat = [_words(block) for block in tree["blocks"]]
        at = next(index for index, words in enumerate(flat) if words == self.column.after_text)
        image = tree["blocks"][at + 1]["c"][0]
        self.assertEqual(image["t"], "Image")
        self.assertEqual(_words(image["c"][1]), _WORDS)
        width = dict(image["c"][0][2])["width"]
        self.assertAlmostEqual(float(width.removesuffix("in")), 2_826_385 / 914_400, places=4)


def _words(node: object) -> str:
    """The text of a pandoc tree."""
    if isinstance(node, dict):
        if node.get("t") == "Str":
            return str(node["c"])
        if node.get("t") in ("Space", "SoftBreak"):
            return " "
        if node.get("t") == "Quoted":
            return f'"{_words(node["c"][1])}"'
        return _words(node.get("c", ""))
    return "".join(_words(each) for each in node) if isinstance(node, list) else ""


class CheckerCatches(unittest.TestCase):
    """A checker that can't fail proves nothing."""

    def test_damage_that_readers_overlook(self) -> None:
        """A paragraph in a row, a missing type, an id twice, a relationship to nowhere."""
        in_row = table("<w:tr>" + paragraph("lost") + cell(paragraph("x")) + "</w:tr>")
        cases = {
            "a paragraph stands in tr": Docx(in_row + section()),
            "a cell does not end in a paragraph": Docx(table(row(cell(table(row(cell(paragraph()))))))+ section()),
            "no type: word/media/a.png": Docx(paragraph() + section(), extra={"word/media/a.png": _PNG}),
            "twice: word/document.xml": Docx(paragraph() + section(), extra={"Word/Document.xml": b"<a/>"}),
            "stands below the part word/a": Docx(paragraph() + section(), extra={"word/a": b"", "word/a/b.xml": b"<a/>"}),
            "no part name": Docx(paragraph() + section(), extra={"word/a./b.xml": b"<a/>"}),
            "belongs to no part": Docx(paragraph() + section(), extra={"word/_rels/gone.xml.rels": b"<a/>"}),
            "is used in word/document.xml and not declared": Docx(
                paragraph().replace("<w:p>", '<w:p r:embed="rId77">', 1) + section()
            ),
            "which is not there": Docx(paragraph() + section(), relationships='<Relationship Id="x" Type="t" Target="gone.xml"/>'),
            "wrong order": Docx(paragraph("x", '<w:jc w:val="center"/><w:spacing w:after="0"/>') + section()),
        }  # fmt: skip
        for wanted, document in cases.items():
            with self.subTest(wanted):
                self.assertIn(wanted, " ".join(complaints(document.build())))
