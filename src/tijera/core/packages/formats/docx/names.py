"""Namespaces of WordprocessingML, transitional and strict (ECMA-376 Part 4 and ISO/IEC 29500-1)."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

from tijera.core.packages.families.opc import relationships

_TRANSITIONAL_MAIN = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"
_STRICT_MAIN = "http://purl.oclc.org/ooxml/wordprocessingml/main"
MC = "http://schemas.openxmlformats.org/markup-compatibility/2006"
MAIN_TYPES = {
    f"application/vnd.{name}.main+xml": ending
    for name, ending in (
        ("openxmlformats-officedocument.wordprocessingml.document", "docx"),
        ("openxmlformats-officedocument.wordprocessingml.template", "dotx"),
        ("ms-word.document.macroEnabled", "docm"),
        ("ms-word.template.macroEnabledTemplate", "dotm"),
    )
}
"""Of main parts, with the ending that a file of each has."""


@dataclass(frozen=True)
class DocxNames:
    """The namespaces that one document uses throughout."""

    w: str
    r: str
    wp: str
    a: str
    pic: str
    strict: bool
    _expanded: dict[str, str] = field(default_factory=dict, repr=False, compare=False)

    def q(self, local: str) -> str:
        """The expanded name of an element or attribute of the main namespace; asked for at every element."""
        name = self._expanded.get(local)
        if name is None:
            name = self._expanded[local] = f"{{{self.w}}}{local}"
        return name

    @cached_property
    def hidden(self) -> frozenset[str]:
        """Elements that a reader does not show: fallback copies, what was deleted, the codes of fields."""
        return frozenset({f"{{{MC}}}Fallback", *map(self.q, ("del", "moveFrom", "instrText", "delText"))})

    @cached_property
    def read(self) -> dict[str, str]:
        """The elements of a paragraph that its reading needs: what they are, or the sign that they stand for."""
        signs = {"br": "\n", "cr": "\n", "noBreakHyphen": "\u2011", "tab": "\t", "t": "text", "fldChar": "field"}
        signs |= dict.fromkeys(("drawing", "pict", "object"), "drawing")
        return {self.q(local): sign for local, sign in signs.items()}

    @cached_property
    def met(self) -> dict[str, str]:
        """`read`, and what is hidden as "hidden": what one walk through a paragraph meets."""
        return self.read | dict.fromkeys(self.hidden_with_boxes, "hidden")

    @cached_property
    def hidden_with_boxes(self) -> frozenset[str]:
        """As `hidden`, with the content of text boxes, which stand elsewhere than their paragraph."""
        return self.hidden | {self.q("txbxContent")}

    @property
    def image_type(self) -> str:
        """The relationship type of a picture."""
        return self.relationship_type("image")

    def relationship_type(self, kind: str) -> str:
        """The relationship type of a kind of part."""
        return f"{relationships.STRICT if self.strict else relationships.TRANSITIONAL}/{kind}"


TRANSITIONAL = DocxNames(
    w=_TRANSITIONAL_MAIN,
    r=relationships.TRANSITIONAL,
    wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing",
    a="http://schemas.openxmlformats.org/drawingml/2006/main",
    pic="http://schemas.openxmlformats.org/drawingml/2006/picture",
    strict=False,
)
STRICT = DocxNames(
    w=_STRICT_MAIN,
    r=relationships.STRICT,
    wp="http://purl.oclc.org/ooxml/drawingml/wordprocessingDrawing",
    a="http://purl.oclc.org/ooxml/drawingml/main",
    pic="http://purl.oclc.org/ooxml/drawingml/picture",
    strict=True,
)


def names_of(root_tag: str) -> DocxNames | None:
    """The namespaces of a document by its root element; None when it is no WordprocessingML document."""
    return next((names for names in (TRANSITIONAL, STRICT) if root_tag == names.q("document")), None)
