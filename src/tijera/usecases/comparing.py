"""What became of a picture, to look at: as it was and as it would be written, and how small its text is there."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

from tijera.core.errors import PictureRefused
from tijera.core.imaging.decode import decode_foreign
from tijera.core.imaging.lettering import TextSize, smallest_text
from tijera.core.imaging.picture import Picture
from tijera.core.packages.places.format import Document
from tijera.core.packages.registry import report_pictures
from tijera.core.units import POINTS_PER_INCH
from tijera.records import DestinationRecord
from tijera.usecases.destinations import document_of
from tijera.usecases.readability import smallest_text_of
from tijera.usecases.sources import Sources
from tijera.usecases.weighing import Weighed, weigh, where
from tijera.usecases.workshop import Workshop

_MOST_LOOKED_AT = 60
"""Pictures of a file in which text is looked for: the heaviest (a look takes some 50 ms a megapixel)."""


@dataclass(frozen=True)
class TextOnPicture:
    """The smallest text on a picture of a written copy."""

    member: str
    em_px: float
    """Its em in pixels of the picture as it is written."""
    text_pt: float | None
    """The same in points where the picture is shown largest; None where its size is not known."""


def own_picture(workshop: Workshop, destination: DestinationRecord, member: str, *, first: bool) -> Picture:
    """A picture that a file has of its own, as it is now or as it was first opened. Raises `PartMissing`, `PictureRefused`.

    Where it was cut to what is shown of it since, that is all that there was to see.
    """
    document, name = where(document_of(workshop, destination), member)
    if not first or destination.first_blob is None:
        return decode_foreign(document.read(name), name)
    first_opened = workshop.document(destination.first_blob, destination.name, signed=destination.unsigned)
    before, _ = where(first_opened, member)
    crops = next((each.crops for each in report_pictures(document) if each.member == name), ())
    sources = Sources(document, before, {name: document.read(name)})
    kept = sources.cut_before(name, crops)
    whole = decode_foreign(before.read(sources.first_name(name) or name), name)
    return whole if kept is None else whole.cut(kept)


def texts(workshop: Workshop, destination: DestinationRecord) -> list[TextOnPicture]:
    """The smallest text on each of the heaviest pictures of the written copy, where there is some."""
    document = document_of(workshop, destination)
    found = []
    for each in weigh(workshop, destination).pictures[:_MOST_LOOKED_AT]:
        text = _on_clipping(workshop, each) if each.own else _on_own(workshop, each, _bytes_of(document, each))
        if text is not None:
            found.append(text)
    return found


def _bytes_of(document: Document, each: Weighed) -> bytes:
    inner, name = where(document, each.report.member)
    return inner.read(name)


def _on_clipping(workshop: Workshop, each: Weighed) -> TextOnPicture | None:
    """Where it is shown largest, its marks not counted: they keep their points by themselves."""
    placed = max(each.own, key=lambda one: one.measures.width.emu)
    text = smallest_text_of(workshop, placed.clipping)
    if text is None:
        return None
    text_pt = text.em_px / placed.px_per_pt
    return TextOnPicture(each.report.member, text_pt / POINTS_PER_INCH * placed.ppi, text_pt)


def _on_own(workshop: Workshop, each: Weighed, data: bytes) -> TextOnPicture | None:
    report = each.report

    def look() -> tuple[TextSize | None]:
        try:
            picture = decode_foreign(data).as_seen()
        except PictureRefused:
            return (None,)
        # Leaves and waves pass for letters.
        return (None if picture.is_photograph else smallest_text(picture),)

    if report.pixels is None:
        return None
    (text,) = workshop.texts.get(("own", hashlib.sha256(data).hexdigest()), look)
    if text is None:
        return None
    return TextOnPicture(report.member, text.em_px, text.em_px / report.ppi * POINTS_PER_INCH if report.ppi else None)
