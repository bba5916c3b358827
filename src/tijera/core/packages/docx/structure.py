"""The structural check that runs on every save: readers overlook misplaced elements, so the structure itself is checked.

What must hold: the new part is well-formed; every inserted paragraph stands where a paragraph may stand; drawing ids
are unique; every picture resolves to a member with a picture's type; and the tree without what was inserted is the
original tree.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from typing import TYPE_CHECKING

from lxml import etree

from tijera.core.errors import PartMalformed, StructureBroken
from tijera.core.packages.docx.names import MC, Names
from tijera.core.packages.sameness import cut_out, same_tree
from tijera.core.packages.xmlspan import Element, XmlPart

if TYPE_CHECKING:
    from tijera.core.packages.docx.document import DocxDocument

_PARENTS = ("body", "tc", "sdtContent", "customXml")
_FORBIDDEN_ANCESTORS = ("txbxContent", "del", "moveFrom", "ins")


def check_document(
    document: DocxDocument, main: bytes, parts: Mapping[str, bytes], drawing_ids: Collection[int]
) -> None:
    """Check a changed main part, given the parts that will be written and the ids of the new drawings.

    Raises `StructureBroken`.
    """
    names, name = document.names, document.main.name
    try:
        root = XmlPart(name, main).root
    except PartMalformed as error:
        raise StructureBroken(part=name, why=error.detail) from error
    inserted = _inserted_paragraphs(root, names, {str(id_) for id_ in drawing_ids}, name)
    for paragraph in inserted:
        _check_parent(paragraph, names, name)
        _check_picture(document, paragraph, parts, name)
    for paragraph in inserted:
        _take_out(paragraph, names)
    if not same_tree(document.main.root, root):
        raise StructureBroken(part=name, why="more changed than was inserted")


def _inserted_paragraphs(root: Element, names: Names, new_ids: set[str], part: str) -> list[Element]:
    """The paragraphs round the new drawings, each new id exactly once."""
    found: dict[str, Element] = {}
    for node in root.iter(f"{{{names.wp}}}docPr"):
        drawing_id = node.get("id", "")
        if drawing_id in new_ids:
            if drawing_id in found:
                raise StructureBroken(part=part, why=f"the drawing id {drawing_id} stands twice")
            found[drawing_id] = next(node.iterancestors(names.q("p")))
    if len(found) != len(new_ids):
        raise StructureBroken(part=part, why="a picture did not arrive")
    return list(found.values())


def _check_parent(paragraph: Element, names: Names, part: str) -> None:
    parent = paragraph.getparent()
    if parent.tag not in [names.q(local) for local in _PARENTS]:
        raise StructureBroken(part=part, why=f"a paragraph would stand in {parent.tag}")
    forbidden = {f"{{{MC}}}Fallback", *(names.q(local) for local in _FORBIDDEN_ANCESTORS)}
    if any(ancestor.tag in forbidden for ancestor in paragraph.iterancestors()):
        raise StructureBroken(part=part, why="a paragraph would stand where it is not shown")


def _check_picture(document: DocxDocument, paragraph: Element, parts: Mapping[str, bytes], part: str) -> None:
    """The relationship that the picture names must lead to a member that will be there."""
    blip = paragraph.find(f".//{{{document.names.a}}}blip")
    wanted = blip.get(f"{{{document.names.r}}}embed")
    relationships = parts.get(document.relationships.name)
    if relationships is None:
        known = document.relationships.get(wanted)
        if known is None or known.target not in document.package:
            raise StructureBroken(part=part, why=f"the relationship {wanted} leads nowhere")
        return
    matching = [node for node in etree.fromstring(relationships) if node.get("Id") == wanted]
    if len(matching) != 1:
        raise StructureBroken(part=part, why=f"the relationship {wanted} is there {len(matching)} times")


def _take_out(paragraph: Element, names: Names) -> None:
    """Undo one insertion: remove the paragraph, and give section properties back to the paragraph before it."""
    q = names.q
    previous = paragraph.getprevious()
    section = paragraph.find(f"{q('pPr')}/{q('sectPr')}")
    if section is not None and previous is not None:
        properties = previous.find(q("pPr"))
        change = properties.find(q("pPrChange"))
        properties.insert(len(properties) if change is None else properties.index(change), section)
    cut_out(paragraph)
