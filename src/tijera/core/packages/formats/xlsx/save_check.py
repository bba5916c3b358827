"""The structural check that runs on every save: sheet and drawing without what was put in are what they were."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from fractions import Fraction

from tijera.core.errors import PartMalformed, StructureBroken
from tijera.core.packages.containers.elements import parent, parent_tag
from tijera.core.packages.containers.tree_comparison import cut_out, same_tree
from tijera.core.packages.containers.xmlspan import Element, HollowPart, XmlPart
from tijera.core.packages.formats.xlsx.names import XlsxNames
from tijera.core.packages.formats.xlsx.tracks import row_number


def check_drawing(before: XmlPart, after: bytes, shape_ids: Collection[int], names: XlsxNames) -> None:
    """Check a changed drawing part: one new anchor for each new id, directly in its root. Raises `StructureBroken`."""
    root = _parsed(XmlPart(before.name, after))
    wanted = {str(each) for each in shape_ids}
    new = [
        node
        for node in root.iter(names.x("cNvPr"))
        if node.get("id") in wanted and parent_tag(node) == names.x("nvPicPr")
    ]
    if sorted(node.get("id", "") for node in new) != sorted(wanted):
        raise StructureBroken(part=before.name, why="a picture did not arrive, or arrived twice")
    for node in new:
        anchor = parent(parent(parent(node)))
        if anchor.getparent() is not root:
            raise StructureBroken(part=before.name, why="a picture would stand inside another shape")
        cut_out(anchor)
    if not same_tree(before.root, root):
        raise StructureBroken(part=before.name, why="more changed than was inserted")


def check_sheet(
    before: XmlPart,
    hollow: HollowPart | None,
    after: bytes,
    names: XlsxNames,
    drawing_id: str | None,
    heights: Mapping[int, Fraction],
) -> None:
    """Check a changed sheet: its drawing stands once and in its order, rows differ by their height alone.

    Where the cells did not change they are compared as text, not parsed again. Raises `StructureBroken`.
    """
    name, written = before.name, XmlPart(before.name, after)
    if hollow is None:
        root, original = _parsed(written), XmlPart(name, before.data).root
        _undo_heights(root, original, names, heights)
    else:
        kept = hollow.cut + hollow.length
        if written.text[:kept] != before.text[:kept]:
            raise StructureBroken(part=name, why="the cells changed")
        root, original = _parsed(written.without(hollow.cut, hollow.length)), hollow.part.root
    if drawing_id is not None:
        drawings = root.findall(names.q("drawing"))
        if len(drawings) != 1 or drawings[0].get(f"{{{names.r}}}id") != drawing_id:
            raise StructureBroken(part=name, why="the drawing did not arrive, or a second one did")
        cut_out(drawings[0])
    if not same_tree(original, root):
        raise StructureBroken(part=name, why="more changed than was inserted")


def _parsed(part: XmlPart) -> Element:
    try:
        return part.root
    except PartMalformed as error:
        raise StructureBroken(part=part.name, why=error.detail) from error


def _undo_heights(root: Element, original: Element, names: XlsxNames, heights: Mapping[int, Fraction]) -> None:
    """Give the grown rows their old height again, and take out those that were not there."""
    before = _rows(original, names)
    for number, node in _rows(root, names).items():
        if number not in heights:
            continue
        old = before.get(number)
        if old is None:
            if len(node):
                raise StructureBroken(part="sheet", why="a row with cells was inserted")
            cut_out(node)
            continue
        for attribute in ("ht", "customHeight"):
            given = old.get(attribute)
            if given is not None:
                node.set(attribute, given)
            elif attribute in node.attrib:
                del node.attrib[attribute]


def _rows(root: Element, names: XlsxNames) -> dict[int, Element]:
    found: dict[int, Element] = {}
    at = -1
    for node in root.iterfind(f"{names.q('sheetData')}/{names.q('row')}"):
        at = row_number(node, at)
        found.setdefault(at, node)
    return found
