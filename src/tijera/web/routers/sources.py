"""Sources of frames: looking, raising, scrolling, freezing."""

from __future__ import annotations

from fastapi import APIRouter
from fastapi.responses import Response

from tijera.core.imaging.encode import encode_frame
from tijera.usecases import taking
from tijera.web import schemas, wire
from tijera.web.routers.deps import PICTURE, WorkshopDep, png

router = APIRouter(prefix="/sources/{source}", tags=["sources"])


@router.get("")
def look(source: str, workshop: WorkshopDep) -> schemas.LiveViewOut:
    """What the source shows now."""
    return wire.live_view(workshop.source(source).look())


@router.get("/ground.png", response_class=Response, responses=PICTURE)
def ground(source: str, workshop: WorkshopDep) -> Response:
    """The picture under all windows; the address carries `v`, its version."""
    return png(encode_frame(workshop.source(source).ground()), forever=True)


@router.get("/windows/{window}.png", response_class=Response, responses=PICTURE)
def window_picture(source: str, window: str, workshop: WorkshopDep) -> Response:
    """One window as it looks now; the address carries `v`, its version."""
    return png(encode_frame(workshop.source(source).window(window)), forever=True)


@router.post("/windows/{window}/raise")
def raise_window(source: str, window: str, workshop: WorkshopDep) -> schemas.LiveViewOut:
    """Bring a window to the top."""
    workshop.source(source).raise_window(window)
    return look(source, workshop)


@router.post("/windows/{window}/scroll")
def scroll(source: str, window: str, body: schemas.ScrollIn, workshop: WorkshopDep) -> schemas.LiveViewOut:
    """Scroll a window's content."""
    workshop.source(source).scroll(window, body.by_px)
    return look(source, workshop)


@router.post("/frames", status_code=201)
def freeze(source: str, workshop: WorkshopDep) -> schemas.FrameOut:
    """Freeze what the source shows."""
    return wire.frame(taking.freeze(workshop, source))
