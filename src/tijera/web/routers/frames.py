"""Frozen screens: their pictures, the weight of an area, cutting."""

from __future__ import annotations

from fastapi import APIRouter
from fastapi.responses import Response

from tijera.store.records import FrameRecord
from tijera.usecases import placing, taking
from tijera.web import schemas, wire
from tijera.web.routers.deps import PICTURE, WorkshopDep, png

router = APIRouter(prefix="/frames/{frame}", tags=["frames"])


@router.get("")
def show(frame: str, workshop: WorkshopDep) -> schemas.FrameOut:
    """The facts of a frame."""
    return wire.frame(workshop.store.find(FrameRecord, frame))


@router.get("/picture.png", response_class=Response, responses=PICTURE)
def picture(frame: str, workshop: WorkshopDep) -> Response:
    """The whole bitmap."""
    return png(workshop.store.blobs.get(workshop.store.find(FrameRecord, frame).blob), forever=True)


@router.post("/weight")
def weigh(frame: str, area: schemas.RectWire, workshop: WorkshopDep) -> schemas.BytesOut:
    """What a cut of this area would weigh."""
    return schemas.BytesOut(bytes=taking.weigh_area(workshop, frame, area.rect()))


@router.post("/clippings", status_code=201)
def take(frame: str, body: schemas.TakeIn, workshop: WorkshopDep) -> schemas.TakenOut:
    """Cut an area and, when asked, land it in the chosen place."""
    taken = taking.take(workshop, frame, body.area.rect(), body.name)
    destination = placing.current(workshop)
    if not body.place or destination is None or destination.spot is None:
        return schemas.TakenOut(clipping=taken.id, placement=None)
    placed = placing.place(workshop, destination.id, taken.id, destination.spot)
    return schemas.TakenOut(clipping=taken.id, placement=placed.id)
