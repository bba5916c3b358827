"""Documents that other programs wrote: python-docx and pandoc as writers, every spot of theirs as a place.

Each is read back by the writer of the other, and checked by the tests' own structural checker.
"""

import io
import tempfile
import unittest
from pathlib import Path

import docx
import pypandoc
from docx.enum.section import WD_ORIENT, WD_SECTION
from docx.shared import Inches, Mm

from tests.support.docx import members
from tests.support.opc_checker import complaints
from tests.support.pictures import encoded, photograph_like, text_like
from tijera.core.packages.formats.docx.document import open_docx
from tijera.core.packages.formats.docx.pictures import report_pictures
from tijera.core.packages.formats.docx.writer import write
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.units import Length

_PNG = encoded(text_like(80, 50))


def _by_python_docx() -> bytes:
    """Headings, lists, a picture, a table with merged and nested cells, portrait and landscape."""
    document = docx.Document()
    document.sections[0].page_width, document.sections[0].page_height = Mm(210), Mm(297)
    document.sections[0].left_margin = document.sections[0].right_margin = Mm(25)
    document.add_heading("Crew rules", 0)
    document.add_paragraph("Nobody stands under a load.", style="List Bullet")
    indented = document.add_paragraph("Whoever is unsure asks on channel 12.")
    indented.paragraph_format.left_indent = Mm(20)
    document.add_picture(io.BytesIO(encoded(photograph_like(90, 60), "JPEG")), width=Inches(2))
    table = document.add_table(rows=3, cols=3, style="Table Grid")
    table.cell(0, 0).merge(table.cell(1, 0)).text = "Q1 and Q2"
    table.cell(0, 1).merge(table.cell(0, 2)).text = "Vessels"
    inner = table.cell(2, 2).add_table(rows=1, cols=2)
    inner.cell(0, 1).text = "nested"
    landscape = document.add_section(WD_SECTION.NEW_PAGE)
    landscape.orientation = WD_ORIENT.LANDSCAPE
    landscape.page_width, landscape.page_height = Mm(297), Mm(210)
    document.add_paragraph("The chart is wide.")
    out = io.BytesIO()
    document.save(out)
    return out.getvalue()


def _by_pandoc() -> bytes:
    """Headings, numbered and nested lists, a quotation, a table, a footnote, a definition list."""
    text = """
# Calling a vessel in

Ropes are laid out *before* the vessel has passed the inner light.[^1]

1. Read the depth.
2. Call her in.
    - by radio
    - by hand

> The watch tells the bridge the new time.

| Berth | Vessel     |
|-------|------------|
| Q1    | Sandpiper  |
| Q4    | Oystercatcher |

Channel
:   twelve

[^1]: Not by the clock.
"""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "rules.docx"
        pypandoc.convert_text(text, "docx", format="markdown", outputfile=str(path))
        return path.read_bytes()


class OthersDocuments(unittest.TestCase):
    """Whatever their writers do differently."""

    def test_every_spot_takes_a_picture_and_the_rest_stays(self) -> None:
        """All at once; members that had no need to change are the same to the byte; both readers still open it."""
        for name, data in (("python-docx", _by_python_docx()), ("pandoc", _by_pandoc())):
            with self.subTest(name):
                document = open_docx(data)
                spots = list(document.outline.spots.values())
                self.assertGreater(len(spots), 10)
                pictures = [PlacedPicture(s.id, _PNG, "png", min(s.width, Length.from_mm(30)), Length.from_mm(19), s.id) for s in spots]  # fmt: skip
                written = write(document, pictures).data
                self.assertEqual(complaints(written), complaints(data))
                before, after = members(data), members(written)
                changed = {member for member in before if before[member] != after[member]}
                self.assertLessEqual(
                    changed, {"word/document.xml", "word/_rels/document.xml.rels", "[Content_Types].xml"}
                )
                texts = [
                    [p.text for p in docx.Document(io.BytesIO(each)).paragraphs if p.text] for each in (data, written)
                ]
                self.assertEqual(*texts)
                with tempfile.TemporaryDirectory() as folder:
                    path = Path(folder) / "copy.docx"
                    path.write_bytes(written)
                    plain = pypandoc.convert_file(str(path), "markdown")
                for spot in spots:
                    self.assertIn(spot.id, plain.replace("\\", "").replace("\n", " "))

    def test_widths_are_those_that_the_writer_meant(self) -> None:
        """160 mm between margins, 20 mm of indent, the landscape page, and no cell wider than its table."""
        document = open_docx(_by_python_docx())
        by_text = {spot.after_text: spot for spot in document.outline.spots.values() if spot.after_text}
        self.assertAlmostEqual(by_text["Crew rules"].width.mm, 160, delta=0.05)
        self.assertAlmostEqual(by_text["Whoever is unsure asks on channel 12."].width.mm, 140, delta=0.05)
        self.assertAlmostEqual(by_text["The chart is wide."].width.mm, 247, delta=0.05)
        self.assertLess(by_text["Q1 and Q2"].width.mm, 160 / 3)
        self.assertLess(by_text["nested"].width.mm, by_text["Q1 and Q2"].width.mm)
        self.assertAlmostEqual(by_text["Vessels"].width.mm, 2 * 160 / 3 - 3.81, delta=0.6)

    def test_their_pictures_are_weighed(self) -> None:
        """90 pixels over two inches."""
        (report,) = report_pictures(open_docx(_by_python_docx()))
        self.assertEqual((str(report.pixels), report.ppi, report.times_used), ("90 × 60", 45.0, 1))
