"""Taking clippings anew: looked at first, then put in the place of the old."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query
from fastapi.responses import Response

from tijera.core.imaging.encode import encode_frame
from tijera.usecases import retaking
from tijera.usecases.letters import called
from tijera.usecases.looking import destination as destination_of
from tijera.usecases.workshop import Workshop
from tijera.web import base
from tijera.web.deps import PICTURE, ServicesDep, png
from tijera.web.router import api_router
from tijera.web.take import schemas

router = api_router("anew")


@router.post("/clippings/{clipping}/looks", status_code=201)
def look(clipping: str, services: ServicesDep) -> schemas.LookOut:
    """Take the clipping's area on today's screen and compare; nothing changes yet."""
    return _look(services.workshop, retaking.look(services.workshop, services.looks, clipping))


@router.post("/destinations/{destination}/looks", status_code=202)
def look_at_all(destination: str, services: ServicesDep) -> base.JobOut:
    """The same for all clippings of a file; the job ends by saying which looks there are."""
    destination_of(services.workshop, destination)
    work = retaking.look_at_all
    return base.JobOut(id=services.jobs.start(lambda: work(services.workshop, services.looks, destination)).id)


@router.get("/looks")
def looks(ids: Annotated[str, Query(max_length=20_000)], services: ServicesDep) -> list[schemas.LookOut]:
    """Some looks, by their ids, parted by commas."""
    return [_look(services.workshop, services.looks.find(each)) for each in ids.split(",") if each]


@router.get("/looks/{look}/picture.png", response_class=Response, responses=PICTURE)
def picture(look: str, services: ServicesDep) -> Response:
    """The clipping as it would be."""
    after = services.looks.find(look).after
    return png(encode_frame(services.workshop.pictures.finished(after)))


@router.post("/looks/accepted", status_code=204)
def accept(body: schemas.AcceptIn, services: ServicesDep) -> None:
    """Put what was looked at in the place of the old; one undo brings all back."""
    retaking.accept(services.workshop, services.looks, body.looks, frozenset(body.keep_old_in))


def _look(workshop: Workshop, anew: retaking.Anew) -> schemas.LookOut:
    files = {each.destination for each in anew.places}
    return schemas.LookOut(
        id=anew.id,
        clipping=anew.before.id,
        name=anew.before.name,
        version=workshop.pictures.version_of(anew.before),
        width=anew.after.crop_width,
        height=anew.after.crop_height,
        old_width=anew.before.crop_width,
        old_height=anew.before.crop_height,
        share=anew.share,
        changed=anew.is_changed,
        marks_apart=list(anew.marks_apart),
        marks=len(workshop.pictures.sheet(anew.before).marks),
        places=[
            schemas.PlacedInOut(destination=each, name=called(destination_of(workshop, each))) for each in sorted(files)
        ],
    )
