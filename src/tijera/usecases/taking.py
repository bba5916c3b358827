"""Taking: freezing a source, cutting an area of whatever kind, bringing in pictures from elsewhere."""

from __future__ import annotations

import json
import re
from dataclasses import asdict, dataclass, replace
from enum import StrEnum

from tijera.core.clippings.anew import by_itself
from tijera.core.clippings.cutting import Clipping
from tijera.core.errors import AreaEmpty, InputEmpty, InputTooHeavy, NotFound
from tijera.core.frames.frame import Monitor, WindowBox, window_under
from tijera.core.frames.freehand import Outline
from tijera.core.frames.panes import find_panes
from tijera.core.frames.source import Grab
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.decode import decode_foreign
from tijera.core.imaging.encode import encode_png
from tijera.core.imaging.kinds import PNG
from tijera.core.imaging.picture import Picture
from tijera.core.packages.places.spots import WHOLE, Crop
from tijera.core.units import PIXELS_PER_INCH
from tijera.records import ClippingRecord, FrameRecord, KeptPointer
from tijera.usecases.naming import found_as, free_name
from tijera.usecases.workshop import Workshop

LAST_AREA = "last area"


class CutKind(StrEnum):
    """Kinds of cut."""

    REGION = "region"
    WINDOW = "window"
    PANE = "pane"
    FREEHAND = "freehand"
    SCREEN = "screen"
    LONG_PAGE = "long-page"
    PICTURE = "picture"
    """A picture that was made elsewhere."""


@dataclass(frozen=True)
class Cut:
    """What is to be cut out of a frame, in frame pixels."""

    kind: CutKind
    area: Rect | None
    outline: tuple[tuple[float, float], ...] | None = None
    window: str | None = None
    """The window's id, where the kind is one."""
    content_only: bool = False
    pointer: bool = False


@dataclass(frozen=True)
class LastArea:
    """The last cut, found again on a frame."""

    kind: CutKind
    area: Rect
    outline: tuple[tuple[float, float], ...] | None
    window: str | None
    content_only: bool
    note: str | None
    """What is not as it was."""


def freeze(workshop: Workshop, source_id: str) -> FrameRecord:
    """Freeze what a source shows and keep it. Raises `NotFound`, `ScreenUnavailable`."""
    return keep_grab(workshop, source_id, workshop.source(source_id).grab())


def keep_grab(workshop: Workshop, source_id: str, grab: Grab) -> FrameRecord:
    """Keep a frozen screen."""
    frame, spot = grab.frame, grab.frame.pointer
    pointer = None
    if spot is not None and grab.pointer is not None:
        blob = workshop.store.blobs.put(encode_png(grab.pointer, effort=6))
        pointer = KeptPointer(spot.x, spot.y, spot.hot_x, spot.hot_y, blob)
    record = FrameRecord(
        id=workshop.new_id(),
        source=source_id,
        blob=workshop.keep_frame(grab.picture),
        original=None,
        width=frame.size.width,
        height=frame.size.height,
        scale_factor=frame.scale_factor,
        windows=frame.windows,
        taken_at=workshop.now(),
        monitors=frame.monitors,
        pointer=pointer,
    )
    workshop.store.add(record)
    workshop.keep_whole(record.id, grab.whole)
    return record


def bring_frame(workshop: Workshop, data: bytes, source_id: str, title: str, scale_factor: float) -> FrameRecord:
    """Keep a frame that the browser took of a shared screen. Raises the errors of `decode`."""
    if len(data) > workshop.guards.file_bytes:
        raise InputTooHeavy(name=title or "frame", most_bytes=workshop.guards.file_bytes)
    picture = decode_foreign(data, title or "frame")
    # A PNG is kept as it came; encoding it once more would only cost time.
    blob = workshop.keep_frame(picture, data if PNG.is_in(data) and not picture.has_alpha else None)
    return _add_frame(workshop, source_id, picture.size, blob, scale_factor, title)


def keep_page(workshop: Workshop, source_id: str, picture: Picture, title: str, scale_factor: float) -> FrameRecord:
    """Keep a stitched page as a frame of its own."""
    return _add_frame(workshop, source_id, picture.size, workshop.keep_frame(picture), scale_factor, title)


def _add_frame(
    workshop: Workshop, source_id: str, size: Size, blob: str, scale_factor: float, title: str
) -> FrameRecord:
    box = Rect.whole(size)
    record = FrameRecord(
        id=workshop.new_id(),
        source=source_id,
        blob=blob,
        original=None,
        width=size.width,
        height=size.height,
        scale_factor=scale_factor,
        windows=(WindowBox("whole", title, box, 0, box),) if title else (),
        taken_at=workshop.now(),
        monitors=(Monitor("whole", title or "Shared screen", box, scale_factor),),
    )
    workshop.store.add(record)
    return record


def panes(workshop: Workshop, frame_id: str) -> list[Rect]:
    """The panes of a frame, the smallest first. Raises `NotFound`."""
    frame = workshop.store.find(FrameRecord, frame_id)
    # The same pixels have the same panes.
    return workshop.panes.get(frame.blob, lambda: find_panes(workshop.frame_pixels(frame)))


def weigh_area(workshop: Workshop, frame_id: str, area: Rect) -> int:
    """What a cut of this area would weigh in a document, before it is taken. Raises `NotFound`, `AreaOutside`."""
    frame = workshop.store.find(FrameRecord, frame_id)
    clipping = Clipping.uncropped(frame.size, area, frame.scale_factor_of(area))
    return workshop.pictures.first_rendition(_record("", frame, clipping.area, CutKind.REGION, "", "")).bytes


def take(
    workshop: Workshop, frame_id: str, cut: Cut, name: str | None = None, as_id: str | None = None
) -> ClippingRecord:
    """Cut something out of a frame and hang it on the rack.

    `as_id` is an id that the caller made: asked twice with the same one, as after a broken connection, it is taken once.
    Raises `NotFound`, `AreaOutside`, `AreaEmpty`, `WindowForgotten`.
    """
    known = None if as_id is None else _known(workshop, as_id)
    if known is not None:
        return known
    frame = workshop.store.find(FrameRecord, frame_id)
    window = _window(frame, cut)
    if window is not None and window.is_whole:
        asked, frame = frame, frame_of_window(workshop, frame, window)
        area = frame.windows[0].content if cut.content_only else frame.windows[0].box
        shift = (window.box.x, window.box.y)
    else:
        asked, shift, area = frame, (0, 0), _area(frame, cut, window)
    if area is None:
        raise AreaEmpty(width=0, height=0)
    Clipping.uncropped(frame.size, area, 1)
    shown = window or window_under(area, frame.windows)
    now = workshop.now()
    record = _record(
        as_id or workshop.new_id(),
        frame,
        area,
        cut.kind,
        name or "",
        now,
    )
    record = replace(record, window=shown.title if shown else None, found_as=found_as(workshop, now))
    if cut.outline is not None:
        outline = Outline.drawn(list(cut.outline), frame.size)
        record = replace(record, outline=outline.shifted(-area.x, -area.y).points)
    if cut.pointer and asked.pointer is not None:
        at = (asked.pointer.x - shift[0] - area.x, asked.pointer.y - shift[1] - area.y)
        record = replace(record, pointer_x=at[0], pointer_y=at[1])
    with workshop.store.change("Take") as change:
        # Asked twice at once, or named like another that comes in the same moment: told apart in one step.
        known = None if as_id is None else _known(workshop, as_id)
        if known is not None:
            return known
        if name is None:
            record = replace(record, name=free_name(workshop, shown.title if shown else "Screen", now))
        change.label = f"Take {record.name}"
        record = change.save(record)
    _remember(workshop, asked, cut, area)
    return record


def _known(workshop: Workshop, clipping_id: str) -> ClippingRecord | None:
    try:
        return workshop.store.find(ClippingRecord, clipping_id)
    except NotFound:
        return None


def _window(frame: FrameRecord, cut: Cut) -> WindowBox | None:
    if cut.kind is not CutKind.WINDOW or cut.window is None:
        return None
    window = next((each for each in frame.windows if each.id == cut.window), None)
    if window is None:
        raise NotFound(what="window", key=cut.window)
    return window


def _area(frame: FrameRecord, cut: Cut, window: WindowBox | None) -> Rect | None:
    if window is not None:
        return (window.content or window.box) if cut.content_only else window.box
    if cut.outline is not None:
        return Outline.drawn(list(cut.outline), frame.size).bounds
    return cut.area


def frame_of_window(workshop: Workshop, frame: FrameRecord, window: WindowBox) -> FrameRecord:
    """A frame that shows one covered window whole, made of the picture that the source gave of it."""
    picture = workshop.whole_window(frame, window)
    pointer = frame.pointer
    record = FrameRecord(
        id=workshop.new_id(),
        source=frame.source,
        blob=workshop.keep_frame(picture),
        original=None,
        width=picture.size.width,
        height=picture.size.height,
        scale_factor=frame.scale_factor_of(window.box),
        windows=(by_itself(window, picture.size),),
        taken_at=frame.taken_at,
        pointer=None if pointer is None else replace(pointer, x=pointer.x - window.box.x, y=pointer.y - window.box.y),
    )
    workshop.store.add(record)
    return record


def changed_since(workshop: Workshop, frame_id: str) -> str | None:
    """What to say when the screen has another size now than on the frame; None when it has not."""
    frame = workshop.store.find(FrameRecord, frame_id)
    source = workshop.sources.get(frame.source)
    if source is None or (frame.monitors and frame.monitors[0].id == "whole"):
        return None
    now = source.look().size
    if now == frame.size:
        return None
    return f"The screen is {now} px now; the clipping shows it as it was frozen, {frame.size} px."


# The last area


def _remember(workshop: Workshop, frame: FrameRecord, cut: Cut, area: Rect) -> None:
    title = next((each.title for each in frame.windows if each.id == cut.window), None)
    kept: dict[str, object] = {
        "source": frame.source,
        "kind": cut.kind.value,
        "area": asdict(area),
        "outline": cut.outline,
    }
    kept |= {"window": cut.window, "title": title, "content_only": cut.content_only}
    if cut.kind is not CutKind.LONG_PAGE:
        workshop.store.remember(LAST_AREA, json.dumps(kept))


def last_area(workshop: Workshop, frame_id: str) -> LastArea | None:
    """The last cut, on this frame: the same area, or the same window wherever it stands now; None before the first.

    Raises `NotFound`, also where that window is not open any more.
    """
    kept = workshop.store.setting(LAST_AREA)
    frame = workshop.store.find(FrameRecord, frame_id)
    if kept is None:
        return None
    last = json.loads(kept)
    kind, outline = CutKind(last["kind"]), last["outline"]
    if kind is CutKind.WINDOW and last["window"] is not None:
        same = [each for each in frame.windows if each.id == last["window"]]
        alike = same or [each for each in frame.windows if each.title == last["title"]]
        if not alike:
            raise NotFound(what="open window", key=last["title"])
        window = alike[0]
        area = (window.content or window.box) if last["content_only"] else window.box
        return LastArea(kind, area, None, window.id, last["content_only"], None)
    area = Rect(**last["area"])
    points = None if outline is None else tuple((x, y) for x, y in outline)
    if area.lies_within(frame.size):
        return LastArea(kind, area, points, None, last["content_only"], None)
    part = area.within(frame.size)
    note = f"The last area, {area}, does not lie on this screen of {frame.size} px; this is the part that does."
    return None if part is None else LastArea(CutKind.REGION, part, None, None, content_only=False, note=note)


# Pictures from elsewhere


def bring_in(workshop: Workshop, data: bytes, file_name: str, crop: Crop = WHOLE) -> ClippingRecord:
    """Hang a picture that was made elsewhere on the rack, cropped as it was shown there; its file is kept as it came.

    Raises `InputTooHeavy` and the errors of `decode`.
    """
    if not data:
        raise InputEmpty(name=file_name)
    if len(data) > workshop.guards.file_bytes:
        raise InputTooHeavy(name=file_name, most_bytes=workshop.guards.file_bytes)
    picture = decode_foreign(data, file_name)
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
    now = workshop.now()
    record = _record(workshop.new_id(), frame, Rect.whole(picture.size), CutKind.PICTURE, "", now)
    record = replace(record, found_as=found_as(workshop, now)).cropped_to(crop.rectangle(picture.size))
    workshop.store.add(frame)
    with workshop.store.change("Bring in") as change:
        record = replace(record, name=free_name(workshop, stem or "Picture", now, pattern="{window}"))
        change.label = f"Bring in {record.name}"
        return change.save(record)


def _record(id_: str, frame: FrameRecord, area: Rect, kind: CutKind, name: str, taken_at: str) -> ClippingRecord:
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
        kind=kind.value,
        window=None,
        scale_factor=frame.scale_factor_of(area),
    )
