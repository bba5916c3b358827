"""Placements: how a clipping stands in its place, moved, replaced, taken out."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import Query
from fastapi.responses import Response

from tijera.core.packages.places.placed import Align, Layout, margin_of
from tijera.core.packages.places.spots import Stand
from tijera.core.units import Length
from tijera.usecases import looking, placing, standings
from tijera.web.deps import PICTURE, WorkshopDep, png
from tijera.web.place import schemas as place_schemas
from tijera.web.router import api_router

router = api_router("placements")


@router.patch("/placements/{placement}", status_code=204)
def adjust(placement: str, body: place_schemas.AdjustIn, workshop: WorkshopDep) -> None:
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


def _changed(layout: Layout, body: place_schemas.LayoutIn) -> Layout:
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
def set_alike(placement: str, body: place_schemas.AlikeIn, workshop: WorkshopDep) -> None:
    """Give it the scale of another one, and of all that have that scale already; or a scale of its own."""
    placing.set_alike(workshop, placement, body.placement)


@router.delete("/placements/{placement}", status_code=204)
def take_out(placement: str, workshop: WorkshopDep) -> None:
    """Take a clipping out of its place."""
    placing.take_out(workshop, placement)


@router.get("/placements/{placement}/picture", response_class=Response, responses=PICTURE)
def picture(placement: str, workshop: WorkshopDep, as_taken: Annotated[bool, Query()] = False) -> Response:  # noqa: FBT002  (a value of the address)
    """The very bytes that would be written, or those before anything was given up; the address carries `v`, its version."""
    standing = standings.standing(workshop, looking.placement(workshop, placement))
    data, extension = (placing.as_taken if as_taken else placing.rendition_bytes)(workshop, standing)
    return png(data, forever=True, extension=extension)
