"""Placing pictures: one paragraph of its own per picture, spliced into the main part.

Element order: ECMA-376 Part 1 §17.3.1.26 (pPr), §20.4.2.8 (inline), §20.2.2.5 (pic); clause numbers from memory.
"""

from __future__ import annotations

import posixpath
from collections.abc import Sequence

from tijera.core.packages.docx.document import DocxDocument
from tijera.core.packages.docx.names import Names
from tijera.core.packages.docx.structure import check_document
from tijera.core.packages.opc.content_types import NAME as CONTENT_TYPES
from tijera.core.packages.opc.media import media_members, relate
from tijera.core.packages.placed import PlacedPicture, Written, clear_of
from tijera.core.packages.spots import Side, Spot
from tijera.core.packages.xmlspan import Splice, attributes, whole_number
from tijera.core.packages.zipped import write_package
from tijera.core.units import EMU_PER_TWIP

_MOST_DRAWING_ID = 2**31 - 1_000


def write(document: DocxDocument, pictures: Sequence[PlacedPicture]) -> Written:
    """Write a copy of the document with the pictures in their places.

    A pure function; with no picture the original's bytes come back. Pictures at one spot stand in the order given.
    Raises `SpotUnknown`, or `StructureBroken` when the structural check fails.
    """
    if not pictures:
        return Written(document.package.data, ())
    folder = posixpath.join(posixpath.dirname(document.main.name), "media")
    members, added = media_members(document.package, document.types, folder, pictures)
    relationship_ids, new_relationships = relate(document.relationships, members, document.names.image_type)
    first_id = _highest_drawing_id(document) + 1
    spots = [document.spot(picture.spot) for picture in pictures]
    paragraphs = [
        _paragraph(document.names, spot, picture, relationship_ids[member], first_id + index)
        for index, (spot, picture, member) in enumerate(zip(spots, pictures, members, strict=True))
    ]
    main = document.main.spliced(_splices(document, spots, paragraphs))
    changed = {document.main.name: main}
    if new_relationships:
        relationships = document.relationships.with_added(new_relationships)
        (changed if document.relationships.exists else added)[document.relationships.name] = relationships
    media_types = {member: f"image/{picture.extension}" for member, picture in zip(members, pictures, strict=True)}
    types = document.types.with_parts(media_types)
    if types is not None:
        changed[CONTENT_TYPES] = types
    check_document(document, main, changed | added, range(first_id, first_id + len(pictures)))
    return Written(write_package(document.package, changed, added), tuple(members))


def _highest_drawing_id(document: DocxDocument) -> int:
    """The highest id of any drawing in the part; ids beyond reason are passed over."""
    tags = (f"{{{document.names.wp}}}docPr", f"{{{document.names.pic}}}cNvPr")
    found = (node.get("id") for tag in tags for node in document.main.root.iter(tag))
    return max((whole_number(text, 0, most=_MOST_DRAWING_ID) for text in found), default=0)


def _splices(document: DocxDocument, spots: Sequence[Spot], paragraphs: Sequence[str]) -> list[Splice]:
    """Where each paragraph goes. At the end of a section the last one takes the section's properties along."""
    part, q = document.main, document.names.q
    ranked: list[tuple[int, int, Splice]] = []
    for index, (spot, xml) in enumerate(zip(spots, paragraphs, strict=True)):
        node = part.elements[spot.element]
        span = part.span(node)
        if spot.side is Side.BEFORE:
            ranked.append((span.start, 0, Splice(span.start, span.start, xml)))
            continue
        if spot.side is Side.AFTER:
            ranked.append((span.end, 1, Splice(span.end, span.end, xml)))
            continue
        text = xml
        if all(other.id != spot.id for other in spots[index + 1 :]):
            section = part.span(node.find(f"{q('pPr')}/{q('sectPr')}"))
            moved = part.text[section.start : section.end]
            text = xml.replace("</w:pPr>", f"{moved}</w:pPr>", 1)
            ranked.append((section.start, 0, Splice(section.start, section.end, "")))
        ranked.append((span.end, 0, Splice(span.end, span.end, text)))
    # Stable: pictures at one spot keep their order, and the end of a section comes before the next one's start.
    return [splice for _, _, splice in sorted(ranked, key=lambda item: item[:2])]


def _paragraph(names: Names, spot: Spot, picture: PlacedPicture, relationship_id: str, drawing_id: int) -> str:
    """The paragraph that holds one picture. It declares its own prefixes, whatever the document calls them."""
    twips = clear_of(spot, picture.height).emu // EMU_PER_TWIP
    left, right = ("start", "end") if names.strict else ("left", "right")
    indents = "".join(
        f' w:{side}="{length.emu // EMU_PER_TWIP}"'
        for side, length in ((left, spot.indent_left), (right, spot.indent_right))
    )
    size = attributes(cx=picture.width.emu, cy=picture.height.emu)
    named = attributes(id=drawing_id, name=f"Picture {drawing_id}", descr=picture.description)
    return (
        f'<w:p xmlns:w="{names.w}"><w:pPr>'
        f'<w:spacing w:before="{twips}" w:after="{twips}" w:line="240" w:lineRule="auto"/>'
        f'<w:ind{indents} w:firstLine="0"/><w:jc w:val="center"/></w:pPr>'
        "<w:r><w:rPr><w:noProof/></w:rPr><w:drawing>"
        f'<wp:inline xmlns:wp="{names.wp}" distT="0" distB="0" distL="0" distR="0">'
        f'<wp:extent{size}/><wp:effectExtent l="0" t="0" r="0" b="0"/><wp:docPr{named}/>'
        f'<wp:cNvGraphicFramePr><a:graphicFrameLocks xmlns:a="{names.a}" noChangeAspect="1"/></wp:cNvGraphicFramePr>'
        f'<a:graphic xmlns:a="{names.a}"><a:graphicData uri="{names.pic}">'
        f'<pic:pic xmlns:pic="{names.pic}"><pic:nvPicPr><pic:cNvPr{named}/><pic:cNvPicPr/></pic:nvPicPr>'
        f'<pic:blipFill><a:blip xmlns:r="{names.r}" r:embed="{relationship_id}"/>'
        "<a:stretch><a:fillRect/></a:stretch></pic:blipFill>"
        f'<pic:spPr><a:xfrm><a:off x="0" y="0"/><a:ext{size}/></a:xfrm>'
        '<a:prstGeom prst="rect"><a:avLst/></a:prstGeom></pic:spPr></pic:pic>'
        "</a:graphicData></a:graphic></wp:inline></w:drawing></w:r></w:p>"
    )
