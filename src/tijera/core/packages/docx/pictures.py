"""The pictures of a document: which there are, how large they are shown, what they weigh."""

from __future__ import annotations

import contextlib
import io
from dataclasses import dataclass

from PIL import Image

from tijera.core.geometry import Size
from tijera.core.packages.docx.document import STORIES, DocxDocument
from tijera.core.packages.docx.shown import PictureUse, picture_uses
from tijera.core.packages.opc.relationships import Relationships
from tijera.core.packages.xmlspan import parse_safely
from tijera.core.units import Length


@dataclass(frozen=True)
class PictureReport:
    """One picture of a package."""

    member: str
    pixels: Size | None
    """None for drawings without pixels, and where they can't be read."""
    shown: tuple[tuple[Length, Length], ...]
    """Width and height of every use whose size is known."""
    ppi: float | None
    """Pixels per inch at the largest size that it is shown at; None when unknown."""
    bytes: int
    """Its own bytes as packed."""
    record_bytes: int
    """What it takes in the package: its bytes with both of its zip headers."""
    times_used: int
    description: str
    """The alternative text of its first use that has one."""


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
    reports = [_report(document, member, used) for member, used in uses.items() if member in document.package]
    return tuple(sorted(reports, key=lambda report: (-report.bytes, report.member)))


def _report(document: DocxDocument, name: str, uses: list[PictureUse]) -> PictureReport:
    member = document.package.member(name)
    pixels = _pixel_size(document.package.read(name))
    sized = [use for use in uses if use.width.emu > 0 and use.height.emu > 0]
    ppi = None
    if pixels is not None and sized:
        ppi = min(pixels.width * use.visible_width / use.width.inches for use in sized)
    return PictureReport(
        member=name,
        pixels=pixels,
        shown=tuple((use.width, use.height) for use in sized),
        ppi=ppi,
        bytes=member.packed_bytes,
        record_bytes=member.end - member.start + len(member.central),
        times_used=len(uses),
        description=next((use.description for use in uses if use.description), ""),
    )


def _pixel_size(data: bytes) -> Size | None:
    """Read a picture's size from its header, without decoding it."""
    with contextlib.suppress(OSError, SyntaxError, ValueError, EOFError), Image.open(io.BytesIO(data)) as image:
        return Size(*image.size)
    return None
