"""Placing: the right paragraph, nothing else touched, and the structural check that watches it."""

import re
import unittest

from lxml import etree

from tests.support.docx import STRICT, Docx, members, paragraph, section
from tests.support.pictures import encoded, text_like
from tijera.core.errors import StructureBroken
from tijera.core.packages.containers.tree_comparison import marked
from tijera.core.packages.formats.docx.document import DocxDocument, open_docx
from tijera.core.packages.formats.docx.pictures import report_pictures
from tijera.core.packages.formats.docx.save_check import check_document
from tijera.core.packages.formats.docx.writer import write
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.units import Length
from tijera.demo.handbook import make_handbook

_PNG = encoded(text_like(60, 40))


def _picture(spot: str, data: bytes = _PNG, extension: str = "png", description: str = "") -> PlacedPicture:
    return PlacedPicture(spot, data, extension, Length.from_mm(60), Length.from_mm(40), description)


def _document(body: str, **more: object) -> DocxDocument:
    return open_docx(Docx(body + section(), **more).build())  # type: ignore[arg-type]


def _texts(data: bytes) -> list[str]:
    """Body paragraphs as text, placed pictures as "[picture]"."""
    body = etree.fromstring(members(data)["word/document.xml"])[0]
    return [
        "[picture]" if node.find(".//{*}drawing") is not None else "".join(map(str, node.itertext()))
        for node in body.iter("{*}p")
    ]


class Placing(unittest.TestCase):
    """Where the picture goes."""

    def test_after_before_and_in_order(self) -> None:
        """Several at one spot stand in the order given."""
        document = _document(paragraph("one") + paragraph("two"))
        other = encoded(text_like(60, 40, seed=9))
        written = write(document, [_picture("b.1"), _picture("b.0"), _picture("b.1", other)])
        self.assertEqual(_texts(written.data), ["[picture]", "one", "[picture]", "[picture]", "two"])
        relationships = re.findall(rb'r:embed="([^"]+)"', members(written.data)["word/document.xml"])
        self.assertEqual(relationships, [b"rId1", b"rId1", b"rId2"])

    def test_at_the_end_of_a_section_it_takes_the_properties_along(self) -> None:
        """Before: last words (section). After: last words, picture (section); then what begins the next one."""
        document = _document(paragraph("last words", section()) + paragraph("next"))
        written = write(document, [_picture("b.1"), _picture("b.1e")])
        root = etree.fromstring(members(written.data)["word/document.xml"])
        inside = ["sectPr" if node.find("{*}pPr/{*}sectPr") is not None else "" for node in root[0].iter("{*}p")]
        self.assertEqual(_texts(written.data), ["last words", "[picture]", "[picture]", "next"])
        self.assertEqual(inside, ["", "sectPr", "", ""])

    def test_every_spot_of_the_handbook_takes_a_picture(self) -> None:
        """All of them at once, through the structural check; and the spots of the copy still include the old ones."""
        document = open_docx(make_handbook())
        pictures = [_picture(spot) for spot in document.outline.spots]
        written = write(document, pictures)
        shown = re.findall(rb"<wp:inline", members(written.data)["word/document.xml"])
        self.assertEqual(len(shown), len(pictures) + 3)
        self.assertGreater(len(open_docx(written.data).outline.spots), len(pictures))

    def test_paragraph_properties_keep_the_picture_whole_and_in_its_column(self) -> None:
        """Automatic line spacing, the indents of the place, no first line."""
        document = _document(
            paragraph("x", '<w:spacing w:line="200" w:lineRule="exact"/><w:ind w:left="720" w:firstLine="284"/>')
        )
        xml = members(write(document, [_picture("b.1")]).data)["word/document.xml"].decode()
        placed = xml[xml.index("<w:p xmlns:w") :]
        self.assertIn('w:lineRule="auto"', placed)
        self.assertIn('<w:ind w:left="720" w:right="0" w:firstLine="0"/>', placed)

    def test_strict_documents_get_strict_names(self) -> None:
        """Namespaces, relationship type and the names of the sides."""
        written = members(write(_document(paragraph("x"), namespace=STRICT), [_picture("b.1")]).data)
        self.assertIn(b"http://purl.oclc.org/ooxml/drawingml/picture", written["word/document.xml"])
        self.assertIn(b'w:start="0"', written["word/document.xml"])
        self.assertIn(
            b"purl.oclc.org/ooxml/officeDocument/relationships/image", written["word/_rels/document.xml.rels"]
        )
        self.assertNotIn(b"schemas.openxmlformats.org/drawingml/2006/main", written["word/document.xml"])


class Untouched(unittest.TestCase):
    """What was not meant to change did not."""

    def test_members_that_had_no_need_to_change_are_the_same(self) -> None:
        """Only the main part, its relationships and the content types differ."""
        before = make_handbook()
        after = members(write(open_docx(before), [_picture("b.6")]).data)
        original = members(before)
        changed = {name for name in original if original[name] != after[name]}
        self.assertEqual(changed, {"word/document.xml", "word/_rels/document.xml.rels", "[Content_Types].xml"})
        self.assertEqual(set(after) - set(original), {"word/media/image4.png"})

    def test_the_rest_of_the_main_part_is_the_same_to_the_byte(self) -> None:
        """The inserted paragraph cut out again gives the original, with odd spelling, comments and all."""
        odd = (
            "<!-- keep -->\r\n" + paragraph("one") + "\n  <w:p w:rsidR='00AA'  ></w:p >" + paragraph("tail &amp; more")
        )
        document = _document(odd)
        xml = members(write(document, [_picture("b.1")]).data)["word/document.xml"].decode()
        start = xml.index("<w:p xmlns:w")
        end = xml.index("</w:p>", xml.index("</wp:inline>")) + len("</w:p>")
        self.assertEqual(xml[:start] + xml[end:], document.main.text)

    def test_nothing_placed_gives_the_original_back_and_twice_gives_the_same(self) -> None:
        """A pure function."""
        data = make_handbook()
        self.assertIs(write(open_docx(data), []).data, open_docx(data).package.data)
        self.assertEqual(*(write(open_docx(data), [_picture("b.3", description="Tide")]).data for _ in range(2)))

    def test_the_same_picture_is_kept_once(self) -> None:
        """Also when the document had it already; a picture of another type gets an override where it must."""
        first = write(_document(paragraph("x")), [_picture("b.1")]).data
        again = members(write(open_docx(first), [_picture("b.0")]).data)
        self.assertEqual([name for name in again if "media" in name], ["word/media/image1.png"])
        odd = _document(paragraph("x"), types='<Default Extension="PNG" ContentType="image/x-odd"/>')
        types = members(write(odd, [_picture("b.1")]).data)["[Content_Types].xml"].decode()
        self.assertIn('<Override xmlns="http://schemas.openxmlformats.org/package/2006/content-types" PartName="/word/media/image1.png" ContentType="image/png"/>', types)  # fmt: skip


class Reports(unittest.TestCase):
    """What weighs."""

    def test_pictures_are_reported_with_size_sharpness_and_use(self) -> None:
        """The placed one beside those that were there, by its real figures."""
        reports = {report.member: report for report in report_pictures(open_docx(write(open_docx(make_handbook()), [_picture("b.6"), _picture("b.7")]).data))}  # fmt: skip
        own = reports["word/media/image4.png"]
        self.assertEqual((str(own.pixels), own.times_used, own.bytes), ("60 × 40", 2, len(_PNG)))
        self.assertAlmostEqual(own.ppi or 0, 60 / (60 / 25.4), places=3)
        self.assertEqual(len(reports), 4)


def _with_marks(written: dict[str, bytes]) -> str:
    """The main part as the check sees it: with a mark on what was inserted."""
    return written["word/document.xml"].decode().replace("<w:p xmlns:w=", f"{marked('<w:p')} xmlns:w=")


class StructuralCheck(unittest.TestCase):
    """It catches what readers overlook."""

    def _check(self, change: tuple[str, str]) -> None:
        document = _document(paragraph("one") + paragraph("two"))
        written = members(write(document, [_picture("b.1")]).data)
        xml = _with_marks(written)
        self.assertIn(change[0], xml)
        broken = xml.replace(*change, 1).encode()
        with self.assertRaises(StructureBroken):
            check_document(document, broken, written, range(1, 2))

    def test_every_kind_of_damage_is_caught(self) -> None:
        """A misplaced paragraph, a changed word, a lost or doubled id, a relationship to nowhere, a broken tag."""
        inserted = marked("<w:p")
        damages = {
            "in a row": (inserted, "<w:tr>" + inserted),
            "a changed word": ("two", "tow"),
            "a lost id": ('<wp:docPr id="1"', '<wp:docPr id="7"'),
            "a relationship to nowhere": ('r:embed="rId1"', 'r:embed="rId9"'),
            "a broken tag": ("</w:body>", "</w:bod>"),
            "a lost attribute": ('w:w="11906"', 'w:w="11907"'),
        }
        for name, change in damages.items():
            with self.subTest(name):
                self._check(change)

    def test_a_paragraph_in_a_row_or_a_deletion_is_refused(self) -> None:
        """Well-formed, and opened by readers without complaint."""
        document = _document(paragraph("one") + paragraph("two"))
        written = members(write(document, [_picture("b.1")]).data)
        xml = _with_marks(written)
        start = xml.index(marked("<w:p"))
        end = xml.index("</w:p>", xml.index("</wp:inline>")) + len("</w:p>")
        for before, after in (("<w:tbl><w:tr>", "</w:tr></w:tbl>"), ("<w:del>", "</w:del>")):
            moved = xml[:start] + before + xml[start:end] + after + xml[end:]
            with self.assertRaises(StructureBroken):
                check_document(document, moved.encode(), written, range(1, 2))
