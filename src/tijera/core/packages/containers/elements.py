"""Elements that must be there: a file that leaves one out is refused in words, not by a fault further on."""

from __future__ import annotations

from collections.abc import Iterator

from tijera.core.errors import PartMalformed
from tijera.core.packages.containers.xmlspan import Element


def required(of: Element, path: str) -> Element:
    """The first element at a path below another. Raises `PartMalformed` where there is none."""
    found = of.find(path)
    if found is None:
        raise PartMalformed(part=_local(of.tag), why=f"it has no {_local(path)}")
    return found


def parent(of: Element) -> Element:
    """The element that another stands in. Raises `PartMalformed` for a root."""
    found = of.getparent()
    if found is None:
        raise PartMalformed(part=_local(of.tag), why="it is the outermost element")
    return found


def parent_tag(of: Element) -> str:
    """The name of the element that another stands in; empty for a root."""
    found = of.getparent()
    return "" if found is None else found.tag


def attributes_of(node: Element) -> Iterator[tuple[str, str]]:
    """The attributes of an element, by their qualified names."""
    for name, value in node.attrib.items():
        yield str(name), str(value)


def _local(name: str) -> str:
    return name.rsplit("}", 1)[-1]
