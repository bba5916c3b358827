"""The automatic styles that new paragraphs, frames, tables and lists need; each once (ODF 1.2 Part 1 §16.2)."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import count

from tijera.core.packages.containers.elements import required
from tijera.core.packages.containers.tree_comparison import marked
from tijera.core.packages.containers.xmlspan import Splice, attributes
from tijera.core.packages.families.odf.names import declared, q
from tijera.core.packages.formats.odt.document import OdtDocument

_DECLARED = declared("style", "fo", "text", "svg", "table")


class StyleBook:
    """Styles by what they say; a new one gets a name that the document does not use."""

    def __init__(self, document: OdtDocument) -> None:
        self._document = document
        self._made: dict[tuple[str, str, str], str] = {}
        taken = document.styles.names | {
            node.get(q("style:name"), "") for node in document.content.root.iter(q("text:list-style"))
        }
        self._free: Iterator[str] = (name for number in count(1) if (name := f"Placed{number}") not in taken)

    def named(self, family: str, properties: str, parent: str | None = None) -> str:
        """The name of a style of a family with these properties, based on the first parent that there is."""
        key = (family, properties, parent or "")
        if key not in self._made:
            self._made[key] = next(self._free)
        return self._made[key]

    def numbered_list(self, *, letters: bool) -> str:
        """The name of a style for lists that count in numbers or letters."""
        return self.named("list", "A" if letters else "1")

    def parent(self, family: str, *names: str) -> str | None:
        """The first of these styles that the document has."""
        return next((name for name in names if self._document.styles.has(family, name)), None)

    def splice(self) -> Splice | None:
        """All of them, marked, at the end of the automatic styles, which are made where there are none."""
        if not self._made:
            return None
        part = self._document.content
        xml = "".join(marked(self._written(name, *key)) for key, name in self._made.items())
        holder = part.root.find(q("office:automatic-styles"))
        if holder is not None:
            return part.append_to(holder, xml)
        at = part.span(required(part.root, q("office:body"))).start
        made = marked(f"<office:automatic-styles{declared('office')}>{xml}</office:automatic-styles>")
        return Splice(at, at, made)

    def _written(self, name: str, family: str, properties: str, parent: str) -> str:
        if family == "list":
            return (
                f'<text:list-style{_DECLARED} style:name="{name}"><text:list-level-style-number text:level="1"'
                f' style:num-format="{properties}"><style:list-level-properties'
                ' text:list-level-position-and-space-mode="label-alignment"><style:list-level-label-alignment'
                ' text:label-followed-by="listtab" text:list-tab-stop-position="0.75cm" fo:text-indent="-0.75cm"'
                ' fo:margin-left="0.75cm"/></style:list-level-properties></text:list-level-style-number></text:list-style>'
            )
        based = attributes(**{"style:parent-style-name": parent}) if parent else ""
        return f'<style:style{_DECLARED} style:name="{name}" style:family="{family}"{based}>{properties}</style:style>'
