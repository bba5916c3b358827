"""From the core's values to what goes over the wire: destinations, their texts and grids, spots, placements."""

from __future__ import annotations

import hashlib
from dataclasses import asdict

from tijera.core.budget.say import Say
from tijera.core.packages.formats.eml.compose import Letter
from tijera.core.packages.formats.eml.document import Attachment, EmlDocument
from tijera.core.packages.places.format import SheetDocument, TextDocument
from tijera.core.packages.places.grid import GridSheet, Tracks
from tijera.core.packages.places.placed import Layout
from tijera.core.packages.places.spots import Block, Container, Spot, spot_ids
from tijera.usecases import standings
from tijera.usecases.standings import Standing
from tijera.web.place import schemas as place_schemas


def spot(each: Spot) -> place_schemas.SpotOut:
    """A place."""
    return place_schemas.SpotOut(
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


def placement(each: Standing, caption_number: str = "") -> place_schemas.PlacementOut:
    """A clipping in its place."""
    record = each.record
    rendition = record.rendition_blob[:12] if each.has_rendition and record.rendition_blob else "first"
    return place_schemas.PlacementOut(
        id=record.id,
        clipping=each.clipping.id,
        spot=each.spot.id,
        say=Say(record.say).value,
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
        legend=[place_schemas.LegendOut(label=line.label, text=line.text) for line in each.legend],
        caption_number=caption_number,
        has_outline=each.outline is not None,
        version=f"{rendition}-{hashlib.sha256(each.shown.encode()).hexdigest()[:16]}",
    )


def layout(own: Layout, at: Spot) -> place_schemas.LayoutOut:
    """How a picture stands there."""
    return place_schemas.LayoutOut(
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


def outline(document: TextDocument, first: int = 0, most: int | None = None) -> place_schemas.OutlineOut:
    """A document's text with its places, from a block of its body on, and no more than so many of them."""
    whole = document.outline
    end = None if most is None else first + most
    blocks = whole.body.blocks[first:end]
    body = Container(whole.body.spots if first == 0 else (), blocks)
    spots = {id_: spot(whole.spots[id_]) for id_ in spot_ids(body)}
    more = end is not None and len(whole.body.blocks[end : end + 1]) > 0
    return place_schemas.OutlineOut(
        sections=[
            place_schemas.SectionOut(
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


def grid(document: SheetDocument) -> place_schemas.GridOut:
    """A spreadsheet's sheets, without their cells."""
    return place_schemas.GridOut(sheets=[_sheet(each) for each in document.grids])


def _sheet(sheet: GridSheet) -> place_schemas.SheetOfGridOut:
    return place_schemas.SheetOfGridOut(
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
            place_schemas.BoxOut(
                kind=each.kind,
                x_emu=each.x.emu,
                y_emu=each.y.emu,
                width_emu=each.width.emu,
                height_emu=each.height.emu,
                member=each.member,
                crop=place_schemas.CropWire(**asdict(each.crop)),
                description=each.description,
            )
            for each in sheet.boxes
        ],
    )


def _tracks(own: Tracks) -> place_schemas.TracksOut:
    return place_schemas.TracksOut(
        usual_emu=float(own.usual), own=[[run.first, run.last, float(run.size)] for run in own.own]
    )


def message(document: EmlDocument, letter: Letter | None) -> place_schemas.MessageOut:
    """A message beside its text."""
    said = {} if letter is None else {name: getattr(letter, name) for name in place_schemas.LetterWire.model_fields}
    return place_schemas.MessageOut(
        fields=[place_schemas.FieldOut(name=name, value=value) for name, value in document.fields],
        attachments=[attachment(each) for each in document.attachments],
        takes_pictures=document.takes_pictures,
        sealed=document.is_sealed,
        letter=None if letter is None else place_schemas.LetterWire(**said),
    )


def attachment(each: Attachment) -> place_schemas.AttachmentOut:
    """Something that hangs on a message."""
    return place_schemas.AttachmentOut(member=each.member, name=each.name, type=each.type, bytes=each.bytes)


def _container(container: Container) -> place_schemas.ContainerOut:
    return place_schemas.ContainerOut(spots=list(container.spots), blocks=[_block(block) for block in container.blocks])


def _block(block: Block) -> place_schemas.BlockOut:
    return place_schemas.BlockOut(
        id=block.id,
        kind=block.kind,
        level=block.level,
        text=block.text,
        section=block.section,
        pictures=[
            place_schemas.ShownPictureOut(
                member=each.member,
                width_emu=each.width.emu,
                height_emu=each.height.emu,
                crop=place_schemas.CropWire(**asdict(each.crop)),
            )
            for each in block.pictures
        ],
        rows=[
            [
                place_schemas.CellOut(
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
