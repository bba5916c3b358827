"""The rack: bringing pictures in, showing, naming, cropping, removing and saving clippings."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response

from tijera.core.geometry import Size
from tijera.core.imaging.kinds import PNG
from tijera.core.units import parse_limit
from tijera.usecases import clearing, looking, placing, rack, reading, saving, standings, taking
from tijera.web import base
from tijera.web.deps import PICTURE, RAW_BODY, ServicesDep, WorkshopDep, png
from tijera.web.hand_over import schemas as hand_over_schemas
from tijera.web.hand_over import wire as hand_over_wire
from tijera.web.rack import schemas as rack_schemas
from tijera.web.rack import wire as rack_wire
from tijera.web.router import api_router

router = api_router("clippings", "/clippings")
_MOST_NAMES = 5
FoundAnswer = rack_schemas.FoundOut | None


@router.post("", status_code=201, openapi_extra=RAW_BODY)
async def bring_in(
    request: Request, workshop: WorkshopDep, name: Annotated[str, Query(max_length=300)] = "picture"
) -> base.TakenOut:
    """Bring in a picture that was made elsewhere; its bytes are the body."""
    data = await request.body()
    record = await run_in_threadpool(taking.bring_in, workshop, data, name)
    return base.TakenOut(clipping=record.id, name=record.name, placement=None)


@router.get("")
def find(
    services: ServicesDep,
    words: Annotated[str, Query(max_length=200)] = "",
    first: Annotated[int, Query(ge=0)] = 0,
    most: Annotated[int, Query(ge=1, le=500)] = 100,
    round: Annotated[str | None, Query(max_length=40)] = None,  # noqa: A002  (the address names it)
) -> rack_schemas.RackOut:
    """A page of the rack, the newest first; with words only what has them all: in its name, window, day, on its picture, or in the files where it stands.

    Rounds are one slip; with `round` what they have taken is listed one by one.
    """
    workshop = services.workshop
    page = looking.rack(workshop, words, first, most, round)
    shown = reading.found_on(workshop, [each.id for each in page.slips], words)
    slips = [rack_wire.slip(workshop, each, shown.get(each.id)) for each in page.slips]
    return rack_schemas.RackOut.model_construct(
        slips=slips,
        first=first,
        found=page.found,
        count=page.count,
        reads_words=services.reader is not None,
        unread=reading.unread(workshop) if words else 0,
    )


@router.post("/removals", status_code=204)
def remove_several(body: rack_schemas.RemoveIn, workshop: WorkshopDep) -> None:
    """Take several off the rack at once."""
    rack.remove(workshop, body.clippings)


@router.get("/clearing")
def may_go(workshop: WorkshopDep, older_days: Annotated[int, Query(ge=0, le=36_500)] = 30) -> rack_schemas.ClearingOut:
    """What may go: clippings that stand nowhere, are not pinned, and are older than so many days; nothing is removed."""
    return _clearing(clearing.may_go(workshop, older_days))


@router.post("/clearing")
def clear_out(body: rack_schemas.ClearIn, workshop: WorkshopDep) -> rack_schemas.ClearingOut:
    """Take them off the rack, as one change that can be undone until it is emptied."""
    return _clearing(clearing.clear_out(workshop, body.older_days))


@router.delete("/clearing")
def empty(workshop: WorkshopDep) -> base.BytesOut:
    """Forget what was cleared out: nothing brings it back, and its bytes are freed."""
    return base.BytesOut(bytes=clearing.empty(workshop))


@router.delete("/removed")
def forget_removed(workshop: WorkshopDep) -> rack_schemas.ForgottenOut:
    """Forget all that undo could bring back: what was removed is gone from every file, and undo begins here."""
    gone = clearing.forget_removed(workshop)
    return rack_schemas.ForgottenOut(changes=gone.changes, bytes=gone.bytes)


def _clearing(found: clearing.Clearing) -> rack_schemas.ClearingOut:
    names = [each.name for each in found.clippings[:_MOST_NAMES]]
    return rack_schemas.ClearingOut(count=len(found.clippings), names=names, bytes=found.bytes)


@router.get("/{clipping}")
def show(clipping: str, workshop: WorkshopDep) -> rack_schemas.ClippingOut:
    """A clipping."""
    return rack_wire.clipping(workshop, looking.clipping(workshop, clipping))


@router.put("/{clipping}/pointer", status_code=204)
def pointer(clipping: str, body: rack_schemas.PointerIn, workshop: WorkshopDep) -> None:
    """Show, hide or move the pointer on it."""
    at = None if body.at is None else (body.at.x, body.at.y)
    rack.show_pointer(workshop, clipping, at, shown=body.shown)


@router.get("/{clipping}/found")
def found(clipping: str, workshop: WorkshopDep, words: Annotated[str, Query(max_length=200)] = "") -> FoundAnswer:
    """Where words stand on its finished picture; null where none does, or it has yet to be read."""
    looking.clipping(workshop, clipping)
    there = reading.found_on(workshop, [clipping], words).get(clipping)
    return None if there is None else rack_wire.shown(there)


@router.get("/{clipping}/thumbnail.png", response_class=Response, responses=PICTURE)
def thumbnail(clipping: str, workshop: WorkshopDep) -> Response:
    """Its small picture, made once; the address carries `v`, its version."""
    return png(rack.thumbnail(workshop, clipping), forever=True)


@router.patch("/{clipping}", status_code=204)
def rename(clipping: str, body: rack_schemas.RenameIn, workshop: WorkshopDep) -> None:
    """Give it another name."""
    rack.rename(workshop, clipping, body.name)


@router.put("/{clipping}/crop", status_code=204)
def crop(clipping: str, body: base.RectWire, workshop: WorkshopDep) -> None:
    """Crop it."""
    rack.crop(workshop, clipping, body.rect())


@router.delete("/{clipping}", status_code=204)
def remove(clipping: str, workshop: WorkshopDep) -> None:
    """Take it off the rack."""
    rack.remove(workshop, [clipping])


@router.get("/{clipping}/picture.png", response_class=Response, responses=PICTURE)
def picture(
    clipping: str,
    workshop: WorkshopDep,
    most: Annotated[int | None, Query(ge=16, le=20_000)] = None,
    *,
    whole: Annotated[bool, Query(description="without its crop, for the mat")] = False,
) -> Response:
    """Its picture; an address with `v` (its version) may be kept."""
    return png(rack.show(workshop, clipping, Size(most, most) if most else None, whole_area=whole), forever=True)


@router.get("/{clipping}/weight")
def weigh(clipping: str, workshop: WorkshopDep, placement: Annotated[str | None, Query()] = None) -> base.BytesOut:
    """What it weighs in a document: as it stands in a placement, else before anything is given up."""
    if placement is not None:
        standing = standings.standing(workshop, looking.placement(workshop, placement))
        return base.BytesOut(bytes=len(placing.rendition_bytes(workshop, standing)[0]))
    return base.BytesOut(bytes=workshop.pictures.first_rendition(looking.clipping(workshop, clipping)).bytes)


@router.put("/{clipping}/pin", status_code=204)
def pin(clipping: str, body: rack_schemas.PinIn, workshop: WorkshopDep) -> None:
    """Keep it on top of the rack, or let it go."""
    rack.pin(workshop, clipping, pinned=body.pinned)


@router.post("/saves", status_code=201)
def save_many(body: rack_schemas.SaveManyIn, workshop: WorkshopDep) -> hand_over_schemas.HandoverOut:
    """Save several as one .zip, each under its own name."""
    return hand_over_wire.handover(saving.save_many(workshop, body.clippings, body.format))


@router.post("/{clipping}/saves", status_code=201)
def save(clipping: str, body: base.SaveIn, workshop: WorkshopDep) -> hand_over_schemas.HandoverOut:
    """Save it as a file, which can then be downloaded."""
    wish = None
    if (body.share, body.density_ppi, body.limit) != (None, None, None):
        limit = None if body.limit is None else parse_limit(body.limit)
        wish = saving.SaveWish(body.share or 1.0, body.density_ppi, limit)
    saved = saving.save(workshop, clipping, body.format, wish, body.name)
    return hand_over_wire.handover(saving.note_saved(workshop, saved))


@router.get("/{clipping}/save-proposal")
def save_proposal(
    clipping: str,
    workshop: WorkshopDep,
    share: Annotated[float | None, Query(ge=0.01, le=8)] = None,
) -> base.SaveProposalOut:
    """What saving it would give: of so many of its pixels, else of as many as the last time."""
    last = saving.remembered(workshop)
    proposal = saving.propose(workshop, clipping, last if share is None else replace(last, share=share))
    return base.SaveProposalOut(
        name=proposal.name,
        format="png" if proposal.kind is PNG else "jpg",
        width_px=proposal.size.width,
        height_px=proposal.size.height,
        density_ppi=proposal.density_ppi,
        density_chosen=proposal.wish.density_ppi is not None,
        share=proposal.wish.share,
        limit_bytes=proposal.wish.limit_bytes,
        png_bytes=len(proposal.png.data),
        jpeg_bytes=len(proposal.jpeg.data),
        jpeg_smears=proposal.jpeg.smears,
    )
