"""The outline of a document: its text in containers, and the spots between the blocks.

A spot is offered only where the format allows a paragraph and where readers will show it: in the body, in table cells
(of vertically merged ones the first), in content controls that may hold pictures; never inside a field's result (an
index is thrown away when it is updated), beside a tracked deletion, or in a fallback copy.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from fractions import Fraction
from functools import partial
from itertools import chain

from tijera.core.packages.containers.elements import required
from tijera.core.packages.containers.xmlspan import Element
from tijera.core.packages.families.opc.relationships import Relationships
from tijera.core.packages.formats.docx.names import DocxNames
from tijera.core.packages.formats.docx.shown import read_paragraph, shown_pictures
from tijera.core.packages.formats.docx.styles import DocxFacts, DocxStyles, Indents
from tijera.core.packages.formats.docx.tables import DocxCell, Row, read_rows
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

_PLAIN_CONTROLS = ("text", "dropDownList", "comboBox", "date", "checkbox", "picture", "equation", "citation")
_MOST_NESTED = 20
_NO_INDENT = Fraction(0)
_NOT_TEXT = DocxFacts(Indents(None, None), None, is_list_item=False, has_exact_lines=True)
"""What stands beside a place and is no paragraph: nothing can stand in it like a word."""


@dataclass
class _Reader:
    """Walks the body once, keeping count of sections and open fields."""

    names: DocxNames
    styles: DocxStyles
    sections: tuple[Section, ...]
    places: Places
    with_fields: frozenset[Element]
    """The paragraphs in which a field begins or ends."""
    mark_every: int
    section: int = 0
    open_fields: int = 0
    rooms: SpotExtents = field(default_factory=SpotExtents)

    def container(self, node: Element, place: Round) -> Container:
        """Read what a cell or control holds."""
        children = list(self._blocks(node))
        only_empty = len(children) == 1 and self._is_empty(children[0]) and place.kind is SpotKind.CELL
        start = self._start(children[0], place) if children else ()
        walk = partial(self._read, children, place, offer_after=not only_empty)
        return self.places.container(place.path, start, walk)

    def outline(self, node: Element, place: Round) -> TextOutline:
        """The body, of which only the start is read: its blocks are, as far as they are asked for."""
        children = self._blocks(node)
        first = next(children, None)
        start = () if first is None else self._start(first, place)
        walk = partial(self._read, chain(() if first is None else (first,), children), place, offer_after=True)
        return self.places.outline(place.path, start, walk, self.sections)

    def _start(self, first: Element, place: Round) -> tuple[str, ...]:
        """The spot before the first block of a container."""
        return tuple(self._spot(place, f"{place.path}.0", first, Side.BEFORE, Follows.START))

    def _read(
        self, children: Iterable[Element], place: Round, marks: list[ParagraphMark], *, offer_after: bool
    ) -> Iterator[Manner | Block]:
        """Go through the blocks of a container."""
        paragraph = self.names.q("p")
        manners: dict[object, Manner] = {}
        unmarked = 0
        for number, child in enumerate(children, 1):
            if child.tag != paragraph:
                unmarked = 0
                yield self._block(child, f"{place.path}.{number}", place)
                continue
            if unmarked % self.mark_every == 0:
                marks.append(ParagraphMark(number - 1, number, child))
            unmarked += 1
            facts = self._facts(child)
            if child in self.with_fields:
                self.open_fields = max(0, self.open_fields + read_paragraph(child, self.names).field_balance)
            offers = offer_after and not facts.end_is_deleted
            if facts.ends_section:
                yield self._end_of_section(child, f"{place.path}.{number}", place, facts, offers=offers)
                continue
            key = (id(facts), self.section, offers and not self.open_fields)
            manner = manners.get(key)
            if manner is None:
                manner = manners[key] = self._manner(facts, place, offers=offers)
            yield manner

    def _blocks(self, node: Element) -> Iterator[Element]:
        """The blocks of a container; custom XML round blocks is looked through."""
        q = self.names.q
        for child in node:
            if child.tag in (q("p"), q("tbl"), q("sdt"), q("altChunk")):
                yield child
            elif child.tag == q("customXml"):
                yield from self._blocks(child)

    def _is_empty(self, node: Element) -> bool:
        return bool(node.tag == self.names.q("p") and node.find(f".//{self.names.q('r')}") is None)

    def _block(self, node: Element, path: str, place: Round) -> Block:
        """A table, a content control or what stands for itself."""
        q = self.names.q
        section = self.section
        if node.tag == q("tbl") and place.depth < _MOST_NESTED:
            rows = self._rows(node, path, place)
            spots = self._spot(place, path, node, Side.AFTER, Follows.TABLE)
            return Block(path, "table", 0, "", section, rows=rows, spots=tuple(spots))
        content = node.find(q("sdtContent")) if node.tag == q("sdt") else None
        if content is not None and place.depth < _MOST_NESTED:
            inner = Round(
                f"{path}.k", place.kind, place.widths, place.most_height, place.depth + 1, self._takes_pictures(node)
            )
            inside = self.container(content, inner)
            spots = self._spot(place, path, node, Side.AFTER, Follows.CONTROL)
            return Block(path, "control", 0, "", section, content=inside, spots=tuple(spots))
        spots = self._spot(place, path, node, Side.AFTER, Follows.CONTROL)
        return Block(path, "other", 0, "", section, spots=tuple(spots))

    def _manner(self, facts: DocxFacts, place: Round, *, offers: bool) -> Manner:
        """How a paragraph stands in the section that is read."""
        room = self._room(place, facts) if offers else None
        stands = ON_LINES if facts.has_exact_lines else AS_WORD
        return Manner(facts.kind, facts.level or 0, self.section, place.kind, room, stands)

    def _end_of_section(self, node: Element, path: str, place: Round, facts: DocxFacts, *, offers: bool) -> Block:
        """The last paragraph of a section: a place before the next one begins, and a place in that one."""
        words, section = self.places.reading.words(node), self.section
        spots: list[str] = []
        if offers and place.widths is None and not self._is_empty(node):
            spots += self._spot(place, f"{path}e", node, Side.SECTION_END, Follows.PARAGRAPH, words.text, facts)
        if place.widths is None or not offers:
            self.section = min(section + 1, len(self.sections) - 1)
        if offers:
            spots += self._spot(place, path, node, Side.AFTER, Follows.PARAGRAPH, words.text, facts)
        return Block(path, facts.kind, facts.level or 0, words.text, section, words.pictures, spots=tuple(spots))

    def _facts(self, paragraph: Element) -> DocxFacts:
        """What its properties say, which stand first in it (§17.3.1.26)."""
        tag = self.names.q("pPr")
        first = paragraph[0] if len(paragraph) else None
        return self.styles.facts(first if first is not None and first.tag == tag else paragraph.find(tag))

    def _takes_pictures(self, control: Element) -> bool:
        """Whether a content control holds rich content that may be edited."""
        q = self.names.q
        properties = control.find(q("sdtPr"))
        if properties is None:
            return True
        local = {str(child.tag).rsplit("}", 1)[-1] for child in properties.iterchildren("*")}
        lock = properties.find(q("lock"))
        gallery = properties.find(f"{q('docPartObj')}/{q('docPartGallery')}")
        is_index = gallery is not None and "table of contents" in gallery.get(q("val"), "").lower()
        locked = lock is not None and lock.get(q("val")) in ("contentLocked", "sdtContentLocked")
        return not (locked or is_index or "showingPlcHdr" in local or local.intersection(_PLAIN_CONTROLS))

    def _rows(self, table: Element, path: str, place: Round) -> tuple[tuple[CellOutline, ...], ...]:
        """Read a table once for every width that its container may have, and join the cells' widths."""
        containers = place.widths or self.sections[self.section].column_widths
        readings = [list(read_rows(table, self.names, self.styles, width)) for width in containers]
        rows = readings[0]
        out = []
        for row_number, row in enumerate(rows):
            cells = []
            for cell_number, cell in enumerate(row.cells):
                if cell.is_covered or (cell.continues_merge and row_number > 0):
                    continue
                heights = [each for each in (place.most_height, cell.exact_height) if each is not None]
                widths = tuple(reading[row_number].cells[cell_number].width for reading in readings)
                inner = Round(
                    f"{path}.r{row_number + 1}.c{cell_number + 1}",
                    SpotKind.CELL,
                    widths,
                    min(heights, default=None),
                    place.depth + 1,
                    place.offers_spots,
                )
                content = self.container(cell.node, inner)
                span = _row_span(rows, row_number, cell)
                cells.append(CellOutline(cell.span, span, Length.exactly(cell.outer_width), content))
            out.append(tuple(cells))
        return tuple(out)

    def _spot(
        self,
        place: Round,
        path: str,
        node: Element,
        side: Side,
        follows: Follows,
        text: str = "",
        facts: DocxFacts | None = None,
    ) -> list[str]:
        """Offer a spot, unless nothing can stand there; the list holds its id or nothing.

        `facts` are those of the paragraph beside it, where they are known already.
        """
        if facts is None:
            facts = self._facts(node) if node.tag == self.names.q("p") else _NOT_TEXT
        if side is Side.BEFORE and facts.end_is_deleted:
            return []
        room = self._room(place, facts)
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
            stands=ON_LINES if side is Side.BEFORE or facts.has_exact_lines else AS_WORD,
        )
        return [path]

    def _room(self, place: Round, facts: DocxFacts) -> SpotExtent | None:
        """What a picture has between a paragraph's indents; None where none is to stand."""
        if not place.offers_spots or self.open_fields:
            return None
        section = self.sections[self.section]
        left, right = facts.indents.left or _NO_INDENT, facts.indents.right or _NO_INDENT
        widths = place.widths or section.column_widths
        return self.rooms.between(widths, left, right, section.text_height, place.most_height)


def _row_span(rows: list[Row], start: int, cell: DocxCell) -> int:
    """How many rows a vertically merged cell covers."""
    span = 1
    for row in rows[start + 1 :]:
        below = next((other for other in row.cells if other.column == cell.column), None)
        if below is None or not below.continues_merge:
            break
        span += 1
    return span


def read_outline(
    root: Element, names: DocxNames, styles: DocxStyles, sections: tuple[Section, ...], relationships: Relationships
) -> TextOutline:
    """Read the body of a document's main part, as far as it is asked for."""

    def words(node: Element) -> ParagraphWords:
        reading = read_paragraph(node, names)
        return ParagraphWords(
            reading.text, tuple(shown_pictures(node, names, relationships)) if reading.has_pictures else ()
        )

    marks = root.iter(names.q("fldChar"))
    with_fields = frozenset(each for mark in marks for each in mark.iterancestors(names.q("p")))
    # Paragraphs that custom XML stands round are no siblings of those beside it.
    mark_every = MARK_EVERY if next(root.iter(names.q("customXml")), None) is None else 1
    places = Places(ParagraphReading((names.q("p"),), words))
    reader = _Reader(names, styles, sections, places, with_fields, mark_every)
    return reader.outline(required(root, names.q("body")), Round("b", SpotKind.BODY, None, None, 0))
