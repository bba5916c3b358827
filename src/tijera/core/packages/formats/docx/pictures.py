"""The pictures of a document: which there are, how large they are shown, what they weigh."""

from __future__ import annotations

from tijera.core.packages.containers.xmlspan import parse_safely
from tijera.core.packages.families.opc.relationships import Relationships
from tijera.core.packages.formats.docx.document import STORIES, DocxDocument
from tijera.core.packages.formats.docx.shown import PictureUse, picture_uses
from tijera.core.packages.places.reports import PictureReport, Showing, reports_of


def report_pictures(document: DocxDocument) -> tuple[PictureReport, ...]:
    """Every embedded picture that a part of the document refers to, the heaviest first."""
    uses: dict[str, list[PictureUse]] = {}
    parts = [document.main.name] + [
        relationship.target
        for relationship in document.relationships.all
        if not relationship.external and any(relationship.is_kind(kind) for kind in STORIES)
    ]
    for part in dict.fromkeys(parts):
        if part not in document.package:
            continue
        is_main = part == document.main.name
        root = document.main.root if is_main else parse_safely(part, document.package.read(part))
        relationships = document.relationships if is_main else Relationships(document.package, part)
        for relationship in relationships.all:
            if relationship.is_kind("image") and not relationship.external:
                uses.setdefault(relationship.target, [])
        for use in picture_uses(root, document.names, into_boxes=True):
            found = relationships.get(use.relationship_id)
            if found is not None and not found.external:
                uses.setdefault(found.target, []).append(use)
    shown = {
        member: [Showing(use.width, use.height, use.crop, use.description) for use in used]
        for member, used in uses.items()
    }
    return reports_of(document.package, shown)
