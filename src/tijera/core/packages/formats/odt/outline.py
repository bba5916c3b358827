"""The outline of a text document: its text in containers, and the spots between the blocks.

A spot is offered only where the format allows a paragraph and where readers show it: in the body, in sections that
may be edited, in cells that stand for themselves; never in an index (it is made anew), a note, a text box, a list's
item or a repeated row.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field, replace
from fractions import Fraction
from functools import partial
from itertools import chain

from tijera.core.packages.containers.elements import required
from tijera.core.packages.containers.xmlspan import Element, whole_number
from tijera.core.packages.containers.zipped import Package
from tijera.core.packages.families.odf.clips import Clips
from tijera.core.packages.families.odf.names import q, sides
from tijera.core.packages.families.odf.shown import shown_pictures, text_of
from tijera.core.packages.families.odf.styles import OdfFacts, OdfStyles
from tijera.core.packages.formats.odt.pages import Pages, columns
from tijera.core.packages.formats.odt.tables import OdtCell, read_rows
from tijera.core.packages.places.paragraphs import (
    MARK_EVERY,
    Manner,
    ParagraphMark,
    ParagraphReading,
    ParagraphWords,
    Places,
)
from tijera.core.packages.places.spots import (
    AS_WORD,
    ON_LINES,
    Block,
    CellOutline,
    Container,
    Follows,
    Round,
    Section,
    Side,
    Spot,
    SpotExtent,
    SpotExtents,
    SpotKind,
    TextOutline,
)
from tijera.core.units import Length

_MOST_NESTED = 20
_NO_INDENTS = (Fraction(0), Fraction(0))
_PARAGRAPH, _HEADING = q("text:p"), q("text:h")
_PARAGRAPHS = (_PARAGRAPH, _HEADING)
_STYLE_NAME, _LEVEL = q("text:style-name"), q("text:outline-level")
_INDEXES = tuple(
    f"text:{name}"
    for name in (
        "table-of-content",
        "illustration-index",
        "table-index",
        "object-index",
        "user-index",
        "alphabetical-index",
        "bibliography",
    )
)
_BLOCKS = tuple(
    map(
        q,
        ("text:p", "text:h", *_INDEXES, "text:list", "text:section", "table:table", "text:numbered-paragraph"),
    )
)


@dataclass
class _Reader:
    """Walks the body once, keeping count of the lanes that it goes through."""

    styles: OdfStyles
    pages: Pages
    places: Places
    sections: list[Section] = field(default_factory=list)
    rooms: SpotExtents = field(default_factory=SpotExtents)
    lanes: tuple[Fraction, ...] = ()
    """The widths that the text may have now; more than the section's own where the next page has others."""

    def enter(self, master: str) -> None:
        """Go on with another page."""
        self.sections.append(self.pages.section(master))
        self.lanes = self.pages.widths(master)

    @property
    def section(self) -> int:
        """The number of the section that is read."""
        return len(self.sections) - 1

    def container(self, node: Element, place: Round) -> Container:
        """Read what a section or cell holds."""
        children = list(_blocks(node))
        only_empty = place.kind is SpotKind.CELL and len(children) == 1 and _is_empty(children[0])
        start = self._start(children[0], place) if children else ()
        walk = partial(self._read, children, place, offer_after=not only_empty)
        return self.places.container(place.path, start, walk)

    def outline(self, node: Element, place: Round) -> TextOutline:
        """The body, of which only the start is read: its blocks are, as far as they are asked for."""
        children = _blocks(node)
        first = next(children, None)
        start = () if first is None else self._start(first, place)
        walk = partial(self._read, chain(() if first is None else (first,), children), place, offer_after=True)
        return self.places.outline(place.path, start, walk, self.sections)

    def _start(self, first: Element, place: Round) -> tuple[str, ...]:
        """The spot before the first block of a container."""
        if not self.sections or self._begins_page(first):
            return ()
        return tuple(self._spot(place, f"{place.path}.0", first, Side.BEFORE, Follows.START, ""))

    def _read(
        self, children: Iterable[Element], place: Round, marks: list[ParagraphMark], *, offer_after: bool
    ) -> Iterator[Manner | Block]:
        """Go through the blocks of a container."""
        manners: dict[object, Manner] = {}
        """Of the section that is read."""
        at = unmarked = 0
        for number, child in enumerate(children, 1):
            tag = child.tag
            is_plain = tag == _PARAGRAPH
            if not is_plain and tag != _HEADING:
                unmarked = 0
                section = self.section
                for block in self._block(child, f"{place.path}.{number}", place):
                    at += 1
                    yield block
                if self.section != section:
                    manners.clear()
                continue
            if not unmarked:
                unmarked = MARK_EVERY
                marks.append(ParagraphMark(at, number, child))
            unmarked -= 1
            at += 1
            key = child.get(_STYLE_NAME) if is_plain else (child.get(_STYLE_NAME), child.get(_LEVEL))
            manner = manners.get(key)
            if manner is None:
                section = self.section
                manner = self._manner(child, place, offer_after=offer_after)
                if self.section != section:
                    manners.clear()
                # The next one of its kind begins a page of its own.
                if not manner.begins_page:
                    manners[key] = manner
            yield manner

    def master_of(self, node: Element) -> str | None:
        """The master page that begins with a block."""
        return self._facts(node).master_page

    def _facts(self, node: Element) -> OdfFacts:
        return self.styles.facts(*_style_of(node))

    def _begins_page(self, node: Element) -> bool:
        """Whether a page begins with it: what is put before it would stand on a page of its own."""
        facts = self._facts(node)
        return facts.master_page is not None or facts.breaks_before

    def _turn_page(self, node: Element, place: Round) -> None:
        """Go on with the page that begins with a block of the body."""
        if place.kind is SpotKind.BODY and place.widths is None:
            master = self.master_of(node)
            if master is not None:
                self.enter(master)

    def _block(self, node: Element, path: str, place: Round) -> Iterator[Block]:
        """A list, a table, a section or what stands for itself; a list gives a block for each paragraph in it."""
        self._turn_page(node, place)
        if node.tag == q("text:list"):
            yield from self._list(node, path, place)
        elif node.tag == q("table:table") and place.depth < _MOST_NESTED:
            section, rows = self.section, self._rows(node, path, place)
            spots = self._spot(place, path, node, Side.AFTER, Follows.TABLE, "")
            yield Block(path, "table", 0, "", section, rows=rows, spots=tuple(spots))
        elif node.tag == q("text:section") and place.depth < _MOST_NESTED:
            yield self._section(node, path, place)
        else:
            spots = self._spot(place, path, node, Side.AFTER, Follows.CONTROL, "")
            yield Block(path, "other", 0, "", self.section, spots=tuple(spots))

    def _manner(self, node: Element, place: Round, *, offer_after: bool) -> Manner:
        """How a paragraph stands in the section that is read, or in the one that it begins."""
        self._turn_page(node, place)
        facts = self._facts(node)
        level = whole_number(node.get(_LEVEL), 1, 1, 99) if node.tag == _HEADING else 0
        kind = "heading" if level else "title" if facts.is_title else "paragraph"
        room = self._room(place, facts.indents) if offer_after else None
        stands = ON_LINES if facts.has_exact_lines else AS_WORD
        return Manner(kind, level, self.section, place.kind, room, stands, begins_page=facts.master_page is not None)

    def _list(self, node: Element, path: str, place: Round) -> Iterator[Block]:
        """Every item's paragraphs; what is placed stands behind the list, not in it."""
        items = list(node.iter(*_PARAGRAPHS))
        for number, item in enumerate(items, 1):
            words, is_last = self.places.reading.words(item), number == len(items)
            own = path if is_last else f"{path}.i{number}"
            spots = self._spot(place, path, node, Side.AFTER, Follows.PARAGRAPH, words.text) if is_last else []
            yield Block(own, "list", 0, words.text, self.section, words.pictures, spots=tuple(spots))

    def _section(self, node: Element, path: str, place: Round) -> Block:
        """A section of the text, in columns of its own, within the lanes round it."""
        name = node.get(q("text:style-name"))
        properties = self.styles.properties("section", name, "style:section-properties")
        round_it = place.widths or self.lanes
        margins = sides(properties, "margin", "left", "right")
        inside = [each for width in round_it for each in columns(properties, width - margins)]
        is_body = place.widths is None
        before, lanes = self.sections[-1], self.lanes
        offers = place.offers_spots and node.get(q("text:protected")) != "true"
        offers = offers and node.find(q("text:section-source")) is None
        if is_body:
            own = columns(properties, before.column_widths[0] - margins)
            self.sections.append(replace(before, column_widths=own))
            self.lanes = tuple(inside)
        widths = None if is_body else tuple(inside)
        number = self.section
        inner = Round(f"{path}.k", place.kind, widths, place.most_height, place.depth + 1, offers)
        content = self.container(node, inner)
        if is_body:
            # A page that began inside it goes on behind it.
            page_went_on = self.section != number
            if not page_went_on:
                self.sections.append(before)
                self.lanes = lanes
        spots = self._spot(place, path, node, Side.AFTER, Follows.CONTROL, "")
        return Block(path, "control", 0, "", number, content=content, spots=tuple(spots))

    def _rows(self, table: Element, path: str, place: Round) -> tuple[tuple[CellOutline, ...], ...]:
        """Read a table once for every width that its container may have, and join the cells' widths."""
        readings = [read_rows(table, self.styles, width) for width in place.widths or self.lanes]
        return tuple(
            tuple(
                self._cell([each[row][cell] for each in readings], f"{path}.r{row + 1}.c{cell + 1}", place)
                for cell in range(len(readings[0][row]))
            )
            for row in range(len(readings[0]))
        )

    def _cell(self, readings: list[OdtCell], path: str, place: Round) -> CellOutline:
        cell = readings[0]
        heights = [each for each in (place.most_height, cell.exact_height) if each is not None]
        inner = Round(
            path,
            SpotKind.CELL,
            tuple(each.width for each in readings),
            min(heights, default=None),
            place.depth + 1,
            place.offers_spots and not cell.is_repeated,
        )
        content = self.container(cell.node, inner)
        return CellOutline(cell.column_span, cell.row_span, Length.exactly(cell.outer_width), content)

    def _spot(self, place: Round, path: str, node: Element, side: Side, follows: Follows, text: str) -> list[str]:
        """Offer a spot, unless nothing can stand there; the list holds its id or nothing."""
        facts = self._facts(node) if node.tag in _PARAGRAPHS else None
        room = self._room(place, _NO_INDENTS if facts is None else facts.indents)
        if room is None:
            return []
        self.places.others[path] = Spot(
            id=path,
            kind=place.kind,
            follows=follows,
            after_text=text,
            widths=room.widths,
            height=room.height,
            section=self.section,
            element=node,
            side=side,
            indent_left=room.left,
            indent_right=room.right,
            stands=ON_LINES,
        )
        return [path]

    def _room(self, place: Round, indents: tuple[Fraction, Fraction]) -> SpotExtent | None:
        """What a picture has between the indents of a paragraph; None where none is to stand."""
        if not place.offers_spots:
            return None
        height = self.sections[-1].text_height
        return self.rooms.between(place.widths or self.lanes, *indents, height, place.most_height)


def _style_of(node: Element) -> tuple[str, str | None]:
    """The family and name of the style of a paragraph or table."""
    prefix, family = ("table", "table") if node.tag == q("table:table") else ("text", "paragraph")
    return family, node.get(q(f"{prefix}:style-name"))


def _is_empty(node: Element) -> bool:
    return bool(node.tag == _PARAGRAPH and len(node) == 0 and not (node.text or "").strip())


def _blocks(node: Element) -> Iterator[Element]:
    return iter(node.iterchildren(*_BLOCKS))


def read_outline(root: Element, styles: OdfStyles, pages: Pages, package: Package) -> TextOutline:
    """Read the body of a document's content and the sections that it goes through, as far as they are asked for."""
    crops = Clips(styles, package.read)

    def words(paragraph: Element) -> ParagraphWords:
        return ParagraphWords(text_of(paragraph), tuple(shown_pictures(paragraph, package, crops.of)))

    reader = _Reader(styles, pages, Places(ParagraphReading(_PARAGRAPHS, words)))
    node = required(root, f"{q('office:body')}/{q('office:text')}")
    # A first block that names its page begins the text with it.
    first = next(_blocks(node), None)
    if first is None or reader.master_of(first) is None:
        reader.enter(pages.first)
    return reader.outline(node, Round("b", SpotKind.BODY, None, None, 0))
