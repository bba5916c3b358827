"""Styles of a text document: automatic ones, the common ones they are based on, the defaults (ODF 1.2 Part 1 §16)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

from tijera.core.packages.containers.xmlspan import Element
from tijera.core.packages.families.odf.names import length, q

_MOST_BASED = 30


@dataclass(frozen=True)
class OdfFacts:
    """What the style of a paragraph or table says of where it stands."""

    indents: tuple[Fraction, Fraction]
    """A paragraph's left and right margin, in EMU; those of a style it is based on where it gives none."""
    has_exact_lines: bool
    """Its lines have an exact height, which would clip a picture in them."""
    is_title: bool
    """It is the document's title, or based on it."""
    master_page: str | None
    """The master page that begins with it; None where none does."""
    breaks_before: bool
    """A new page or column begins with it."""


class OdfStyles:
    """Styles by family and name. An automatic style of the content comes before a common one of the same name."""

    def __init__(self, content: Element, common: Element | None) -> None:
        self._styles: dict[tuple[str, str], Element] = {}
        self._defaults: dict[str, Element] = {}
        self._content, self._common = content, common
        self._facts: dict[tuple[str, str | None], OdfFacts] = {}
        for root, holder in ((common, "office:styles"), (content, "office:automatic-styles")):
            found = None if root is None else root.find(q(holder))
            for node in () if found is None else found:
                family = node.get(q("style:family"), "")
                if node.tag == q("style:style"):
                    self._styles[family, node.get(q("style:name"), "")] = node
                elif node.tag == q("style:default-style"):
                    self._defaults[family] = node

    @cached_property
    def names(self) -> frozenset[str]:
        """The names of all styles, wherever they stand; a new one gets another."""
        roots = (root for root in (self._common, self._content) if root is not None)
        return frozenset(node.get(q("style:name"), "") for root in roots for node in root.iter(q("style:style")))

    def has(self, family: str, name: str) -> bool:
        """Whether there is a style of that name."""
        return (family, name) in self._styles

    def chain(self, family: str, name: str | None) -> Iterator[Element]:
        """A style, those it is based on, the family's default."""
        for _ in range(_MOST_BASED):
            node = self._styles.get((family, name or ""))
            if node is None:
                break
            yield node
            name = node.get(q("style:parent-style-name"))
        if family in self._defaults:
            yield self._defaults[family]

    def properties(self, family: str, name: str | None, holder: str) -> Element | None:
        """The properties of the style itself."""
        node = self._styles.get((family, name or ""))
        return None if node is None else node.find(q(holder))

    def facts(self, family: str, name: str | None) -> OdfFacts:
        """What a paragraph's or table's style says. Thousands of blocks share a few of them."""
        found = self._facts.get((family, name))
        if found is None:
            found = self._facts[family, name] = OdfFacts(
                (self._margin(name, "left"), self._margin(name, "right")),
                has_exact_lines=self._has_exact_lines(name),
                is_title=any(node.get(q("style:name")) == "Title" for node in self.chain("paragraph", name)),
                master_page=self._master_page(family, name),
                breaks_before=self._breaks_before(family, name),
            )
        return found

    def _margin(self, name: str | None, side: str) -> Fraction:
        for node in self.chain("paragraph", name):
            properties = node.find(q("style:paragraph-properties"))
            if properties is None:
                continue
            for attribute in (f"fo:margin-{side}", "fo:margin"):
                found = length(properties.get(q(attribute)))
                if found is not None:
                    return found
        return Fraction(0)

    def _has_exact_lines(self, name: str | None) -> bool:
        for node in self.chain("paragraph", name):
            properties = node.find(q("style:paragraph-properties"))
            value = None if properties is None else properties.get(q("fo:line-height"))
            if value is not None:
                return length(value) is not None
        return False

    def _master_page(self, family: str, name: str | None) -> str | None:
        for node in self.chain(family, name):
            master = node.get(q("style:master-page-name"))
            if master is not None:
                return master or None
        return None

    def _breaks_before(self, family: str, name: str | None) -> bool:
        holder = f"style:{family}-properties"
        for node in self.chain(family, name):
            properties = node.find(q(holder))
            value = None if properties is None else properties.get(q("fo:break-before"))
            if value is not None:
                return bool(value != "auto")
        return False
