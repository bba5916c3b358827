"""What styles and numbering say about indents and cell margins (ECMA-376 Part 1 §17.7; clause from memory)."""

from __future__ import annotations

import contextlib
from dataclasses import dataclass
from fractions import Fraction

from tijera.core.errors import LengthUnreadable
from tijera.core.packages.containers.xmlspan import Element, whole_number
from tijera.core.packages.formats.docx.names import DocxNames
from tijera.core.units import EMU_PER_TWIP, ooxml_measure

_DEFAULT_CELL_MARGIN = Fraction(115 * EMU_PER_TWIP)
"""Left and right margin of a cell where neither cell, table nor style gives one (from memory)."""
_MOST_ANCESTORS = 40


@dataclass(frozen=True)
class Indents:
    """What narrows a paragraph, in EMU; None where nothing was said. A hanging first line narrows nothing."""

    left: Fraction | None = None
    right: Fraction | None = None

    def over(self, weaker: Indents) -> Indents:
        """These indents, with the weaker ones where these say nothing."""
        return Indents(
            weaker.left if self.left is None else self.left,
            weaker.right if self.right is None else self.right,
        )


@dataclass(frozen=True)
class DocxFacts:
    """What the outline needs of a paragraph's properties; paragraphs that say the same share one value."""

    indents: Indents
    level: int | None
    """See `DocxStyles.heading_level`."""
    is_list_item: bool
    has_exact_lines: bool
    ends_section: bool = False
    end_is_deleted: bool = False
    """Its end is a tracked deletion: it will run into the next paragraph."""

    @property
    def kind(self) -> str:
        """What a block says of it."""
        if self.level is None:
            return "list" if self.is_list_item else "paragraph"
        return "heading" if self.level else "title"


def measure_of(node: Element | None, attribute: str) -> Fraction | None:
    """A measure in EMU from an attribute; None when it is absent or unreadable."""
    text = None if node is None else node.get(attribute)
    if text is None:
        return None
    with contextlib.suppress(LengthUnreadable):
        return ooxml_measure(text)
    return None


def indents_of(properties: Element | None, names: DocxNames) -> Indents:
    """The indents that a `w:pPr` gives itself."""
    node = None if properties is None else properties.find(names.q("ind"))
    if node is None:
        return Indents()
    left, right = (
        next((value for name in pair if (value := measure_of(node, names.q(name))) is not None), None)
        for pair in (("start", "left"), ("end", "right"))
    )
    return Indents(left, right)


class DocxStyles:
    """The styles and the numbering of a document; both parts may be absent."""

    def __init__(self, names: DocxNames, styles: Element | None, numbering: Element | None) -> None:
        self._names = names
        q = names.q
        nodes = [] if styles is None else list(styles.iter(q("style")))
        self._by_id = {node.get(q("styleId"), ""): node for node in nodes}
        self._default = {
            node.get(q("type"), ""): node for node in nodes if node.get(q("default")) in ("1", "true", "on")
        }
        defaults = None if styles is None else styles.find(f"{q('docDefaults')}/{q('pPrDefault')}/{q('pPr')}")
        self._document_indents = indents_of(defaults, names)
        self._levels = _levels(names, numbering)
        self._plain_indents = self._resolve_indents(None)
        self._facts: dict[tuple[object, ...], DocxFacts] = {}
        self._deciding = frozenset(map(q, ("pStyle", "numPr", "ind", "spacing")))
        self._section, self._run = q("sectPr"), q("rPr")
        self._deleted = frozenset((q("del"), q("moveFrom")))

    def _chain(self, kind: str, style_id: str | None) -> list[Element]:
        """A style and what it is based on, the root first."""
        q = self._names.q
        node = self._by_id.get(style_id or "", self._default.get(kind))
        chain: list[Element] = []
        while node is not None and node not in chain and len(chain) < _MOST_ANCESTORS:
            chain.insert(0, node)
            base = node.find(q("basedOn"))
            node = None if base is None else self._by_id.get(base.get(q("val"), ""))
        return chain

    def _numbered(self, properties: Element | None) -> tuple[bool, Indents]:
        """Whether a `w:pPr` is numbered, and the indents of its level."""
        q = self._names.q
        node = None if properties is None else properties.find(q("numPr"))
        if node is None:
            return False, Indents()
        number, level = (node.find(q(name)) for name in ("numId", "ilvl"))
        number_id = "" if number is None else number.get(q("val"), "")
        depth = "0" if level is None else level.get(q("val"), "0")
        return number_id not in ("", "0"), self._levels.get((number_id, depth), Indents())

    def _paragraph_chain(self, properties: Element | None) -> list[Element]:
        q = self._names.q
        style = None if properties is None else properties.find(q("pStyle"))
        return self._chain("paragraph", None if style is None else style.get(q("val")))

    def facts(self, properties: Element | None) -> DocxFacts:
        """What a `w:pPr` says with its style and numbering. Thousands of paragraphs say a few different things."""
        key = self._said(properties)
        found = self._facts.get(key)
        if found is None:
            found = self._facts[key] = DocxFacts(
                self.indents(properties),
                self.heading_level(properties),
                self.is_list_item(properties),
                self.has_exact_lines(properties),
                ends_section=self._section in key,
                end_is_deleted=not self._deleted.isdisjoint(key),
            )
        return found

    def _said(self, properties: Element | None) -> tuple[object, ...]:
        """The properties that decide, as something to look up by."""
        if properties is None:
            return ()
        said: list[object] = []
        for child in properties:
            tag = child.tag
            if tag in self._deciding:
                said.append(tag)
                said += child.items()
                if len(child):
                    for inner in child:
                        said += (inner.tag, *inner.items())
            elif tag == self._section:
                said.append(tag)
            elif tag == self._run:
                said += (inner.tag for inner in child if inner.tag in self._deleted)
        return tuple(said)

    def indents(self, properties: Element | None) -> Indents:
        """A paragraph's indents: its own, over its numbering's, over its style's, over the document's."""
        return self._plain_indents if properties is None else self._resolve_indents(properties)

    def _resolve_indents(self, properties: Element | None) -> Indents:
        q = self._names.q
        result = self._document_indents
        for layer in [*(style.find(q("pPr")) for style in self._paragraph_chain(properties)), properties]:
            result = self._numbered(layer)[1].over(result)
            result = indents_of(layer, self._names).over(result)
        return result

    def is_list_item(self, properties: Element | None) -> bool:
        """Whether a paragraph is numbered or has a bullet."""
        q = self._names.q
        layers = [*(style.find(q("pPr")) for style in self._paragraph_chain(properties)), properties]
        said = [
            self._numbered(layer)[0] for layer in layers if layer is not None and layer.find(q("numPr")) is not None
        ]
        return bool(said and said[-1])

    def heading_level(self, properties: Element | None) -> int | None:
        """1 to 9 for a heading, 0 for the title, None for other paragraphs; styles are known by their *names*."""
        q = self._names.q
        for style in reversed(self._paragraph_chain(properties)):
            node = style.find(q("name"))
            name = "" if node is None else node.get(q("val"), "").lower()
            if name == "title":
                return 0
            if name.startswith("heading ") and (level := whole_number(name[8:], 0, 1, 9)):
                return level
        return None

    @property
    def caption_style(self) -> str | None:
        """The id of the style for captions, which is found by its *name*: ids are translated. None where there is none."""
        q = self._names.q
        for style_id, node in self._by_id.items():
            name = node.find(q("name"))
            if name is not None and name.get(q("val"), "").lower() == "caption":
                return str(style_id)
        return None

    def has_exact_lines(self, properties: Element | None) -> bool:
        """Whether the lines of a paragraph have an exact height, which would clip a picture in them."""
        q = self._names.q
        own = None if properties is None else properties.find(q("spacing"))
        if own is not None and own.get(q("line")) is not None:
            return bool(own.get(q("lineRule"), "auto") == "exact")
        rule = ""
        for style in self._paragraph_chain(properties):
            spacing = style.find(f"{q('pPr')}/{q('spacing')}")
            if spacing is not None and spacing.get(q("line")) is not None:
                rule = spacing.get(q("lineRule"), "auto")
        return rule == "exact"

    def cell_margins(self, table_properties: Element | None) -> tuple[Fraction, Fraction]:
        """Left and right cell margins in EMU of a table: its own, else its style's, else the default."""
        q = self._names.q
        style = None if table_properties is None else table_properties.find(q("tblStyle"))
        chain = self._chain("table", None if style is None else style.get(q("val")))
        left = right = _DEFAULT_CELL_MARGIN
        for layer in [*(each.find(q("tblPr")) for each in chain), table_properties]:
            margins = None if layer is None else layer.find(q("tblCellMar"))
            own = side_margins(margins, self._names)
            left, right = (own[0] if own[0] is not None else left), (own[1] if own[1] is not None else right)
        return left, right

    def cell_spacing(self, table_properties: Element | None) -> Fraction:
        """The spacing in EMU round a table's cells: its own, else its style's, else none (ECMA-376 Part 1 §17.4.45)."""
        q = self._names.q
        style = None if table_properties is None else table_properties.find(q("tblStyle"))
        chain = self._chain("table", None if style is None else style.get(q("val")))
        layers = [table_properties, *(each.find(q("tblPr")) for each in reversed(chain))]
        said = (None if layer is None else measure_of(layer.find(q("tblCellSpacing")), q("w")) for layer in layers)
        return next((max(each, Fraction(0)) for each in said if each is not None), Fraction(0))


def side_margins(node: Element | None, names: DocxNames) -> tuple[Fraction | None, Fraction | None]:
    """Left and right of a `w:tblCellMar` or `w:tcMar`, in EMU."""
    if node is None:
        return None, None
    left, right = (
        next(
            (value for name in pair if (value := measure_of(node.find(names.q(name)), names.q("w"))) is not None), None
        )
        for pair in (("start", "left"), ("end", "right"))
    )
    return left, right


def _levels(names: DocxNames, numbering: Element | None) -> dict[tuple[str, str], Indents]:
    """The indents of every (numId, level)."""
    if numbering is None:
        return {}
    q = names.q
    abstract = {node.get(q("abstractNumId"), ""): node for node in numbering.iter(q("abstractNum"))}
    levels: dict[tuple[str, str], Indents] = {}
    for number in numbering.iter(q("num")):
        link = number.find(q("abstractNumId"))
        base = abstract.get("" if link is None else link.get(q("val"), ""))
        overrides = list(number.iter(q("lvl")))
        for level in [*([] if base is None else base.iter(q("lvl"))), *overrides]:
            key = number.get(q("numId"), ""), level.get(q("ilvl"), "0")
            levels[key] = indents_of(level.find(q("pPr")), names)
    return levels
