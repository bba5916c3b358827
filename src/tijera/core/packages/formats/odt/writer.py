"""Placing pictures: what belongs to each is spliced into the content, with the styles that it needs.

Sources: ODF 1.2 Part 1 §10.4.2 (frame), §10.4.4 (image), §16.2 (automatic styles); Part 3 §3.3 (mimetype). Clause
numbers from memory.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import count

from tijera.core.packages.containers.elements import required
from tijera.core.packages.containers.tree_comparison import marked, unmarked
from tijera.core.packages.containers.xmlspan import Splice, attributes, opened_once
from tijera.core.packages.containers.zipped import write_package
from tijera.core.packages.families.odf import manifest
from tijera.core.packages.families.odf.media import media_members, media_types
from tijera.core.packages.families.odf.names import declared, q
from tijera.core.packages.families.odf.package import CONTENT, MIMETYPE
from tijera.core.packages.formats.odt.captions import order_of, read_captions
from tijera.core.packages.formats.odt.document import OdtDocument
from tijera.core.packages.formats.odt.save_check import check_content
from tijera.core.packages.formats.odt.stylebook import StyleBook
from tijera.core.packages.formats.odt.words import OdtWords
from tijera.core.packages.places.caption_numbers import Numbered, number_at, series_of
from tijera.core.packages.places.placed import PlacedPicture, Written
from tijera.core.packages.places.spots import Side, Spot, Stand

_BEFORE_SEQUENCES = {q(name) for name in ("office:forms", "text:tracked-changes", "text:variable-decls")}


def write(document: OdtDocument, pictures: Sequence[PlacedPicture]) -> Written:
    """Write a copy of the document with the pictures in their places.

    A pure function; with no picture the original's bytes come back. Pictures at one spot stand in the order given.
    Raises `SpotUnknown`, or `StructureBroken` when the structural check fails.
    """
    if not pictures:
        return Written(document.package.data, ())
    spots = [document.spot(picture.spot) for picture in pictures]
    members, added = media_members(document.package, document.manifest, pictures)
    styles = StyleBook(document)
    writer = OdtWords(styles, _free_names(document))
    numbers = captions(document, pictures)
    splices = []
    for picture, spot, member, number in zip(pictures, spots, members, numbers, strict=True):
        if picture.stand_at(spot) is Stand.WORD:
            node = spot.element
            splices.append(document.content.append_to(node, marked(writer.word(picture, member))))
        else:
            xml = "".join(marked(each) for each in writer.blocks(picture, spot, member, number))
            splices.append(_splice(document, spot, xml))
    splices += _declarations(document, numbers)
    styled = styles.splice()
    splices = opened_once([*([styled] if styled else []), *splices])
    with_marks = document.content.spliced(splices)
    content = document.content.spliced(Splice(each.start, each.end, unmarked(each.text)) for each in splices)
    changed = {CONTENT: content}
    listed = document.manifest.with_members(media_types(members, pictures))
    if listed is not None:
        changed[manifest.NAME] = listed
    check_content(document, with_marks, members, frozenset(added))
    first = (MIMETYPE, document.media_type.encode("ascii"))
    return Written(write_package(document.package, changed, added, first=first), tuple(members))


def captions(document: OdtDocument, pictures: Sequence[PlacedPicture]) -> list[Numbered | None]:
    """The number of each picture's caption, counted through the document and the pictures as they will stand in it."""
    numbers: list[Numbered | None] = [None] * len(pictures)
    if not any(picture.layout.caption for picture in pictures):
        return numbers
    known = read_captions(document)
    series = series_of(known)
    spots = [document.spot(picture.spot) for picture in pictures]
    taken = {node.get(q("text:ref-name")) for node in document.content.root.iter(q("text:sequence"))}
    free = (name for number in count(0) if (name := f"ref{series.name}{number}") not in taken)
    ours = 0
    for index in sorted(range(len(pictures)), key=lambda each: (order_of(document, spots[each]), each)):
        stand = pictures[index].stand_at(spots[index])
        if pictures[index].layout.caption and stand not in (Stand.WORD, Stand.UNDER):
            ours += 1
            number = number_at(known, series, order_of(document, spots[index])) + ours
            numbers[index] = Numbered(series, number, next(free))
    return numbers


def _declarations(document: OdtDocument, numbers: Sequence[Numbered | None]) -> list[Splice]:
    """The declaration of the series, where captions count in one that the document does not declare yet."""
    used = next((each for each in numbers if each is not None), None)
    part = document.content
    if used is None:
        return []
    text = required(part.root, f"{q('office:body')}/{q('office:text')}")
    holder = text.find(q("text:sequence-decls"))
    known = () if holder is None else [node.get(q("text:name")) for node in holder]
    if used.series.name in known:
        return []
    named = attributes(**{"text:name": used.series.name})
    xml = marked(f'<text:sequence-decl{declared("text")} text:display-outline-level="0"{named}/>')
    if holder is not None:
        return [part.append_to(holder, xml)]
    made = marked(f"<text:sequence-decls{declared('text')}>{xml}</text:sequence-decls>")
    behind = next((child for child in text.iterchildren("*") if child.tag not in _BEFORE_SEQUENCES), None)
    if behind is None:
        return [part.append_to(text, made)]
    at = part.span(behind).start
    # Before what is put at the very same place: declarations come first.
    return [Splice(at, at, made)]


def _free_names(document: OdtDocument) -> Iterator[str]:
    """Names for frames and tables that the document does not use yet."""
    root = document.content.root
    taken = {node.get(q("draw:name")) for node in root.iter(q("draw:frame"))}
    taken |= {node.get(q("table:name")) for node in root.iter(q("table:table"))}
    return (name for number in count(1) if (name := f"Picture {number}") not in taken)


def _splice(document: OdtDocument, spot: Spot, xml: str) -> Splice:
    span = document.content.span(spot.element)
    at = span.start if spot.side is Side.BEFORE else span.end
    return Splice(at, at, xml)
