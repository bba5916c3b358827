"""Documents: opening, newer versions, what they show, their places."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from pathlib import Path
from typing import Annotated

from fastapi import Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response

from tijera.core.errors import NotFound, NotShared
from tijera.core.geometry import Size
from tijera.core.imaging.decode import decode_foreign
from tijera.core.imaging.encode import encode_for_looking
from tijera.core.imaging.resize import shrink_to_fit
from tijera.core.packages.formats.eml.compose import Letter
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.grid import GridCell, find_words
from tijera.core.packages.places.spots import WHOLE, Crop
from tijera.core.packages.registry import as_message, as_sheets, as_text, new_document
from tijera.usecases import destinations, letters, looking, placing, versions, weighing
from tijera.web import base
from tijera.web.deps import FOREVER, RAW_BODY, ServicesDep, WorkshopDep
from tijera.web.place import schemas as place_schemas
from tijera.web.place import wire as place_wire
from tijera.web.router import api_router

router = api_router("destinations", "/destinations")


_MOST_ROWS = 1_000


_SHOWN_MOST = Size(1_200, 1_200)


@router.get("")
def opened(
    workshop: WorkshopDep,
    first: Annotated[int, Query(ge=0)] = 0,
    most: Annotated[int, Query(ge=1, le=500)] = 100,
) -> list[place_schemas.OpenedOut]:
    """A page of the documents that were opened, the last opened first."""
    every = looking.opened(workshop, first, most)
    return [place_schemas.OpenedOut(id=each.id, name=each.name) for each in every]


@router.post("", status_code=201, openapi_extra=RAW_BODY)
async def open_file(
    request: Request,
    workshop: WorkshopDep,
    name: Annotated[str, Query(max_length=300)] = "document.docx",
    signed: Annotated[bool, Query()] = False,  # noqa: FBT002  (a value of the address)
) -> place_schemas.OpenedFileOut:
    """Open a document; its bytes are the body. `signed` accepts that a signature will no longer hold."""
    data = await request.body()
    record = await run_in_threadpool(lambda: destinations.open_destination(workshop, data, name, signed=signed))
    earlier = versions.earlier_version(workshop, record.id)
    return place_schemas.OpenedFileOut(
        id=record.id,
        name=record.name,
        earlier=None
        if earlier is None
        else place_schemas.EarlierOut(
            id=earlier.id,
            name=earlier.name,
            places=looking.count_placed(workshop, earlier.id),
            same=earlier.blob == record.blob,
        ),
    )


@router.post("/at", status_code=201)
def open_at(body: place_schemas.PathIn, services: ServicesDep) -> place_schemas.OpenedOut:
    """Open a file by where it lies on this computer; it is followed from then on. Not where several people share the server."""
    if services.is_shared:
        raise NotShared(what="A file by its path")
    record = versions.open_path(services.workshop, Path(body.path))
    return place_schemas.OpenedOut(id=record.id, name=record.name)


@router.get("/{destination}/disk")
def on_disk(destination: str, workshop: WorkshopDep) -> place_schemas.OnDiskOut:
    """Whether the file on this computer is still the version that was read."""
    record = looking.destination(workshop, destination)
    state = versions.on_disk(workshop, record)
    return place_schemas.OnDiskOut(state=None if state is None else state.value, path=record.path)


@router.post("/{destination}/newer")
def take_over(destination: str, body: place_schemas.DestinationIn, workshop: WorkshopDep) -> place_schemas.RenewedOut:
    """Take over a newer version: another opened file, or with null the one on this computer as it is now."""
    if body.id is None:
        renewed = versions.take_over_from_disk(workshop, destination)
    else:
        renewed = versions.take_over(workshop, destination, body.id)
    lost = [place_schemas.LostOut(name=each.name, after_text=each.after_text) for each in renewed.lost]
    return place_schemas.RenewedOut(found=renewed.found, already=renewed.already, lost=lost)


@router.post("/{destination}/write-back")
def write_back(destination: str, workshop: WorkshopDep) -> base.BytesOut:
    """Write the copy over the file on this computer, if it is still the version that was read."""
    return base.BytesOut(bytes=versions.write_back(workshop, destination))


@router.post("/example", status_code=201)
def open_example(body: place_schemas.ExampleIn, services: ServicesDep) -> place_schemas.OpenedOut:
    """Open one of the made-up files, fresh."""
    example = next((each for each in services.examples if each.name == body.name), None)
    if example is None:
        raise NotFound(what="example", key=body.name)
    record = destinations.open_destination(services.workshop, example.make(), example.name, example.limit_bytes)
    return place_schemas.OpenedOut(id=record.id, name=record.name)


@router.post("/letter", status_code=201)
def new_message(services: ServicesDep, to: Annotated[str, Query(max_length=254)] = "") -> place_schemas.OpenedOut:
    """Begin a new message; `to` is the address of somebody who is saved: their subject and limit are filled in."""
    known = services.mailing.recipients(services.workshop) if services.mailing else ()
    recipient = next((each for each in known if each.address == to), None)
    if to and recipient is None:
        raise NotFound(what="recipient", key=to)
    record = letters.new_message(services.workshop, recipient)
    return place_schemas.OpenedOut(id=record.id, name=record.name)


@router.post("/new", status_code=201)
def open_new(body: base.SaveIn, workshop: WorkshopDep) -> place_schemas.OpenedOut:
    """Begin with a new, empty file of a format."""
    name, data = new_document(body.format)
    record = destinations.open_destination(workshop, data, name)
    return place_schemas.OpenedOut(id=record.id, name=record.name)


@router.put("/current", status_code=204)
def switch(body: place_schemas.DestinationIn, workshop: WorkshopDep) -> None:
    """Work on another document, or on none."""
    destinations.switch_to(workshop, body.id)


@router.get("/{destination}/outline")
def outline(
    destination: str,
    workshop: WorkshopDep,
    first: Annotated[int, Query(ge=0)] = 0,
    most: Annotated[int | None, Query(ge=1)] = None,
) -> place_schemas.OutlineOut:
    """Its text and every place in it; of a long one a stretch, from one block of the body on."""
    record = looking.destination(workshop, destination)
    return place_wire.outline(as_text(destinations.document_of(workshop, record)), first, most)


@router.get("/{destination}/message")
def message(destination: str, workshop: WorkshopDep) -> place_schemas.MessageOut:
    """A message beside its text."""
    record = looking.destination(workshop, destination)
    return place_wire.message(as_message(destinations.document_of(workshop, record)), letters.letter_of(record))


@router.put("/{destination}/letter", status_code=204)
def write_letter(destination: str, body: place_schemas.LetterWire, workshop: WorkshopDep) -> None:
    """Change what a new message says."""
    letters.write_letter(workshop, destination, Letter(**body.model_dump()))


@router.get("/{destination}/grid")
def grid(destination: str, workshop: WorkshopDep) -> place_schemas.GridOut:
    """A spreadsheet's sheets with their measures; their cells are asked for as they come into view."""
    record = looking.destination(workshop, destination)
    return place_wire.grid(as_sheets(destinations.document_of(workshop, record)))


@router.get("/{destination}/cells")
def cells(
    destination: str,
    workshop: WorkshopDep,
    sheet: Annotated[int, Query(ge=0)],
    first: Annotated[int, Query(ge=0)],
    last: Annotated[int, Query(ge=0)],
) -> list[place_schemas.GridCellOut]:
    """The cells of some rows of a sheet that show something, a thousand rows at the most."""
    record = looking.destination(workshop, destination)
    found = sheets_cells(destinations.document_of(workshop, record), sheet, first, min(last, first + _MOST_ROWS))
    return [place_schemas.GridCellOut(**asdict(each)) for each in found]


@router.get("/{destination}/found-cell")
def found_cell(
    destination: str,
    workshop: WorkshopDep,
    words: Annotated[str, Query(max_length=200)],
    after: Annotated[str, Query(pattern=r"^([0-9]{1,7},){2}[0-9]{1,7}$")] | None = None,
) -> place_schemas.FoundCellOut | None:
    """The next cell that holds some words, from the one after (sheet, row, column); null where none does."""
    record = looking.destination(workshop, destination)
    begin = None if after is None else tuple(int(each) for each in after.split(","))
    grids = as_sheets(destinations.document_of(workshop, record)).grids
    found = find_words(grids, words, None if begin is None else (begin[0], begin[1], begin[2]))
    return None if found is None else place_schemas.FoundCellOut(sheet=found[0], row=found[1], column=found[2])


@router.get("/{destination}/spots/{spot:path}")
def spot(destination: str, spot: str, workshop: WorkshopDep) -> place_schemas.SpotOut:
    """One place by its name, such as some cells of a sheet."""
    record = looking.destination(workshop, destination)
    return place_wire.spot(destinations.document_of(workshop, record).spot(spot))


@router.get("/{destination}/media/{member:path}", response_class=Response)
def media(
    destination: str,
    member: str,
    workshop: WorkshopDep,
    crop: Annotated[str, Query(pattern=r"^[0-9.e-]{1,24}(,[0-9.e-]{1,24}){3}$")] = "0,0,0,0",
) -> Response:
    """A picture that stands in the document already, as it is cropped there: decoded and made anew for the galley."""
    record = looking.destination(workshop, destination)
    document, name = weighing.where(destinations.document_of(workshop, record), member)
    whole = decode_foreign(document.read(name), name)
    picture = shrink_to_fit(whole.cut(_crop(crop).rectangle(whole.size)), _SHOWN_MOST)
    data, kind = encode_for_looking(picture)
    return Response(data, media_type=kind.media_type, headers={"Cache-Control": FOREVER})


@router.post("/{destination}/media", status_code=201)
def take_out(destination: str, body: place_schemas.TakeOutIn, workshop: WorkshopDep) -> base.TakenOut:
    """Take a picture out of the document onto the rack: whole, with the crop that it has there."""
    taken = placing.take_picture(workshop, destination, body.member, Crop(**body.crop.model_dump()))
    return base.TakenOut(clipping=taken.id, name=taken.name, placement=None)


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
def choose_spot(destination: str, body: place_schemas.SpotIn, workshop: WorkshopDep) -> None:
    """Choose the place that the next clipping goes to."""
    destinations.choose_spot(workshop, destination, body.spot)


@router.post("/{destination}/placements", status_code=201)
def place(destination: str, body: place_schemas.PlaceIn, workshop: WorkshopDep) -> base.TakenOut:
    """Put a clipping at a spot; where it stands already it stays the one."""
    placed = placing.place(workshop, destination, body.clipping, body.spot, once=True)
    name = looking.clipping(workshop, placed.clipping).name
    return base.TakenOut(clipping=placed.clipping, name=name, placement=placed.id)
