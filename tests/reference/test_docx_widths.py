"""The widths of places against worked examples.

Source: ECMA-376 Part 1 §17.6 (sections), §17.4 (tables), §17.3.1.12 (indents), worked by hand in twips and confirmed
with a second formula; clause numbers from memory. 1 twip is 635 EMU.
"""

import unittest
from dataclasses import dataclass, field

from tests.support.docx import A4_MARGINS_1417, STRICT, TRANSITIONAL, Docx, cell, paragraph, row, section, table
from tijera.core.packages.formats.docx.document import open_docx

_STYLE = '<w:style w:type="paragraph" w:styleId="{}"><w:name w:val="{}"/>{}<w:pPr>{}</w:pPr></w:style>'


@dataclass
class Case:
    """A document, one of its spots, and the widths that it must have."""

    name: str
    body: str
    spot: str
    widths: list[int]
    more: dict[str, str] = field(default_factory=dict)


_WIDE_PAGE = '<w:pgSz w:w="15840" w:h="12240"/><w:pgMar w:top="1440" w:right="1800" w:bottom="1440" w:left="1440" w:gutter="360"/>'
_LANDSCAPE = A4_MARGINS_1417.replace('w:w="11906" w:h="16838"', 'w:w="16838" w:h="11906" w:orient="landscape"')
_UNEQUAL = '<w:cols w:num="2" w:equalWidth="0"><w:col w:w="5400" w:space="720"/><w:col w:w="2952"/></w:cols>'
_CELL = table(row(cell(paragraph("x"), '<w:tcW w:w="4531" w:type="dxa"/>')), grid=(4_531,),
              properties='<w:tblCellMar><w:left w:w="108" w:type="dxa"/><w:right w:w="108" w:type="dxa"/></w:tblCellMar>')  # fmt: skip
_APART = table(
    row(*(cell(paragraph("x"), '<w:tcW w:w="3000" w:type="dxa"/>') for _ in range(3))),
    row(
        cell(paragraph("x"), '<w:tcW w:w="9000" w:type="dxa"/>'), properties='<w:tblCellSpacing w:w="0" w:type="dxa"/>'
    ),
    grid=(3_000,) * 3,
    properties='<w:tblCellSpacing w:w="15" w:type="dxa"/><w:tblCellMar><w:left w:w="108" w:type="dxa"/>'
    '<w:right w:w="108" w:type="dxa"/></w:tblCellMar>',
)
_PERCENT = table(row(cell(paragraph("x"), '<w:tcW w:w="1666" w:type="pct"/>')), grid=(3_000,),
                 properties='<w:tblW w:w="5000" w:type="pct"/>')  # fmt: skip
_INHERITED = _STYLE.format("base", "base", "", '<w:ind w:left="567" w:hanging="567"/>') + _STYLE.format(
    "leaf", "leaf", '<w:basedOn w:val="base"/>', ""
)

CASES = [
    Case("1 A4, margins 1417", paragraph("x") + section(), "b.1", [5_760_720]),
    Case("2 with a gutter", paragraph("x") + section(_WIDE_PAGE), "b.1", [7_772_400]),
    Case("3 with the gutter at the top", paragraph("x") + section(_WIDE_PAGE), "b.1", [8_001_000], {"settings": "<w:gutterAtTop/>"}),
    Case("4 two equal columns", paragraph("x") + section(A4_MARGINS_1417 + '<w:cols w:num="2" w:space="708"/>'), "b.1", [2_655_570]),
    Case("5 unequal columns", paragraph("x") + section(A4_MARGINS_1417 + _UNEQUAL), "b.1", [3_429_000, 1_874_520]),
    Case("6 indents, first line", paragraph("x", '<w:ind w:left="720" w:right="360" w:firstLine="284"/>') + section(), "b.1", [5_074_920]),
    Case("7 inherited, hanging", paragraph("x", '<w:pStyle w:val="leaf"/>') + section(), "b.1", [5_400_675], {"styles": _INHERITED}),
    Case("8 a cell", _CELL + section(), "b.1.r1.c1.1", [2_740_025]),
    Case("9 a cell in percent", _PERCENT + section(), "b.1.r1.c1.1", [1_773_422]),
    Case("cells apart, in the middle", _APART + section(), "b.1.r1.c2.1", [(3_000 - 216 - 2 * 15) * 635]),
    Case("cells apart, at the edge", _APART + section(), "b.1.r1.c3.1", [(3_000 - 216 - 3 * 15) * 635]),
    Case("a row that is not", _APART + section(), "b.1.r2.c1.1", [(9_000 - 216) * 635]),
    Case("10 landscape", paragraph("x") + paragraph("", section(_LANDSCAPE)) + paragraph("y") + section(), "b.1", [8_892_540]),
    Case("10 then portrait", paragraph("x") + paragraph("", section(_LANDSCAPE)) + paragraph("y") + section(), "b.3", [5_760_720]),
    Case("11 strict, in millimetres", paragraph("x") + section(
        '<w:pgSz w:w="210mm" w:h="297mm"/><w:pgMar w:top="25mm" w:right="25mm" w:bottom="25mm" w:left="25mm" w:gutter="0mm"/>'),
        "b.1", [5_760_000], {"namespace": STRICT}),
    Case("an indent from numbering", paragraph("x", '<w:numPr><w:ilvl w:val="1"/><w:numId w:val="4"/></w:numPr>') + section(), "b.1",
         [(9_072 - 1_134) * 635], {"numbering":
             '<w:abstractNum w:abstractNumId="2"><w:lvl w:ilvl="1"><w:pPr><w:ind w:left="1134" w:hanging="300"/></w:pPr></w:lvl>'
             '</w:abstractNum><w:num w:numId="4"><w:abstractNumId w:val="2"/></w:num>'}),
    Case("default space between columns is 720", paragraph("x") + section(A4_MARGINS_1417 + '<w:cols w:num="3"/>'), "b.1",
         [(9_072 - 1_440) // 3 * 635]),
]  # fmt: skip


class WorkedWidths(unittest.TestCase):
    """Each case, to the EMU."""

    def test_widths(self) -> None:
        """In the order of the document's columns; the narrowest is the one that is sure."""
        for case in CASES:
            with self.subTest(case.name):
                more = {"namespace": TRANSITIONAL} | case.more
                document = open_docx(Docx(case.body, **more).build())  # type: ignore[arg-type]
                spot = document.spot(case.spot)
                self.assertEqual([width.emu for width in spot.widths], case.widths)
                self.assertEqual(spot.width.emu, min(case.widths))

    def test_the_height_is_the_text_height_of_the_page(self) -> None:
        """A4: 16 838 − 2 × 1 417 twips; a gutter at the top takes its part."""
        plain = open_docx(Docx(paragraph("x") + section()).build()).spot("b.1")
        self.assertEqual(plain.height.emu, (16_838 - 2 * 1_417) * 635)
        top = open_docx(Docx(paragraph("x") + section(_WIDE_PAGE), settings="<w:gutterAtTop/>").build()).spot("b.1")
        self.assertEqual(top.height.emu, (12_240 - 2 * 1_440 - 360) * 635)
