"""Damaged files: kept whole or refused with the reason, never a crash; each way to find one is kept as a case of its own."""

from __future__ import annotations

import struct
import unittest
from collections.abc import Callable, Iterator

from lxml import etree

from tests.support.docx import Docx, members, paragraph, zipped
from tests.support.mutation import damaged_message, damaged_package
from tests.support.ods import Ods, row
from tests.support.pictures import encoded, text_like
from tests.support.rounds import rounds
from tests.support.xlsx import Tab, Xlsx, cells
from tests.tijera.core.packages.test_layouts import _odt
from tijera.core.errors import PackageTruncated, PartMalformed, StructureBroken, TijeraError
from tijera.core.packages.containers.tree_comparison import cut_out
from tijera.core.packages.formats.eml.document import open_eml
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.placed import Layout, PlacedPicture
from tijera.core.packages.places.spots import SpotKind, Stand
from tijera.core.packages.registry import as_sheets, as_text, open_document, report_pictures, write
from tijera.core.units import Length
from tijera.demo.handbook import make_handbook
from tijera.demo.notice import make_notice
from tijera.demo.tide_table import make_tide_table

_PNG = encoded(text_like(30, 20, seed=4))
_ROUNDS = rounds(150)
_TABLE = "urn:oasis:names:tc:opendocument:xmlns:table:1.0"


def _picture(spot: str, layout: Layout | None = None) -> PlacedPicture:
    return PlacedPicture(spot, _PNG, "png", Length.from_mm(20), Length.from_mm(13), "x", layout or Layout())


def _use(data: bytes) -> Document:
    """All that can be done with a file: read whole, weighed, placed into, read again."""
    document = open_document(data)
    spots = list(document.spots())
    report_pictures(document)
    if spots and spots[0].kind is SpotKind.SHEET:
        for sheet in as_sheets(document).grids:
            len(sheet.read_cells())
    else:
        list(as_text(document).outline.body.blocks)
    for spot in spots[:1] + spots[-1:]:
        layout = Layout(stand=spot.stands[-1], caption="The bell", grows_row=True)
        list(open_document(write(document, [_picture(spot.id, layout)]).data).spots())
    return document


class AtRandom(unittest.TestCase):
    """Whatever is damaged, somebody can say what is wrong."""

    def test_nothing_crashes(self) -> None:
        """Seeds are numbers, so that one that fails can be looked at."""
        cases: dict[str, tuple[bytes, Callable[[bytes, int], bytes]]] = {
            "docx": (Docx(paragraph("one") + paragraph("two")).build(), damaged_package),
            "handbook": (make_handbook(), damaged_package),
            "odt": (_odt(), damaged_package),
            "xlsx": (make_tide_table(), damaged_package),
            "ods": (Ods({"T": row("one", "two") * 3}).build(), damaged_package),
            "eml": (make_notice(), damaged_message),
        }
        kept = refused = 0
        for name, (data, damage) in cases.items():
            for seed in range(_ROUNDS if name != "handbook" else _ROUNDS // 5):
                with self.subTest(name, seed=seed):
                    try:
                        _use(damage(data, seed))
                        kept += 1
                    except TijeraError as error:
                        self.assertTrue(error.title and error.detail and error.remedy)
                        refused += 1
        self.assertGreater(kept, _ROUNDS)
        self.assertGreater(refused, _ROUNDS)


def _left_out(data: bytes) -> Iterator[tuple[str, bytes]]:
    """The package once for every element of every part, with that one left out, and all in it."""
    parts = members(data)
    for name, content in parts.items():
        if not name.endswith((".xml", ".rels")):
            continue
        for at in range(1, len(list(etree.fromstring(content).iter("*")))):
            root = etree.fromstring(content)
            cut_out(list(root.iter("*"))[at])
            yield f"{name}, element {at}", zipped(parts | {name: etree.tostring(root)})


class LeftOut(unittest.TestCase):
    """Well-formed, and something is not there that a reader takes for granted."""

    def test_nothing_that_is_left_out_crashes(self) -> None:
        """Every element in turn: the rest is read and placed into, or refused with the reason."""
        cases = (
            Docx(paragraph("one") + paragraph("two")).build(),
            _odt(),
            Xlsx([Tab(rows=cells(("one", "two")))]).build(),
            Ods({"T": row("one", "two")}).build(),
        )
        kept = refused = 0
        for data in cases:
            for what, bare in _left_out(data):
                with self.subTest(what):
                    try:
                        _use(bare)
                        kept += 1
                    except TijeraError as error:
                        self.assertTrue(error.title and error.detail and error.remedy)
                        refused += 1
        self.assertGreater(kept, 20)
        self.assertGreater(refused, 10)


class Found(unittest.TestCase):
    """What damage at random brought up."""

    def test_a_package_with_nothing_in_it(self) -> None:
        """The end of a directory and no more."""
        with self.assertRaises(PackageTruncated):
            open_document(b"PK\x05\x06" + struct.pack("<4H2IH", 0, 0, 0, 0, 0, 0, 0))

    def test_header_words_that_cannot_be_read_stay_as_they_are(self) -> None:
        """Broken base64, a charset that there is not; a part of such a charset without a letter in it."""
        said = b"=?utf-8?b?AAAAAAAAAAAAAAAAAAAAAAAAA?= =?x-\xffone?q?a?="
        data = b"From: a@b.example\r\nSubject: " + said + b"\r\nContent-Type: text/html; charset=x-none\r\n\r\n"
        document = open_eml(data)
        self.assertTrue(any("=?" in value for _, value in document.fields))
        self.assertEqual(document.html_text[0], "")

    def test_relationships_that_are_none_are_refused(self) -> None:
        """Ids in a part that means something else could be taken twice."""
        built = Docx(paragraph("x"))
        parts = members(built.build())["word/_rels/document.xml.rels"].replace(b"/package/2006/", b"/package/2007/")
        with self.assertRaises(PartMalformed):
            open_document(Docx(paragraph("x"), extra={"word/_rels/document.xml.rels": parts}).build())

    def test_a_drawing_that_a_sheet_names_and_nothing_leads_to(self) -> None:
        """It gets what it names; the sheet stays as it is."""
        data = Xlsx([Tab(rows=cells(("one",)), after='<drawing r:id="rId7"/>')]).build()
        written = members(write(open_document(data), [_picture("Timetable!B2")]).data)
        self.assertEqual(written["xl/worksheets/sheet1.xml"], members(data)["xl/worksheets/sheet1.xml"])
        self.assertIn(b'Id="rId7"', written["xl/worksheets/_rels/sheet1.xml.rels"])

    def test_a_sheet_without_a_place_for_rows_grows_none(self) -> None:
        """Refused where a row would have to be made, placed into where not."""
        data = Xlsx([Tab(rows=cells(("one",)))]).build()
        sheet = members(data)["xl/worksheets/sheet1.xml"]
        bare = sheet[: sheet.index(b"<sheetData")] + sheet[sheet.index(b"</sheetData>") + len(b"</sheetData>") :]
        document = open_document(Xlsx([Tab()], extra={"xl/worksheets/sheet1.xml": bare}).build())
        write(document, [_picture("Timetable!B2")])
        with self.assertRaises(StructureBroken):
            write(document, [_picture("Timetable!B2", Layout(grows_row=True))])

    def test_a_table_without_rows_gets_shapes_and_rows(self) -> None:
        """It is one empty tag, which two things open: its shapes, which come first, and a row that grew."""
        document = open_document(Ods({"a > b": ""}).build())
        spot = next(iter(document.spots()))
        grows = Layout(stand=Stand.STAYS, grows_row=True)
        content = etree.fromstring(members(write(document, [_picture(spot.id, grows)]).data)["content.xml"])
        table = next(content.iter(f"{{{_TABLE}}}table"))
        self.assertEqual(
            [each.tag for each in table if "column" not in str(each.tag)],
            [f"{{{_TABLE}}}shapes", f"{{{_TABLE}}}table-row"],
        )

    def test_a_namespace_without_a_canonical_form(self) -> None:
        """A relative one in a cell beside the place."""
        odd = '<table:table-row><table:table-cell><text:p xmlns:x="here">one</text:p></table:table-cell></table:table-row>'
        _use(Ods({"T": odd * 2}).build())

    def test_a_picture_that_is_named_and_not_there_lends_its_relationship(self) -> None:
        """The new one gets the free name, and with it what led nowhere."""
        kind = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/image"
        relationship = f'<Relationship Id="rId9" Type="{kind}" Target="media/image1.png"/>'
        data = Docx(paragraph("x"), relationships=relationship).build()
        written = write(open_document(data), [_picture("b.1")])
        self.assertIn("word/media/image1.png", written.members)
        self.assertEqual(len(report_pictures(open_document(written.data))), 1)

    def test_a_lone_cell_far_off_does_not_list_every_column(self) -> None:
        """Any cell is a place; those that are listed can be read."""
        far = '<row r="1"><c r="XFD1" t="inlineStr"><is><t>x</t></is></c></row>'
        document = open_document(Xlsx([Tab(rows=far)]).build())
        self.assertLess(len(list(document.spots())), 300)
        self.assertEqual(document.spot("XFD1").id, "Timetable!XFD1")
