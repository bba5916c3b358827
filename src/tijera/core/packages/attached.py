"""Documents that are attached to a message: each is opened in its own right, and its pictures are told with those of the message."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

from tijera.core.errors import TijeraError
from tijera.core.packages.places.format import Document, View
from tijera.core.packages.places.reports import WITHIN, PictureReport
from tijera.core.packages.registry import format_of, open_document, report_pictures, takes


def attached_documents(document: Document) -> Iterator[tuple[str, Document]]:
    """The documents that are attached to one, with their members; those that can't be kept whole are left out."""
    for member in format_of(document).attached(document):
        try:
            attached = open_document(document.read(member), member)
        except TijeraError:
            continue
        # A message in a message would be two deep, and signed as it may be.
        if format_of(attached).view is not View.MESSAGE:
            yield member, attached


def report_all(document: Document, attached: Mapping[str, Document]) -> tuple[PictureReport, ...]:
    """Every picture of a document and of those that are attached to it, the heaviest first; all as they are sent."""
    reports = [*report_pictures(document)]
    for member, inner in attached.items():
        reports += [
            replace(
                each,
                member=f"{member}{WITHIN}{each.member}",
                within=member,
                bytes=takes(document, each.bytes),
                record_bytes=takes(document, each.record_bytes),
            )
            for each in report_pictures(inner)
        ]
    return tuple(sorted(reports, key=lambda each: (-each.bytes, each.member)))


def find_within(document: Document, attached: Mapping[str, Document], member: str) -> tuple[Document, str]:
    """The document that a picture is in, and the picture's name there."""
    for name, inner in attached.items():
        if member.startswith(name + WITHIN):
            return inner, member.removeprefix(name + WITHIN)
    return document, member
