"""Placing pictures: what belongs to each is spliced into the main part; other parts get what that refers to."""

from __future__ import annotations

import posixpath
from collections.abc import Sequence

from tijera.core.packages.containers.tree_comparison import marked, unmarked
from tijera.core.packages.containers.xmlspan import Splice, opened_once, whole_number
from tijera.core.packages.families.opc.media import media_members, relate
from tijera.core.packages.families.opc.package import related_part
from tijera.core.packages.families.opc.writing import write_parts
from tijera.core.packages.formats.docx.captions import order_of, read_captions
from tijera.core.packages.formats.docx.document import DocxDocument
from tijera.core.packages.formats.docx.numbering import CONTENT_TYPE as NUMBERING_TYPE
from tijera.core.packages.formats.docx.numbering import Lists
from tijera.core.packages.formats.docx.save_check import check_document
from tijera.core.packages.formats.docx.settings import with_fields_updated
from tijera.core.packages.formats.docx.words import DocxWords
from tijera.core.packages.places.caption_numbers import Numbered, number_at, series_of
from tijera.core.packages.places.placed import PlacedPicture, Written
from tijera.core.packages.places.spots import Side, Spot, Stand

_MOST_DRAWING_ID = 2**31 - 1_000


def write(document: DocxDocument, pictures: Sequence[PlacedPicture]) -> Written:
    """Write a copy of the document with the pictures in their places.

    A pure function; with no picture the original's bytes come back. Pictures at one spot stand in the order given.
    Raises `SpotUnknown`, or `StructureBroken` when the structural check fails.
    """
    if not pictures:
        return Written(document.package.data, ())
    folder = posixpath.dirname(document.main.name)
    members, added = media_members(document.package, document.types, posixpath.join(folder, "media"), pictures)
    relationship_ids, related = relate(document.relationships, members, document.names.image_type)
    first_id = _highest_drawing_id(document) + 1
    spots = [document.spot(picture.spot) for picture in pictures]
    numbers = captions(document, pictures)
    lists = Lists(document.names, related_part(document.package, document.relationships, "numbering"))
    writer = DocxWords(document.names, lists, document.styles.caption_style)
    pieces: list[tuple[bool, list[str]]] = []
    for index, (spot, picture, member) in enumerate(zip(spots, pictures, members, strict=True)):
        ids = relationship_ids[member], first_id + index
        if picture.stand_at(spot) is Stand.WORD:
            pieces.append((True, [marked(writer.word(picture, *ids))]))
        else:
            pieces.append((False, [marked(xml) for xml in writer.blocks(picture, spot, *ids, numbers[index])]))
    splices = _splices(document, spots, pieces)
    with_marks = document.main.spliced(splices)
    main = document.main.spliced(Splice(each.start, each.end, unmarked(each.text)) for each in splices)
    changed = {document.main.name: main}
    types = {member: picture.media_type for member, picture in zip(members, pictures, strict=True)}
    numbering = lists.written()
    if numbering is not None:
        if lists.part is None:
            name = _free_name(document, posixpath.join(folder, "numbering"))
            (id_,) = document.relationships.free_ids(1 + len(related))[-1:]
            related = [*related, (id_, document.names.relationship_type("numbering"), name)]
            types[name] = NUMBERING_TYPE
            added[name] = numbering
        else:
            changed[lists.part.name] = numbering
    if any(each is not None for each in numbers):
        changed |= with_fields_updated(document)
    if related:
        relationships = document.relationships.with_added(related)
        (changed if document.relationships.exists else added)[document.relationships.name] = relationships
    check_document(document, with_marks, changed | added, range(first_id, first_id + len(pictures)), lists)
    data = write_parts(document.package, document.types, changed, added, types)
    return Written(data, tuple(members))


def captions(document: DocxDocument, pictures: Sequence[PlacedPicture]) -> list[Numbered | None]:
    """The number of each picture's caption, counted through the document and the pictures as they will stand in it."""
    if not any(picture.layout.caption for picture in pictures):
        return [None] * len(pictures)
    known = read_captions(document)
    series = series_of(known)
    spots = [document.spot(picture.spot) for picture in pictures]
    order = sorted(range(len(pictures)), key=lambda index: (order_of(document, spots[index]), index))
    numbers: list[Numbered | None] = [None] * len(pictures)
    ours = 0
    for index in order:
        stand = pictures[index].stand_at(spots[index])
        if pictures[index].layout.caption and stand not in (Stand.WORD, Stand.UNDER):
            ours += 1
            numbers[index] = Numbered(series, number_at(known, series, order_of(document, spots[index])) + ours)
    return numbers


def _free_name(document: DocxDocument, stem: str) -> str:
    taken = {name.lower() for name in document.member_names}
    number = 0
    while (name := f"{stem}{number or ''}.xml").lower() in taken:
        number += 1
    return name


def _highest_drawing_id(document: DocxDocument) -> int:
    """The highest id of any drawing in the part; ids beyond reason are passed over."""
    tags = (f"{{{document.names.wp}}}docPr", f"{{{document.names.pic}}}cNvPr")
    found = (node.get("id") for tag in tags for node in document.main.root.iter(tag))
    return max((whole_number(text, 0, most=_MOST_DRAWING_ID) for text in found), default=0)


def _splices(document: DocxDocument, spots: Sequence[Spot], pieces: Sequence[tuple[bool, list[str]]]) -> list[Splice]:
    """Where each piece goes. At the end of a section the last paragraph takes the section's properties along."""
    part, q = document.main, document.names.q
    ranked: list[tuple[int, int, Splice]] = []
    for index, (spot, (is_word, blocks)) in enumerate(zip(spots, pieces, strict=True)):
        node = spot.element
        span = part.span(node)
        if is_word:
            at = part.append_to(node, blocks[0])
            ranked.append((at.start, 0, at))
            continue
        if spot.side is Side.BEFORE:
            ranked.append((span.start, 0, Splice(span.start, span.start, "".join(blocks))))
            continue
        if spot.side is Side.AFTER:
            ranked.append((span.end, 1, Splice(span.end, span.end, "".join(blocks))))
            continue
        is_last = all(
            other.id != spot.id or word
            for other, (word, _) in zip(spots[index + 1 :], pieces[index + 1 :], strict=True)
        )
        if is_last:
            section = part.span(node.find(f"{q('pPr')}/{q('sectPr')}"))
            moved = part.text[section.start : section.end]
            last = blocks[-1].replace("</w:pPr>", f"{moved}</w:pPr>", 1)
            ranked.append((section.start, 0, Splice(section.start, section.end, "")))
            ranked.append((span.end, 0, Splice(span.end, span.end, "".join([*blocks[:-1], last]))))
        else:
            ranked.append((span.end, 0, Splice(span.end, span.end, "".join(blocks))))
    # Stable: pictures at one spot keep their order, and the end of a section comes before the next one's start.
    return opened_once([splice for _, _, splice in sorted(ranked, key=lambda item: item[:2])])
