"""The structural check that runs on every save: the text without what was inserted is the original text."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Sequence
from typing import TYPE_CHECKING

from tijera.core.errors import PartMalformed, StructureBroken
from tijera.core.packages.containers.elements import parent_tag
from tijera.core.packages.containers.tree_comparison import cut_out, marked_in, same_tree
from tijera.core.packages.containers.xmlspan import Element, XmlPart
from tijera.core.packages.families.odf.names import q
from tijera.core.packages.families.odf.shown import member_of

if TYPE_CHECKING:
    from tijera.core.packages.formats.odt.document import OdtDocument

_BLOCKS = {q(name) for name in ("office:text", "text:section", "table:table-cell")}
_STYLES = {q("office:automatic-styles")}
_PARENTS = {
    q("text:p"): _BLOCKS,
    q("text:list"): _BLOCKS,
    q("table:table"): _BLOCKS,
    q("draw:frame"): {q("text:p"), q("text:h")},
    q("text:sequence-decls"): {q("office:text")},
    q("text:sequence-decl"): {q("text:sequence-decls")},
    q("style:style"): _STYLES,
    q("text:list-style"): _STYLES,
    q("office:automatic-styles"): {q("office:document-content")},
}
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


def check_content(document: OdtDocument, content: bytes, members: Sequence[str], added: Collection[str]) -> None:
    """Check a changed content part with marks on what is new. Raises `StructureBroken`."""
    name = document.content.name
    try:
        root = XmlPart(name, content).root
    except PartMalformed as error:
        raise StructureBroken(part=name, why=error.detail) from error
    inserted = marked_in(root)
    inside = {id(each) for each in inserted}
    found: Counter[str | None] = Counter()
    for node in inserted:
        _check_place(node, inside, name)
        nested = any(id(each) in inside for each in node.iterancestors())
        found.update([] if nested else [member_of(image) for image in node.iter(q("draw:image"))])
    if found != Counter(members):
        raise StructureBroken(part=name, why="a picture did not arrive, or arrived twice")
    if any(member not in added and member not in document.package for member in members):
        raise StructureBroken(part=name, why="a picture leads nowhere")
    for node in reversed(inserted):
        cut_out(node)
    if not same_tree(document.content.root, root):
        raise StructureBroken(part=name, why="more changed than was inserted")


def _check_place(node: Element, inside: Collection[int], part: str) -> None:
    """What was inserted stands where such a thing may stand, and where it is shown."""
    outer = parent_tag(node)
    if outer not in _PARENTS.get(node.tag, ()):
        raise StructureBroken(part=part, why=f"something would stand in {outer}")
    others = [each for each in node.iterancestors() if id(each) not in inside]
    if node.tag not in (q("draw:frame"),) and any(each.tag in _FORBIDDEN for each in others):
        raise StructureBroken(part=part, why="a paragraph would stand where it is not shown")
