"""What weighs: the written copy, picture by picture, against the limit."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from tijera.core.packages.attached import attached_documents, find_within, report_all
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.renaming import sibling
from tijera.core.packages.places.reports import PictureReport
from tijera.core.packages.registry import open_document
from tijera.records import DestinationRecord
from tijera.usecases.destinations import document_of
from tijera.usecases.placing import write_copy
from tijera.usecases.recent import Recent
from tijera.usecases.standings import Standing
from tijera.usecases.workshop import Workshop


@dataclass(frozen=True)
class Weighed:
    """One picture of the written copy."""

    label: str
    report: PictureReport
    own: tuple[Standing, ...]
    """The placements that it belongs to; empty for a picture that was in the document before."""
    was_bytes: int | None = None
    """What a picture of the document's own weighed when that was first opened, where it is lighter now."""


@dataclass(frozen=True)
class Weight:
    """What a destination weighs when written."""

    file_bytes: int
    rest_bytes: int
    """All that is not a picture: text, styles, the package's own parts; of what is attached all but the pictures in it."""
    pictures: tuple[Weighed, ...]


_REPORTS: Recent[tuple[PictureReport, ...]] = Recent(4)
"""Reports by written copy, and by the bytes first opened: the same one is weighed many times while nothing changes."""
_ATTACHED: Recent[Mapping[str, Document]] = Recent(2)
"""What is attached to a message, opened: placing something in it changes none of it."""


def weigh(workshop: Workshop, destination: DestinationRecord) -> Weight:
    """Write the copy and weigh it."""
    copy = write_copy(workshop, destination)
    written, opened = copy.written, document_of(workshop, destination)

    def report() -> tuple[PictureReport, ...]:
        if not copy.placed:
            return _report(opened, opened)
        # What was opened with a signature holds one still, broken as it is.
        guards = replace(workshop.guards_for(signed=destination.unsigned), is_own=True)
        return _report(open_document(written.data, destination.name, guards), opened)

    reports = _REPORTS.get(written, report)
    own: dict[str, list[Standing]] = {}
    for placement, member in zip(copy.placed, written.members, strict=True):
        own.setdefault(member, []).append(placement)
    for copied, member in written.copies:
        own[copied] = own[member]
    already = opened.member_names
    first = _first_bytes(workshop, destination)
    pictures = []
    for each in reports:
        placed = tuple(own.get(each.member, ())) if each.member not in already else ()
        label = placed[0].clipping.name if placed else each.label
        # One that became another kind is the same picture.
        before = first.get(each.member) or first.get(sibling(each.member, first) or "", 0)
        pictures.append(Weighed(label, each, placed, before if not placed and before > each.bytes else None))
    rest = len(written.data) - sum(each.record_bytes for each in reports)
    return Weight(len(written.data), rest, tuple(pictures))


def where(document: Document, member: str) -> tuple[Document, str]:
    """The document that a weighed picture is in, and its name there: an opened one, or one that is attached to it."""
    return find_within(document, attached_to(document), member)


def attached_to(document: Document) -> Mapping[str, Document]:
    """The documents that are attached to an opened message, by their members."""
    return _ATTACHED.get(document, lambda: dict(attached_documents(document)))


def _report(copy: Document, opened: Document) -> tuple[PictureReport, ...]:
    return report_all(copy, attached_to(opened))


def _first_bytes(workshop: Workshop, destination: DestinationRecord) -> dict[str, int]:
    """What each picture of a document weighed when it was first opened; nothing where it is still the same."""
    if destination.first_blob is None:
        return {}
    first = workshop.document(destination.first_blob, destination.name, signed=destination.unsigned)
    reports = _REPORTS.get(destination.first_blob, lambda: _report(first, first))
    return {report.member: report.bytes for report in reports}
