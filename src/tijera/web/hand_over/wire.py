"""From the core's values to what goes over the wire: weight, limit, arrival, hand-overs."""

from __future__ import annotations

from tijera.core.budget.say import Say, strongest
from tijera.core.packages.formats.eml.shown import Arrival
from tijera.core.packages.registry import format_of
from tijera.core.placing.readability import Grade, grade_of
from tijera.core.units import format_bytes
from tijera.records import DestinationRecord, HandoverRecord
from tijera.usecases.comparing import TextOnPicture
from tijera.usecases.destinations import document_of
from tijera.usecases.weighing import Weighed, Weight
from tijera.usecases.workshop import Workshop
from tijera.web.hand_over import schemas as hand_over_schemas
from tijera.web.place import wire as place_wire


def arrival(each: Arrival, version: str) -> hand_over_schemas.ArrivalOut:
    """How a message arrives."""
    return hand_over_schemas.ArrivalOut(
        has_page=bool(each.html),
        version=version,
        plain=each.plain,
        listed=[place_wire.attachment(one) for one in each.listed],
        listed_plain=[place_wire.attachment(one) for one in each.listed_plain],
    )


def weight(weighed: Weight, limit_bytes: int | None) -> hand_over_schemas.WeightOut:
    """What the written copy weighs."""
    return hand_over_schemas.WeightOut(
        file_bytes=weighed.file_bytes,
        rest_bytes=weighed.rest_bytes,
        limit_bytes=limit_bytes,
        pictures=[_weighed(each) for each in weighed.pictures],
    )


def _weighed(each: Weighed) -> hand_over_schemas.WeighedOut:
    report = each.report
    first = each.own[0] if each.own else None
    return hand_over_schemas.WeighedOut(
        label=each.label,
        member=report.member,
        width_px=report.pixels.width if report.pixels else None,
        height_px=report.pixels.height if report.pixels else None,
        shown_emu=[[width.emu, height.emu] for width, height in report.shown],
        ppi=report.ppi,
        bytes=report.bytes,
        record_bytes=report.record_bytes,
        times_used=report.times_used,
        hidden_share=report.hidden_share,
        clipping=first.clipping.id if first else None,
        placement=first.record.id if first else None,
        placements=[one.record.id for one in each.own],
        was_bytes=each.was_bytes,
        say=strongest(Say(one.record.say) for one in each.own).value if first else None,
        note=_note(each),
    )


def text_on_picture(each: TextOnPicture) -> hand_over_schemas.TextOnPictureOut:
    """The smallest text on a picture."""
    grade = Grade.NONE if each.text_pt is None else grade_of(each.text_pt)
    return hand_over_schemas.TextOnPictureOut(
        member=each.member, em_px=each.em_px, text_pt=each.text_pt, grade=grade.value
    )


def _note(each: Weighed) -> str | None:
    """What was given up; of the document's own pictures what they weighed before."""
    if each.was_bytes is not None:
        return f"made lighter, was {format_bytes(each.was_bytes)}"
    first = each.own[0] if each.own else None
    return first.record.rendition_note if first and first.has_rendition else None


def look(workshop: Workshop, record: DestinationRecord) -> hand_over_schemas.OpenedCopyOut:
    """A file that left, opened."""
    view = format_of(document_of(workshop, record)).view.value
    return hand_over_schemas.OpenedCopyOut(destination=record.id, view=view)


def handover(record: HandoverRecord) -> hand_over_schemas.HandoverOut:
    """Something that left."""
    return hand_over_schemas.HandoverOut(
        id=record.id,
        name=record.name,
        bytes=record.bytes,
        what=record.what,
        media_type=record.media_type,
        made_at=record.made_at,
    )
