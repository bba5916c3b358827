"""What left: listed, and the very bytes again."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import quote

from fastapi import Query
from fastapi.responses import Response

from tijera.usecases import looking
from tijera.web.deps import WorkshopDep
from tijera.web.hand_over import schemas as hand_over_schemas
from tijera.web.hand_over import wire as hand_over_wire
from tijera.web.router import api_router

router = api_router("hand over")


@router.get("/handovers")
def handovers(
    workshop: WorkshopDep,
    first: Annotated[int, Query(ge=0)] = 0,
    most: Annotated[int, Query(ge=1, le=500)] = 100,
) -> list[hand_over_schemas.HandoverOut]:
    """A page of what left, the last first."""
    return [hand_over_wire.handover(record) for record in looking.handovers(workshop, first, most)]


@router.get("/handovers/{handover}/file", response_class=Response)
def handover_file(handover: str, workshop: WorkshopDep) -> Response:
    """The very bytes that left."""
    record = looking.handover(workshop, handover)
    disposition = f"attachment; filename*=UTF-8''{quote(record.name)}"
    headers = {"Content-Disposition": disposition, "Cache-Control": "no-store"}
    return Response(looking.kept_bytes(workshop, record.blob), media_type=record.media_type, headers=headers)
