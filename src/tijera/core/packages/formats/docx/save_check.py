"""The structural check that runs on every save: readers overlook misplaced elements, so the structure itself is checked.

What must hold: the new part is well-formed; what was inserted stands where it may stand; drawing ids are unique; every
picture resolves to a member with a picture's type; and the tree without what was inserted is the original tree.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from typing import TYPE_CHECKING

from lxml import etree

from tijera.core.errors import PartMalformed, StructureBroken
from tijera.core.packages.containers.elements import parent, parent_tag, required
from tijera.core.packages.containers.tree_comparison import cut_out, marked_in, same_tree
from tijera.core.packages.containers.xmlspan import Element, XmlPart
from tijera.core.packages.formats.docx.names import MC, DocxNames
from tijera.core.packages.formats.docx.numbering import Lists

if TYPE_CHECKING:
    from tijera.core.packages.formats.docx.document import DocxDocument

_PARENTS = {"p": ("body", "tc", "sdtContent", "customXml"), "r": ("p",)}
_PARENTS["tbl"] = _PARENTS["p"]
_FORBIDDEN_ANCESTORS = ("txbxContent", "del", "moveFrom", "ins")


def check_document(
    document: DocxDocument,
    main: bytes,
    parts: Mapping[str, bytes],
    drawing_ids: Collection[int],
    lists: Lists | None = None,
) -> None:
    """Check a changed main part with marks on what is new, the parts that will be written, the ids of new drawings.

    Raises `StructureBroken`.
    """
    names, name = document.names, document.main.name
    try:
        root = XmlPart(name, main).root
    except PartMalformed as error:
        raise StructureBroken(part=name, why=error.detail) from error
    inserted = marked_in(root)
    for node in inserted:
        _check_parent(node, names, name)
    _check_drawings(document, root, inserted, {str(id_) for id_ in drawing_ids}, parts)
    for node in reversed(inserted):
        _take_out(node, names)
    if not same_tree(document.main.root, root):
        raise StructureBroken(part=name, why="more changed than was inserted")
    own = None if lists is None or lists.part is None else parts.get(lists.part.name)
    if lists is not None and own is not None and not lists.is_whole(own):
        raise StructureBroken(part="numbering", why="more changed than was inserted")


def _check_drawings(
    document: DocxDocument, root: Element, inserted: list[Element], new_ids: set[str], parts: Mapping[str, bytes]
) -> None:
    """Each new drawing is there once and in what was inserted; its picture will be there."""
    names, part = document.names, document.main.name
    every = [node.get("id", "") for node in root.iter(f"{{{names.wp}}}docPr")]
    ours = [node for each in inserted for node in each.iter(f"{{{names.wp}}}docPr")]
    found = [node.get("id", "") for node in ours]
    if sorted(found) != sorted(new_ids):
        raise StructureBroken(part=part, why="a picture did not arrive, or arrived twice")
    for id_ in found:
        if every.count(id_) != 1:
            raise StructureBroken(part=part, why=f"the drawing id {id_} stands twice")
    for node in ours:
        _check_picture(document, parent(node), parts, part)


def _check_parent(node: Element, names: DocxNames, part: str) -> None:
    outer, local = parent_tag(node), node.tag.rsplit("}", 1)[-1]
    if outer not in [names.q(each) for each in _PARENTS.get(local, ())]:
        raise StructureBroken(part=part, why=f"a {local} would stand in {outer}")
    forbidden = {f"{{{MC}}}Fallback", *(names.q(each) for each in _FORBIDDEN_ANCESTORS)}
    if any(ancestor.tag in forbidden for ancestor in node.iterancestors()):
        raise StructureBroken(part=part, why="a picture would stand where it is not shown")
    behind = node.getnext()
    if local == "tbl" and (behind is None or behind.tag != names.q("p")):
        raise StructureBroken(part=part, why="a table would stand last in its place")


def _check_picture(document: DocxDocument, drawing: Element, parts: Mapping[str, bytes], part: str) -> None:
    """The relationship that the picture names must lead to a member that will be there."""
    blip = required(drawing, f".//{{{document.names.a}}}blip")
    wanted = blip.get(f"{{{document.names.r}}}embed", "")
    relationships = parts.get(document.relationships.name)
    if relationships is None:
        known = document.relationships.get(wanted)
        if known is None or (known.target not in document.package and known.target not in parts):
            raise StructureBroken(part=part, why=f"the relationship {wanted} leads nowhere")
        return
    matching = [node for node in etree.fromstring(relationships) if node.get("Id") == wanted]
    if len(matching) != 1:
        raise StructureBroken(part=part, why=f"the relationship {wanted} is there {len(matching)} times")


def _take_out(node: Element, names: DocxNames) -> None:
    """Undo one insertion: remove the element; section properties go back to what stands before it."""
    q = names.q
    previous = node.getprevious()
    section = node.find(f"{q('pPr')}/{q('sectPr')}")
    if section is not None and previous is not None:
        if previous.tag != q("p"):
            # The table of a picture with text beside it goes next, and what was before that gets them.
            previous = previous.getprevious()
        if previous is None:
            raise StructureBroken(part=names.q("sectPr"), why="the end of a section would be lost")
        properties = required(previous, q("pPr"))
        change = properties.find(q("pPrChange"))
        properties.insert(len(properties) if change is None else properties.index(change), section)
    cut_out(node)
