"""Fields are brought up to date when the document is opened: a setting of it (ECMA-376 Part 1 §17.15.1.81; from memory).

Later captions count on by it; nobody's text is changed here.
"""

from __future__ import annotations

from tijera.core.errors import StructureBroken
from tijera.core.packages.containers.elements import required
from tijera.core.packages.containers.tree_comparison import cut_out, same_tree
from tijera.core.packages.containers.xmlspan import Splice, XmlPart
from tijera.core.packages.families.opc.package import related_part
from tijera.core.packages.formats.docx.document import DocxDocument

_BEHIND = [
    "hdrShapeDefaults",
    "footnotePr",
    "endnotePr",
    "compat",
    "docVars",
    "rsids",
    "attachedSchema",
    "themeFontLang",
    "clrSchemeMapping",
    "doNotIncludeSubdocsInStats",
    "doNotAutoCompressPictures",
    "forceUpgrade",
    "captions",
    "readModeInkLockDown",
    "smartTagType",
    "shapeDefaults",
    "doNotEmbedSmartTags",
    "decimalSymbol",
    "listSeparator",
]
"""What stands behind it in the settings, in the main namespace (CT_Settings; from memory)."""


def with_fields_updated(document: DocxDocument) -> dict[str, bytes]:
    """The settings part with that setting, by its name; nothing where it has it already or there is no such part.

    Raises `StructureBroken`.
    """
    part = related_part(document.package, document.relationships, "settings")
    q = document.names.q
    if part is None or part.root.tag != q("settings") or part.root.find(q("updateFields")) is not None:
        return {}
    xml = f'<w:updateFields xmlns:w="{document.names.w}" w:val="true"/>'
    later = {q(local) for local in _BEHIND}
    main = f"{{{document.names.w}}}"
    behind = next(
        (child for child in part.root.iterchildren("*") if child.tag in later or not child.tag.startswith(main)), None
    )
    splice = part.append_to_root(xml)
    if behind is not None:
        at = part.span(behind).start
        splice = Splice(at, at, xml)
    written = part.spliced([splice])
    root = XmlPart(part.name, written).root
    cut_out(required(root, q("updateFields")))
    if not same_tree(part.root, root):
        raise StructureBroken(part=part.name, why="more changed than was inserted")
    return {part.name: written}
