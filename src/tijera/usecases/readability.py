"""Whether the text on a picture can still be read where it stands, and what would help, with real figures."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from tijera.core.clippings.measures import natural_scale
from tijera.core.geometry import Rect
from tijera.core.imaging.lettering import TextSize, smallest_text
from tijera.core.marks.operations import joined
from tijera.core.packages.places.format import View
from tijera.core.packages.places.spots import Spot
from tijera.core.packages.registry import format_of
from tijera.core.placing.readability import SMALL_PT, Grade, grade_of
from tijera.core.units import POINTS_PER_INCH, Length, round_half_up
from tijera.records import ClippingRecord, DestinationRecord
from tijera.usecases.destinations import document_of
from tijera.usecases.trimming import Place, in_spot
from tijera.usecases.workshop import Workshop


@dataclass(frozen=True)
class Door:
    """Something that would help, and how large the text becomes."""

    name: str
    text_pt: float
    crop: Rect | None = None
    spot: Spot | None = None
    width: Length | None = None


@dataclass(frozen=True)
class Readable:
    """The smallest text, as placed."""

    text_pt: float | None
    em_px: float | None
    grade: Grade
    doors: tuple[Door, ...]


def readable(
    workshop: Workshop, record: ClippingRecord, place: Place, destination: DestinationRecord | None, at: Spot | None
) -> Readable:
    """Find the smallest text of a clipping in its place, and the doors that open from there."""
    found = smallest_text_of(workshop, record)
    if found is None:
        return Readable(None, None, Grade.NONE, ())
    text_pt = found.em_px / place.px_per_pt
    grade = grade_of(text_pt)
    if grade is Grade.FINE:
        return Readable(text_pt, found.em_px, grade, ())
    doors: list[Callable[[], Door | None]] = [
        lambda: _by_crop(workshop, record, found, at, text_pt),
        lambda: _by_wider_place(workshop, record, found, destination, at, text_pt),
        lambda: _by_natural_size(workshop, record, found, at, text_pt),
        lambda: Door("file", found.em_px / _natural(workshop, record)),
    ]
    return Readable(text_pt, found.em_px, grade, tuple(door for make in doors if (door := make()) is not None))


def _natural(workshop: Workshop, record: ClippingRecord) -> float:
    return natural_scale(workshop.pictures.clipping(record))


def smallest_text_of(workshop: Workshop, record: ClippingRecord) -> TextSize | None:
    """Of a clipping without its marks: they keep their points by themselves."""
    picture = workshop.pictures.beneath_marks(record, _natural(workshop, record))
    key = ("text", workshop.pictures.shown_part(record), record.outline)
    found = workshop.texts.get(key, lambda: (smallest_text(picture),))
    return found[0]


def _by_crop(
    workshop: Workshop, record: ClippingRecord, found: TextSize, at: Spot | None, text_pt: float
) -> Door | None:
    """Cropped so far that the text is not small any more: round the marks, else from the left."""
    if at is None:
        return None
    sheet = workshop.pictures.sheet(record)
    wanted = int(found.em_px / sheet.scale * at.fit_width.inches * POINTS_PER_INCH / (SMALL_PT + 0.1))
    if not 80 <= wanted < record.crop_width:
        return None
    drawn = workshop.pictures.marks(record, _natural(workshop, record))
    box = joined(each.box for each in drawn if each.mark.kind != "black-out")
    middle = (box[0] + box[2]) / 2 if box else record.crop_x + wanted / 2
    left = min(max(round_half_up(middle - wanted / 2), record.crop_x), record.crop_x + record.crop_width - wanted)
    crop = Rect(left, record.crop_y, wanted, record.crop_height)
    after = in_spot(workshop, record.cropped_to(crop), at)
    larger = found.em_px / after.px_per_pt
    return Door("crop", larger, crop=crop) if larger > text_pt * 1.05 else None


def _by_wider_place(
    workshop: Workshop,
    record: ClippingRecord,
    found: TextSize,
    destination: DestinationRecord | None,
    at: Spot | None,
    text_pt: float,
) -> Door | None:
    """The nearest place in which the text is larger: the first with the widest column after the one in hand."""
    if destination is None or at is None:
        return None
    document = document_of(workshop, destination)
    if format_of(document).view is not View.GALLEY:
        return None
    spots = list(document.spots())
    here = next((number for number, spot in enumerate(spots) if spot.id == at.id), 0)
    widest = max(spot.width for spot in spots)
    wider = [*spots[here:], *reversed(spots[:here])]
    spot = next((each for each in wider if each.width == widest), None)
    if spot is None or spot.width <= at.fit_width:
        return None
    after = in_spot(workshop, record, spot)
    larger = found.em_px / after.px_per_pt
    return Door("place", larger, spot=spot, width=spot.width) if larger > text_pt * 1.05 else None


def _by_natural_size(
    workshop: Workshop, record: ClippingRecord, found: TextSize, at: Spot | None, text_pt: float
) -> Door | None:
    """Natural size or the width of the place, where it was set smaller than that."""
    if at is None:
        return None
    after = in_spot(workshop, record, at)
    larger = found.em_px / after.px_per_pt
    return Door("natural", larger, width=after.width) if larger > text_pt * 1.05 else None
