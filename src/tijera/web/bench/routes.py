"""The bench as a whole, its history, its long work."""

from __future__ import annotations

import asyncio
import json
from collections.abc import AsyncIterator
from dataclasses import asdict
from typing import Annotated

from fastapi import Query
from fastapi.responses import Response
from sse_starlette import EventSourceResponse, ServerSentEvent

from tijera.core.budget.search import Progress
from tijera.usecases import looking
from tijera.usecases.fitting import Fitted, Proposed
from tijera.usecases.jobs import Job
from tijera.usecases.longpages import Growing, PageJoined
from tijera.usecases.retaking import LookedAt
from tijera.web.bench import schemas as bench_schemas
from tijera.web.bench import wire as bench_wire
from tijera.web.deps import ServicesDep, WorkshopDep
from tijera.web.problems import problem_of
from tijera.web.router import api_router

router = api_router("bench")


_POLL_SECONDS = 0.05


@router.get("/session")
def session() -> bench_schemas.SessionOut:
    """Who is signed in, where several people share the server; a server for one person asks nobody."""
    return bench_schemas.SessionOut(person=None)


@router.get("/bench")
def bench(
    services: ServicesDep,
    destination: Annotated[str | None, Query(max_length=64, description="the file that this window shows")] = None,
) -> bench_schemas.BenchOut:
    """All that lies on the bench, with the file that a window shows.

    Each window names its own; with an empty name it shows none, without one the file that was worked on last.
    """
    return bench_wire.bench(services.workshop, [each.name for each in services.examples], destination)


@router.post("/history/undo", status_code=204)
def undo(workshop: WorkshopDep) -> None:
    """Take the last change back."""
    looking.undo(workshop)


@router.post("/history/redo", status_code=204)
def redo(workshop: WorkshopDep) -> None:
    """Make the last undone change again."""
    looking.redo(workshop)


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
            elif isinstance(event, Fitted | Proposed | PageJoined | LookedAt):
                yield ServerSentEvent(json.dumps(asdict(event)), event="done")
                return
        if is_over:
            break
        await asyncio.sleep(_POLL_SECONDS)
    if job.error is not None:
        yield ServerSentEvent(json.dumps(problem_of(job.error)), event="refused")
    else:
        yield ServerSentEvent("{}", event="failed" if job.failed else "stopped")
