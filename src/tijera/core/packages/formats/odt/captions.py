"""The captions of a document: sequences (ODF 1.2 Part 1 §7.4.13; number from memory)."""

from __future__ import annotations

from tijera.core.packages.containers.elements import parent
from tijera.core.packages.containers.xmlspan import Element
from tijera.core.packages.families.odf.names import q
from tijera.core.packages.formats.odt.document import OdtDocument
from tijera.core.packages.places.caption_numbers import Counted
from tijera.core.packages.places.spots import Side, Spot

_MOST_LABEL = 40
_SEQUENCE = q("text:sequence")


def read_captions(document: OdtDocument) -> list[Counted]:
    """Every number of a caption, in document order, as it counts; results that are shown may be stale."""
    values: dict[str, int] = {}
    found = []
    for order, node in enumerate(document.content.elements):
        if node.tag != _SEQUENCE:
            continue
        name = node.get(q("text:name"), "")
        values[name] = values.get(name, 0) + 1
        before, after = _round(node)
        found.append(Counted(order, name, values[name], before, after))
    return found


def _round(node: Element) -> tuple[str, str]:
    """The words directly before a sequence in its paragraph, and the sign behind it."""
    previous = node.getprevious()
    before = (parent(node).text if previous is None else previous.tail) or ""
    return before[-_MOST_LABEL:], (node.tail or "").lstrip()[:1]


def order_of(document: OdtDocument, spot: Spot) -> int:
    """The place in document order that what is put at a spot has: all elements below it stand before."""
    if spot.side is Side.BEFORE:
        return document.content.place(spot.element)
    return document.content.place(spot.element) + sum(1 for _ in spot.element.iter("*"))
