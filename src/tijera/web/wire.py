"""From the core's values to what goes over the wire."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from dataclasses import asdict

from tijera.core.packages.formats.eml.compose import Letter
from tijera.core.packages.formats.eml.document import Attachment, EmlDocument
from tijera.core.packages.formats.eml.shown import Arrival
from tijera.core.packages.places.format import SheetDocument, TextDocument
from tijera.core.packages.places.grid import GridSheet, Tracks
from tijera.core.packages.places.placed import Layout
from tijera.core.packages.places.spots import Block, Container, Spot, spot_ids
from tijera.core.packages.registry import format_of
from tijera.store.records import HandoverRecord
from tijera.usecases import destinations, placing, standings
from tijera.usecases.standings import Standing
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
        stands=[stand.value for stand in each.stands],
        free_width_emu=None if each.free_width is None else each.free_width.emu,
        grows_to_emu=None if each.grows_to is None else each.grows_to.emu,
    )


def placement(each: Standing, caption_number: str = "") -> wire.PlacementOut:
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
        spot_width_emu=record.place_width_emu if each.spot.free_width is None else each.spot.free_width.emu,
        spot_height_emu=each.spot.height.emu,
        description=record.description,
        leaves_as=each.described,
        note=record.rendition_note if each.has_rendition else None,
        layout=layout(record.layout, each.spot),
        keeps_scale=record.width_rule == standings.KEEPS_SCALE,
        alike=record.alike,
        has_legend=each.has_legend,
        legend=[wire.LegendOut(label=line.label, text=line.text) for line in each.legend],
        caption_number=caption_number,
        has_outline=each.outline is not None,
        version=f"{rendition}-{hashlib.sha256(each.shown.encode()).hexdigest()[:16]}",
    )


def layout(own: Layout, at: Spot) -> wire.LayoutOut:
    """How a picture stands there."""
    return wire.LayoutOut(
        stand=(own.stand if own.stand in at.stands else at.stands[0]).value,
        align=own.align.value,
        margin_emu=None if own.margin is None else own.margin.emu,
        caption=own.caption,
        caption_above=own.caption_above,
        legend=own.legend,
        beside=own.beside,
        along_outline=own.along_outline,
        grows_row=own.grows_row,
    )


def bench(workshop: Workshop, examples: Iterable[str], destination_id: str | None) -> wire.BenchOut:
    """All that lies on the bench, with the file that one window shows."""
    store = workshop.store
    destination = destinations.shown(workshop, destination_id)
    shown, placed = None, []
    if destination is not None:
        document = destinations.document_of(workshop, destination)
        standing = standings.standings(workshop, destination)
        numbers = placing.caption_numbers(workshop, destination, standing)
        placed = list({each.clipping.id: each.clipping for each in standing}.values())
        shown = wire.DestinationOut(
            id=destination.id,
            name=destination.name,
            limit_bytes=destination.limit_bytes,
            view=format_of(document).view.value,
            follows=destination.path,
            version=destination.blob[:12],
            spot=spot(document.spot(destination.spot)) if destination.spot else None,
            placements=[placement(each, number) for each, number in zip(standing, numbers, strict=True)],
        )
    undo, redo, newest = store.undoable(), store.redoable(), store.newest_clipping()
    return wire.BenchOut(
        newest=None if newest is None else clipping(workshop, newest),
        placed=[clipping(workshop, each) for each in placed],
        count=store.count_clippings(),
        destination=shown,
        undo=undo.label if undo else None,
        redo=redo.label if redo else None,
        examples=list(examples),
    )


def outline(document: TextDocument, first: int = 0, most: int | None = None) -> wire.OutlineOut:
    """A document's text with its places, from a block of its body on, and no more than so many of them."""
    whole = document.outline
    end = None if most is None else first + most
    blocks = whole.body.blocks[first:end]
    body = Container(whole.body.spots if first == 0 else (), blocks)
    spots = {id_: spot(whole.spots[id_]) for id_ in spot_ids(body)}
    more = end is not None and len(whole.body.blocks[end : end + 1]) > 0
    return wire.OutlineOut(
        sections=[
            wire.SectionOut(
                columns_emu=[width.emu for width in section.columns],
                text_height_emu=int(section.text_height),
                page_width_emu=int(section.page_width),
                page_height_emu=int(section.page_height),
                header=section.header,
                footer=section.footer,
            )
            for section in whole.sections
        ],
        body=_container(body),
        spots=spots,
        more=more,
    )


def grid(document: SheetDocument) -> wire.GridOut:
    """A spreadsheet's sheets, without their cells."""
    return wire.GridOut(sheets=[_sheet(each) for each in document.grids])


def _sheet(sheet: GridSheet) -> wire.SheetOfGridOut:
    return wire.SheetOfGridOut(
        name=sheet.name,
        hidden=sheet.hidden,
        columns=_tracks(sheet.columns),
        rows=_tracks(sheet.rows),
        frozen_columns=sheet.frozen_columns,
        frozen_rows=sheet.frozen_rows,
        used_columns=sheet.used_columns,
        used_rows=sheet.used_rows,
        merged=[[each.top, each.left, each.bottom, each.right] for each in sheet.merged],
        boxes=[
            wire.BoxOut(
                kind=each.kind,
                x_emu=each.x.emu,
                y_emu=each.y.emu,
                width_emu=each.width.emu,
                height_emu=each.height.emu,
                member=each.member,
                crop=wire.CropWire(**asdict(each.crop)),
                description=each.description,
            )
            for each in sheet.boxes
        ],
    )


def _tracks(own: Tracks) -> wire.TracksOut:
    return wire.TracksOut(usual_emu=float(own.usual), own=[[run.first, run.last, float(run.size)] for run in own.own])


def message(document: EmlDocument, letter: Letter | None) -> wire.MessageOut:
    """A message beside its text."""
    said = {} if letter is None else {name: value for name, value in asdict(letter).items() if name != "date"}
    return wire.MessageOut(
        fields=[wire.FieldOut(name=name, value=value) for name, value in document.fields],
        attachments=[_attachment(each) for each in document.attachments],
        takes_pictures=document.takes_pictures,
        sealed=document.is_sealed,
        letter=None if letter is None else wire.LetterWire(**said),
    )


def _attachment(each: Attachment) -> wire.AttachmentOut:
    return wire.AttachmentOut(member=each.member, name=each.name, type=each.type, bytes=each.bytes)


def arrival(each: Arrival, version: str) -> wire.ArrivalOut:
    """How a message arrives."""
    return wire.ArrivalOut(
        has_page=bool(each.html),
        version=version,
        plain=each.plain,
        listed=[_attachment(one) for one in each.listed],
        listed_plain=[_attachment(one) for one in each.listed_plain],
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
