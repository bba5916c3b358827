"""The structural check that runs on every save: the text without what was inserted is the original text."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from tijera.core.errors import PartMalformed, StructureBroken
from tijera.core.packages.odf.names import q
from tijera.core.packages.odf.shown import member_of
from tijera.core.packages.sameness import cut_out, same_tree
from tijera.core.packages.xmlspan import Element, XmlPart

if TYPE_CHECKING:
    from tijera.core.packages.odt.document import OdtDocument

_PARENTS = {q(name) for name in ("office:text", "text:section", "table:table-cell")}
_FORBIDDEN = {
    q(name)
    for name in (
        "text:tracked-changes",
        "text:note",
        "office:annotation",
        "draw:text-box",
        "text:index-body",
        "text:list",
    )
}


@dataclass(frozen=True)
class Inserted:
    """What was put in: the names of frames and of styles, the members that are new."""

    frames: frozenset[str]
    styles: frozenset[str]
    members: frozenset[str]


def check_content(document: OdtDocument, content: bytes, inserted: Inserted) -> None:
    """Check a changed content part. Raises `StructureBroken`."""
    name = document.content.name
    try:
        root = XmlPart(name, content).root
    except PartMalformed as error:
        raise StructureBroken(part=name, why=error.detail) from error
    for paragraph in _paragraphs(root, inserted.frames, name):
        _check(document, paragraph, inserted, name)
        cut_out(paragraph)
    holder = root.find(q("office:automatic-styles"))
    for style in [each for each in holder if each.get(q("style:name")) in inserted.styles]:
        cut_out(style)
    if len(holder) == 0 and document.content.root.find(holder.tag) is None:
        cut_out(holder)
    if not same_tree(document.content.root, root):
        raise StructureBroken(part=name, why="more changed than was inserted")


def _paragraphs(root: Element, frames: frozenset[str], part: str) -> list[Element]:
    """The paragraphs round the new frames, each frame exactly once."""
    found = [node for node in root.iter(q("draw:frame")) if node.get(q("draw:name")) in frames]
    if sorted(node.get(q("draw:name")) for node in found) != sorted(frames):
        raise StructureBroken(part=part, why="a picture did not arrive, or arrived twice")
    return [node.getparent() for node in found]


def _check(document: OdtDocument, paragraph: Element, inserted: Inserted, part: str) -> None:
    parent = paragraph.getparent()
    if paragraph.tag != q("text:p") or parent.tag not in _PARENTS:
        raise StructureBroken(part=part, why=f"a paragraph would stand in {parent.tag}")
    if any(ancestor.tag in _FORBIDDEN for ancestor in paragraph.iterancestors()):
        raise StructureBroken(part=part, why="a paragraph would stand where it is not shown")
    member = member_of(paragraph.find(f".//{q('draw:image')}"))
    if member not in inserted.members and member not in document.package:
        raise StructureBroken(part=part, why="a picture leads nowhere")
