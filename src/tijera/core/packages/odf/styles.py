"""Styles of a text document: automatic ones, the common ones they are based on, the defaults (ODF 1.2 Part 1 §16)."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from fractions import Fraction
from typing import Any, TypeVar

from tijera.core.packages.odf.names import length, q
from tijera.core.packages.xmlspan import Element

_MOST_BASED = 30
_T = TypeVar("_T")


class Styles:
    """Styles by family and name. An automatic style of the content comes before a common one of the same name."""

    def __init__(self, content: Element, common: Element | None) -> None:
        self._styles: dict[tuple[str, str], Element] = {}
        self._defaults: dict[str, Element] = {}
        self.names: set[str] = set()
        self._found: dict[tuple[str, str, str | None], Any] = {}
        for root, holder in ((common, "office:styles"), (content, "office:automatic-styles")):
            found = None if root is None else root.find(q(holder))
            for node in () if found is None else found:
                family = node.get(q("style:family"), "")
                if node.tag == q("style:style"):
                    self._styles[family, node.get(q("style:name"), "")] = node
                elif node.tag == q("style:default-style"):
                    self._defaults[family] = node
        for root in (common, content):
            if root is not None:
                self.names |= {node.get(q("style:name"), "") for node in root.iter(q("style:style"))}

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

    def _once(self, what: str, family: str, name: str | None, find: Callable[[], _T]) -> _T:
        """What was found for a style: thousands of paragraphs share a few of them."""
        key = (what, family, name)
        if key not in self._found:
            self._found[key] = find()
        found: _T = self._found[key]
        return found

    def indents(self, name: str | None) -> tuple[Fraction, Fraction]:
        """A paragraph style's left and right margin, in EMU; those of a style it is based on where it gives none."""
        return self._once(
            "indents", "paragraph", name, lambda: (self._margin(name, "left"), self._margin(name, "right"))
        )

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

    def has_exact_lines(self, name: str | None) -> bool:
        """Whether a paragraph style gives its lines an exact height."""
        return self._once("exact lines", "paragraph", name, lambda: self._has_exact_lines(name))

    def _has_exact_lines(self, name: str | None) -> bool:
        for node in self.chain("paragraph", name):
            properties = node.find(q("style:paragraph-properties"))
            value = None if properties is None else properties.get(q("fo:line-height"))
            if value is not None:
                return length(value) is not None
        return False

    def master_page(self, family: str, name: str | None) -> str | None:
        """The master page that begins with a paragraph or table of this style; None where none does."""
        return self._once("master page", family, name, lambda: self._master_page(family, name))

    def _master_page(self, family: str, name: str | None) -> str | None:
        for node in self.chain(family, name):
            master = node.get(q("style:master-page-name"))
            if master is not None:
                return master or None
        return None

    def breaks_before(self, family: str, name: str | None) -> bool:
        """Whether a new page or column begins with it."""
        holder = f"style:{family}-properties"
        for node in self.chain(family, name):
            properties = node.find(q(holder))
            value = None if properties is None else properties.get(q("fo:break-before"))
            if value is not None:
                return bool(value != "auto")
        return False

    def is_title(self, name: str | None) -> bool:
        """Whether a paragraph style is the document's title or based on it."""
        return self._once(
            "title",
            "paragraph",
            name,
            lambda: any(node.get(q("style:name")) == "Title" for node in self.chain("paragraph", name)),
        )
