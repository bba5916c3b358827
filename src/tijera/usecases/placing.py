"""Destinations and what stands in them: opening, choosing a spot, placing, writing the copy."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from tijera.core.budget.ladder import Rendition
from tijera.core.clippings.measures import placed_as
from tijera.core.errors import NotFound
from tijera.core.fit import Measures, WidthRule
from tijera.core.geometry import Size
from tijera.core.naming import clean_name
from tijera.core.packages.formats import Document, format_of, open_document, report_pictures, write
from tijera.core.packages.placed import PlacedPicture, Written
from tijera.core.packages.spots import Crop, Spot
from tijera.core.packages.takeout import stored_name
from tijera.core.units import Length
from tijera.store.records import ClippingRecord, DestinationRecord, HandoverRecord, PlacementRecord
from tijera.usecases.consent import leaving
from tijera.usecases.taking import bring_in
from tijera.usecases.workshop import Workshop

CURRENT = "current destination"
_MOST_NAME = 80


@dataclass(frozen=True)
class Standing:
    """A placement with all that is worked out from it."""

    record: PlacementRecord
    clipping: ClippingRecord
    spot: Spot
    measures: Measures
    outer: Size
    """The pixels of the finished picture, edge and margins counted in."""
    px_per_pt: float
    """Its pixels per point in this place."""
    shown: str
    """What of its frame the clipping shows here, and how."""
    described: str
    """The alternative text that leaves: not words from a title that is held back."""

    @property
    def has_rendition(self) -> bool:
        """Whether *Make it fit* chose a rendition that still shows what is visible."""
        return self.record.rendition_blob is not None and self.record.rendition_of == self.shown

    @property
    def ppi(self) -> float:
        """Pixels per placed inch of what is written: those of the rendition, where there is one."""
        width_px = self.record.rendition_width_px if self.has_rendition else None
        return (width_px or self.outer.width) / self.measures.width.inches


def open_destination(workshop: Workshop, data: bytes, name: str, limit_bytes: int | None = None) -> DestinationRecord:
    """Take a document in, keep its bytes as they came and make it the one worked on. Raises `InputRefused`."""
    form = format_of(open_document(data, name, workshop.guards))
    record = DestinationRecord(
        id=workshop.new_id(),
        name=clean_name(name.replace("\\", "/").split("/")[-1]) or f"document.{form.extension}",
        blob=workshop.store.blobs.put(data),
        limit_bytes=limit_bytes,
        spot=None,
        opened_at=workshop.now(),
    )
    workshop.store.add(record)
    workshop.store.remember(CURRENT, record.id)
    return record


def current(workshop: Workshop) -> DestinationRecord | None:
    """The destination that is worked on."""
    remembered = workshop.store.setting(CURRENT)
    return next((each for each in workshop.store.destinations() if each.id == remembered), None)


def switch_to(workshop: Workshop, destination_id: str | None) -> None:
    """Work on another opened destination, or on none; what was placed stays. Raises `NotFound`."""
    if destination_id is not None:
        workshop.store.find(DestinationRecord, destination_id)
    workshop.store.remember(CURRENT, destination_id or "")


def document_of(workshop: Workshop, destination: DestinationRecord) -> Document:
    """The opened document of a destination."""
    return workshop.document(destination.blob, destination.name)


def choose_spot(workshop: Workshop, destination_id: str, spot_id: str | None) -> DestinationRecord:
    """Choose the place that the next clipping goes to. Raises `NotFound`, `SpotUnknown`."""
    destination = workshop.store.find(DestinationRecord, destination_id)
    if spot_id is not None:
        document_of(workshop, destination).spot(spot_id)
    after = replace(destination, spot=spot_id)
    workshop.store.add(after)
    return after


def set_limit(workshop: Workshop, destination_id: str, limit_bytes: int | None) -> DestinationRecord:
    """Say what the file may weigh. Raises `NotFound`."""
    before = workshop.store.find(DestinationRecord, destination_id)
    after = replace(before, limit_bytes=limit_bytes)
    with workshop.store.change("Change the limit") as change:
        change.save(after)
    return after


def place(workshop: Workshop, destination_id: str, clipping_id: str, spot_id: str) -> PlacementRecord:
    """Put a clipping at a spot, at the width that it has there. Raises `NotFound`, `SpotUnknown`."""
    destination = workshop.store.find(DestinationRecord, destination_id)
    clipping = workshop.store.find(ClippingRecord, clipping_id)
    spot = document_of(workshop, destination).spot(spot_id)
    there = [each.rank for each in workshop.store.placements(destination_id)]
    record = PlacementRecord(
        id=workshop.new_id(),
        destination=destination_id,
        clipping=clipping_id,
        spot=spot_id,
        rank=max(there, default=0) + 1,
        width_rule=WidthRule.FIT.value,
        width_emu=None,
        place_width_emu=spot.width.emu,
        description=_described(clipping),
        rendition_blob=None,
        rendition_extension=None,
        rendition_width_px=None,
        rendition_of=None,
        rendition_note=None,
    )
    with workshop.store.change(f"Place {clipping.name}") as change:
        change.save(record)
    return record


def _described(clipping: ClippingRecord) -> str:
    """The alternative text to begin with: the window's title, without day and time, until the clipping is renamed."""
    window = clipping.window
    return window if window and clipping.name.startswith(window) else clipping.name


def place_once(workshop: Workshop, destination_id: str, clipping_id: str, spot_id: str) -> PlacementRecord:
    """The same, unless it stands there already: a request that is repeated places nothing twice."""
    for each in workshop.store.placements(destination_id):
        if each.clipping == clipping_id and each.spot == spot_id:
            return each
    return place(workshop, destination_id, clipping_id, spot_id)


def adjust(
    workshop: Workshop,
    placement_id: str,
    *,
    width: Length | WidthRule | None = None,
    place_width: Length | None = None,
    description: str | None = None,
    spot_id: str | None = None,
) -> PlacementRecord:
    """Change a placement's width, the column that it is measured for, its alternative text, or move it to a spot.

    A width that was typed moves along as long as the new place has it. Raises `NotFound`, `SpotUnknown`, `WidthTooLarge`.
    """
    before = workshop.store.find(PlacementRecord, placement_id)
    after = before
    if spot_id is not None:
        after = _moved(workshop, after, spot_id)
    if place_width is not None:
        after = replace(after, place_width_emu=place_width.emu)
    if isinstance(width, Length):
        after = replace(after, width_rule="given", width_emu=width.emu)
    elif width is not None:
        after = replace(after, width_rule=width.value, width_emu=None)
    if description is not None:
        after = replace(after, description=description.strip())
    name = standing(workshop, after).clipping.name
    label = f"Describe {name}" if description is not None else f"Resize {name}"
    if spot_id is not None:
        label = f"Move {name}"
    with workshop.store.change(label) as change:
        change.save(after)
    return after


def _moved(workshop: Workshop, record: PlacementRecord, spot_id: str) -> PlacementRecord:
    destination = workshop.store.find(DestinationRecord, record.destination)
    spot = document_of(workshop, destination).spot(spot_id)
    last = max(each.rank for each in workshop.store.placements(record.destination))
    moved = replace(record, spot=spot_id, rank=last + 1, place_width_emu=spot.width.emu)
    if record.width_emu is not None and record.width_emu > spot.width.emu:
        moved = replace(moved, width_rule=WidthRule.FIT.value, width_emu=None)
    return moved


def take_out(workshop: Workshop, placement_id: str) -> None:
    """Remove a placed clipping from its place; it stays on the rack. Raises `NotFound`."""
    record = workshop.store.find(PlacementRecord, placement_id)
    name = workshop.store.find(ClippingRecord, record.clipping).name
    with workshop.store.change(f"Take {name} out") as change:
        change.remove(record)


def take_picture(workshop: Workshop, destination_id: str, member: str, crop: Crop) -> ClippingRecord:
    """Hang a picture of a document on the rack, whole, with the crop that it has there, by its alternative text.

    The document keeps it. Raises `NotFound`, `PartMissing` and the errors of `decode`.
    """
    document = document_of(workshop, workshop.store.find(DestinationRecord, destination_id))
    data = document.read(member)
    words = next((each.description for each in report_pictures(document) if each.member == member), "")
    name = clean_name(re.sub(r"[\\/]", " ", words))[:_MOST_NAME] or stored_name(member, data)
    return bring_in(workshop, data, name, crop)


def standing(workshop: Workshop, record: PlacementRecord) -> Standing:
    """Work out a placement's measures. Raises `NotFound`, `SpotUnknown`, `WidthTooLarge`."""
    destination = workshop.store.find(DestinationRecord, record.destination)
    clipping = workshop.store.find(ClippingRecord, record.clipping)
    spot = document_of(workshop, destination).spot(record.spot)
    place_width = Length(record.place_width_emu)
    if place_width not in spot.widths:
        raise NotFound(what="column width", key=f"{place_width.mm:.1f} mm")
    if record.width_rule == "given" and record.width_emu:
        rule: Length | WidthRule = Length(record.width_emu)
    else:
        rule = WidthRule(record.width_rule)
    found = placed_as(workshop.pictures.clipping(clipping), place_width, spot.height, rule)
    shown = workshop.pictures.shown_part(clipping, found.px_per_pt)
    described = leaving(workshop, clipping, record.description)
    return Standing(record, clipping, spot, found.measures, found.outer, found.px_per_pt, shown, described)


def standings(workshop: Workshop, destination: DestinationRecord) -> list[Standing]:
    """Every placement of a destination."""
    return [standing(workshop, record) for record in workshop.store.placements(destination.id)]


def rendition_bytes(workshop: Workshop, each: Standing) -> tuple[bytes, str]:
    """The encoded bytes that a placement carries now, and their extension."""
    record = each.record
    if each.has_rendition and record.rendition_blob and record.rendition_extension:
        return workshop.store.blobs.get(record.rendition_blob), record.rendition_extension
    first = workshop.pictures.first_rendition(each.clipping, each.px_per_pt)
    return first.data, first.extension


@dataclass(frozen=True)
class Copy:
    """A written copy and the placements that are in it, read at one moment."""

    written: Written
    placed: tuple[Standing, ...]


def write_copy(workshop: Workshop, destination: DestinationRecord) -> Copy:
    """Write the destination with everything that is placed in it. Raises `StructureBroken`."""
    placed = tuple(standings(workshop, destination))

    def make() -> Written:
        encoded = [rendition_bytes(workshop, each) for each in placed]
        return write(document_of(workshop, destination), _as_placed(placed, encoded))

    # All that decides the bytes; the name and the limit do not.
    key = (destination.blob, tuple((each.record, each.shown, each.described) for each in placed))
    return Copy(workshop.written.get(key, make), placed)


def write_with(
    workshop: Workshop, destination: DestinationRecord, placed: Sequence[Standing], renditions: Sequence[Rendition]
) -> int:
    """What the destination would weigh with other renditions."""
    encoded = [(rendition.data, rendition.extension) for rendition in renditions]
    return len(write(document_of(workshop, destination), _as_placed(placed, encoded)).data)


def _as_placed(placed: Sequence[Standing], encoded: Sequence[tuple[bytes, str]]) -> list[PlacedPicture]:
    return [
        PlacedPicture(
            spot=each.spot.id,
            data=data,
            extension=extension,
            width=each.measures.width,
            height=each.measures.height,
            description=each.described,
        )
        for each, (data, extension) in zip(placed, encoded, strict=True)
    ]


def hand_over(workshop: Workshop, destination: DestinationRecord) -> HandoverRecord:
    """Write the copy that is downloaded and keep the very bytes under a new name; the user's own file stays."""
    data = write_copy(workshop, destination).written.data
    form = format_of(document_of(workshop, destination))
    stem, _, extension = destination.name.rpartition(".")
    record = HandoverRecord(
        id=workshop.new_id(),
        name=f"{stem or destination.name} with clippings.{extension or form.extension}",
        media_type=form.media_type,
        blob=workshop.store.blobs.put(data),
        bytes=len(data),
        what="document",
        made_at=workshop.now(),
    )
    workshop.store.add(record)
    return record
