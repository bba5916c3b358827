"""Taking: looking at a source, freezing it, cutting an area, bringing in pictures from elsewhere."""

from __future__ import annotations

import re

from tijera.core.clippings import Clipping
from tijera.core.errors import InputEmpty, InputTooHeavy
from tijera.core.frames.frame import title_under
from tijera.core.geometry import Rect
from tijera.core.imaging.decode import decode
from tijera.core.units import PIXELS_PER_INCH
from tijera.store.records import ClippingRecord, FrameRecord
from tijera.usecases.workshop import Workshop


def freeze(workshop: Workshop, source_id: str) -> FrameRecord:
    """Freeze what a source shows and keep it. Raises `NotFound`."""
    frame, picture = workshop.source(source_id).grab()
    record = FrameRecord(
        id=workshop.new_id(),
        source=source_id,
        blob=workshop.keep_frame(picture),
        original=None,
        width=frame.size.width,
        height=frame.size.height,
        scale_factor=frame.scale_factor,
        windows=frame.windows,
        taken_at=workshop.now(),
    )
    workshop.store.add(record)
    return record


def weigh_area(workshop: Workshop, frame_id: str, area: Rect) -> int:
    """What a cut of this area would weigh in a document, before it is taken. Raises `NotFound`, `AreaOutside`."""
    frame = workshop.store.find(FrameRecord, frame_id)
    clipping = Clipping.uncropped(frame.size, area, frame.scale_factor)
    return workshop.first_rendition(_record("", frame, clipping.area, "", "")).bytes


def take(workshop: Workshop, frame_id: str, area: Rect, name: str | None = None) -> ClippingRecord:
    """Cut an area out of a frame and hang it on the rack. Raises `NotFound`, `AreaOutside`."""
    frame = workshop.store.find(FrameRecord, frame_id)
    Clipping.uncropped(frame.size, area, frame.scale_factor)
    wanted = name or title_under(area, frame.windows) or "Screen"
    record = _record(workshop.new_id(), frame, area, free_name(workshop, wanted), workshop.now())
    with workshop.store.change(f"Take {record.name}") as change:
        change.save(record)
    return record


def bring_in(workshop: Workshop, data: bytes, file_name: str) -> ClippingRecord:
    """Hang a picture that was made elsewhere on the rack, whole; its file is kept as it came.

    Raises `InputTooHeavy` and the errors of `decode`.
    """
    if not data:
        raise InputEmpty(name=file_name)
    if len(data) > workshop.guards.file_bytes:
        raise InputTooHeavy(name=file_name, most_bytes=workshop.guards.file_bytes)
    picture = decode(data, file_name)
    frame = FrameRecord(
        id=workshop.new_id(),
        source="picture",
        blob=workshop.keep_frame(picture),
        original=workshop.store.blobs.put(data),
        width=picture.size.width,
        height=picture.size.height,
        scale_factor=(picture.density_ppi or PIXELS_PER_INCH) / PIXELS_PER_INCH,
        windows=(),
        taken_at=workshop.now(),
    )
    stem = re.sub(r"\.[A-Za-z0-9]{2,5}$", "", file_name.replace("\\", "/").split("/")[-1]).strip()
    area = Rect.whole(picture.size)
    record = _record(workshop.new_id(), frame, area, free_name(workshop, stem or "Picture"), workshop.now())
    workshop.store.add(frame)
    with workshop.store.change(f"Bring in {record.name}") as change:
        change.save(record)
    return record


def clean_name(name: str) -> str:
    """A name on one line, without control characters and without signs that turn the direction of text."""
    return " ".join(re.sub(r"[\x00-\x1f\x7f\u200e\u200f\u202a-\u202e\u2066-\u2069]", " ", name).split())[:120]


def free_name(workshop: Workshop, wanted: str) -> str:
    """The wanted name, with a counter behind it where it is taken."""
    base = clean_name(wanted) or "Clipping"
    taken = {clipping.name for clipping in workshop.store.clippings()}
    number, name = 1, base
    while name in taken:
        number += 1
        name = f"{base} {number}"
    return name


def _record(id_: str, frame: FrameRecord, area: Rect, name: str, taken_at: str) -> ClippingRecord:
    return ClippingRecord(
        id=id_,
        frame=frame.id,
        name=name,
        area_x=area.x,
        area_y=area.y,
        area_width=area.width,
        area_height=area.height,
        crop_x=0,
        crop_y=0,
        crop_width=area.width,
        crop_height=area.height,
        taken_at=taken_at,
    )
