"""From the core's values to what goes over the wire: marks, sheets, edits."""

from __future__ import annotations

from dataclasses import asdict

from tijera.core.clippings.composing import layout_of
from tijera.core.clippings.legend import legend_of
from tijera.core.marks.colours import COLOURS
from tijera.core.marks.kinds import Drawn, kind_of, kinds
from tijera.core.marks.mark import Amount, Choice, MarkKind, Option, Switch, Value
from tijera.core.marks.tint import COLOURS as TINTS
from tijera.records import ClippingRecord
from tijera.usecases import consent, looking
from tijera.usecases.readability import Door, Readable
from tijera.usecases.styles import last_styles
from tijera.usecases.trimming import Place
from tijera.usecases.workshop import Workshop
from tijera.web import base
from tijera.web.trim import schemas as trim_schemas

_HEX = {key: value for key, (_, value) in COLOURS.items()}


_TINTS = {key: light for key, (light, _) in TINTS.items()}


def all_kinds(workshop: Workshop) -> trim_schemas.KindsOut:
    """Every kind of mark, its options as they were set last."""
    styles = last_styles(workshop)
    return trim_schemas.KindsOut(
        kinds=[_kind(kind, styles.get(kind.id, {})) for kind in kinds().values()],
        colours=[trim_schemas.ChoiceOut(value=key, label=name, colour=value) for key, (name, value) in COLOURS.items()],
    )


def _kind(kind: MarkKind[object], style: dict[str, Value]) -> trim_schemas.KindOut:
    values = {**kind.defaults(), **style}
    return trim_schemas.KindOut.model_validate(
        {
            "id": kind.id,
            "name": kind.name,
            "gesture": kind.gesture,
            "options": [_option(name, each, values[name], kind.id) for name, each in kind.declared().items()],
            "derived": [
                trim_schemas.DerivedOut(name=name, label=each.label, unit=each.unit)
                for name, each in kind.derived.items()
            ],
        }
    )


def _option(name: str, each: Option, value: Value, kind_id: str) -> trim_schemas.OptionOut:
    if isinstance(each, Choice):
        colours = _TINTS if kind_id == "tint" else _HEX
        is_colour = name in ("colour", "ground")
        choices = [
            trim_schemas.ChoiceOut(value=key, label=label, colour=colours.get(key) if is_colour else None)
            for key, label in each.values
        ]
        return trim_schemas.OptionOut(
            name=name, label=each.label, form="colour" if is_colour else "choice", value=value, choices=choices
        )
    if isinstance(each, Amount):
        return trim_schemas.OptionOut(
            name=name, label=each.label, form="amount", value=value, least=each.least, most=each.most, unit=each.unit
        )
    if isinstance(each, Switch):
        return trim_schemas.OptionOut(name=name, label=each.label, form="switch", value=value)
    return trim_schemas.OptionOut(name=name, label=each.label, form="words", value=value, lines=each.lines)


def sheet(
    workshop: Workshop, record: ClippingRecord, place: Place, added: list[str] | None = None
) -> trim_schemas.SheetOut:
    """A clipping as it lies on the mat."""
    clipping = workshop.pictures.clipping(record)
    own = clipping.sheet
    drawn = workshop.pictures.marks(record, place.px_per_pt)
    history = looking.history(workshop, record.id)
    layout = layout_of(record.crop.size, own, place.px_per_pt)
    held = consent.holds_back(workshop, record)
    return trim_schemas.SheetOut(
        clipping=record.id,
        version=workshop.pictures.version_of(record),
        mat_version=workshop.pictures.mat_version(record),
        base=base.SizeOut(width=clipping.base_size.width, height=clipping.base_size.height),
        crop=base.RectWire.of(record.crop),
        turn=trim_schemas.TurnWire(**asdict(own.turn)),
        tones=trim_schemas.TonesWire(**asdict(own.tones)),
        room=trim_schemas.RoomWire(**asdict(own.room)),
        ground=own.ground,
        edge=trim_schemas.EdgeWire(**asdict(own.edge)),
        scale=own.scale,
        outer=base.SizeOut(width=place.outer.width, height=place.outer.height),
        inset_px=(layout.crop.x, layout.crop.y),
        px_per_pt=place.px_per_pt,
        width_emu=place.width.emu,
        height_emu=place.height.emu,
        bound=trim_schemas.BoundOut(
            width_emu=place.bound_width.emu, height_emu=place.bound_height.emu, rule=place.rule
        ),
        marks=[_mark(workshop, each) for each in drawn],
        legend=[trim_schemas.LegendLineOut(label=line.label, text=line.text) for line in legend_of(own)],
        undo=history.undo,
        redo=history.redo,
        held_back=record.window if held else None,
        allowed=record.consent and consent.hides_something(workshop, record),
        added=added or [],
    )


def _mark(workshop: Workshop, each: Drawn) -> trim_schemas.MarkOut:
    mark = each.mark
    kind = kind_of(mark.kind)
    picture = None
    if mark.kind == "inset":
        part = looking.clipping(workshop, str(mark.options["clipping"]))
        picture = workshop.pictures.version_of(part)
    return trim_schemas.MarkOut(
        id=mark.id,
        kind=mark.kind,
        svg=each.svg,
        points=list(mark.points),
        options={**kind.defaults(), **mark.options},
        touch=list(each.touch),
        touch_closed=each.touch_closed,
        box=each.box,
        number=each.number,
        says=str(mark.options.get("text", "")),
        missing="".join(each.missing),
        derived={name: round(derived.read(mark.points), 2) for name, derived in kind.derived.items()},
        picture=picture,
    )


def smallest(found: Readable) -> trim_schemas.SmallestOut:
    """The smallest text and its doors."""
    return trim_schemas.SmallestOut.model_validate(
        {
            "text_pt": found.text_pt,
            "em_px": found.em_px,
            "grade": found.grade.value,
            "doors": [_door(each) for each in found.doors],
        }
    )


def _door(each: Door) -> trim_schemas.DoorOut:
    return trim_schemas.DoorOut.model_validate(
        {
            "name": each.name,
            "text_pt": each.text_pt,
            "crop": None if each.crop is None else base.RectWire.of(each.crop),
            "spot": None if each.spot is None else each.spot.id,
            "spot_text": "" if each.spot is None else each.spot.after_text,
            "width_emu": None if each.width is None else each.width.emu,
        }
    )
