"""The documents whose written copies are kept as golden dumps."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from tests.golden.dump import dump, dump_message
from tests.support.docx import A4_MARGINS_1417, STRICT, Docx, cell, paragraph, row, section, table
from tests.support.ods import Ods
from tests.support.ods import row as ods_row
from tests.support.odt import Odt
from tests.support.pictures import encoded, text_like
from tests.support.xlsx import Tab, Xlsx, cells
from tijera.core.clippings.legend import LegendLine
from tijera.core.packages.formats.docx.document import open_docx
from tijera.core.packages.formats.docx.writer import write
from tijera.core.packages.places.placed import Layout, PlacedPicture
from tijera.core.packages.places.spots import Stand
from tijera.core.packages.registry import open_document
from tijera.core.packages.registry import write as write_any
from tijera.core.units import Length
from tijera.demo.notice import make_notice

_PARTS = ("word/document.xml", "word/_rels/document.xml.rels", "[Content_Types].xml")
_PNG = encoded(text_like(64, 40))


def _picture(spot: str) -> PlacedPicture:
    return PlacedPicture(spot, _PNG, "png", Length.from_mm(60), Length.from_mm(37.5), "Tide curve of 12 March")


def _written(document: Docx, *spots: str) -> str:
    return dump(write(open_docx(document.build()), [_picture(spot) for spot in spots]).data, _PARTS)


def _two_columns() -> str:
    columns = A4_MARGINS_1417 + '<w:cols w:num="2" w:space="708"/>'
    return _written(Docx(paragraph("Ropes are laid out") + paragraph("by hand") + section(columns)), "b.1")


def _section_end() -> str:
    return _written(Docx(paragraph("last words", section()) + paragraph("next") + section()), "b.1e", "b.1")


def _merged_cell() -> str:
    rows = (
        row(cell(paragraph("Q1"), '<w:vMerge w:val="restart"/>'), cell(paragraph("Sandpiper"))),
        row(cell(paragraph(), "<w:vMerge/>"), cell(paragraph())),
    )
    return _written(Docx(table(*rows, grid=(3_000, 6_000)) + paragraph() + section()), "b.1.r1.c1.1", "b.1.r2.c2.0")


def _strict() -> str:
    return _written(Docx(paragraph("Ropes") + section(), namespace=STRICT), "b.0")


def _beside_with_caption() -> str:
    layout = Layout(stand=Stand.TEXT_LEFT, caption="Tide board", legend=True)
    picture = replace(_picture("b.1"), layout=layout, legend=(LegendLine("1", "the bell"), LegendLine("3", "the rope")))
    document = open_document(Docx(paragraph("Ropes") + section(), settings="<w:rsids/>").build())
    parts = (*_PARTS, "word/settings.xml", "word/numbering.xml")
    return dump(write_any(document, [picture]).data, parts)


def _odt_beside_with_caption() -> str:
    layout = Layout(stand=Stand.TEXT_RIGHT, caption="Tide board", caption_above=True)
    document = open_document(Odt("<text:p>Ropes</text:p>").build())
    return dump(
        write_any(document, [replace(_picture("b.1"), layout=layout)]).data, ("content.xml", "META-INF/manifest.xml")
    )


def _sheet() -> str:
    data = Xlsx([Tab(rows=cells(("Boat", "Low water")), after="<tableParts count='0'/>")]).build()
    wishes = [
        replace(_picture(f"Timetable!{at}"), layout=Layout(stand=stand, grows_row=grows))
        for at, stand, grows in (
            ("B3", Stand.HANGS, True),
            ("C2:F9", Stand.STRETCHES, False),
            ("A1", Stand.STAYS, False),
        )
    ]
    parts = ("xl/worksheets/sheet1.xml", "xl/drawings/drawing1.xml", "xl/worksheets/_rels/sheet1.xml.rels")
    return dump(write_any(open_document(data), wishes).data, parts)


def _split_sheet() -> str:
    rest = '<table:table-row table:number-rows-repeated="9"><table:table-cell table:number-columns-repeated="5"/></table:table-row>'
    data = Ods({"Tides": ods_row("Boat", "Low water") + rest}).build()
    wishes = [
        replace(_picture(f"Tides!{at}"), layout=Layout(stand=stand))
        for at, stand in (("B3", Stand.HANGS), ("A5", Stand.STRETCHES), ("A1", Stand.STAYS))
    ]
    return dump(write_any(open_document(data), wishes).data, ("content.xml",))


def _message() -> str:
    picture = replace(_picture("h.2"), layout=Layout(stand=Stand.BOTH), name="Tide board")
    return dump_message(write_any(open_document(make_notice()), [picture]).data)


CASES: dict[str, Callable[[], str]] = {
    "two-columns": _two_columns,
    "section-end": _section_end,
    "merged-cell": _merged_cell,
    "strict": _strict,
    "beside-with-caption": _beside_with_caption,
    "odt-beside-with-caption": _odt_beside_with_caption,
    "sheet": _sheet,
    "split-sheet": _split_sheet,
    "message": _message,
}
