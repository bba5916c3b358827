"""What a file weighs, its limit, making it fit, how a message arrives, writing the copy."""

from __future__ import annotations

import hashlib
from typing import Annotated

from fastapi import Query
from fastapi.responses import HTMLResponse, Response

from tijera.core.errors import LimitUnreadable
from tijera.core.imaging.encode import encode_frame
from tijera.core.packages.formats.eml.shown import Arrival
from tijera.core.packages.formats.eml.shown import arrival as arrival_of
from tijera.core.packages.registry import as_message, open_document
from tijera.core.units import parse_limit
from tijera.records import DestinationRecord
from tijera.usecases import comparing, fitting, limits, looking, placing, splitting, weighing
from tijera.usecases.workshop import Workshop
from tijera.web import base
from tijera.web.deps import PICTURE, ServicesDep, WorkshopDep, png
from tijera.web.guard import OTHERS_POLICY
from tijera.web.hand_over import schemas as hand_over_schemas
from tijera.web.hand_over import wire as hand_over_wire
from tijera.web.router import api_router

router = api_router("hand over", "/destinations")


_MESSAGE_STYLE = "body{margin:20px;background:#fff;color:#20282a;font:15px/1.5 sans-serif}"


@router.get("/{destination}/arrival")
def arrival(destination: str, workshop: WorkshopDep) -> hand_over_schemas.ArrivalOut:
    """How the message arrives, as it would be written now: where pictures show, and where they don't."""
    record = looking.destination(workshop, destination)
    written = placing.write_copy(workshop, record).written.data
    return hand_over_wire.arrival(_arrives(workshop, record), hashlib.sha256(written).hexdigest()[:16])


@router.get("/{destination}/arrival/page", response_class=HTMLResponse)
def arrival_page(destination: str, workshop: WorkshopDep) -> HTMLResponse:
    """The message where pictures show, made safe, under a policy that lets nothing in or out."""
    record = looking.destination(workshop, destination)
    page = f"<!doctype html><title>Message</title><style>{_MESSAGE_STYLE}</style>{_arrives(workshop, record).html}"
    return HTMLResponse(page, headers={"Content-Security-Policy": OTHERS_POLICY, "Cache-Control": "no-store"})


def _arrives(workshop: Workshop, record: DestinationRecord) -> Arrival:
    written = placing.write_copy(workshop, record).written.data
    return arrival_of(as_message(open_document(written, record.name, workshop.guards_for(signed=record.unsigned))))


@router.put("/{destination}/limit", status_code=204)
def set_limit(destination: str, body: hand_over_schemas.LimitIn, workshop: WorkshopDep) -> None:
    """Say what the file may weigh."""
    limits.set_limit(workshop, destination, None if body.limit is None else parse_limit(body.limit))


@router.get("/{destination}/weight")
def weigh(destination: str, workshop: WorkshopDep) -> hand_over_schemas.WeightOut:
    """What the written copy weighs."""
    record = looking.destination(workshop, destination)
    return hand_over_wire.weight(weighing.weigh(workshop, record), record.limit_bytes)


@router.get("/{destination}/weight/texts")
def texts(destination: str, workshop: WorkshopDep) -> list[hand_over_schemas.TextOnPictureOut]:
    """The smallest text on each picture of the written copy that has some, the heaviest pictures first."""
    record = looking.destination(workshop, destination)
    return [hand_over_wire.text_on_picture(each) for each in comparing.texts(workshop, record)]


@router.get("/{destination}/weighed/{member:path}", response_class=Response, responses=PICTURE)
def weighed_picture(
    destination: str,
    member: str,
    workshop: WorkshopDep,
    as_opened: Annotated[bool, Query()] = False,  # noqa: FBT002  (a value of the address)
) -> Response:
    """A picture of the file's own, pixel for pixel: as it is now, or as it was when the file was first opened."""
    record = looking.destination(workshop, destination)
    return png(encode_frame(comparing.own_picture(workshop, record, member, first=as_opened)))


@router.post("/{destination}/fit", status_code=202)
def fit(
    destination: str,
    services: ServicesDep,
    with_own: Annotated[bool, Query()] = False,  # noqa: FBT002  (a value of the address)
    only_propose: Annotated[bool, Query()] = False,  # noqa: FBT002
) -> base.JobOut:
    """Make it fit: find renditions that bring the written copy under its limit; with `with_own` the file's own pictures pay too.

    With `only_propose` nothing changes: the job ends by saying what would.
    """
    record = looking.destination(services.workshop, destination)
    if record.limit_bytes is None:
        raise LimitUnreadable(text="no limit")
    limit = record.limit_bytes
    work = fitting.propose if only_propose else fitting.make_it_fit
    run = services.side_by_side
    return base.JobOut(
        id=services.jobs.start(lambda: work(services.workshop, record, limit, run, with_own=with_own)).id
    )


@router.put("/{destination}/keeps-fitting", status_code=204)
def keeps_fitting(destination: str, body: hand_over_schemas.KeepsFittingIn, workshop: WorkshopDep) -> None:
    """Say whether clippings that are placed later are made to fit at once."""
    fitting.keep_fitting(workshop, destination, keeps=body.keeps_fitting)


@router.post("/{destination}/split", status_code=201)
def split(destination: str, body: hand_over_schemas.SplitIn, workshop: WorkshopDep) -> hand_over_schemas.SplitOut:
    """Make two messages of one: the placements named go to the second one, which says what the first one says."""
    return hand_over_schemas.SplitOut(second=splitting.split(workshop, destination, body.placements).id)


@router.post("/{destination}/handovers", status_code=201)
def hand_over(destination: str, workshop: WorkshopDep) -> hand_over_schemas.HandoverOut:
    """Write the copy, which can then be downloaded."""
    return hand_over_wire.handover(placing.hand_over(workshop, looking.destination(workshop, destination)))
