"""From the core's values to what goes over the wire: clippings and slips."""

from __future__ import annotations

from dataclasses import asdict

from tijera.core.clippings.composing import layout_of
from tijera.core.clippings.measures import natural_scale
from tijera.records import ClippingRecord, Slip
from tijera.usecases import looking
from tijera.usecases.consent import holds_back
from tijera.usecases.reading import Found
from tijera.usecases.workshop import Workshop
from tijera.web import base
from tijera.web.rack import schemas as rack_schemas
from tijera.web.take import schemas as take_schemas


def clipping(workshop: Workshop, record: ClippingRecord) -> rack_schemas.ClippingOut:
    """A clipping on the rack."""
    kept = workshop.pictures.frame(record.frame)
    known = workshop.pictures.clipping(record)
    outer = layout_of(record.crop.size, known.sheet, natural_scale(known)).outer
    at = None if record.pointer_x is None or record.pointer_y is None else (record.pointer_x, record.pointer_y)
    return rack_schemas.ClippingOut(
        id=record.id,
        frame=record.frame,
        name=record.name,
        kind=record.kind,
        window=record.window,
        area=base.RectWire.of(record.area),
        crop=base.RectWire.of(record.crop),
        scale_factor=record.scale_factor,
        taken_at=record.taken_at,
        version=workshop.pictures.version_of(record),
        places=looking.count_places(workshop, record.id),
        has_pointer=kept.pointer is not None,
        pointer=None if at is None else take_schemas.PointIn(x=at[0], y=at[1]),
        pointer_hot=None if kept.pointer is None else take_schemas.PointIn(x=kept.pointer.hot_x, y=kept.pointer.hot_y),
        base=base.SizeOut(width=known.base_size.width, height=known.base_size.height),
        outer=base.SizeOut(width=outer.width, height=outer.height),
        is_turned=not known.sheet.turn.is_none,
        held_back=record.window if holds_back(workshop, record) else None,
    )


def slip(workshop: Workshop, each: Slip, found: Found | None = None) -> rack_schemas.SlipOut:
    """A slip of the rack. Its values are the store's own, so they are not checked once more."""
    values = asdict(each)
    if values.pop("parts") != "[]":
        values["version"] = workshop.pictures.version_of(looking.clipping(workshop, each.id))
    return rack_schemas.SlipOut.model_construct(**values, shown=None if found is None else shown(found))


def shown(found: Found) -> rack_schemas.FoundOut:
    """Where words stand on a picture."""
    boxes = [base.RectWire.of(each) for each in found.boxes]
    return rack_schemas.FoundOut(width=found.size.width, height=found.size.height, boxes=boxes)
