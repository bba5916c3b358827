""".odt files that other programs wrote, every spot of theirs as a place, read back by independent readers.

Writers and readers: pandoc and odfpy, each other's work too.
"""

import io
import tempfile
import unittest
import zipfile
from pathlib import Path

import pypandoc
from odf import draw, style, table, text
from odf.opendocument import OpenDocumentText, load

from tests.support.docx import members
from tests.support.pictures import encoded, text_like
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.packages.registry import format_of, open_document, report_pictures, write
from tijera.core.units import Length

_PNG = encoded(text_like(80, 50))
_RULES = """---
title: Crew rules
---

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

[^1]: Not by the clock.
"""


def _by_pandoc() -> bytes:
    """A title, a heading, numbered and nested lists, a quotation, a table, a footnote."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "rules.odt"
        pypandoc.convert_text(_RULES, "odt", format="markdown", outputfile=str(path))
        return path.read_bytes()


def _by_odfpy() -> bytes:
    """A page of its own, two columns in a section, a table with a picture, a footer."""
    document = OpenDocumentText()
    layout = style.PageLayout(name="L")
    layout.addElement(style.PageLayoutProperties(pagewidth="21cm", pageheight="29.7cm", margin="2.5cm"))
    document.automaticstyles.addElement(layout)
    master = style.MasterPage(name="Standard", pagelayoutname="L")
    footer = style.Footer()
    footer.addElement(text.P(text="Quillhaven Ferries"))
    master.addElement(footer)
    document.masterstyles.addElement(master)
    two = style.Style(name="Two", family="section")
    properties = style.SectionProperties()
    properties.addElement(style.Columns(columncount="2", columngap="0.5cm"))
    two.addElement(properties)
    document.automaticstyles.addElement(two)
    document.text.addElement(text.H(outlinelevel=1, text="Berths"))
    section = text.Section(name="Lanes", stylename=two)
    section.addElement(text.P(text="Whoever is unsure asks on channel 12."))
    document.text.addElement(section)
    rows = table.Table(name="Depths")
    rows.addElement(table.TableColumn(numbercolumnsrepeated="2"))
    row = table.TableRow()
    for words in ("Q4", "1.4 m"):
        cell = table.TableCell()
        cell.addElement(text.P(text=words))
        row.addElement(cell)
    rows.addElement(row)
    document.text.addElement(rows)
    frame = draw.Frame(width="2in", height="1.25in", anchortype="as-char")
    href = document.addPictureFromString(_PNG, "image/png")
    frame.addElement(draw.Image(href=href, type="simple", show="embed", actuate="onLoad"))
    paragraph = text.P(text="The outer quay ")
    paragraph.addElement(frame)
    document.text.addElement(paragraph)
    out = io.BytesIO()
    document.write(out)
    return out.getvalue()


_DOCUMENTS = (("pandoc", _by_pandoc), ("odfpy", _by_odfpy))


class Readers(unittest.TestCase):
    """Whatever the writers do differently."""

    def test_every_spot_takes_a_picture_and_the_rest_stays(self) -> None:
        """All at once; other members are the same to the byte; both readers find all text, and every picture at its size."""
        for name, make in _DOCUMENTS:
            data = make()
            document = open_document(data)
            spots = list(document.spots())
            self.assertGreater(len(spots), 4)
            pictures = [PlacedPicture(s.id, encoded(text_like(60, 40, seed=n)), "png", Length.from_mm(20 + n), Length.from_mm(12), f"Spot {s.id}.") for n, s in enumerate(spots)]  # fmt: skip
            written = write(document, pictures).data
            with self.subTest(name):
                before, after = members(data), members(written)
                changed = {member for member in before if before[member] != after[member]}
                self.assertEqual(changed, {"content.xml", "META-INF/manifest.xml"})
                self.assertEqual(_plain(data), _plain(written))
                read = load(io.BytesIO(written))
                frames = [
                    each
                    for each in read.getElementsByType(draw.Frame)
                    if str(each.getAttribute("name")).startswith("Picture")
                ]
                shown = sorted(float(str(each.getAttribute("width")).removesuffix("mm")) for each in frames)
                self.assertEqual(shown[: len(spots)], [20.0 + n for n in range(len(spots))])
                for each in frames:
                    href = each.getElementsByType(draw.Image)[0].getAttribute("href")
                    self.assertIn(href, after)

    def test_pandoc_reads_every_picture_that_was_placed(self) -> None:
        """As many as there were, and one for each spot."""
        for name, make in _DOCUMENTS:
            data = make()
            document = open_document(data)
            pictures = [
                PlacedPicture(spot.id, _PNG, "png", Length.from_mm(30), Length.from_mm(19), "")
                for spot in document.spots()
            ]
            with self.subTest(name):
                counts = [_markdown(each).count("](Pictures/") for each in (data, write(document, pictures).data)]
                self.assertEqual(counts[1] - counts[0], len(pictures))

    def test_widths_are_those_that_the_writer_meant(self) -> None:
        """160 mm between margins, 77.5 mm in two columns with 5 mm between, 80 mm in one of two cells."""
        document = open_document(_by_odfpy())
        by_text = {spot.after_text: spot.width.mm for spot in document.spots() if spot.after_text}
        self.assertEqual(by_text["Berths"], 160)
        self.assertEqual(by_text["Whoever is unsure asks on channel 12."], 77.5)
        self.assertEqual(by_text["Q4"], 80)

    def test_their_pictures_are_weighed(self) -> None:
        """80 pixels over two inches."""
        document = open_document(_by_odfpy())
        (report,) = report_pictures(document)
        self.assertEqual((str(report.pixels), report.ppi, report.times_used), ("80 × 50", 40.0, 1))
        self.assertEqual(format_of(document).extension, "odt")


def _plain(data: bytes) -> list[str]:
    """What odfpy reads as text, paragraph by paragraph; a placed picture's paragraph has none but its description."""
    read = load(io.BytesIO(data))
    paragraphs = [str(each) for each in read.getElementsByType(text.P) + read.getElementsByType(text.H)]
    return [each for each in paragraphs if each and not each.startswith("Spot ")]


def _markdown(data: bytes) -> str:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "copy.odt"
        path.write_bytes(data)
        with zipfile.ZipFile(path) as package:
            assert package.testzip() is None
        return str(pypandoc.convert_file(str(path), "markdown", extra_args=["--wrap=none"]))
