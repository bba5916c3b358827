"""The mat: what is done to a clipping, mark by mark, and what becomes of it in its place."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Query
from fastapi.responses import HTMLResponse, Response

from tijera.core.imaging.encode import encode_png
from tijera.records import ClippingRecord
from tijera.usecases import consent, edits, looking, placing, readability, standings, trimming
from tijera.usecases.trimming import Place
from tijera.usecases.workshop import Workshop
from tijera.web import base
from tijera.web.deps import PICTURE, WorkshopDep, png
from tijera.web.guard import OTHERS_POLICY
from tijera.web.router import api_router
from tijera.web.trim import schemas as trim_schemas
from tijera.web.trim import wire as trim_wire
from tijera.web.trim.edits import edit_of

router = api_router("mat")


class Where:
    """Where the clipping stands or would stand: a placement, else a spot of a destination, else natural size."""

    def __init__(
        self,
        placement: Annotated[str | None, Query(max_length=64)] = None,
        destination: Annotated[str | None, Query(max_length=64)] = None,
        spot: Annotated[str | None, Query(max_length=400)] = None,
    ) -> None:
        self.placement, self.destination, self.spot = placement, destination, spot

    def place(self, workshop: Workshop, record: ClippingRecord) -> Place:
        """What it measures there."""
        return trimming.place_of(workshop, record, self.placement, self.destination, self.spot)


WhereDep = Annotated[Where, Depends()]


@router.get("/marks/kinds")
def kinds(workshop: WorkshopDep) -> trim_schemas.KindsOut:
    """Every kind of mark with its options, as they were set last."""
    return trim_wire.all_kinds(workshop)


@router.get("/clippings/{clipping}/sheet")
def sheet(clipping: str, where: WhereDep, workshop: WorkshopDep) -> trim_schemas.SheetOut:
    """A clipping as it lies on the mat."""
    record = looking.clipping(workshop, clipping)
    return trim_wire.sheet(workshop, record, where.place(workshop, record))


@router.post("/clippings/{clipping}/edits")
def edit(clipping: str, body: trim_schemas.EditIn, where: WhereDep, workshop: WorkshopDep) -> trim_schemas.SheetOut:
    """Make one change and get the new view."""
    edited = edits.make(workshop, clipping, body.version, edit_of(body.edit))
    return trim_wire.sheet(workshop, edited.record, where.place(workshop, edited.record), list(edited.added))


@router.post("/clippings/{clipping}/history/undo")
def undo(clipping: str, where: WhereDep, workshop: WorkshopDep) -> trim_schemas.SheetOut:
    """Take the last change of this clipping back and get the new view."""
    looking.undo(workshop, clipping)
    return sheet(clipping, where, workshop)


@router.post("/clippings/{clipping}/history/redo")
def redo(clipping: str, where: WhereDep, workshop: WorkshopDep) -> trim_schemas.SheetOut:
    """Make the last undone change of this clipping again and get the new view."""
    looking.redo(workshop, clipping)
    return sheet(clipping, where, workshop)


@router.get("/clippings/{clipping}/sent.png", response_class=Response, responses=PICTURE)
def sent(
    clipping: str,
    where: WhereDep,
    workshop: WorkshopDep,
    scale: Annotated[float | None, Query(ge=0.01, le=8, description="another scale, before it is set")] = None,
) -> Response:
    """The finished picture as it leaves: the very bytes of its placement, else as PNG for its place."""
    record = looking.clipping(workshop, clipping)
    if scale is not None:
        return png(encode_png(trimming.preview_scaled(workshop, record, scale), 6), forever=True)
    if where.placement is not None:
        standing = standings.standing(workshop, looking.placement(workshop, where.placement))
        data, extension = placing.rendition_bytes(workshop, standing)
        return png(data, forever=True, extension=extension)
    place = where.place(workshop, record)
    return png(encode_png(workshop.pictures.finished(record, place.px_per_pt), 6), forever=True)


@router.get("/clippings/{clipping}/copy.html", response_class=HTMLResponse)
def copy(clipping: str, where: WhereDep, workshop: WorkshopDep) -> HTMLResponse:
    """The clipping for a clipboard: with the size that it has where it stands or would stand, else its natural one."""
    record = looking.clipping(workshop, clipping)
    html = trimming.as_html(workshop, record, where.place(workshop, record))
    return HTMLResponse(html, headers={"Content-Security-Policy": OTHERS_POLICY, "Cache-Control": "no-store"})


@router.get("/clippings/{clipping}/smallest-text")
def smallest_text(clipping: str, where: WhereDep, workshop: WorkshopDep) -> trim_schemas.SmallestOut:
    """The smallest text on it as placed, and what would help."""
    record = looking.clipping(workshop, clipping)
    destination, spot = None, None
    if where.placement is not None:
        standing = standings.standing(workshop, looking.placement(workshop, where.placement))
        destination = looking.destination(workshop, standing.record.destination)
        spot = standing.spot
    elif where.destination is not None and where.spot is not None:
        destination = looking.destination(workshop, where.destination)
        spot = trimming.spot_of(workshop, where.destination, where.spot)
    found = readability.readable(workshop, record, where.place(workshop, record), destination, spot)
    return trim_wire.smallest(found)


@router.get("/clippings/{clipping}/suggestions")
def suggestions(
    clipping: str, workshop: WorkshopDep, *, panes: Annotated[bool, Query()] = False
) -> trim_schemas.SuggestedOut:
    """Crops that can be taken at once; with panes, which take longer."""
    found = trimming.suggest_crops(workshop, clipping, with_panes=panes)
    return trim_schemas.SuggestedOut(
        border=None if found.border is None else base.RectWire.of(found.border),
        marks=None if found.marks is None else base.RectWire.of(found.marks),
        panes=[base.RectWire.of(each) for each in found.panes],
    )


@router.post("/clippings/{clipping}/parts", status_code=201)
def part(clipping: str, body: trim_schemas.PartsIn, workshop: WorkshopDep) -> trim_schemas.MadeOut:
    """Make clippings of parts of it."""
    made = trimming.part(workshop, clipping, [each.rect() for each in body.areas])
    return trim_schemas.MadeOut(clippings=[record.id for record in made])


@router.post("/clippings/joins", status_code=201)
def join(body: trim_schemas.JoinIn, workshop: WorkshopDep) -> trim_schemas.MadeOut:
    """Join several into one."""
    return trim_schemas.MadeOut(clippings=[trimming.join(workshop, body.clippings, stacked=body.stacked).id])


@router.put("/clippings/{clipping}/consent", status_code=204)
def allow(clipping: str, body: trim_schemas.ConsentIn, workshop: WorkshopDep) -> None:
    """Let words from the window's title leave, or keep them here."""
    consent.allow(workshop, clipping, allowed=body.allowed)
