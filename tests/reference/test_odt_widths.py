"""The widths of places in .odt files against worked examples.

Source: ODF 1.2 Part 1 §17.2 (page layouts), §17.12 (columns), §17.15–17.18 (tables), worked by hand in millimetres;
clause numbers from memory. The cases of two columns were confirmed with a second formula. 1 mm is 36 000 EMU.
"""

import unittest
from dataclasses import dataclass, field

from tests.support.odt import Odt, p, page, style
from tijera.core.packages.formats.odt.document import open_odt


@dataclass
class Case:
    """A document, one of its spots, and the widths in EMU that it must have."""

    name: str
    body: str
    spot: str
    widths: list[int]
    more: dict[str, object] = field(default_factory=dict)


_GAP = '<style:columns fo:column-count="2" fo:column-gap="0.5cm"/>'
_SHARES = (
    '<style:columns fo:column-count="2"><style:column style:rel-width="32768*" fo:start-indent="0cm" fo:end-indent="0.25cm"/>'
    '<style:column style:rel-width="32767*" fo:start-indent="0.25cm" fo:end-indent="0cm"/></style:columns>'
)
_SECTION = style(
    "S1",
    "section",
    f'<style:section-properties fo:margin-left="1cm" fo:margin-right="0cm">{_GAP}</style:section-properties>',
)
_INDENT = style(
    "P1", "paragraph", '<style:paragraph-properties fo:margin-left="1cm" fo:margin-right="5mm" fo:text-indent="-4mm"/>'
)
_BASED = style("Base", "paragraph", '<style:paragraph-properties fo:margin="1in"/>') + style(
    "Leaf", "paragraph", '<style:paragraph-properties fo:margin-right="0cm"/>', 'style:parent-style-name="Base"'
)
_WIDE = page(
    'fo:page-width="29.7cm" fo:page-height="21cm" fo:margin-left="1cm" fo:margin-right="2cm" fo:padding="5mm"',
    name="Wide",
)
_TO_WIDE = style("P2", "paragraph", "", 'style:master-page-name="Wide"')
_COLUMN = style("C1", "table-column", '<style:table-column-properties style:column-width="6cm"/>')
_RELATIVE = style("C1", "table-column", '<style:table-column-properties style:column-width="1cm" style:rel-column-width="1*"/>') + style(
    "C2", "table-column", '<style:table-column-properties style:column-width="1cm" style:rel-column-width="3*"/>')  # fmt: skip
_CELL = style("D1", "table-cell", '<style:table-cell-properties fo:padding="1mm" fo:border="1pt solid #000000"/>')
_NARROW = style("T1", "table", '<style:table-properties style:width="12cm" table:align="center"/>')
_HALF = style("T1", "table", '<style:table-properties style:width="12cm" style:rel-width="50%" table:align="left"/>')
_FOOT = (
    '<style:footer-style><style:header-footer-properties fo:min-height="1cm" fo:margin-top="5mm"/></style:footer-style>'
)


def _table(
    cells: str, columns: str = '<table:table-column table:style-name="C1" table:number-columns-repeated="2"/>'
) -> str:
    return f'<table:table table:style-name="T1">{columns}<table:table-row>{cells}</table:table-row></table:table>'


_TWO = (
    f'<table:table-cell table:style-name="D1">{p("x")}</table:table-cell><table:table-cell>{p("y")}</table:table-cell>'
)
_SPAN = f'<table:table-cell table:number-columns-spanned="2">{p("x")}</table:table-cell><table:covered-table-cell/>'
_COLUMNS = '<table:table-columns><table:table-column table:style-name="C1"/><table:table-column table:style-name="C2"/></table:table-columns>'

CASES = [
    Case("A4, margins 2 cm", p("x"), "b.1", [6_120_000]),
    Case("13 two columns, gap 0.5 cm", p("x"), "b.1", [2_970_000], {"pages": [page(columns=_GAP)]}),
    Case("14 shares and indents of columns", p("x"), "b.1", [2_970_047, 2_969_953], {"pages": [page(columns=_SHARES)]}),
    Case("a section in two columns", f'<text:section text:style-name="S1">{p("x")}</text:section>', "b.1.k.1", [2_790_000], {"automatic": _SECTION}),
    Case("behind the section", f'<text:section text:style-name="S1">{p("x")}</text:section>', "b.1", [6_120_000], {"automatic": _SECTION}),
    Case("indents; a hanging first line narrows nothing", p("x", "P1"), "b.1", [6_120_000 - 540_000], {"automatic": _INDENT}),
    Case("inherited margins", p("x", "Leaf"), "b.1", [6_120_000 - 914_400], {"common": _BASED}),
    Case("a paragraph that begins another page", p("x") + p("y", "P2"), "b.2", [9_252_000], {"automatic": _TO_WIDE, "pages": [page(), _WIDE]}),
    Case("before it the first page's width holds", p("x") + p("y", "P2"), "b.1", [6_120_000], {"automatic": _TO_WIDE, "pages": [page(), _WIDE]}),
    Case("no page given: A4, 2 cm", p("x"), "b.1", [6_120_000], {"pages": []}),
    Case("a table between the margins", _table(_TWO), "b.1.r1.c1.1", [3_060_000 - 72_000 - 25_400], {"automatic": _COLUMN + _CELL}),
    Case("a table of its own width", _table(_TWO), "b.1.r1.c2.1", [2_160_000], {"automatic": _COLUMN + _NARROW}),
    Case("a table of half the width", _table(_TWO), "b.1.r1.c2.1", [1_530_000], {"automatic": _COLUMN + _HALF}),
    Case("shares of columns", _table(_TWO, _COLUMNS), "b.1.r1.c2.1", [4_590_000], {"automatic": _RELATIVE}),
    Case("a cell over two columns", _table(_SPAN, _COLUMNS), "b.1.r1.c1.1", [6_120_000], {"automatic": _RELATIVE}),
    Case("a table in two columns of text", _table(_TWO), "b.1.r1.c2.1", [1_485_000], {"automatic": _COLUMN, "pages": [page(columns=_GAP)]}),
    Case("inches and picas", p("x"), "b.1", [7_315_200 - 4 * 152_400],
         {"pages": [page('fo:page-width="8in" fo:page-height="11in" fo:margin-left="2pc" fo:margin-right="2pc"')]}),
]  # fmt: skip


class Widths(unittest.TestCase):
    """Each case by itself."""

    def test_worked_widths(self) -> None:
        """To the EMU."""
        for case in CASES:
            with self.subTest(case.name):
                document = open_odt(Odt(case.body, **case.more).build())  # type: ignore[arg-type]
                self.assertEqual([width.emu for width in document.spot(case.spot).widths], case.widths)

    def test_heights_leave_room_for_header_and_footer(self) -> None:
        """297 − 40 mm; with a footer of 10 mm that stands 5 mm off, 242 mm; an exact row holds no more than itself."""
        plain = open_odt(Odt(p("x")).build())
        self.assertEqual(plain.spot("b.1").height.emu, 257 * 36_000)
        layout, _ = page(more=_FOOT)
        master = '<style:master-page style:name="Standard" style:page-layout-name="LStandard"><style:footer/></style:master-page>'
        self.assertEqual(open_odt(Odt(p("x"), pages=[(layout, master)]).build()).spot("b.1").height.emu, 242 * 36_000)
        row = style("R1", "table-row", '<style:table-row-properties style:row-height="2cm"/>')
        body = _table(_TWO).replace("<table:table-row>", '<table:table-row table:style-name="R1">')
        exact = open_odt(Odt(body, automatic=row).build())
        self.assertEqual(exact.spot("b.1.r1.c2.1").height.emu, 20 * 36_000)

    def test_where_the_next_page_differs_both_widths_are_listed(self) -> None:
        """Only laying out would tell where the first page ends; the narrowest is chosen."""
        layout, master = page()
        first = master.replace("/>", ' style:next-style-name="Wide"/>')
        document = open_odt(Odt(p("x"), pages=[(layout, first), _WIDE]).build())
        spot = document.spot("b.1")
        self.assertEqual(([each.emu for each in spot.widths], spot.width.emu), ([6_120_000, 9_252_000], 6_120_000))
