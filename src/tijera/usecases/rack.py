"""The rack: renaming, cropping, and removing clippings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from tijera.core.errors import NotFound, PartInUse
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.encode import encode_frame, encode_png
from tijera.core.imaging.resize import shrink_to_fit
from tijera.core.naming import clean_name
from tijera.records import ClippingRecord, FrameRecord
from tijera.usecases.changing import change_one
from tijera.usecases.workshop import Workshop

THUMBNAIL_PX = 320
_THUMBNAIL_EFFORT = 6
_SOON_FROM_PIXELS = 1_000_000


def rename(workshop: Workshop, clipping_id: str, name: str) -> ClippingRecord:
    """Give a clipping another name. Raises `NotFound`."""
    return change_one(
        workshop,
        ClippingRecord,
        clipping_id,
        lambda before, _: f"Rename {before.name}",
        lambda before: replace(before, name=clean_name(name) or before.name),
        history=clipping_id,
    )


def pin(workshop: Workshop, clipping_id: str, *, pinned: bool) -> ClippingRecord:
    """Keep a clipping on top of the rack, where it is never cleared out, or let it go. Raises `NotFound`."""
    return change_one(
        workshop,
        ClippingRecord,
        clipping_id,
        lambda before, _: f"{'Pin' if pinned else 'Unpin'} {before.name}",
        lambda before: replace(before, pinned=pinned),
    )


def crop(workshop: Workshop, clipping_id: str, to: Rect) -> ClippingRecord:
    """Crop a clipping, in the pixels of its area; it hides and never destroys. Raises `NotFound`, `CropOutside`."""

    def cropped(before: ClippingRecord) -> ClippingRecord:
        workshop.pictures.clipping(before).cropped(to)
        return before.cropped_to(to)

    return change_one(
        workshop,
        ClippingRecord,
        clipping_id,
        lambda before, _: f"Crop {before.name}",
        cropped,
        history=clipping_id,
        # A turned sheet has other sides.
        also=("sheet",),
    )


def show_pointer(workshop: Workshop, clipping_id: str, at: tuple[int, int] | None, *, shown: bool) -> ClippingRecord:
    """Show the pointer, hide it, or move its tip to a pixel of the clipping's area; `at` None is where it was.

    Raises `NotFound`, also for a clipping whose frame came without a pointer.
    """
    before = workshop.store.find(ClippingRecord, clipping_id)
    frame = workshop.store.find(FrameRecord, before.frame)
    if frame.pointer is None:
        raise NotFound(what="pointer on the clipping", key=before.name)
    x, y = at or (frame.pointer.x - before.area_x, frame.pointer.y - before.area_y)
    did = "Hide the pointer on" if not shown else "Show the pointer on" if at is None else "Move the pointer on"

    def moved(now: ClippingRecord) -> ClippingRecord:
        return replace(now, pointer_x=x, pointer_y=y) if shown else replace(now, pointer_x=None, pointer_y=None)

    return change_one(
        workshop, ClippingRecord, clipping_id, lambda now, _: f"{did} {now.name}", moved, history=clipping_id
    )


def remove(workshop: Workshop, clipping_ids: Sequence[str]) -> None:
    """Take clippings off the rack and out of their places; one undo brings all of it back. Raises `NotFound`."""
    workshop.store.reserve.used_for(lambda: _remove(workshop, clipping_ids))


def _remove(workshop: Workshop, clipping_ids: Sequence[str]) -> None:
    with workshop.store.change("Remove") as change:
        records = [workshop.store.find(ClippingRecord, each) for each in dict.fromkeys(clipping_ids)]
        gone = {record.id for record in records}
        for record in records:
            for whole in workshop.store.wholes_of(record.id):
                if whole.id not in gone:
                    raise PartInUse(name=record.name, other=whole.name)
        change.label = f"Remove {records[0].name}" if len(records) == 1 else f"Remove {len(records)} clippings"
        for placement in workshop.store.placements():
            if placement.clipping in gone:
                change.remove(placement)
        for record in records:
            change.remove(record)


def thumbnail(workshop: Workshop, clipping_id: str) -> bytes:
    """A clipping as a small PNG, made once for each version of it. Raises `NotFound`."""
    record = workshop.store.find(ClippingRecord, clipping_id)
    version = workshop.pictures.version_of(record)
    key = f"{record.frame} {record.area} {version} {record.outline is None} {record.id} {THUMBNAIL_PX}"
    return workshop.store.thumbnails.get(key, lambda: show(workshop, clipping_id, Size(THUMBNAIL_PX, THUMBNAIL_PX)))


def show(workshop: Workshop, clipping_id: str, most: Size | None, *, whole_area: bool = False) -> bytes:
    """A clipping as PNG for showing it here, scaled down into `most`; `whole_area` without its crop."""
    record = workshop.store.find(ClippingRecord, clipping_id)
    picture = workshop.pictures.for_mat(record) if whole_area else workshop.pictures.finished(record)
    shown = shrink_to_fit(picture, most) if most else picture
    # A large one is wanted soon rather than small: it only goes to this machine's own browser.
    return encode_frame(shown) if shown.size.pixels > _SOON_FROM_PIXELS else encode_png(shown, _THUMBNAIL_EFFORT)
