"""The bench as a whole, its history, its placements, what left it, its long work."""

from __future__ import annotations

import asyncio
import json
from collections.abc import AsyncIterator
from dataclasses import asdict, replace
from typing import Annotated
from urllib.parse import quote

from fastapi import APIRouter, Query
from fastapi.responses import Response
from sse_starlette import EventSourceResponse, ServerSentEvent

from tijera.core.budget.verdict import Progress
from tijera.core.packages.places.placed import Align, Layout, margin_of
from tijera.core.packages.places.spots import Stand
from tijera.core.units import Length
from tijera.store.records import HandoverRecord, PlacementRecord
from tijera.usecases import placing, standings
from tijera.usecases.fitting import Fitted
from tijera.usecases.jobs import Job
from tijera.usecases.longpages import Growing, PageJoined
from tijera.web import schemas, wire
from tijera.web.problems import problem_of
from tijera.web.routers.deps import PICTURE, ServicesDep, WorkshopDep, png

router = APIRouter(tags=["bench"])
_POLL_SECONDS = 0.05


@router.get("/bench")
def bench(
    services: ServicesDep,
    destination: Annotated[str | None, Query(max_length=64, description="the file that this window shows")] = None,
) -> schemas.BenchOut:
    """All that lies on the bench, with the file that a window shows.

    Each window names its own; with an empty name it shows none, without one the file that was worked on last.
    """
    return wire.bench(services.workshop, [each.name for each in services.examples], destination)


@router.post("/history/undo", status_code=204)
def undo(workshop: WorkshopDep) -> None:
    """Take the last change back."""
    workshop.store.undo()


@router.post("/history/redo", status_code=204)
def redo(workshop: WorkshopDep) -> None:
    """Make the last undone change again."""
    workshop.store.redo()


@router.patch("/placements/{placement}", status_code=204)
def adjust(placement: str, body: schemas.AdjustIn, workshop: WorkshopDep) -> None:
    """Change its width, its column, its words, how it stands; move it to another spot; put another clipping there."""
    wishes = body.layout
    placing.adjust(
        workshop,
        placement,
        width=None if body.width is None else placing.width_of(workshop, placement, body.width),
        place_width=None if body.place_width_emu is None else Length(body.place_width_emu),
        description=body.description,
        spot_id=body.spot,
        layout=None if wishes is None else (lambda layout: _changed(layout, wishes)),
        clipping_id=body.clipping,
        keeps_scale=body.keeps_scale is True,
    )


def _changed(layout: Layout, body: schemas.LayoutIn) -> Layout:
    """A layout with what was given; what was left out stays."""
    given = {name: value for name, value in body.model_dump(exclude={"margin"}).items() if value is not None}
    if "stand" in given:
        given["stand"] = Stand(given["stand"])
    if "align" in given:
        given["align"] = Align(given["align"])
    changed = replace(layout, **given)
    if body.margin is None:
        return changed
    return replace(changed, margin=None if body.margin == "usual" else margin_of(body.margin))


@router.put("/placements/{placement}/alike", status_code=204)
def set_alike(placement: str, body: schemas.AlikeIn, workshop: WorkshopDep) -> None:
    """Give it the scale of another one, and of all that have that scale already; or a scale of its own."""
    placing.set_alike(workshop, placement, body.placement)


@router.delete("/placements/{placement}", status_code=204)
def take_out(placement: str, workshop: WorkshopDep) -> None:
    """Take a clipping out of its place."""
    placing.take_out(workshop, placement)


@router.get("/placements/{placement}/picture", response_class=Response, responses=PICTURE)
def picture(placement: str, workshop: WorkshopDep) -> Response:
    """The very bytes that would be written; the address carries `v`, its version."""
    standing = standings.standing(workshop, workshop.store.find(PlacementRecord, placement))
    data, extension = placing.rendition_bytes(workshop, standing)
    return png(data, forever=True, extension=extension)


@router.get("/handovers")
def handovers(
    workshop: WorkshopDep,
    first: Annotated[int, Query(ge=0)] = 0,
    most: Annotated[int, Query(ge=1, le=500)] = 100,
) -> list[schemas.HandoverOut]:
    """A page of what left, the last first."""
    return [wire.handover(record) for record in workshop.store.handovers()[first : first + most]]


@router.get("/handovers/{handover}/file", response_class=Response)
def handover_file(handover: str, workshop: WorkshopDep) -> Response:
    """The very bytes that left."""
    record = workshop.store.find(HandoverRecord, handover)
    disposition = f"attachment; filename*=UTF-8''{quote(record.name)}"
    headers = {"Content-Disposition": disposition, "Cache-Control": "no-store"}
    return Response(workshop.store.blobs.get(record.blob), media_type=record.media_type, headers=headers)


@router.get("/jobs/{job}/events", response_class=Response)
def events(job: str, services: ServicesDep) -> EventSourceResponse:
    """A job's events (server-sent): `progress`, then one of `done`, `refused`, `stopped` or `failed`."""
    return EventSourceResponse(_events(services.jobs.find(job)))


@router.delete("/jobs/{job}", status_code=204)
def stop(job: str, services: ServicesDep) -> None:
    """Stop a job."""
    services.jobs.stop(job)


async def _events(job: Job) -> AsyncIterator[ServerSentEvent]:
    sent = 0
    while True:
        is_over = job.is_over
        while sent < len(job.events):
            event = job.events[sent]
            sent += 1
            if isinstance(event, Progress | Growing):
                yield ServerSentEvent(json.dumps(asdict(event)), event="progress")
            elif isinstance(event, Fitted | PageJoined):
                yield ServerSentEvent(json.dumps(asdict(event)), event="done")
                return
        if is_over:
            break
        await asyncio.sleep(_POLL_SECONDS)
    if job.error is not None:
        yield ServerSentEvent(json.dumps(problem_of(job.error)), event="refused")
    else:
        yield ServerSentEvent("{}", event="failed" if job.failed else "stopped")
