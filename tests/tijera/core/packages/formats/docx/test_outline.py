"""Spots: offered where a picture can stand and will be seen, and nowhere else."""

import unittest

from tests.support.docx import A4_MARGINS_1417, STRICT, Docx, cell, paragraph, row, section, table
from tijera.core.errors import DoctypeRefused, NotADocument, PackageSigned, PartMalformed, SpotUnknown
from tijera.core.packages.formats.docx.document import DocxDocument, open_docx

_FIELD = '<w:r><w:fldChar w:fldCharType="{}"/></w:r>'


def _open(body: str, **more: str) -> DocxDocument:
    return open_docx(Docx(body + section(), **more).build())  # type: ignore[arg-type]


def _ids(body: str) -> list[str]:
    return list(_open(body).outline.spots)


class Body(unittest.TestCase):
    """Between paragraphs."""

    def test_before_the_first_and_after_each(self) -> None:
        """With the text that each follows."""
        document = _open(paragraph("one") + paragraph("two"))
        self.assertEqual({id_: spot.after_text for id_, spot in document.outline.spots.items()}, {"b.0": "", "b.1": "one", "b.2": "two"})  # fmt: skip

    def test_the_same_bytes_give_the_same_ids(self) -> None:
        """And an id that is not there is refused in words."""
        body = paragraph("one") + table(row(cell(paragraph("x"))))
        self.assertEqual(_ids(body), _ids(body))
        with self.assertRaises(SpotUnknown):
            _open(body).spot("b.99")

    def test_a_section_ends_behind_its_text_and_in_front_of_the_next(self) -> None:
        """Two spots: one still in the section, one in the next; an empty last paragraph has only the second."""
        body = paragraph("last words", section()) + paragraph("next") + paragraph("", section()) + paragraph("end")
        spots = _open(body).outline.spots
        self.assertEqual({id_: spot.section for id_, spot in spots.items()}, {"b.0": 0, "b.1e": 0, "b.1": 1, "b.2": 1, "b.3": 2, "b.4": 2})  # fmt: skip

    def test_never_inside_the_result_of_a_field(self) -> None:
        """An index over several paragraphs is thrown away when it is updated."""
        index = (
            f"<w:p>{_FIELD.format('begin')}<w:r><w:instrText>TOC</w:instrText></w:r>{_FIELD.format('separate')}"
            f"<w:r><w:t>4 Calling</w:t></w:r></w:p>{paragraph('5 Gangways')}<w:p>{_FIELD.format('end')}</w:p>"
        )
        self.assertEqual(_ids(paragraph("head") + index + paragraph("tail")), ["b.0", "b.1", "b.4", "b.5"])

    def test_never_beside_a_paragraph_whose_end_is_deleted(self) -> None:
        """It will run into the next one when the change is accepted."""
        gone = paragraph("gone", "<w:rPr><w:del w:id='1' w:author='a'/></w:rPr>")
        self.assertEqual(_ids(paragraph("kept") + gone + paragraph("more")), ["b.0", "b.1", "b.3"])

    def test_text_is_read_as_it_is_seen(self) -> None:
        """Deleted words, field codes and text boxes are not the paragraph's text; a fallback is not counted twice."""
        mixed = (
            "<w:p><w:r><w:t>seen </w:t></w:r><w:del w:id='1'><w:r><w:delText>not </w:delText></w:r></w:del>"
            "<w:r><w:instrText>PAGE</w:instrText></w:r><w:ins w:id='2'><w:r><w:t>inserted</w:t></w:r></w:ins>"
            "<w:r><mc:AlternateContent><mc:Choice><w:t> once</w:t></mc:Choice>"
            "<mc:Fallback><w:t> twice</w:t></mc:Fallback></mc:AlternateContent></w:r>"
            "<w:r><w:pict><w:txbxContent><w:p><w:r><w:t>box</w:t></w:r></w:p></w:txbxContent></w:pict></w:r></w:p>"
        )
        self.assertEqual(_open(mixed).outline.spots["b.1"].after_text, "seen inserted once")


class Cells(unittest.TestCase):
    """In tables."""

    def test_every_cell_offers_spots_but_a_continued_one_none(self) -> None:
        """A cell that continues a vertical merge shows nothing."""
        merged = table(
            row(cell(paragraph("a"), '<w:vMerge w:val="restart"/>'), cell(paragraph("b"))),
            row(cell(paragraph(), "<w:vMerge/>"), cell(paragraph("c"))),
            grid=(2_000, 3_000),
        )
        document = _open(merged)
        cells = [id_ for id_, spot in document.outline.spots.items() if spot.kind == "cell"]
        self.assertEqual(
            cells, ["b.1.r1.c1.0", "b.1.r1.c1.1", "b.1.r1.c2.0", "b.1.r1.c2.1", "b.1.r2.c2.0", "b.1.r2.c2.1"]
        )
        self.assertEqual(document.outline.body.blocks[0].rows[0][0].row_span, 2)

    def test_a_cell_that_is_covered_from_the_left_offers_none(self) -> None:
        """Older programs merge across in this way."""
        cells = cell(paragraph("a"), '<w:hMerge w:val="restart"/>') + cell(paragraph(), "<w:hMerge/>")
        ids = _ids(table(row(cells), grid=(2_000, 3_000)))
        self.assertEqual(ids, ["b.0", "b.1.r1.c1.0", "b.1.r1.c1.1", "b.1"])

    def test_an_empty_cell_offers_one_spot(self) -> None:
        """Before and after its empty paragraph would look the same."""
        self.assertEqual(_ids(table(row(cell(paragraph())), grid=(4_000,))), ["b.0", "b.1.r1.c1.0", "b.1"])

    def test_widths_follow_spans_percents_and_nesting(self) -> None:
        """A cell over two grid columns; half of a table of half the text width; a table in a cell."""
        inner = table(row(cell(paragraph("x"))), grid=(1_000,))
        body = table(
            row(cell(paragraph("x"), '<w:gridSpan w:val="2"/>'), cell(inner + paragraph())),
            grid=(1_200, 800, 3_000),
        ) + table(
            row(cell(paragraph("y"), '<w:tcW w:w="2500" w:type="pct"/>')),
            properties='<w:tblW w:w="2500" w:type="pct"/>',
            grid=(1,),
        )
        spots = _open(body).outline.spots
        self.assertEqual(spots["b.1.r1.c1.0"].width.emu, (2_000 - 230) * 635)
        self.assertEqual(spots["b.1.r1.c2.1.r1.c1.0"].width.emu, (1_000 - 230) * 635)
        self.assertEqual(spots["b.2.r1.c1.0"].width.emu, (9_072 // 4 - 230) * 635)

    def test_an_exact_row_limits_the_height(self) -> None:
        """It would clip what is higher; a row of at least that height grows."""
        for rule, limited in (("exact", True), ("atLeast", False)):
            height = f'<w:trHeight w:val="1000" w:hRule="{rule}"/>'
            body = table(row(cell(paragraph("x")), properties=height), grid=(4_000,))
            spot = _open(body).outline.spots["b.1.r1.c1.0"]
            self.assertEqual(spot.height.emu == 635_000, limited)


class Controls(unittest.TestCase):
    """In content controls."""

    def _control(self, properties: str) -> list[str]:
        control = f"<w:sdt><w:sdtPr>{properties}</w:sdtPr><w:sdtContent>{paragraph('in')}</w:sdtContent></w:sdt>"
        return [id_ for id_ in _ids(control) if ".k." in id_]

    def test_rich_ones_take_pictures_plain_and_locked_ones_don_t(self) -> None:
        """Nor do placeholders and indexes, which are replaced as a whole."""
        self.assertEqual(self._control('<w:alias w:val="Note"/>'), ["b.1.k.0", "b.1.k.1"])
        index = '<w:docPartObj><w:docPartGallery w:val="Table of Contents"/></w:docPartObj>'
        for properties in ("<w:text/>", "<w:date/>", '<w:lock w:val="sdtContentLocked"/>', "<w:showingPlcHdr/>", index):
            with self.subTest(properties):
                self.assertEqual(self._control(properties), [])

    def test_custom_xml_round_blocks_is_looked_through(self) -> None:
        """Its paragraphs are counted like any other."""
        self.assertEqual(_ids(f"<w:customXml>{paragraph('a')}{paragraph('b')}</w:customXml>"), ["b.0", "b.1", "b.2"])


class BeyondReason(unittest.TestCase):
    """Numbers that no program writes and an attacker may."""

    def test_absurd_numbers_are_passed_over(self) -> None:
        """Thousands of digits, other alphabets' digits, nothing at all; the document opens with sensible widths."""
        many = "9" * 5_000
        for number in (many, f"-{many}", "²", "٣", "", "NaN", "1e9", "0x10", f"{many}%", "nan%"):
            body = (
                paragraph("x", f'<w:pStyle w:val="{number}"/><w:ind w:left="{number}"/>')
                + table(
                    row(cell(paragraph("y"), f'<w:tcW w:w="{number}" w:type="pct"/><w:gridSpan w:val="{number}"/>')),
                    properties=f'<w:tblW w:w="{number}" w:type="pct"/>',
                    grid=(4_000,),
                )
                + section(A4_MARGINS_1417 + f'<w:cols w:num="{number}" w:space="{number}"/>')
            )
            styles = f'<w:style w:type="paragraph" w:styleId="{number}"><w:name w:val="heading {number}"/></w:style>'
            with self.subTest(number[:8]):
                spots = open_docx(Docx(body, styles=styles).build()).outline.spots
                self.assertEqual(spots["b.1"].width.emu, 5_760_720)
                self.assertGreater(spots["b.2.r1.c1.0"].width.emu, 0)


class Opening(unittest.TestCase):
    """Which files are documents."""

    def test_strict_files_and_absolute_targets_open(self) -> None:
        """Other namespaces everywhere, targets from the root."""
        body = paragraph("x") + section(A4_MARGINS_1417)
        self.assertEqual(len(open_docx(Docx(body, namespace=STRICT).build()).outline.spots), 2)
        styles = (
            '<w:style w:type="paragraph" w:default="1" w:styleId="n"><w:pPr><w:ind w:left="1000"/></w:pPr></w:style>'
        )
        document = open_docx(Docx(body, styles=styles, absolute_targets=True).build())
        self.assertEqual(document.outline.spots["b.1"].width.emu, (9_072 - 1_000) * 635)

    def test_document_types_are_refused_in_any_part_and_broken_stories_at_the_door(self) -> None:
        """A part that nobody reads may be broken: it is copied as it is."""
        kind = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/header"
        relationship = f'<Relationship Id="h" Type="{kind}" Target="header1.xml"/>'
        evil = {"customXml/item1.xml": b'<!DOCTYPE a [<!ENTITY b "c">]><a/>'}
        broken = {"word/header1.xml": b"<w:hdr>"}
        with self.assertRaises(DoctypeRefused):
            open_docx(Docx(paragraph("x") + section(), extra=evil).build())
        with self.assertRaises(PartMalformed):
            open_docx(Docx(paragraph("x") + section(), extra=broken, relationships=relationship).build())
        self.assertEqual(len(open_docx(Docx(paragraph("x") + section(), extra=broken).build()).outline.spots), 2)

    def test_what_is_no_document_or_is_signed_is_refused(self) -> None:
        """In words that say so."""
        with self.assertRaises(PackageSigned):
            open_docx(Docx(paragraph("x"), extra={"_xmlsignatures/sig1.xml": b"<s/>"}).build())
        from tests.support.docx import zipped

        for parts in ({"a.txt": b"x"}, {"[Content_Types].xml": b'<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>'}):  # fmt: skip
            with self.assertRaises(NotADocument):
                open_docx(zipped(parts))
