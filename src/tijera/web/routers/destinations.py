"""Documents: opening, outline, spot, limit, weight, placing, fitting, handing over."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import asdict
from pathlib import Path
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import HTMLResponse, Response

from tijera.core.errors import LimitUnreadable, NotFound
from tijera.core.geometry import Size
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_for_looking
from tijera.core.imaging.resize import shrink_to_fit
from tijera.core.packages.formats.eml.compose import Letter
from tijera.core.packages.formats.eml.shown import Arrival
from tijera.core.packages.formats.eml.shown import arrival as arrival_of
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.grid import GridCell, find_words
from tijera.core.packages.places.spots import WHOLE, Crop
from tijera.core.packages.registry import as_message, as_sheets, as_text, new_document, open_document
from tijera.core.units import parse_limit
from tijera.store.records import ClippingRecord, DestinationRecord
from tijera.usecases import destinations, fitting, letters, placing, versions, weighing
from tijera.usecases.workshop import Workshop
from tijera.web import schemas, take_schemas, wire
from tijera.web.guard import OTHERS_POLICY
from tijera.web.routers.deps import FOREVER, RAW_BODY, ServicesDep, WorkshopDep

router = APIRouter(prefix="/destinations", tags=["destinations"])
_MOST_ROWS = 1_000
_MESSAGE_STYLE = "body{margin:20px;background:#fff;color:#20282a;font:15px/1.5 sans-serif}"
_SHOWN_MOST = Size(1_200, 1_200)


@router.get("")
def opened(
    workshop: WorkshopDep,
    first: Annotated[int, Query(ge=0)] = 0,
    most: Annotated[int, Query(ge=1, le=500)] = 100,
) -> list[schemas.OpenedOut]:
    """A page of the documents that were opened, the last opened first."""
    every = workshop.store.destinations()[first : first + most]
    return [schemas.OpenedOut(id=each.id, name=each.name) for each in every]


@router.post("", status_code=201, openapi_extra=RAW_BODY)
async def open_file(
    request: Request,
    workshop: WorkshopDep,
    name: Annotated[str, Query(max_length=300)] = "document.docx",
    signed: Annotated[bool, Query()] = False,  # noqa: FBT002  (a value of the address)
) -> schemas.OpenedFileOut:
    """Open a document; its bytes are the body. `signed` accepts that a signature will no longer hold."""
    data = await request.body()
    record = await run_in_threadpool(lambda: destinations.open_destination(workshop, data, name, signed=signed))
    earlier = versions.earlier_version(workshop, record.id)
    return schemas.OpenedFileOut(
        id=record.id,
        name=record.name,
        earlier=None
        if earlier is None
        else schemas.EarlierOut(
            id=earlier.id,
            name=earlier.name,
            places=len(workshop.store.placements(earlier.id)),
            same=earlier.blob == record.blob,
        ),
    )


@router.post("/at", status_code=201)
def open_at(body: schemas.PathIn, workshop: WorkshopDep) -> schemas.OpenedOut:
    """Open a file by where it lies on this computer; it is followed from then on."""
    record = versions.open_path(workshop, Path(body.path))
    return schemas.OpenedOut(id=record.id, name=record.name)


@router.get("/{destination}/disk")
def on_disk(destination: str, workshop: WorkshopDep) -> schemas.OnDiskOut:
    """Whether the file on this computer is still the version that was read."""
    record = workshop.store.find(DestinationRecord, destination)
    state = versions.on_disk(workshop, record)
    return schemas.OnDiskOut(state=None if state is None else state.value, path=record.path)


@router.post("/{destination}/newer")
def take_over(destination: str, body: schemas.DestinationIn, workshop: WorkshopDep) -> schemas.RenewedOut:
    """Take over a newer version: another opened file, or with null the one on this computer as it is now."""
    if body.id is None:
        renewed = versions.take_over_from_disk(workshop, destination)
    else:
        renewed = versions.take_over(workshop, destination, body.id)
    lost = [schemas.LostOut(name=each.name, after_text=each.after_text) for each in renewed.lost]
    return schemas.RenewedOut(found=renewed.found, already=renewed.already, lost=lost)


@router.post("/{destination}/write-back")
def write_back(destination: str, workshop: WorkshopDep) -> schemas.BytesOut:
    """Write the copy over the file on this computer, if it is still the version that was read."""
    return schemas.BytesOut(bytes=versions.write_back(workshop, destination))


@router.post("/example", status_code=201)
def open_example(body: schemas.ExampleIn, services: ServicesDep) -> schemas.OpenedOut:
    """Open one of the made-up files, fresh."""
    example = next((each for each in services.examples if each.name == body.name), None)
    if example is None:
        raise NotFound(what="example", key=body.name)
    record = destinations.open_destination(services.workshop, example.make(), example.name, example.limit_bytes)
    return schemas.OpenedOut(id=record.id, name=record.name)


@router.post("/letter", status_code=201)
def new_message(workshop: WorkshopDep) -> schemas.OpenedOut:
    """Begin a new message."""
    record = letters.new_message(workshop)
    return schemas.OpenedOut(id=record.id, name=record.name)


@router.post("/new", status_code=201)
def open_new(body: schemas.SaveIn, workshop: WorkshopDep) -> schemas.OpenedOut:
    """Begin with a new, empty file of a format."""
    name, data = new_document(body.format)
    record = destinations.open_destination(workshop, data, name)
    return schemas.OpenedOut(id=record.id, name=record.name)


@router.put("/current", status_code=204)
def switch(body: schemas.DestinationIn, workshop: WorkshopDep) -> None:
    """Work on another document, or on none."""
    destinations.switch_to(workshop, body.id)


@router.get("/{destination}/outline")
def outline(
    destination: str,
    workshop: WorkshopDep,
    first: Annotated[int, Query(ge=0)] = 0,
    most: Annotated[int | None, Query(ge=1)] = None,
) -> schemas.OutlineOut:
    """Its text and every place in it; of a long one a stretch, from one block of the body on."""
    record = workshop.store.find(DestinationRecord, destination)
    return wire.outline(as_text(destinations.document_of(workshop, record)), first, most)


@router.get("/{destination}/message")
def message(destination: str, workshop: WorkshopDep) -> schemas.MessageOut:
    """A message beside its text."""
    record = workshop.store.find(DestinationRecord, destination)
    return wire.message(as_message(destinations.document_of(workshop, record)), letters.letter_of(record))


@router.put("/{destination}/letter", status_code=204)
def write_letter(destination: str, body: schemas.LetterWire, workshop: WorkshopDep) -> None:
    """Change what a new message says."""
    letters.write_letter(workshop, destination, Letter(**body.model_dump()))


@router.get("/{destination}/arrival")
def arrival(destination: str, workshop: WorkshopDep) -> schemas.ArrivalOut:
    """How the message arrives, as it would be written now: where pictures show, and where they don't."""
    record = workshop.store.find(DestinationRecord, destination)
    written = placing.write_copy(workshop, record).written.data
    return wire.arrival(_arrives(workshop, record), hashlib.sha256(written).hexdigest()[:16])


@router.get("/{destination}/arrival/page", response_class=HTMLResponse)
def arrival_page(destination: str, workshop: WorkshopDep) -> HTMLResponse:
    """The message where pictures show, made safe, under a policy that lets nothing in or out."""
    record = workshop.store.find(DestinationRecord, destination)
    page = f"<!doctype html><title>Message</title><style>{_MESSAGE_STYLE}</style>{_arrives(workshop, record).html}"
    return HTMLResponse(page, headers={"Content-Security-Policy": OTHERS_POLICY, "Cache-Control": "no-store"})


def _arrives(workshop: Workshop, record: DestinationRecord) -> Arrival:
    written = placing.write_copy(workshop, record).written.data
    return arrival_of(as_message(open_document(written, record.name, workshop.guards_for(signed=record.unsigned))))


@router.get("/{destination}/grid")
def grid(destination: str, workshop: WorkshopDep) -> schemas.GridOut:
    """A spreadsheet's sheets with their measures; their cells are asked for as they come into view."""
    record = workshop.store.find(DestinationRecord, destination)
    return wire.grid(as_sheets(destinations.document_of(workshop, record)))


@router.get("/{destination}/cells")
def cells(
    destination: str,
    workshop: WorkshopDep,
    sheet: Annotated[int, Query(ge=0)],
    first: Annotated[int, Query(ge=0)],
    last: Annotated[int, Query(ge=0)],
) -> list[schemas.GridCellOut]:
    """The cells of some rows of a sheet that show something, a thousand rows at the most."""
    record = workshop.store.find(DestinationRecord, destination)
    found = sheets_cells(destinations.document_of(workshop, record), sheet, first, min(last, first + _MOST_ROWS))
    return [schemas.GridCellOut(**asdict(each)) for each in found]


@router.get("/{destination}/found-cell")
def found_cell(
    destination: str,
    workshop: WorkshopDep,
    words: Annotated[str, Query(max_length=200)],
    after: Annotated[str, Query(pattern=r"^([0-9]{1,7},){2}[0-9]{1,7}$")] | None = None,
) -> schemas.FoundCellOut | None:
    """The next cell that holds some words, from the one after (sheet, row, column); null where none does."""
    record = workshop.store.find(DestinationRecord, destination)
    begin = None if after is None else tuple(int(each) for each in after.split(","))
    grids = as_sheets(destinations.document_of(workshop, record)).grids
    found = find_words(grids, words, None if begin is None else (begin[0], begin[1], begin[2]))
    return None if found is None else schemas.FoundCellOut(sheet=found[0], row=found[1], column=found[2])


@router.get("/{destination}/spots/{spot:path}")
def spot(destination: str, spot: str, workshop: WorkshopDep) -> schemas.SpotOut:
    """One place by its name, such as some cells of a sheet."""
    record = workshop.store.find(DestinationRecord, destination)
    return wire.spot(destinations.document_of(workshop, record).spot(spot))


@router.get("/{destination}/media/{member:path}", response_class=Response)
def media(
    destination: str,
    member: str,
    workshop: WorkshopDep,
    crop: Annotated[str, Query(pattern=r"^[0-9.e-]{1,24}(,[0-9.e-]{1,24}){3}$")] = "0,0,0,0",
) -> Response:
    """A picture that stands in the document already, as it is cropped there: decoded and made anew for the galley."""
    record = workshop.store.find(DestinationRecord, destination)
    whole = decode(destinations.document_of(workshop, record).read(member), member)
    picture = shrink_to_fit(whole.cut(_crop(crop).rectangle(whole.size)), _SHOWN_MOST)
    data, kind = encode_for_looking(picture)
    return Response(data, media_type=kind.media_type, headers={"Cache-Control": FOREVER})


@router.post("/{destination}/media", status_code=201)
def take_out(destination: str, body: schemas.TakeOutIn, workshop: WorkshopDep) -> take_schemas.TakenOut:
    """Take a picture out of the document onto the rack: whole, with the crop that it has there."""
    taken = placing.take_picture(workshop, destination, body.member, Crop(**body.crop.model_dump()))
    return take_schemas.TakenOut(clipping=taken.id, name=taken.name, placement=None)


def sheets_cells(document: Document, sheet: int, first: int, last: int) -> Sequence[GridCell]:
    """The cells of rows `first` to `last`."""
    grids = as_sheets(document).grids
    if sheet >= len(grids):
        raise NotFound(what="sheet", key=sheet)
    return grids[sheet].cells_between(first, last)


def _crop(text: str) -> Crop:
    try:
        left, top, right, bottom = (min(max(float(each), 0.0), 1.0) for each in text.split(","))
    except ValueError:
        return WHOLE
    return Crop(left, top, right, bottom)


@router.put("/{destination}/spot", status_code=204)
def choose_spot(destination: str, body: schemas.SpotIn, workshop: WorkshopDep) -> None:
    """Choose the place that the next clipping goes to."""
    destinations.choose_spot(workshop, destination, body.spot)


@router.put("/{destination}/limit", status_code=204)
def set_limit(destination: str, body: schemas.LimitIn, workshop: WorkshopDep) -> None:
    """Say what the file may weigh."""
    destinations.set_limit(workshop, destination, None if body.limit is None else parse_limit(body.limit))


@router.get("/{destination}/weight")
def weigh(destination: str, workshop: WorkshopDep) -> schemas.WeightOut:
    """What the written copy weighs."""
    record = workshop.store.find(DestinationRecord, destination)
    return wire.weight(weighing.weigh(workshop, record), record.limit_bytes)


@router.post("/{destination}/placements", status_code=201)
def place(destination: str, body: schemas.PlaceIn, workshop: WorkshopDep) -> take_schemas.TakenOut:
    """Put a clipping at a spot; where it stands already it stays the one."""
    placed = placing.place(workshop, destination, body.clipping, body.spot, once=True)
    name = workshop.store.find(ClippingRecord, placed.clipping).name
    return take_schemas.TakenOut(clipping=placed.clipping, name=name, placement=placed.id)


@router.post("/{destination}/fit", status_code=202)
def fit(destination: str, services: ServicesDep) -> schemas.JobOut:
    """Make it fit: find renditions that bring the written copy under its limit."""
    record = services.workshop.store.find(DestinationRecord, destination)
    if record.limit_bytes is None:
        raise LimitUnreadable(text="no limit")
    limit = record.limit_bytes
    return schemas.JobOut(id=services.jobs.start(lambda: fitting.make_it_fit(services.workshop, record, limit)).id)


@router.post("/{destination}/handovers", status_code=201)
def hand_over(destination: str, workshop: WorkshopDep) -> schemas.HandoverOut:
    """Write the copy, which can then be downloaded."""
    return wire.handover(placing.hand_over(workshop, workshop.store.find(DestinationRecord, destination)))
