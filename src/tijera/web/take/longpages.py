"""Long pages: strips that are joined while somebody scrolls, and how far a page has come."""

from __future__ import annotations

from fastapi import Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response

from tijera.usecases import longpages
from tijera.web.deps import PICTURE, RAW_BODY, ServicesDep, png
from tijera.web.router import api_router
from tijera.web.take import schemas as take_schemas
from tijera.web.take import wire as take_wire

router = api_router("long pages", "/long-pages")


@router.post("", status_code=201)
def begin(body: take_schemas.LongPageIn, services: ServicesDep) -> take_schemas.LongPageOut:
    """Begin a page that somebody scrolls by hand."""
    area = None if body.area is None else body.area.rect()
    page = longpages.begin(services.workshop, services.long_pages, body.source, body.title, body.scale_factor, area)
    return take_schemas.LongPageOut(id=page.id, height=0)


@router.post("/{page}/strips", status_code=201, openapi_extra=RAW_BODY)
async def add_strip(page: str, request: Request, services: ServicesDep) -> take_schemas.LongPageOut:
    """Join the next strip: its PNG is the body; an empty body lets the server take it from its own screen."""
    data = await request.body()
    found = services.long_pages.find(page)
    joined = await run_in_threadpool(longpages.add_strip, services.workshop, found, data or None)
    return take_schemas.LongPageOut(id=page, height=found.stitcher.height, joined=joined.value)


@router.get("/{page}/thumbnail.png", response_class=Response, responses=PICTURE)
def thumbnail(page: str, services: ServicesDep) -> Response:
    """What was joined so far, small."""
    return png(longpages.thumbnail(services.long_pages.find(page)))


@router.post("/{page}/finish", status_code=201)
def finish(page: str, services: ServicesDep) -> take_schemas.FrameOut:
    """Stop here: what was joined becomes a frame."""
    return take_wire.frame(longpages.finish(services.workshop, services.long_pages, services.long_pages.find(page)))


@router.delete("/{page}", status_code=204)
def drop(page: str, services: ServicesDep) -> None:
    """Forget it."""
    services.long_pages.drop(page)
