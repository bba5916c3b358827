"""Sections: the width of a page's columns and the height of its text (ECMA-376 Part 1 §17.6; clause from memory)."""

from __future__ import annotations

from fractions import Fraction

from tijera.core.packages.containers.xmlspan import Element, whole_number
from tijera.core.packages.formats.docx.names import DocxNames
from tijera.core.packages.formats.docx.styles import measure_of
from tijera.core.packages.places.spots import Section
from tijera.core.units import EMU_PER_TWIP

_DEFAULT_PAGE = Fraction(12_240 * EMU_PER_TWIP), Fraction(15_840 * EMU_PER_TWIP)
"""US Letter, where a section gives no page size (from memory)."""
_DEFAULT_MARGIN = Fraction(1_440 * EMU_PER_TWIP)
_MOST_COLUMNS = 99
_DEFAULT_SPACE = Fraction(720 * EMU_PER_TWIP)


def read_section(node: Element | None, names: DocxNames, *, gutter_at_top: bool) -> Section:
    """Read a `w:sectPr`; an absent one gives the defaults."""
    q = names.q
    size, margins, columns = (None if node is None else node.find(q(name)) for name in ("pgSz", "pgMar", "cols"))

    def value(of: Element | None, name: str, default: Fraction) -> Fraction:
        found = measure_of(of, q(name))
        return default if found is None else found

    page_width, page_height = value(size, "w", _DEFAULT_PAGE[0]), value(size, "h", _DEFAULT_PAGE[1])
    gutter = value(margins, "gutter", Fraction(0))
    sides = value(margins, "left", _DEFAULT_MARGIN) + value(margins, "right", _DEFAULT_MARGIN)
    # A negative top or bottom margin means: exactly so much, whatever the header needs.
    ends = abs(value(margins, "top", _DEFAULT_MARGIN)) + abs(value(margins, "bottom", _DEFAULT_MARGIN))
    width = page_width - sides - (0 if gutter_at_top else gutter)
    height = page_height - ends - (gutter if gutter_at_top else 0)
    return Section(_columns(columns, names, width), height, page_width, page_height)


def _columns(node: Element | None, names: DocxNames, width: Fraction) -> tuple[Fraction, ...]:
    """Equal columns from number and space, unequal ones from their own widths."""
    q = names.q
    if node is None:
        return (width,)
    own = [measure_of(column, q("w")) for column in node.findall(q("col"))]
    if node.get(q("equalWidth")) in ("0", "false", "off") and own and None not in own:
        return tuple(column for column in own if column is not None)
    number = whole_number(node.get(q("num")), 1, 1, _MOST_COLUMNS)
    space = measure_of(node, q("space"))
    gaps = (number - 1) * (_DEFAULT_SPACE if space is None else space)
    return (max((width - gaps) / number, Fraction(0)),) * number
