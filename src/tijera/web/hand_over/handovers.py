"""What left: listed, and the very bytes again."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import quote

from fastapi import Query
from fastapi.responses import Response

from tijera.core.budget.say import Say
from tijera.usecases import fitting, handing_over, looking
from tijera.web.deps import WorkshopDep
from tijera.web.hand_over import schemas as hand_over_schemas
from tijera.web.hand_over import wire as hand_over_wire
from tijera.web.router import api_router

router = api_router("hand over")


@router.put("/placements/{placement}/say", status_code=204)
def say(placement: str, body: hand_over_schemas.SayIn, workshop: WorkshopDep) -> None:
    """Say what counts of a placed picture where its file has to become lighter: of it in all its places there."""
    fitting.say_of(workshop, placement, Say(body.say))


@router.get("/handovers")
def handovers(
    workshop: WorkshopDep,
    first: Annotated[int, Query(ge=0)] = 0,
    most: Annotated[int, Query(ge=1, le=500)] = 100,
) -> list[hand_over_schemas.HandoverOut]:
    """A page of what left, the last first."""
    return [hand_over_wire.handover(record) for record in looking.handovers(workshop, first, most)]


@router.get("/handovers/{handover}/file", response_class=Response)
def handover_file(
    handover: str,
    workshop: WorkshopDep,
    shown: Annotated[bool, Query()] = False,  # noqa: FBT002  (a value of the address)
) -> Response:
    """The very bytes that left: as a file, or a picture `shown` in the window."""
    record = looking.handover(workshop, handover)
    how = "inline" if shown and record.media_type.startswith("image/") else "attachment"
    disposition = f"{how}; filename*=UTF-8''{quote(record.name)}"
    headers = {"Content-Disposition": disposition, "Cache-Control": "no-store"}
    return Response(looking.kept_bytes(workshop, record.blob), media_type=record.media_type, headers=headers)


@router.post("/handovers/{handover}/openings", status_code=201)
def look_at(handover: str, workshop: WorkshopDep) -> hand_over_schemas.OpenedCopyOut:
    """Open a document, a spreadsheet or a message that left, as it left."""
    record = looking.handover(workshop, handover)
    return hand_over_wire.look(workshop, handing_over.look_at(workshop, record.blob, record.name))
