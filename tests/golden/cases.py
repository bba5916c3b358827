"""The documents whose written copies are kept as golden dumps."""

from __future__ import annotations

from collections.abc import Callable

from tests.golden.dump import dump
from tests.support.docx import A4_MARGINS_1417, STRICT, Docx, cell, paragraph, row, section, table
from tests.support.pictures import encoded, text_like
from tijera.core.packages.docx.document import open_docx
from tijera.core.packages.docx.place import write
from tijera.core.packages.placed import PlacedPicture
from tijera.core.units import Length

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


CASES: dict[str, Callable[[], str]] = {
    "two-columns": _two_columns,
    "section-end": _section_end,
    "merged-cell": _merged_cell,
    "strict": _strict,
}
