"""Pages and columns: how wide the lanes of text are (ODF 1.2 Part 1 §16.5, §17.2, §19.515; numbers from memory)."""

from __future__ import annotations

from fractions import Fraction

from tijera.core.packages.containers.xmlspan import Element, whole_number
from tijera.core.packages.families.odf.names import borders, length_of, q, share, sides
from tijera.core.packages.families.odf.shown import text_of
from tijera.core.packages.places.spots import Section
from tijera.core.units import EMU_PER_MM

_A4 = Fraction(210 * EMU_PER_MM), Fraction(297 * EMU_PER_MM)
"""Where a layout gives no size (from memory: it is left to the application)."""
_MARGIN = Fraction(20 * EMU_PER_MM)
_MOST_COLUMNS = 99
_MOST_RUNNING = 400
STANDARD = "Standard"


class Pages:
    """Master pages by name."""

    def __init__(self, styles: Element | None) -> None:
        self._layouts: dict[str, Element] = {}
        self._masters: dict[str, Element] = {}
        self._sections: dict[str, Section] = {}
        if styles is not None:
            self._layouts = {node.get(q("style:name"), ""): node for node in styles.iter(q("style:page-layout"))}
            self._masters = {node.get(q("style:name"), ""): node for node in styles.iter(q("style:master-page"))}

    @property
    def first(self) -> str:
        """The master page of a text that names none."""
        return STANDARD if STANDARD in self._masters else next(iter(self._masters), STANDARD)

    def section(self, master: str) -> Section:
        """What a page gives its text."""
        if master not in self._sections:
            self._sections[master] = self._read(master)
        return self._sections[master]

    def _read(self, master: str) -> Section:
        page = self._masters.get(master)
        layout = None if page is None else self._layouts.get(page.get(q("style:page-layout-name"), ""))
        properties = None if layout is None else layout.find(q("style:page-layout-properties"))
        width = length_of(properties, "fo:page-width") or _A4[0]
        height = length_of(properties, "fo:page-height") or _A4[1]
        if properties is None:
            return Section((width - 2 * _MARGIN,), height - 2 * _MARGIN, width, height)
        text_width = width - sum(_box(properties, "left", "right"))
        text_height = height - sum(_box(properties, "top", "bottom"))
        for part, side in (("header", "bottom"), ("footer", "top")):
            shown = page is not None and page.find(q(f"style:{part}")) is not None
            own = (
                None
                if layout is None
                else layout.find(f"{q(f'style:{part}-style')}/{q('style:header-footer-properties')}")
            )
            if shown and own is not None:
                least = length_of(own, "svg:height") or length_of(own, "fo:min-height") or Fraction(0)
                text_height -= least + sides(own, "margin", side)
        running = (_running(page, "header"), _running(page, "footer"))
        return Section(columns(properties, text_width), text_height, width, height, *running)

    def widths(self, master: str) -> tuple[Fraction, ...]:
        """The columns of a page and of the one that follows it: where a page ends is only known when it is laid out."""
        page = self._masters.get(master)
        following = None if page is None else page.get(q("style:next-style-name"))
        own = self.section(master).column_widths
        return own if following in (None, "", master) else own + self.section(str(following)).column_widths


def _running(page: Element | None, kind: str) -> str:
    """The text of a header or footer, in lines."""
    node = None if page is None else page.find(q(f"style:{kind}"))
    lines = () if node is None else (text_of(each) for each in node.iter(q("text:p"), q("text:h")))
    return "\n".join(line for line in lines if line)[:_MOST_RUNNING]


def _box(properties: Element, *which: str) -> tuple[Fraction, ...]:
    return sides(properties, "margin", *which), sides(properties, "padding", *which), borders(properties, *which)


def columns(properties: Element | None, width: Fraction) -> tuple[Fraction, ...]:
    """Columns of a page or section that is so wide: equal ones by their gap, others by shares and their own indents."""
    node = None if properties is None else properties.find(q("style:columns"))
    number = 1 if node is None else whole_number(node.get(q("fo:column-count")), 1, 1, _MOST_COLUMNS)
    if node is None or number == 1:
        return (width,)
    own = node.findall(q("style:column"))
    shares = [share(each.get(q("style:rel-width"))) for each in own]
    if len(own) == number and None not in shares and any(shares):
        total = sum((each for each in shares if each), Fraction(0))
        return tuple(
            max(width * (part or 0) / total - sides_of_column(each), Fraction(0))
            for part, each in zip(shares, own, strict=True)
        )
    gap = length_of(node, "fo:column-gap") or Fraction(0)
    return (max((width - (number - 1) * gap) / number, Fraction(0)),) * number


def sides_of_column(column: Element) -> Fraction:
    """The room that a column leaves free at its sides."""
    found = (length_of(column, name) for name in ("fo:start-indent", "fo:end-indent"))
    return sum((each for each in found if each), Fraction(0))
