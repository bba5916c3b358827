"""Files found again, what happened, where a clipping stands."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated

from fastapi import Query

from tijera.records import Happening
from tijera.usecases import history
from tijera.usecases.workshop import Workshop
from tijera.web.deps import WorkshopDep
from tijera.web.history import schemas
from tijera.web.place import wire as place_wire
from tijera.web.router import api_router

router = api_router("history")

Words = Annotated[str, Query(max_length=200)]
Most = Annotated[int, Query(ge=1, le=500)]


@router.get("/works")
def works(
    workshop: WorkshopDep, words: Words = "", first: Annotated[int, Query(ge=0)] = 0, most: Most = 50
) -> list[schemas.WorkOut]:
    """A page of the files that were worked on, the last first; `words` are looked for in name, recipients, day and clippings."""
    return [_work(workshop, each) for each in history.works(workshop, words, first, most)]


def _work(workshop: Workshop, each: history.Work) -> schemas.WorkOut:
    return schemas.WorkOut(
        id=each.file.id,
        name=each.name,
        ending=each.ending,
        recipients=each.recipients,
        limit_bytes=each.file.limit_bytes,
        worked_at=each.file.worked_at,
        clippings=[
            schemas.ShownClippingOut(id=one.id, name=one.name, version=workshop.pictures.version_of(one))
            for one in each.clippings
        ],
        last=None if each.last is None else _happening(each.last),
    )


def _happening(each: Happening) -> schemas.HappeningOut:
    return schemas.HappeningOut.model_validate(asdict(each))


@router.get("/happenings")
def happenings(
    workshop: WorkshopDep,
    words: Words = "",
    before: Annotated[str, Query(max_length=40)] = "",
    clipping: Annotated[str | None, Query(max_length=40)] = None,
    destination: Annotated[str | None, Query(max_length=40)] = None,
    most: Most = 100,
) -> list[schemas.HappeningOut]:
    """What happened, the last first, from before a moment on: in all, to a clipping, or to a file."""
    found = history.happenings(workshop, words, before=before, clipping=clipping, destination=destination, most=most)
    return [_happening(each) for each in found]


@router.get("/clippings/{clipping}/places")
def places(clipping: str, workshop: WorkshopDep) -> list[schemas.StandsOut]:
    """Where a clipping stands now, in all files."""
    return [
        schemas.StandsOut(
            destination=each.file.id, name=each.name, placement=each.placement.id, spot=place_wire.spot(each.spot)
        )
        for each in history.places_of(workshop, clipping)
    ]
