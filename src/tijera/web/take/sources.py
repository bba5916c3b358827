"""Sources of frames: looking, handling their windows, freezing, long pages that scroll by themselves."""

from __future__ import annotations

from fastapi import Response

from tijera.core.frames.abilities import SOURCES
from tijera.core.imaging.encode import encode_frame
from tijera.usecases import longpages, taking
from tijera.web import base
from tijera.web.deps import PICTURE, ServicesDep, WorkshopDep, png
from tijera.web.router import api_router
from tijera.web.take import schemas as take_schemas
from tijera.web.take import wire as take_wire

router = api_router("sources", "/sources")


@router.get("")
def sources(workshop: WorkshopDep) -> list[take_schemas.SourceOut]:
    """Every kind of source, and what it can do."""
    out = []
    for id_ in SOURCES:
        why = workshop.unavailable.get(id_, "")
        out.append(take_wire.source(id_, available=not why, why_not=why))
    return out


@router.get("/{source}")
def look(source: str, workshop: WorkshopDep) -> take_schemas.LiveViewOut:
    """What the source shows now."""
    return take_wire.live_view(workshop.source(source).look())


@router.get("/{source}/ground.png", response_class=Response, responses=PICTURE)
def ground(source: str, workshop: WorkshopDep) -> Response:
    """The picture under all windows, or the whole screen; the address carries `v`, its version."""
    return png(encode_frame(workshop.source(source).ground()), forever=True)


@router.get("/{source}/menu.png", response_class=Response, responses=PICTURE)
def menu_picture(source: str, workshop: WorkshopDep) -> Response:
    """The open menu; the address carries `v`, its version."""
    return png(encode_frame(workshop.desktop(source).menu()), forever=True)


@router.get("/{source}/windows/{window}.png", response_class=Response, responses=PICTURE)
def window_picture(source: str, window: str, workshop: WorkshopDep) -> Response:
    """One window as it looks now; the address carries `v`, its version."""
    return png(encode_frame(workshop.desktop(source).window(window)), forever=True)


@router.post("/{source}/windows/{window}/raise")
def raise_window(source: str, window: str, workshop: WorkshopDep) -> take_schemas.LiveViewOut:
    """Bring a window to the top."""
    workshop.desktop(source).raise_window(window)
    return look(source, workshop)


@router.post("/{source}/windows/{window}/move")
def move_window(
    source: str, window: str, body: take_schemas.PointIn, workshop: WorkshopDep
) -> take_schemas.LiveViewOut:
    """Move a window's corner to a pixel of the screen."""
    workshop.desktop(source).move_window(window, body.x, body.y)
    return look(source, workshop)


@router.post("/{source}/windows/{window}/scroll")
def scroll(source: str, window: str, body: take_schemas.ScrollIn, workshop: WorkshopDep) -> take_schemas.LiveViewOut:
    """Scroll a window's content."""
    workshop.desktop(source).scroll(window, body.by_px)
    return look(source, workshop)


@router.post("/{source}/windows/{window}/menu")
def open_menu(source: str, window: str, body: take_schemas.MenuIn, workshop: WorkshopDep) -> take_schemas.LiveViewOut:
    """Open one of a window's menus, or close the one that is open."""
    workshop.desktop(source).open_menu(window, body.title)
    return look(source, workshop)


@router.post("/{source}/windows/{window}/long-page", status_code=201)
def long_page(source: str, window: str, services: ServicesDep) -> base.JobOut:
    """Scroll a window to its end and join what it shows; the job's id is the page's."""
    workshop = services.workshop
    workshop.desktop(source)
    job = services.jobs.start_rounded_off(
        lambda id_, stopped: longpages.scroll_through(workshop, services.long_pages, id_, source, window, stopped)
    )
    return base.JobOut(id=job.id)


@router.post("/{source}/frames", status_code=201)
def freeze(source: str, workshop: WorkshopDep, body: take_schemas.FreezeIn | None = None) -> take_schemas.FrameOut:
    """Freeze what the source shows."""
    if body is not None and body.pointer is not None:
        workshop.desktop(source).point(body.pointer.x, body.pointer.y)
    return take_wire.frame(taking.freeze(workshop, source))
