"""Trimming and marking: changes to what is done to a clipping, each one step of its own history."""

from __future__ import annotations

import base64
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from html import escape

from tijera.core.clippings.composing import layout_of
from tijera.core.clippings.crops import round_marks, without_border
from tijera.core.clippings.cutting import Clipping
from tijera.core.clippings.measures import PlacedAs, natural_scale, placed_as
from tijera.core.clippings.sheet import PLAIN, Sheet, Turn
from tijera.core.clippings.turning import turn_sheet
from tijera.core.errors import AreaEmpty, ChangedElsewhere, MarkOutside, PartOfItself
from tijera.core.fit import WidthRule
from tijera.core.frames.panes import find_panes
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.encode import encode_png
from tijera.core.imaging.picture import Picture
from tijera.core.marks.kinds import Drawn, kind_of
from tijera.core.marks.mark import Mark
from tijera.core.packages.places.spots import Spot
from tijera.core.placing.stands import Wish, stand_in
from tijera.core.units import EMU_PER_PIXEL, Length, round_half_up
from tijera.records import ClippingRecord, DestinationRecord, PlacementRecord
from tijera.store.sheets import sheet_as_json
from tijera.usecases.changing import change_one
from tijera.usecases.consent import leaving
from tijera.usecases.destinations import document_of
from tijera.usecases.standings import standing
from tijera.usecases.workshop import Workshop

_VERSION = ("sheet", "parts", "crop_x", "crop_y", "crop_width", "crop_height", "pointer_x", "pointer_y")
"""The fields that a clipping's version is made of: an edit is worked out on all of them."""
_COPY_EFFORT = 6
Edited = tuple[Sheet, Rect]
Edit = Callable[[Sheet, Rect], Edited]


@dataclass(frozen=True)
class Place:
    """Where a clipping stands or would stand: what decides how its marks are drawn."""

    outer: Size
    px_per_pt: float
    width: Length
    height: Length
    bound_width: Length
    bound_height: Length
    """What it was fitted into there."""
    rule: str
    """How its width was found: "fit", "fill" or "given"."""


def edit(workshop: Workshop, clipping_id: str, version: str | None, label: str, change: Edit) -> ClippingRecord:
    """Change what is done to a clipping, in one step that can be undone.

    `version` is the one that the change was made on; another one now means that somebody else was quicker.
    Raises `NotFound`, `ChangedElsewhere`, `CropOutside`, `MarkOutside`, `RoomTooLarge` and what the change raises.
    """

    def edited(before: ClippingRecord) -> ClippingRecord:
        if version is not None and version != workshop.pictures.version_of(before):
            raise ChangedElsewhere(name=before.name)
        own = workshop.pictures.sheet(before)
        sheet, crop = change(own, before.crop)
        after = with_sheet(workshop, before.cropped_to(crop), sheet)
        made = workshop.pictures.clipping(after)
        # What could not be shown must not be kept.
        layout_of(crop.size, sheet, natural_scale(made))
        fresh = [mark for mark in sheet.marks if mark not in own.marks]
        if fresh:
            _check_in_sight(workshop, after, made, {mark.id for mark in fresh})
        return after

    return change_one(
        workshop,
        ClippingRecord,
        clipping_id,
        lambda before, _: f"{label} {before.name}",
        edited,
        history=clipping_id,
        also=_VERSION,
    )


def with_sheet(workshop: Workshop, record: ClippingRecord, sheet: Sheet) -> ClippingRecord:
    """The record with another sheet, which is kept; a plain one is none."""
    key = None if sheet.is_plain else workshop.store.blobs.put(sheet_as_json(sheet))
    return replace(record, sheet=key, parts=sheet.parts)


def _check_in_sight(workshop: Workshop, record: ClippingRecord, clipping: Clipping, ids: set[str]) -> None:
    """A mark lies on the picture, its waste or its margins, at least in part."""
    base, crop, room = clipping.base_size, clipping.crop, clipping.sheet.room
    left, top = min(0, crop.x - room.left), min(0, crop.y - room.top)
    right = max(base.width, crop.right + room.right)
    bottom = max(base.height, crop.bottom + room.bottom)
    for drawn in workshop.pictures.marks(record, natural_scale(clipping)):
        box = drawn.box
        if drawn.mark.id in ids and (box[2] < left or box[0] > right or box[3] < top or box[1] > bottom):
            raise MarkOutside(what=kind_of(drawn.mark.kind).name, size=str(base))


def turn(clipping: Clipping, to: Turn) -> Edit:
    """The edit that turns a clipping."""
    return lambda sheet, crop: turn_sheet(sheet, crop, clipping.area.size, to)


# Where it stands


def place_of(
    workshop: Workshop,
    record: ClippingRecord,
    placement_id: str | None = None,
    destination_id: str | None = None,
    spot_id: str | None = None,
) -> Place:
    """Where a clipping stands: in a placement, else in a spot that waits for it, else at natural size.

    Raises `NotFound`, `SpotUnknown`.
    """
    if placement_id is not None:
        placed = workshop.store.find(PlacementRecord, placement_id)
        found = standing(workshop, placed)
        if found.clipping.id == record.id:
            return _place(found.placed)
    if destination_id is not None and spot_id is not None:
        return in_spot(workshop, record, spot_of(workshop, destination_id, spot_id))
    clipping = workshop.pictures.clipping(record)
    # So large that natural size fits.
    endless = Length.from_mm(10_000)
    return _place(placed_as(clipping, endless, endless))


def in_spot(workshop: Workshop, record: ClippingRecord, spot: Spot, wish: Wish | None = None) -> Place:
    """What a clipping would measure in a spot, as it would be placed there, or with a wish."""
    return _place(stand_in(workshop.pictures.clipping(record), spot, wish or Wish.plain(spot)))


def _place(found: PlacedAs) -> Place:
    rule = found.rule.value if isinstance(found.rule, WidthRule) else "given"
    size = found.measures.width, found.measures.height
    return Place(found.outer, found.px_per_pt, *size, found.bound_width, found.bound_height, rule)


def spot_of(workshop: Workshop, destination_id: str, spot_id: str) -> Spot:
    """A spot of a destination. Raises `NotFound`, `SpotUnknown`."""
    destination = workshop.store.find(DestinationRecord, destination_id)
    return document_of(workshop, destination).spot(spot_id)


def preview_scaled(workshop: Workshop, record: ClippingRecord, scale: float) -> Picture:
    """What a clipping would be at another scale, pixel for pixel. Raises `OptionUnreadable`, `RoomTooLarge`."""
    sheet = replace(workshop.pictures.sheet(record), scale=scale)
    return workshop.pictures.finished(with_sheet(workshop, record, sheet))


# Suggestions


@dataclass(frozen=True)
class Suggested:
    """Crops that can be taken with one action; None where there is none."""

    border: Rect | None
    marks: Rect | None
    panes: tuple[Rect, ...]


def suggest_crops(workshop: Workshop, clipping_id: str, *, with_panes: bool = True) -> Suggested:
    """Without the empty border, round the marks, and the panes on it, the smallest first. Raises `NotFound`.

    Panes take their time; they are found when they are wanted.
    """
    record = workshop.store.find(ClippingRecord, clipping_id)
    clipping = workshop.pictures.clipping(record)
    picture = workshop.pictures.for_mat(record)
    boxes = [drawn.box for drawn in workshop.pictures.marks(record, natural_scale(clipping))]
    key = (record.frame, record.area, record.outline, clipping.sheet.turn, clipping.sheet.tones)
    panes = workshop.panes.get(key, lambda: find_panes(_opaque(picture))) if with_panes else []
    return Suggested(_inside(picture, clipping), round_marks(boxes, clipping.base_size), tuple(each for each in panes))


def _opaque(picture: Picture) -> Picture:
    return Picture(picture.pixels[:, :, :3].copy()) if picture.has_alpha else picture


def _inside(picture: Picture, clipping: Clipping) -> Rect | None:
    """The crop without its empty border."""
    found = without_border(picture.cut(clipping.crop))
    return None if found is None else found.shifted(clipping.crop.x, clipping.crop.y)


# Parts and wholes


def part(workshop: Workshop, clipping_id: str, areas: Sequence[Rect]) -> list[ClippingRecord]:
    """Make new clippings of parts of one; it stays. What is blacked out on it is so on them, marks go along.

    Raises `NotFound`, `CropOutside`, `AreaEmpty`.
    """
    whole = workshop.store.find(ClippingRecord, clipping_id)
    if not areas:
        raise AreaEmpty(width=0, height=0)
    sheet, clipping = workshop.pictures.sheet(whole), workshop.pictures.clipping(whole)
    boxes = {drawn.mark.id: drawn for drawn in workshop.pictures.marks(whole, natural_scale(clipping))}
    made = []
    for number, area in enumerate(areas, 1):
        clipping.cropped(area)
        kept = tuple(mark for mark in sheet.marks if mark.kind == "black-out" or _lies_on(boxes[mark.id], area))
        own = replace(sheet, marks=kept, room=PLAIN.room)
        name = f"{whole.name[:100]}, part" if len(areas) == 1 else f"{whole.name[:100]}, part {number}"
        record = replace(whole.cropped_to(area), id=workshop.new_id(), name=name, taken_at=workshop.now(), rank=0)
        made.append(with_sheet(workshop, record, own))
    label = f"Part {whole.name}" if len(made) == 1 else f"Part {whole.name} into {len(made)}"
    with workshop.store.change(label) as change:
        return [change.save(replace(record, name=free(workshop, record.name))) for record in made]


def _lies_on(drawn: Drawn, area: Rect) -> bool:
    left, top, right, bottom = drawn.box
    return left < area.right and right > area.x and top < area.bottom and bottom > area.y


def free(workshop: Workshop, name: str) -> str:
    """The name, or the name with the first number that makes it one of its own."""
    number, found = 1, name
    while workshop.store.has_name(found):
        number += 1
        found = f"{name} {number}"
    return found


def join(workshop: Workshop, clipping_ids: Sequence[str], *, stacked: bool, gap_px: int = 12) -> ClippingRecord:
    """Lay several clippings beside or below each other on a new one; they stay, and show there as they are.

    Raises `NotFound`, `AreaEmpty` for less than two.
    """
    parts = [workshop.store.find(ClippingRecord, each) for each in dict.fromkeys(clipping_ids)]
    if len(parts) < 2:
        raise AreaEmpty(width=0, height=0)
    scale_factor = max(each.scale_factor for each in parts)
    sizes = [_natural_size(workshop, each, scale_factor) for each in parts]
    marks, at = [], 0
    for each, size in zip(parts, sizes, strict=True):
        x, y = (0, at) if stacked else (at, 0)
        corner = (float(x), float(y)), (float(x + size.width), float(y + size.height))
        marks.append(Mark(workshop.new_id(), "inset", corner, {"clipping": each.id}))
        at += (size.height if stacked else size.width) + gap_px
    length, across = at - gap_px, max(size.width if stacked else size.height for size in sizes)
    size = Size(across, length) if stacked else Size(length, across)
    frame = workshop.keep_sheet_of(size, scale_factor)
    names = " and ".join(each.name[:40] for each in parts[:2]) + (f" and {len(parts) - 2} more" if parts[2:] else "")
    record = ClippingRecord(
        id=workshop.new_id(),
        frame=frame.id,
        name=names,
        area_x=0,
        area_y=0,
        area_width=size.width,
        area_height=size.height,
        taken_at=workshop.now(),
        kind="picture",
        window=None,
        scale_factor=scale_factor,
        found_as="",
        crop_x=0,
        crop_y=0,
        crop_width=size.width,
        crop_height=size.height,
    )
    record = with_sheet(workshop, record, Sheet(marks=tuple(marks), ground="white"))
    with workshop.store.change(f"Join {names}") as change:
        return change.save(replace(record, name=free(workshop, names)))


def _natural_size(workshop: Workshop, record: ClippingRecord, scale_factor: float) -> Size:
    return workshop.pictures.finished(record).size.scaled(scale_factor / record.scale_factor)


def inset_of(workshop: Workshop, onto: ClippingRecord, part_id: str, corner: tuple[float, float]) -> Mark:
    """The mark that lays a clipping on another, at natural size, at most half as wide. Raises `NotFound`, `PartOfItself`."""
    laid = workshop.store.find(ClippingRecord, part_id)
    if onto.id in _all_parts(workshop, laid):
        raise PartOfItself(name=laid.name)
    size = _natural_size(workshop, laid, onto.scale_factor)
    share = min(1.0, onto.crop_width / 2 / size.width)
    x, y = corner
    return Mark(
        workshop.new_id(), "inset", ((x, y), (x + size.width * share, y + size.height * share)), {"clipping": part_id}
    )


def kept_ratio(workshop: Workshop, mark: Mark, points: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """The anchors of a laid-on clipping with its ratio kept: the width decides. Raises `NotFound`."""
    size = workshop.pictures.finished(workshop.store.find(ClippingRecord, str(mark.options["clipping"]))).size
    (ax, ay), (bx, by) = points[0], points[1]
    left, right, top = min(ax, bx), max(ax, bx), min(ay, by)
    return [(left, top), (right, top + max(right - left, 1.0) * size.height / size.width)]


def _all_parts(workshop: Workshop, record: ClippingRecord) -> set[str]:
    """A clipping and all that is laid on it, through and through."""
    found = {record.id}
    for each in record.parts:
        found |= _all_parts(workshop, workshop.store.find(ClippingRecord, each))
    return found


def as_html(workshop: Workshop, record: ClippingRecord, place: Place) -> str:
    """The finished picture as HTML that is whole in itself, as large as it stands: in CSS pixels, as HTML has lengths."""
    picture = base64.b64encode(encode_png(workshop.pictures.finished(record, place.px_per_pt), _COPY_EFFORT)).decode(
        "ascii"
    )
    width, height = (round_half_up(Fraction(each.emu, EMU_PER_PIXEL)) for each in (place.width, place.height))
    named = escape(leaving(workshop, record, record.name))
    return f'<img src="data:image/png;base64,{picture}" width="{width}" height="{height}" alt="{named}">'
