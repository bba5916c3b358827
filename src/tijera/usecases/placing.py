"""Placing clippings, changing and moving them, writing the copy."""

from __future__ import annotations

import re
import secrets
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from tijera.core.budget.rendition import Rendition
from tijera.core.clippings.legend import legend_of
from tijera.core.errors import LengthUnreadable
from tijera.core.fit import WidthRule, natural_width
from tijera.core.naming import clean_name, file_name, file_stem
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.placed import Layout, PlacedPicture, Written
from tijera.core.packages.places.spots import Crop
from tijera.core.packages.places.taking_out import stored_name
from tijera.core.packages.registry import caption_words, format_of, report_pictures, write
from tijera.core.units import Length
from tijera.records import ClippingRecord, DestinationRecord, HandoverRecord, PlacementRecord
from tijera.usecases.changing import change_one
from tijera.usecases.destinations import document_of
from tijera.usecases.handing_over import note_left
from tijera.usecases.letters import document_to_write, with_subject_of
from tijera.usecases.standings import KEEPS_SCALE, Standing, standing, standings
from tijera.usecases.taking import bring_in
from tijera.usecases.workshop import Workshop

_MOST_NAME = 80


def place(
    workshop: Workshop, destination_id: str, clipping_id: str, spot_id: str, *, once: bool = False
) -> PlacementRecord:
    """Put a clipping at a spot, at the width that it has there.

    With `once` a clipping that stands there already is left as it is: a request that is repeated places nothing twice.
    Raises `NotFound`, `SpotUnknown`.
    """
    destination = workshop.store.find(DestinationRecord, destination_id)
    clipping = workshop.store.find(ClippingRecord, clipping_id)
    spot = document_of(workshop, destination).spot(spot_id)
    record = PlacementRecord(
        id=workshop.new_id(),
        destination=destination_id,
        clipping=clipping_id,
        spot=spot_id,
        rank=0,
        width_rule=WidthRule.FIT.value,
        width_emu=None,
        place_width_emu=spot.width.emu,
        description=_proposed(workshop, clipping),
        rendition_blob=None,
        rendition_extension=None,
        rendition_width_px=None,
        rendition_of=None,
        rendition_note=None,
    )
    with workshop.store.change(f"Place {clipping.name}") as change:
        there = workshop.store.placements(destination_id) if once else []
        same = next((each for each in there if (each.clipping, each.spot) == (clipping_id, spot_id)), None)
        if same is not None:
            return same
        change.update(destination, with_subject_of(workshop, destination, clipping))
        return change.save(record)


def _proposed(workshop: Workshop, clipping: ClippingRecord) -> str:
    """The alternative text to begin with: what it is called, and what its pennants say."""
    lines = [f"{line.label} {line.text}" for line in legend_of(workshop.pictures.sheet(clipping))]
    return f"{_described(clipping)}: {'; '.join(lines)}" if lines else _described(clipping)


def _described(clipping: ClippingRecord) -> str:
    """The alternative text to begin with: the window's title, without day and time, until the clipping is renamed."""
    window = clipping.window
    return window if window and clipping.name.startswith(window) else clipping.name


def adjust(
    workshop: Workshop,
    placement_id: str,
    *,
    width: Length | WidthRule | None = None,
    place_width: Length | None = None,
    description: str | None = None,
    spot_id: str | None = None,
    layout: Layout | Callable[[Layout], Layout] | None = None,
    clipping_id: str | None = None,
    keeps_scale: bool = False,
) -> PlacementRecord:
    """Change a placement's width, the column it is measured for, its words, how it stands; move it; replace its picture.

    A width that was typed moves along as long as the new place has it; `layout` may say what becomes of the one that it
    has. Raises `NotFound`, `SpotUnknown`, `WidthTooLarge`.
    """
    name = ""

    def adjusted(before: PlacementRecord) -> PlacementRecord:
        nonlocal name
        after = _adjusted(workshop, before, width, place_width, spot_id, clipping_id, keeps_scale=keeps_scale)
        if description is not None:
            after = replace(after, description=description.strip())
        if layout is not None:
            after = replace(after, layout=layout(after.layout) if callable(layout) else layout)
        name = standing(workshop, after).clipping.name
        return after

    done = (
        (clipping_id is not None, "Replace the picture of"),
        (spot_id is not None, "Move"),
        (layout is not None, "Set how it stands:"),
        (description is not None, "Describe"),
    )
    label = next((words for is_so, words in done if is_so), "Resize")
    return change_one(
        workshop,
        PlacementRecord,
        placement_id,
        lambda _, __: f"{label} {name}",
        adjusted,
        to_the_end=spot_id is not None,
    )


def _adjusted(
    workshop: Workshop,
    before: PlacementRecord,
    width: Length | WidthRule | None,
    place_width: Length | None,
    spot_id: str | None,
    clipping_id: str | None,
    *,
    keeps_scale: bool,
) -> PlacementRecord:
    """The placement with another picture, place or size."""
    after = before
    if clipping_id is not None:
        after = _with_clipping(workshop, after, clipping_id)
    if spot_id is not None:
        after = _moved(workshop, after, spot_id)
    if place_width is not None:
        after = replace(after, place_width_emu=place_width.emu)
    if isinstance(width, Length):
        after = replace(after, width_rule="given", width_emu=width.emu)
    elif width is not None:
        after = replace(after, width_rule=width.value, width_emu=None)
    return _with_its_scale(workshop, after) if keeps_scale else after


def width_of(workshop: Workshop, placement_id: str, text: str) -> Length | WidthRule:
    """Read a width as people type it: "fit", "fill", a length, or a share such as "50 %".

    A share is one of the place; where no place bounds the picture, of its natural width. Raises `LengthUnreadable`.
    """
    if text in (WidthRule.FIT.value, WidthRule.FILL.value):
        return WidthRule(text)
    share = re.fullmatch(r"\s*([0-9]{1,4}(?:[.,][0-9]{1,6})?)\s*%\s*", text)
    if share is None:
        return Length.parse(text)
    record = workshop.store.find(PlacementRecord, placement_id)
    whole = Length(record.place_width_emu)
    if document_of(workshop, workshop.store.find(DestinationRecord, record.destination)).spot(record.spot).free_width:
        whole = standing(
            workshop, replace(record, width_rule=WidthRule.FIT.value, width_emu=None, alike=None)
        ).measures.width
    wanted = Length(int(whole.emu * float(share[1].replace(",", ".")) / 100))
    if wanted.emu < 1:
        raise LengthUnreadable(text=text)
    return wanted


def _with_its_scale(workshop: Workshop, record: PlacementRecord) -> PlacementRecord:
    """The placement with the scale that it has now, which another crop does not change."""
    now = standing(workshop, record)
    natural = natural_width(now.outer.width, now.clipping.scale_factor)
    scale = float(now.measures.width.emu / natural)
    return replace(record, width_rule=KEEPS_SCALE, width_emu=None, layout=replace(record.layout, scale=scale))


def _with_clipping(workshop: Workshop, record: PlacementRecord, clipping_id: str) -> PlacementRecord:
    """The placement with another clipping in it; words that were the old one's own go with it."""
    old = workshop.store.find(ClippingRecord, record.clipping)
    new = workshop.store.find(ClippingRecord, clipping_id)
    words = _proposed(workshop, new) if record.description == _proposed(workshop, old) else record.description
    return replace(record, clipping=clipping_id, description=words)


def set_alike(workshop: Workshop, placement_id: str, with_id: str | None) -> PlacementRecord:
    """Give a placement the scale of another one's group, which is begun where there is none; None takes it out.

    Raises `NotFound`.
    """
    with workshop.store.change("Set the scale") as change:
        before = workshop.store.find(PlacementRecord, placement_id)
        change.label = f"Set the scale of {workshop.store.find(ClippingRecord, before.clipping).name}"
        if with_id is None:
            after = replace(before, alike=None)
            left = [
                each
                for each in workshop.store.placements(before.destination)
                if each.alike == before.alike and each.id != before.id
            ]
            if before.alike and len(left) == 1:
                change.update(left[0], replace(left[0], alike=None))
        else:
            other = workshop.store.find(PlacementRecord, with_id)
            group = other.alike or secrets.token_hex(4)
            if other.alike is None:
                change.update(other, replace(other, alike=group))
            after = replace(before, alike=group)
        return change.update(before, after)


def _moved(workshop: Workshop, record: PlacementRecord, spot_id: str) -> PlacementRecord:
    destination = workshop.store.find(DestinationRecord, record.destination)
    spot = document_of(workshop, destination).spot(spot_id)
    moved = replace(record, spot=spot_id, place_width_emu=spot.width.emu)
    if record.width_emu is not None and record.width_emu > spot.most_width.emu:
        moved = replace(moved, width_rule=WidthRule.FIT.value, width_emu=None)
    return moved


def take_out(workshop: Workshop, placement_id: str) -> None:
    """Remove a placed clipping from its place; it stays on the rack. Raises `NotFound`."""
    workshop.store.reserve.used_for(lambda: _take_out(workshop, placement_id))


def _take_out(workshop: Workshop, placement_id: str) -> None:
    with workshop.store.change("Take out") as change:
        record = workshop.store.find(PlacementRecord, placement_id)
        change.label = f"Take {workshop.store.find(ClippingRecord, record.clipping).name} out"
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


def rendition_bytes(workshop: Workshop, each: Standing) -> tuple[bytes, str]:
    """The encoded bytes that a placement carries now, and their extension."""
    record = each.record
    if each.has_rendition and record.rendition_blob and record.rendition_extension:
        return workshop.store.blobs.get(record.rendition_blob), record.rendition_extension
    return as_taken(workshop, each)


def as_taken(workshop: Workshop, each: Standing) -> tuple[bytes, str]:
    """The encoded bytes that a placement would carry if nothing was given up, and their extension."""
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
        return write(document_to_write(workshop, destination, placed), _as_placed(placed, encoded))

    # All that decides the bytes; the name and the limit do not.
    key = (
        destination.blob,
        destination.letter,
        tuple((each.record, each.shown, each.described, each.captioned, each.called, each.legend) for each in placed),
    )
    return Copy(workshop.written.get(key, make), placed)


def write_with(document: Document, placed: Sequence[Standing], renditions: Sequence[Rendition]) -> Written:
    """A document, written with other renditions of what is placed in it."""
    return write(document, _as_placed(placed, [(rendition.data, rendition.extension) for rendition in renditions]))


def _as_placed(placed: Sequence[Standing], encoded: Sequence[tuple[bytes, str]]) -> list[PlacedPicture]:
    return [
        PlacedPicture(
            spot=each.spot.id,
            data=data,
            extension=extension,
            width=each.measures.width,
            height=each.measures.height,
            description=each.described,
            layout=replace(each.record.layout, caption=each.captioned),
            legend=each.legend,
            outline=each.outline,
            name=each.called,
        )
        for each, (data, extension) in zip(placed, encoded, strict=True)
    ]


def caption_numbers(workshop: Workshop, destination: DestinationRecord, placed: Sequence[Standing]) -> list[str]:
    """What stands before each caption, such as "Figure 3:", as the copy would have it."""
    if not any(each.record.layout.caption for each in placed):
        return [""] * len(placed)
    return caption_words(document_of(workshop, destination), _as_placed(placed, [(b"", "png")] * len(placed)))


def hand_over(workshop: Workshop, destination: DestinationRecord) -> HandoverRecord:
    """Write the copy that is downloaded and keep the very bytes under a new name; the user's own file stays."""
    data = write_copy(workshop, destination).written.data
    document = document_of(workshop, destination)
    form = format_of(document)
    stem = destination.name.rpartition(".")[0] or destination.name
    name = file_name(f"{file_stem(stem)} with clippings.{document.ending}", document.ending)
    return note_left(workshop, data, name, form.media_type, "document", destination=destination.id)
