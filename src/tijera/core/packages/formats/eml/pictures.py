"""The pictures of a message: in its body and among its attachments."""

from __future__ import annotations

from tijera.core.packages.formats.eml.document import EmlDocument
from tijera.core.packages.formats.eml.transfer import decode
from tijera.core.packages.places.reports import PictureReport, pixel_size
from tijera.core.packages.places.spots import Block
from tijera.core.units import Length


def report_pictures(document: EmlDocument) -> tuple[PictureReport, ...]:
    """Every picture that comes with the message, the heaviest first; its weight is what it takes as it is written."""
    uses: dict[str, list[tuple[Length, Length]]] = {}
    for block in document.outline.body.blocks:
        for shown in _shown(block):
            uses.setdefault(shown[0], []).append(shown[1:])
    around = {id(child): each.boundary for each in document.root.walk() for child in each.children}
    reports = []
    for member, leaf in document.members.items():
        if leaf.fields.get_content_maintype() != "image" and member not in uses:
            continue
        pixels = pixel_size(decode(leaf))
        shown_sizes = uses.get(member, [])
        ppi = min((pixels.width / width.inches for width, _ in shown_sizes), default=None) if pixels else None
        boundary = around.get(id(leaf))
        delimiter = 0 if boundary is None else len(boundary) + 2 + 2 * len(document.newline)
        reports.append(
            PictureReport(
                member=member,
                pixels=pixels,
                shown=tuple(shown_sizes),
                ppi=ppi,
                bytes=len(leaf.body),
                record_bytes=leaf.end - leaf.start + delimiter,
                times_used=max(len(shown_sizes), 1),
                description=leaf.file_name,
            )
        )
    return tuple(sorted(reports, key=lambda report: (-report.bytes, report.member)))


def shows_pixels(document: EmlDocument, member: str) -> bool:
    """Whether a picture is in the text without a size, where HTML shows it as large as its pixels are."""
    leaf = document.members[member]
    sized = {shown[0] for block in document.outline.body.blocks for shown in _shown(block)}
    return bool(leaf.content_id) and not leaf.is_attachment and member not in sized


def _shown(block: Block) -> list[tuple[str, Length, Length]]:
    return [(each.member, each.width, each.height) for each in block.pictures]
