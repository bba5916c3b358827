"""Frozen screens: their pictures and panes, the weight of an area, cutting, the last area again."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response

from tijera.core.errors import NotFound
from tijera.core.frames.panes import cells_of
from tijera.core.imaging.encode import encode_frame
from tijera.usecases import destinations, looking, placing, taking
from tijera.web import base
from tijera.web.deps import PICTURE, RAW_BODY, WorkshopDep, png
from tijera.web.router import api_router
from tijera.web.take import schemas as take_schemas
from tijera.web.take import wire as take_wire

router = api_router("frames", "/frames")


@router.post("", status_code=201, openapi_extra=RAW_BODY)
async def bring(
    request: Request,
    workshop: WorkshopDep,
    scale_factor: Annotated[float, Query(gt=0, le=16)] = 1,
    name: Annotated[str, Query(max_length=200)] = "",
) -> take_schemas.FrameOut:
    """Bring in a frame that the browser took of a shared screen; its PNG is the body."""
    data = await request.body()
    return take_wire.frame(await run_in_threadpool(taking.bring_frame, workshop, data, "share", name, scale_factor))


@router.get("/{frame}")
def show(frame: str, workshop: WorkshopDep) -> take_schemas.FrameOut:
    """The facts of a frame."""
    return take_wire.frame(looking.frame(workshop, frame))


@router.get("/{frame}/picture.png", response_class=Response, responses=PICTURE)
def picture(frame: str, workshop: WorkshopDep) -> Response:
    """The whole bitmap."""
    return png(looking.kept_bytes(workshop, looking.frame(workshop, frame).blob), forever=True)


@router.get("/{frame}/pointer.png", response_class=Response, responses=PICTURE)
def pointer(frame: str, workshop: WorkshopDep) -> Response:
    """The pointer's own picture."""
    record = looking.frame(workshop, frame)
    if record.pointer is None:
        raise NotFound(what="pointer on the frame", key=frame)
    return png(looking.kept_bytes(workshop, record.pointer.blob), forever=True)


@router.get("/{frame}/windows/{window}.png", response_class=Response, responses=PICTURE)
def whole_window(frame: str, window: str, workshop: WorkshopDep) -> Response:
    """The whole picture of a window that was partly covered."""
    record = looking.frame(workshop, frame)
    box = next((each for each in record.windows if each.id == window), None)
    if box is None:
        raise NotFound(what="window", key=window)
    return png(encode_frame(workshop.whole_window(record, box)), forever=True)


@router.get("/{frame}/panes")
def panes(frame: str, workshop: WorkshopDep) -> take_schemas.PanesOut:
    """Rectangles found in the picture."""
    found = taking.panes(workshop, frame)
    cells = cells_of(found)
    return take_schemas.PanesOut(
        panes=[base.RectWire.of(each) for each in found if each not in cells],
        cells=[base.RectWire.of(each) for each in found if each in cells],
    )


@router.get("/{frame}/last-area")
def last_area(frame: str, workshop: WorkshopDep) -> take_schemas.LastAreaOut | None:
    """The last cut, found again on this frame; null before the first."""
    last = taking.last_area(workshop, frame)
    return None if last is None else take_wire.last_area(last)


@router.post("/{frame}/weight")
def weigh(frame: str, area: base.RectWire, workshop: WorkshopDep) -> base.BytesOut:
    """What a cut of this area would weigh."""
    return base.BytesOut(bytes=taking.weigh_area(workshop, frame, area.rect()))


@router.post("/{frame}/clippings", status_code=201)
def take(frame: str, body: take_schemas.TakeIn, workshop: WorkshopDep) -> base.TakenOut:
    """Cut an area and, when asked, land it in the chosen place."""
    cut = taking.Cut(
        kind=taking.CutKind(body.kind),
        area=None if body.area is None else body.area.rect(),
        outline=None if body.outline is None else tuple(body.outline),
        window=body.window,
        content_only=body.content_only,
        pointer=body.pointer,
    )
    taken = taking.take(workshop, frame, cut, body.name, body.id)
    note = taking.changed_since(workshop, frame)
    destination = destinations.shown(workshop, body.destination)
    if not body.place or destination is None or destination.spot is None:
        return base.TakenOut(clipping=taken.id, name=taken.name, placement=None, note=note)
    placed = placing.place(workshop, destination.id, taken.id, destination.spot, once=True)
    return base.TakenOut(clipping=taken.id, name=taken.name, placement=placed.id, note=note)
