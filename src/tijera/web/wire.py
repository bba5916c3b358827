"""From the core's values to what goes over the wire."""

from __future__ import annotations

import hashlib
from dataclasses import asdict

from tijera.core.packages.formats import TextDocument
from tijera.core.packages.spots import Block, Container, Spot
from tijera.store.records import HandoverRecord
from tijera.usecases import placing
from tijera.usecases.placing import Standing
from tijera.usecases.weighing import Weighed, Weight
from tijera.usecases.workshop import Workshop
from tijera.web import schemas as wire
from tijera.web.take_wire import clipping


def spot(each: Spot) -> wire.SpotOut:
    """A place."""
    return wire.SpotOut(
        id=each.id,
        kind=each.kind.value,
        follows=each.follows.value,
        after_text=each.after_text,
        widths_emu=[width.emu for width in each.widths],
        height_emu=each.height.emu,
        section=each.section,
    )


def placement(each: Standing) -> wire.PlacementOut:
    """A clipping in its place."""
    record = each.record
    rendition = record.rendition_blob[:12] if each.has_rendition and record.rendition_blob else "first"
    return wire.PlacementOut(
        id=record.id,
        clipping=each.clipping.id,
        spot=each.spot.id,
        width_emu=each.measures.width.emu,
        height_emu=each.measures.height.emu,
        ppi=each.ppi,
        enlarged=each.measures.enlarged,
        bound_by=each.measures.bound_by,
        place_width_emu=record.place_width_emu,
        spot_height_emu=each.spot.height.emu,
        description=record.description,
        leaves_as=each.described,
        note=record.rendition_note if each.has_rendition else None,
        version=f"{rendition}-{hashlib.sha256(each.shown.encode()).hexdigest()[:16]}",
    )


def bench(workshop: Workshop, *, has_example: bool) -> wire.BenchOut:
    """All that lies on the bench."""
    store = workshop.store
    destination = placing.current(workshop)
    shown, placed = None, []
    if destination is not None:
        document = placing.document_of(workshop, destination)
        standings = placing.standings(workshop, destination)
        placed = list({each.clipping.id: each.clipping for each in standings}.values())
        shown = wire.DestinationOut(
            id=destination.id,
            name=destination.name,
            limit_bytes=destination.limit_bytes,
            spot=spot(document.spot(destination.spot)) if destination.spot else None,
            placements=[placement(each) for each in standings],
        )
    undo, redo, newest = store.undoable(), store.redoable(), store.newest_clipping()
    return wire.BenchOut(
        newest=None if newest is None else clipping(workshop, newest),
        placed=[clipping(workshop, each) for each in placed],
        count=store.count_clippings(),
        destination=shown,
        undo=undo.label if undo else None,
        redo=redo.label if redo else None,
        has_example=has_example,
    )


def outline(document: TextDocument) -> wire.OutlineOut:
    """A document's text with its places."""
    return wire.OutlineOut(
        sections=[
            wire.SectionOut(
                columns_emu=[width.emu for width in section.columns],
                text_height_emu=int(section.text_height),
                page_width_emu=int(section.page_width),
                page_height_emu=int(section.page_height),
            )
            for section in document.sections
        ],
        body=_container(document.outline.body),
        spots={id_: spot(each) for id_, each in document.outline.spots.items()},
    )


def _container(container: Container) -> wire.ContainerOut:
    return wire.ContainerOut(spots=list(container.spots), blocks=[_block(block) for block in container.blocks])


def _block(block: Block) -> wire.BlockOut:
    return wire.BlockOut(
        id=block.id,
        kind=block.kind,
        level=block.level,
        text=block.text,
        section=block.section,
        pictures=[
            wire.ShownPictureOut(
                member=each.member,
                width_emu=each.width.emu,
                height_emu=each.height.emu,
                crop=wire.CropWire(**asdict(each.crop)),
            )
            for each in block.pictures
        ],
        rows=[
            [
                wire.CellOut(
                    column_span=cell.column_span,
                    row_span=cell.row_span,
                    width_emu=cell.width.emu,
                    content=_container(cell.content),
                )
                for cell in row
            ]
            for row in block.rows
        ],
        content=None if block.content is None else _container(block.content),
        spots=list(block.spots),
    )


def weight(weighed: Weight, limit_bytes: int | None) -> wire.WeightOut:
    """What the written copy weighs."""
    return wire.WeightOut(
        file_bytes=weighed.file_bytes,
        rest_bytes=weighed.rest_bytes,
        limit_bytes=limit_bytes,
        pictures=[_weighed(each) for each in weighed.pictures],
    )


def _weighed(each: Weighed) -> wire.WeighedOut:
    report = each.report
    first = each.own[0] if each.own else None
    return wire.WeighedOut(
        label=each.label,
        member=report.member,
        width_px=report.pixels.width if report.pixels else None,
        height_px=report.pixels.height if report.pixels else None,
        shown_emu=[[width.emu, height.emu] for width, height in report.shown],
        ppi=report.ppi,
        bytes=report.bytes,
        record_bytes=report.record_bytes,
        times_used=report.times_used,
        clipping=first.clipping.id if first else None,
        note=first.record.rendition_note if first and first.has_rendition else None,
    )


def handover(record: HandoverRecord) -> wire.HandoverOut:
    """Something that left."""
    return wire.HandoverOut(
        id=record.id, name=record.name, bytes=record.bytes, what=record.what, made_at=record.made_at
    )
