"""Whether a tree without what was inserted is the original tree."""

from __future__ import annotations

import re

from lxml import etree

from tijera.core.packages.containers.elements import parent
from tijera.core.packages.containers.xmlspan import Element

_NAMESPACE = "urn:tijera:inserted"
_MARK = f' xmlns:tijera="{_NAMESPACE}" tijera:new="1"'
_NAME = re.compile(r"<[^\s/>]+")


def marked(xml: str) -> str:
    """An element with a mark on it, by which the check finds it; what is written goes without."""
    match = _NAME.match(xml)
    return xml if match is None else f"{xml[: match.end()]}{_MARK}{xml[match.end() :]}"


def unmarked(text: str) -> str:
    """The same without any mark."""
    return text.replace(_MARK, "")


def marked_in(root: Element) -> list[Element]:
    """The elements with a mark."""
    return [node for node in root.iter("*") if node.get(f"{{{_NAMESPACE}}}new")]


def cut_out(node: Element) -> None:
    """Remove an element; the text behind it stays."""
    outer, previous = parent(node), node.getprevious()
    tail = node.tail or ""
    if previous is not None:
        previous.tail = (previous.tail or "") + tail or None
    else:
        outer.text = (outer.text or "") + tail or None
    outer.remove(node)


def same_tree(one: Element, other: Element) -> bool:
    """Compare two trees node by node: names, attributes, text; blank text between elements may differ."""
    # Written alike they are the same; that is soon seen, and where they are not the nodes decide.
    if etree.tostring(one) == etree.tostring(other):
        return True
    ours, theirs = one.iter(), other.iter()
    for a, b in zip(ours, theirs, strict=False):
        if a.tag != b.tag or a.attrib != b.attrib or a.text != b.text or len(a) != len(b):
            return False
        if (a.tail or "") != (b.tail or "") and not (_blank(a.tail) and _blank(b.tail)):
            return False
    return next(ours, None) is None and next(theirs, None) is None


def _blank(text: str | None) -> bool:
    return not (text or "").strip()
