"""Spreadsheets of OpenDocument: measures, splitting what is repeated, placing, what must stay."""

from __future__ import annotations

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st
from lxml import etree

from tests.support.docx import members
from tests.support.ods import Ods, cell, row
from tests.support.pictures import encoded, text_like
from tests.support.rounds import rounds
from tijera.core.errors import DoctypeRefused, PackageEncrypted, PackageSigned, PartMissing, StructureBroken
from tijera.core.packages.families.odf.names import declared, q
from tijera.core.packages.formats.ods.document import OdsDocument, open_ods
from tijera.core.packages.formats.ods.pictures import report_pictures
from tijera.core.packages.formats.ods.save_check import Inserted, check_content
from tijera.core.packages.formats.ods.splitting import repeated, styled
from tijera.core.packages.formats.ods.tables import cells_of, rows_of
from tijera.core.packages.formats.ods.writer import write
from tijera.core.packages.places.placed import Layout, PlacedPicture
from tijera.core.packages.places.spots import Stand
from tijera.core.packages.registry import open_document
from tijera.core.units import Length

_PNG = encoded(text_like(60, 40, seed=4))
_STYLES = (
    '<style:style style:name="wide" style:family="table-column"><style:table-column-properties style:column-width="4cm"/></style:style>'
    '<style:style style:name="high" style:family="table-row"><style:table-row-properties style:row-height="1cm"/></style:style>'
    '<style:style style:name="off" style:family="table"><style:table-properties table:display="false"/></style:style>'
)
_REST = '<table:table-row table:number-rows-repeated="1048570"><table:table-cell table:number-columns-repeated="1024"/></table:table-row>'
_TIDES = (
    '<table:table-column table:style-name="wide"/><table:table-column table:number-columns-repeated="2"/>'
    f"<table:table-header-rows>{row('Boat', 'Low water')}</table:table-header-rows>"
    '<table:table-row table:number-rows-repeated="3" table:style-name="high">'
    f'{cell("Heron")}<table:table-cell table:number-columns-repeated="5" office:value-type="float"><text:p>1.2</text:p></table:table-cell></table:table-row>'
    '<table:table-row-group><table:table-row table:number-rows-repeated="2"/></table:table-row-group>' + _REST
)


def _document(tables: dict[str, str] | None = None, **more: str) -> OdsDocument:
    return open_ods(Ods(tables or {"Tides": _TIDES}, automatic=_STYLES, **more).build())  # type: ignore[arg-type]


def _picture(spot: str, stand: Stand | None = None, *, grows: bool = False) -> PlacedPicture:
    layout = Layout(stand=stand, grows_row=grows)
    return PlacedPicture(spot, _PNG, "png", Length.from_mm(50), Length.from_mm(30), "The <bell>", layout)


def _content(document: OdsDocument, *pictures: PlacedPicture) -> etree._Element:
    data = write(document, pictures).data
    open_ods(data)
    return etree.fromstring(members(data)["content.xml"])


def _at(root: etree._Element, sheet: int = 0) -> dict[str, tuple[int, int]]:
    """Where each frame hangs: its row and column, however they are repeated."""
    table = root.findall(f".//{q('table:table')}")[sheet]
    return {
        frame.get(q("draw:name"), ""): (each.first, one.first)
        for each in rows_of(table)
        for one in cells_of(each.node)
        for frame in one.node.findall(q("draw:frame"))
    }


class Reading(unittest.TestCase):
    """What sheets say of themselves."""

    def test_measures_come_from_styles_and_repeats(self) -> None:
        """Columns and rows in lengths; where no style gives any, the usual ones."""
        grid = _document().grids[0]
        self.assertEqual([Length.exactly(grid.columns.size(n)).mm for n in range(4)], [40.0, 22.58, 22.58, 22.58])
        self.assertEqual([Length.exactly(grid.rows.size(n)).mm for n in (0, 1, 3, 4)], [4.52, 10.0, 10.0, 4.52])
        self.assertEqual((grid.used_rows, grid.used_columns), (4, 6))
        texts = [(each.row, each.column, each.text, each.is_number) for each in grid.read_cells()]
        self.assertEqual(texts[:2], [(0, 0, "Boat", False), (0, 1, "Low water", False)])
        self.assertEqual(len(texts), 2 + 3 * 6)
        self.assertIn((3, 5, "1.2", True), texts)

    def test_hidden_merged_frozen(self) -> None:
        """By style, by span, by the settings of the view."""
        item = '<config:config-item config:name="{}" config:type="int">{}</config:config-item>'
        items = "".join(
            item.format(*each)
            for each in (
                ("HorizontalSplitMode", 2),
                ("HorizontalSplitPosition", 1),
                ("VerticalSplitMode", 0),
                ("VerticalSplitPosition", 900),
            )
        )
        view = f'<office:document-settings{declared("office")} xmlns:config="urn:oasis:names:tc:opendocument:xmlns:config:1.0"><config:config-item-map-named config:name="Tables"><config:config-item-map-entry config:name="Tides">{items}</config:config-item-map-entry></config:config-item-map-named></office:document-settings>'
        merged = '<table:table-row><table:table-cell table:number-columns-spanned="2" table:number-rows-spanned="3"/><table:covered-table-cell/></table:table-row>'
        grid = _document({"Tides": merged + row("x")}, settings=view).grids[0]
        self.assertEqual((grid.frozen_columns, grid.frozen_rows), (1, 0))
        self.assertEqual([str(each) for each in grid.merged], ["A1:B3"])
        hidden = Ods({'Off" table:style-name="off': row("x"), "On": row("y")}, automatic=_STYLES).build()
        self.assertEqual([each.hidden for each in open_ods(hidden).grids], [True, False])

    def test_what_hangs_there_is_shown_where_it_hangs(self) -> None:
        """Frames in cells count from the cell, shapes from the sheet; charts are outlines."""
        image = '<draw:image xlink:href="Pictures/a.png"/>'
        frame = f'<draw:frame svg:x="1mm" svg:y="2mm" svg:width="20mm" svg:height="10mm">{image}<svg:desc>Pier</svg:desc></draw:frame>'
        chart = '<draw:frame draw:name="Catch" svg:width="5mm" svg:height="6mm"><draw:object xlink:href="./Object 1"/></draw:frame>'
        ends = f'<draw:frame table:end-cell-address="Tides.B4" table:end-x="3mm" table:end-y="1mm" svg:width="1mm" svg:height="1mm">{image}</draw:frame>'
        inside = f"<table:shapes>{chart}</table:shapes>{row('a')}<table:table-row><table:table-cell/><table:table-cell>{frame}</table:table-cell></table:table-row>{row('b').replace('<text:p>', ends + '<text:p>')}"
        document = open_ods(
            Ods(
                {"Tides": inside.replace("</table:shapes>", "</table:shapes><table:table-column/>")},
                extra={"Pictures/a.png": _PNG},
            ).build()
        )
        found = [
            (box.kind, round(box.x.mm, 2), round(box.y.mm, 2), round(box.width.mm, 2))
            for box in document.grids[0].boxes
        ]
        self.assertEqual(found[:2], [("chart", 0, 0, 5), ("picture", 23.58, 6.52, 20)])
        self.assertEqual(found[2], ("picture", 0, 9.04, 25.58))
        (report,) = report_pictures(document)
        self.assertEqual((report.member, report.times_used, report.description), ("Pictures/a.png", 2, "Pier"))


class Placing(unittest.TestCase):
    """Into rows and cells that stand for several."""

    def test_what_is_repeated_is_split_round_the_cell(self) -> None:
        """Whatever it says is said as often as before; a frame stands in the very cell."""
        cases = {"B1": (0, 1), "A3": (2, 0), "D3": (2, 3), "F4": (3, 5), "B6": (5, 1), "C9": (8, 2), "H7": (6, 7)}
        for name, wanted in cases.items():
            document = _document()
            root = _content(document, _picture(f"Tides!{name}"))
            with self.subTest(name):
                self.assertEqual(_at(root), {"Picture 1": wanted})
                table = root.find(f".//{q('table:table')}")
                assert table is not None
                self.assertEqual(
                    max(each.last for each in rows_of(table)), max(each.last for each in rows_of(document.tables[0]))
                )

    def test_several_in_one_repeated_row_each_get_their_own(self) -> None:
        """Also two in one cell, and one in a row that has no cells at all."""
        wishes = ("Tides!B2", "Tides!D2", "Tides!B4", "Tides!B4", "Tides!C5", "Tides!C6")
        root = _content(_document(), *(_picture(each) for each in wishes))
        self.assertEqual(list(_at(root).values()), [(1, 1), (1, 3), (3, 1), (3, 1), (4, 2), (5, 2)])

    def test_what_was_split_before_is_split_again(self) -> None:
        """Placed into its own output, over and over: behind what was added, in what was split, whatever the prefix."""
        data = Ods({"Tides": row("Boat", "Low water") + row("x", "y")}).build()
        spots = ("E9", "A5", "C9", "G9", "B7", "E5", "A1", "H30", "F9")
        for count, spot in enumerate(spots, 1):
            data = write(open_ods(data), [_picture(f"Tides!{spot}")]).data
            frames = list(etree.fromstring(members(data)["content.xml"]).iter(q("draw:frame")))
            self.assertEqual(len(frames), count, spot)
        self.assertEqual(
            repeated('<t:table-row xmlns:t="urn:oasis:names:tc:opendocument:xmlns:table:1.0">', "rows", 3),
            '<t:table-row t:number-rows-repeated="3" xmlns:t="urn:oasis:names:tc:opendocument:xmlns:table:1.0">',
        )
        self.assertIn('tijera-table:style-name="s"', styled('<a:b xmlns:table="urn:else">', "s"))

    def test_a_sheet_that_ends_early_gets_rows_and_cells(self) -> None:
        """A row that only fills keeps a cell (trap 9)."""
        document = _document({"Short": row("one")})
        root = _content(document, _picture("Short!C5"), _picture("Short!B1"))
        self.assertEqual(_at(root), {"Picture 2": (0, 1), "Picture 1": (4, 2)})
        self.assertTrue(all(len(each.node) for table in root.iter(q("table:table")) for each in rows_of(table)))

    def test_how_it_stands_is_written(self) -> None:
        """Hanging it has no end; stretched it ends in a cell; staying it is among the shapes, before the columns."""
        root = _content(
            _document({"Pier's end": _TIDES}),
            *(_picture("Pier's end!A2", each) for each in (Stand.HANGS, Stand.STRETCHES, Stand.STAYS)),
        )
        frames = {frame.get(q("draw:name")): frame for frame in root.iter(q("draw:frame"))}
        self.assertIsNone(frames["Picture 1"].get(q("table:end-cell-address")))
        end = frames["Picture 2"]
        self.assertEqual(end.get(q("table:end-cell-address")), "'Pier''s end'.B5")
        self.assertEqual((end.get(q("table:end-x")), end.get(q("table:end-y"))), ("10mm", "0mm"))
        stays = frames["Picture 3"]
        holder = stays.getparent()
        assert holder is not None
        self.assertEqual((holder.tag, stays.get(q("svg:y"))), (q("table:shapes"), "4.52mm"))
        table = root.find(f".//{q('table:table')}")
        assert table is not None
        self.assertEqual(table[0].tag, q("table:shapes"))

    def test_a_row_grows_by_a_style_of_its_own(self) -> None:
        """Only that row; what its style said otherwise stays behind it."""
        common = '<style:style style:name="high" style:family="table-row"><style:table-row-properties style:row-height="1cm"/></style:style>'
        document = open_ods(Ods({"Tides": _TIDES}, common=common).build())
        data = write(document, [_picture("Tides!A3", grows=True), _picture("Tides!A9", Stand.STAYS)]).data
        again = open_ods(data).grids[0]
        self.assertEqual([round(Length.exactly(again.rows.size(n)).mm, 2) for n in (1, 2, 3)], [10.0, 30.0, 10.0])
        self.assertEqual(round(again.boxes[0].y.mm, 1), round(4.52 + 10 + 30 + 10 + 4 * 4.52, 1))
        self.assertIn(b'style:parent-style-name="high"', members(data)["content.xml"])

    @settings(max_examples=rounds(25))
    @given(
        st.lists(
            st.tuples(
                st.integers(0, 12),
                st.integers(0, 9),
                st.sampled_from((Stand.HANGS, Stand.STRETCHES, Stand.STAYS)),
                st.booleans(),
            ),
            min_size=1,
            max_size=6,
        )
    )
    def test_every_wish_passes_the_check_and_arrives(self, wishes: list[tuple[int, int, Stand, bool]]) -> None:
        """In either order the same frames hang in the same cells; other members are the same to the byte."""
        document = _document()
        pictures = [
            _picture(f"Tides!{chr(65 + column)}{line + 1}", stand, grows=grows) for line, column, stand, grows in wishes
        ]
        one, other = _content(document, *pictures), _content(document, *pictures[::-1])
        self.assertEqual(sorted(_at(one).values()), sorted(_at(other).values()))
        hanging = sorted((line, column) for line, column, stand, _ in wishes if stand is not Stand.STAYS)
        self.assertEqual(sorted(_at(one).values()), hanging)
        written, before = members(write(document, pictures).data), members(document.package.data)
        same = set(before) - {"content.xml", "META-INF/manifest.xml"}
        self.assertEqual({name: before[name] for name in same}, {name: written[name] for name in same})


class Refusing(unittest.TestCase):
    """What can't be kept whole."""

    def test_bad_input_has_its_error(self) -> None:
        """A document type, encryption, a signature, no sheet at all."""
        secret = f'<manifest:manifest{declared("manifest")}><manifest:file-entry manifest:full-path="/" manifest:media-type="application/vnd.oasis.opendocument.spreadsheet"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type=""><manifest:encryption-data/></manifest:file-entry></manifest:manifest>'
        cases = (
            (DoctypeRefused, {"more.xml": b'<!DOCTYPE x [<!ENTITY e "x">]><x/>'}),
            (PackageEncrypted, {"META-INF/manifest.xml": secret.encode()}),
            (PackageSigned, {"META-INF/documentsignatures.xml": b"<x/>"}),
        )
        for error, extra in cases:
            with self.subTest(error.__name__), self.assertRaises(error):
                open_document(Ods({"T": row("x")}, extra=extra).build())
        with self.assertRaises(PartMissing):
            open_document(Ods({}).build())
        self.assertEqual(len(open_ods(Ods({"T": row("x")}, mimetype=None).build()).grids), 1)

    def test_the_check_finds_what_does_not_belong(self) -> None:
        """A frame in a row, one that came twice, a changed word, a repeat that is not what it was."""
        document = _document()
        good = members(write(document, [_picture("Tides!B3")]).data)["content.xml"]
        inserted = Inserted(frozenset({"Picture 1"}), frozenset({"Placed1"}), frozenset({"Pictures/image1.png"}), {})
        check_content(document, good, inserted, [0])
        frame = good[good.index(b"<draw:frame") : good.index(b"</draw:frame>") + len(b"</draw:frame>")]
        for bad in (
            good.replace(frame, b"").replace(b"<table:table-row>", b"<table:table-row>" + frame, 1),
            good.replace(frame, frame * 2),
            good.replace(b">Boat<", b">Bote<"),
            good.replace(b'rows-repeated="2"', b'rows-repeated="3"'),
            good.replace(b"image1.png", b"image2.png"),
        ):
            with self.assertRaises(StructureBroken):
                check_content(document, bad, inserted, [0])
