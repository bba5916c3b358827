"""Workbooks: measures, cells, placing, what must stay; against hand-made parts."""

from __future__ import annotations

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st
from lxml import etree

from tests.support.docx import members
from tests.support.opc_checker import complaints
from tests.support.pictures import encoded, text_like
from tests.support.rounds import rounds
from tests.support.xlsx import SHEET_TYPE, Tab, Xlsx, cells, relationships_part
from tijera.core.errors import DoctypeRefused, NotADocument, PackageSigned, PartMalformed, PartMissing, StructureBroken
from tijera.core.packages.containers.tree_comparison import cut_out, same_tree
from tijera.core.packages.formats.xlsx.document import XlsxDocument, open_xlsx
from tijera.core.packages.formats.xlsx.names import STRICT, TRANSITIONAL
from tijera.core.packages.formats.xlsx.pictures import report_pictures
from tijera.core.packages.formats.xlsx.save_check import check_drawing
from tijera.core.packages.formats.xlsx.writer import write
from tijera.core.packages.places.placed import Layout, PlacedPicture
from tijera.core.packages.places.spots import Crop, Stand
from tijera.core.units import Length
from tijera.demo.tide_table import make_tide_table

_PNG = encoded(text_like(60, 40, seed=4))
_X = TRANSITIONAL.xdr
_SHEET = "xl/worksheets/sheet1.xml"
_PAGE = '<pageMargins left="1" right="1" top="1" bottom="1" header="0" footer="0"/>'


def _picture(spot: str, stand: Stand | None = None, *, grows: bool = False, data: bytes = _PNG) -> PlacedPicture:
    layout = Layout(stand=stand, grows_row=grows)
    return PlacedPicture(
        spot, data, "png", Length.from_pixels(300), Length.from_pixels(190), 'The "bell" & <rope>', layout
    )


def _written(document: XlsxDocument, *pictures: PlacedPicture) -> dict[str, bytes]:
    data = write(document, pictures).data
    open_xlsx(data)
    before = complaints(document.package.data)
    if new := [each for each in complaints(data) if each not in before]:
        raise AssertionError(new)
    return members(data)


def _drawing(*anchors: str) -> bytes:
    inside = "".join(anchors)
    return f'<d:wsDr xmlns:d="{_X}" xmlns:a="{TRANSITIONAL.a}" xmlns:r="{TRANSITIONAL.r}">{inside}</d:wsDr>'.encode()


def _corner(name: str, column: int, row: int) -> str:
    return f"<d:{name}><d:col>{column}</d:col><d:colOff>0</d:colOff><d:row>{row}</d:row><d:rowOff>9525</d:rowOff></d:{name}>"


_PIC = '<d:pic><d:nvPicPr><d:cNvPr id="7" name="p" descr="Old pier"/><d:cNvPicPr/></d:nvPicPr><d:blipFill><a:blip r:embed="rId1"/><a:srcRect l="25000"/></d:blipFill><d:spPr/></d:pic><d:clientData/>'
_CHART = '<d:graphicFrame><d:nvGraphicFramePr><d:cNvPr id="9" name="Catch"/></d:nvGraphicFramePr></d:graphicFrame><d:clientData/>'
_OLD = f"<d:twoCellAnchor>{_corner('from', 1, 2)}{_corner('to', 3, 6)}{_PIC}</d:twoCellAnchor><d:absoluteAnchor><d:pos x='95250' y='0'/><d:ext cx='190500' cy='95250'/>{_CHART}</d:absoluteAnchor>"


def _with_drawing(drawing: bytes | None = None, after: str = '<drawing r:id="rId5"/>') -> Xlsx:
    extra = {"xl/media/image1.png": encoded(text_like(50, 30, seed=9))}
    if drawing is not None:
        extra["xl/drawings/drawing1.xml"] = drawing
        extra["xl/drawings/_rels/drawing1.xml.rels"] = relationships_part(
            TRANSITIONAL, (("rId1", "image", "../media/image1.png"),)
        ).encode()
    tab = Tab(rows=cells(("Boat",)), after=after, relationships=(("rId5", "drawing", "../drawings/drawing1.xml"),))
    return Xlsx([tab], extra=extra, types='<Default Extension="png" ContentType="image/png"/>')


class Reading(unittest.TestCase):
    """What sheets say of themselves."""

    def test_cells_show_what_their_format_writes(self) -> None:
        """Shared and inline strings, numbers, days, times, shares, truth; rows and cells without names count on."""
        styles = (
            '<numFmts><numFmt numFmtId="170" formatCode="dd/mm/yyyy"/><numFmt numFmtId="171" formatCode="0.0&quot; m&quot;"/></numFmts>'
            '<cellXfs><xf numFmtId="0"/><xf numFmtId="14"/><xf numFmtId="20"/><xf numFmtId="10"/><xf numFmtId="170"/><xf numFmtId="171"/><xf numFmtId="4"/><xf numFmtId="22"/></cellXfs>'
        )
        rows = (
            '<row><c t="s"><v>1</v></c><c t="inlineStr"><is><r><t>Low </t></r><r><t>water</t></r><rPh sb="0" eb="1"><t>x</t></rPh></is></c><c t="b"><v>1</v></c><c t="e"><v>#N/A</v></c></row>'
            '<row r="5"><c s="1"><v>46350</v></c><c s="2"><v>0.20972222</v></c><c s="3"><v>0.5</v></c><c s="4"><v>1</v></c><c s="5"><v>3.449</v></c><c s="6"><v>1234.5</v></c><c s="7"><v>60.999999</v></c><c><v>1e3</v></c></row>'
            '<row><c r="C6" t="str"><v>made</v></c><c t="s"><v>77</v></c></row>'
        )
        document = open_xlsx(Xlsx([Tab(rows=rows)], styles=styles, strings=("no", "Heron")).build())
        shown = {(cell.row, cell.column): cell.text for cell in document.grids[0].read_cells()}
        self.assertEqual([shown[0, n] for n in range(4)], ["Heron", "Low water", "TRUE", "#N/A"])
        self.assertEqual(
            [shown[4, n] for n in range(8)],
            ["2026-11-24", "05:02", "50.00%", "1900-01-01", "3.4", "1\u2009234.50", "1900-03-01 00:00", "1000"],
        )
        self.assertEqual([each for each in shown.items() if each[0][0] == 5], [((5, 2), "made")])
        self.assertEqual((document.grids[0].used_rows, document.grids[0].used_columns), (6, 8))

    def test_frozen_heads_hidden_sheets_and_what_hangs_there(self) -> None:
        """Only what is frozen counts as frozen; pictures with their crop, charts and shapes as outlines."""
        for state, wanted in (("frozen", (1, 2)), ("split", (0, 0))):
            pane = f'<sheetViews><sheetView><pane xSplit="1" ySplit="2" state="{state}"/></sheetView></sheetViews>'
            grid = open_xlsx(Xlsx([Tab(before=pane), Tab("Gone", state=' state="veryHidden"')]).build()).grids
            self.assertEqual((grid[0].frozen_columns, grid[0].frozen_rows), wanted)
            self.assertEqual([each.hidden for each in grid], [False, True])
        document = open_xlsx(_with_drawing(_drawing(_OLD)).build())
        picture, chart = document.grids[0].boxes
        self.assertEqual(
            (picture.x.pixels, picture.y.pixels, picture.width.pixels, picture.height.pixels), (64, 41, 128, 80)
        )
        self.assertEqual(
            (picture.member, picture.crop, picture.description), ("xl/media/image1.png", Crop(0.25), "Old pier")
        )
        self.assertEqual(
            (chart.kind, chart.x.pixels, chart.width.pixels, chart.description), ("chart", 10, 20, "Catch")
        )
        (report,) = report_pictures(document)
        self.assertEqual((report.member, report.times_used, report.crops), ("xl/media/image1.png", 1, (Crop(0.25),)))


class Placing(unittest.TestCase):
    """Where a picture goes, and what changes for it."""

    def test_a_drawing_is_made_where_there_is_none(self) -> None:
        """Named in the sheet, in its order, in the list of types, by relationships; nothing else changes."""
        after = f'{_PAGE}<legacyDrawing r:id="rId9"/><tableParts count="0"/>'
        data = Xlsx([Tab(rows=cells(("Boat", "Low water")), after=after), Tab("Crew")]).build()
        written = write(open_xlsx(data), [_picture("Timetable!B3")]).data
        before, now = members(data), members(written)
        self.assertEqual({name for name in before if before[name] != now[name]}, {"[Content_Types].xml", _SHEET})
        self.assertEqual(
            set(now) - set(before),
            {
                "xl/drawings/drawing1.xml",
                "xl/drawings/_rels/drawing1.xml.rels",
                "xl/media/image1.png",
                "xl/worksheets/_rels/sheet1.xml.rels",
            },
        )
        sheet = now[_SHEET].decode()
        self.assertLess(sheet.index("<pageMargins"), sheet.index("<drawing "))
        self.assertLess(sheet.index("<drawing "), sheet.index("<legacyDrawing"))

    def test_a_drawing_that_is_there_is_added_to_and_the_sheet_stays(self) -> None:
        """Ids go on from the highest; a picture that the workbook has already is not kept twice."""
        data = _with_drawing(_drawing(_OLD)).build()
        same = encoded(text_like(50, 30, seed=9))
        now = _written(open_xlsx(data), _picture("A5"), _picture("C1", data=same))
        self.assertEqual(now[_SHEET], members(data)[_SHEET])
        self.assertEqual(
            sorted(name for name in now if "media" in name), ["xl/media/image1.png", "xl/media/image2.png"]
        )
        drawing = now["xl/drawings/drawing1.xml"].decode()
        self.assertIn('id="10" name="Picture 10" descr=\'The "bell" &amp; &lt;rope&gt;\'', drawing)
        self.assertEqual(drawing.count('r:embed="rId1"'), 2)

    def test_a_drawing_relationship_to_nowhere_is_used_again(self) -> None:
        """The part that it names is made; no second one is named (trap 8)."""
        for after in ('<drawing r:id="rId5"/>', ""):
            now = _written(open_xlsx(_with_drawing(None, after).build()), _picture("B2"))
            self.assertIn("xl/drawings/drawing1.xml", now)
            self.assertEqual(now[_SHEET].count(b"<drawing"), 1)

    def test_anchors_say_how_it_stands(self) -> None:
        """It hangs, stretches to where it ends, or stays."""
        widths = '<cols><col min="3" max="3" width="20.7109375"/></cols>'
        document = open_xlsx(Xlsx([Tab(before=widths)]).build())
        root = etree.fromstring(
            _written(document, *(_picture("B3", stand) for stand in (Stand.HANGS, Stand.STRETCHES, Stand.STAYS)))[
                "xl/drawings/drawing1.xml"
            ]
        )
        hangs, stretches, stays = root
        found = {each.tag.rsplit("}", 1)[-1]: each.text for each in hangs[0]}
        self.assertEqual(found, {"col": "1", "colOff": "0", "row": "2", "rowOff": "0"})
        self.assertEqual((hangs[1].get("cx"), stays[1].get("cx")), (str(300 * 9_525),) * 2)
        # 64 px of B and 145 px of C leave 91 px, that is 27 into E; 190 px are nine rows of 20 and 10.
        end = {each.tag.rsplit("}", 1)[-1]: each.text for each in stretches[1]}
        self.assertEqual(end, {"col": "4", "colOff": str(27 * 9_525), "row": "11", "rowOff": str(10 * 9_525)})
        self.assertEqual(
            (stretches.get("editAs"), stays[0].get("x"), stays[0].get("y")),
            ("twoCell", str(64 * 9_525), str(40 * 9_525)),
        )

    def test_a_row_grows_and_what_hangs_below_moves_along(self) -> None:
        """Its own height is replaced, a missing row stands between its neighbours, an empty sheet gets one."""
        rows = '<row r="2" ht="12" customHeight="1"><c r="A2"><v>1</v></c></row><row r="9"/>'
        for inside, wanted in ((rows, "B2"), (rows, "B5"), (rows, "B12"), ("", "B1")):
            document = open_xlsx(Xlsx([Tab(rows=inside)]).build())
            now = _written(document, _picture(wanted, grows=True), _picture("A20", Stand.STAYS))
            sheet = etree.fromstring(now[_SHEET])
            found = {each.get("r"): each.get("ht") for each in sheet.iter("{*}row")}
            number = wanted[1:]
            with self.subTest(wanted):
                self.assertEqual(found[number], "142.5000")
                self.assertEqual(sorted(found, key=int), list(found))
                stays = etree.fromstring(now["xl/drawings/drawing1.xml"])[1][0].get("y")
                grown = 190 - (16 if inside and number == "2" else 20)
                plain = 19 * 20 - (4 if inside else 0)
                self.assertEqual(int(stays or 0) // 9_525, plain + grown)

    def test_strict_workbooks_get_strict_names(self) -> None:
        """Everywhere."""
        now = _written(open_xlsx(Xlsx(names=STRICT).build()), _picture("B3"))
        for name in ("xl/drawings/drawing1.xml", "xl/drawings/_rels/drawing1.xml.rels", _SHEET):
            self.assertNotIn(b"schemas.openxmlformats.org/drawingml", now[name])
            self.assertNotIn(b"schemas.openxmlformats.org/officeDocument", now[name])

    def test_macros_are_kept(self) -> None:
        """As they are, with the type of their workbook."""
        macros = Xlsx(
            main_type="application/vnd.ms-excel.sheet.macroEnabled.main+xml",
            extra={"xl/vbaProject.bin": b"\0macro"},
            types='<Default Extension="bin" ContentType="application/vnd.ms-office.vbaProject"/>',
        )
        self.assertEqual(_written(open_xlsx(macros.build()), _picture("B3"))["xl/vbaProject.bin"], b"\0macro")

    @settings(max_examples=rounds(25))
    @given(
        st.lists(
            st.tuples(
                st.sampled_from(("Tides", "Crew roster")),
                st.integers(0, 70),
                st.integers(0, 9),
                st.sampled_from((Stand.HANGS, Stand.STRETCHES, Stand.STAYS)),
                st.booleans(),
            ),
            min_size=1,
            max_size=5,
        )
    )
    def test_without_what_was_put_in_it_is_the_original(self, wishes: list[tuple[str, int, int, Stand, bool]]) -> None:
        """And the order in which it was put in makes no difference but to ids."""
        document = open_xlsx(make_tide_table())
        pictures = [
            _picture(f"{sheet}!{chr(65 + column)}{row + 1}", stand, grows=grows)
            for sheet, row, column, stand, grows in wishes
        ]
        written = members(write(document, pictures).data)
        original = members(make_tide_table())
        for name, data in original.items():
            if "sheet" in name and name.endswith(".xml"):
                now, was = etree.fromstring(written[name]), etree.fromstring(data)
                for node in list(now.iter("{*}drawing")):
                    cut_out(node)
                for node in list(now.iter("{*}row")):
                    old = next((each for each in was.iter("{*}row") if each.get("r") == node.get("r")), None)
                    if old is None:
                        cut_out(node)
                    else:
                        node.attrib.clear()
                        node.attrib.update(old.attrib)
                self.assertTrue(same_tree(was, now), name)
            elif name != "[Content_Types].xml":
                self.assertEqual(written[name], data)
        again = members(write(document, pictures[::-1]).data)
        self.assertEqual(set(written), set(again))


class Refusing(unittest.TestCase):
    """What can't be kept whole."""

    def test_bad_input_has_its_error(self) -> None:
        """A main part of another kind, no sheet, a broken sheet, a document type, a signature."""
        entity = '<!DOCTYPE x [<!ENTITY e "x">]>'
        cases = (
            (NotADocument, Xlsx(main_type="application/vnd.ms-excel.sheet.binary.macroEnabled.main").build()),
            (PartMissing, Xlsx([]).build()),
            (PartMalformed, Xlsx([Tab(rows="<row>")]).build()),
            (DoctypeRefused, Xlsx(extra={"xl/other.xml": f"{entity}<x/>".encode()}).build()),
            (PackageSigned, Xlsx(extra={"_xmlsignatures/origin.sigs": b""}).build()),
        )
        from tijera.core.packages.registry import open_document

        for error, data in cases:
            with self.subTest(error.__name__), self.assertRaises(error):
                open_document(data)

    def test_a_sheet_whose_part_is_missing_is_left_out(self) -> None:
        """The others can be used; so can a drawing that nobody can read."""
        chart = f'<Override PartName="/xl/charts.xml" ContentType="{SHEET_TYPE}.chartsheet+xml"/>'
        data = _with_drawing(b"<broken", "").build()
        document = open_xlsx(data)
        self.assertEqual([each.name for each in document.grids], ["Timetable"])
        self.assertEqual(document.grids[0].boxes, ())
        self.assertEqual(len(open_xlsx(Xlsx(types=chart).build()).grids), 1)

    def test_the_check_finds_what_does_not_belong(self) -> None:
        """A picture that did not come, one inside another shape, a changed anchor."""
        from tijera.core.packages.containers.xmlspan import XmlPart

        before = XmlPart("xl/drawings/drawing1.xml", _drawing(_OLD))
        document = open_xlsx(_with_drawing(_drawing(_OLD)).build())
        good = _written(document, _picture("A5"))["xl/drawings/drawing1.xml"]
        check_drawing(before, good, range(10, 11), TRANSITIONAL)
        for bad in (
            good.replace(b'id="10"', b'id="11"'),
            good.replace(b"<xdr:oneCellAnchor", b"<d:grpSp><xdr:oneCellAnchor").replace(
                b"</xdr:oneCellAnchor>", b"</xdr:oneCellAnchor></d:grpSp>"
            ),
            good.replace(b"95250", b"95251", 1),
        ):
            with self.assertRaises(StructureBroken):
                check_drawing(before, bad, range(10, 11), TRANSITIONAL)
