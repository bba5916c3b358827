"""Whether a tree without what was inserted is the original tree."""

from __future__ import annotations

from tijera.core.packages.xmlspan import Element


def cut_out(node: Element) -> None:
    """Remove an element; the text behind it stays."""
    parent, previous = node.getparent(), node.getprevious()
    tail = node.tail or ""
    if previous is not None:
        previous.tail = (previous.tail or "") + tail or None
    else:
        parent.text = (parent.text or "") + tail or None
    parent.remove(node)


def same_tree(one: Element, other: Element) -> bool:
    """Compare two trees node by node: names, attributes, text; blank text between elements may differ."""
    ours, theirs = one.iter(), other.iter()
    for a, b in zip(ours, theirs, strict=False):
        if a.tag != b.tag or a.attrib != b.attrib or a.text != b.text or len(a) != len(b):
            return False
        if (a.tail or "") != (b.tail or "") and not (_blank(a.tail) and _blank(b.tail)):
            return False
    return next(ours, None) is None and next(theirs, None) is None


def _blank(text: str | None) -> bool:
    return not (text or "").strip()
