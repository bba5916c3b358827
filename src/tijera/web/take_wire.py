"""From the core's values to what goes over the wire while taking."""

from __future__ import annotations

from dataclasses import asdict, fields

from tijera.core.clippings.composing import layout_of
from tijera.core.clippings.measures import natural_scale
from tijera.core.frames.abilities import ABILITY_NAMES, SOURCE_NAMES, SOURCES, Abilities
from tijera.core.frames.frame import Monitor, is_covered
from tijera.core.frames.source import LiveView, OpenMenu
from tijera.core.geometry import Rect
from tijera.core.keys import ACTIONS, FIXED
from tijera.store.records import ClippingRecord, FrameRecord, Slip
from tijera.usecases.consent import holds_back
from tijera.usecases.options import Options
from tijera.usecases.taking import LastArea
from tijera.usecases.workshop import Workshop
from tijera.web import take_schemas as wire
from tijera.web.wire_base import RectWire

_LIVE = {"desk": "windows", "screen": "picture", "share": "video", "picture": "none"}


def source(source_id: str, *, available: bool, why_not: str) -> wire.SourceOut:
    """A kind of source with its abilities."""
    abilities = SOURCES[source_id]
    return wire.SourceOut.model_validate(
        {
            "id": source_id,
            "name": SOURCE_NAMES[source_id],
            "live": _LIVE[source_id],
            "available": available,
            "why_not": why_not,
            "abilities": {field.name: _ability(abilities, field.name) for field in fields(Abilities)},
        }
    )


def _ability(abilities: Abilities, name: str) -> wire.AbilityOut:
    return wire.AbilityOut(name=ABILITY_NAMES[name], can=abilities.can(name), instead=getattr(abilities, name) or "")


def monitor(each: Monitor) -> wire.MonitorOut:
    """A monitor."""
    return wire.MonitorOut(
        id=each.id, name=each.name, box=wire.ScreenBoxOut.of(each.box), scale_factor=each.scale_factor
    )


def live_view(view: LiveView) -> wire.LiveViewOut:
    """A source as it is seen live."""
    return wire.LiveViewOut(
        width=view.size.width,
        height=view.size.height,
        monitors=[monitor(each) for each in view.monitors],
        ground_version=view.ground_version,
        windows=[
            wire.LiveWindowOut(
                id=window.id,
                title=window.title,
                box=wire.ScreenBoxOut.of(window.box),
                content=wire.ScreenBoxOut.of(window.content),
                depth=window.depth,
                version=window.version,
                can_scroll=window.can_scroll,
                scrolled_px=window.scrolled_px,
                most_px=window.most_px,
                menus=[wire.MenuHeadOut(title=each.title, box=wire.ScreenBoxOut.of(each.box)) for each in window.menus],
            )
            for window in view.windows
        ],
        menu=None if view.menu is None else _menu(view.menu),
    )


def _menu(menu: OpenMenu) -> wire.OpenMenuOut:
    return wire.OpenMenuOut(
        window=menu.window,
        title=menu.title,
        box=wire.ScreenBoxOut.of(menu.box),
        items=list(menu.items),
        item_boxes=[wire.ScreenBoxOut.of(each) for each in menu.item_boxes],
        version=menu.version,
    )


def frame(record: FrameRecord) -> wire.FrameOut:
    """A frozen screen."""
    monitors = record.monitors or (Monitor("whole", "Picture", Rect.whole(record.size), record.scale_factor),)
    return wire.FrameOut(
        id=record.id,
        source=record.source,
        width=record.width,
        height=record.height,
        scale_factor=record.scale_factor,
        monitors=[monitor(each) for each in monitors],
        windows=[
            wire.WindowBoxOut(
                id=each.id,
                title=each.title,
                box=wire.ScreenBoxOut.of(each.box),
                content=None if each.content is None else wire.ScreenBoxOut.of(each.content),
                depth=each.depth,
                is_covered=is_covered(each, record.windows),
                is_whole=each.is_whole,
            )
            for each in record.windows
        ],
        pointer=None if record.pointer is None else wire.PointIn(x=record.pointer.x, y=record.pointer.y),
        has_pointer=record.pointer is not None,
        taken_at=record.taken_at,
    )


def last_area(last: LastArea) -> wire.LastAreaOut:
    """The last cut on a frame."""
    return wire.LastAreaOut.model_validate(
        {
            "kind": last.kind.value,
            "area": RectWire.of(last.area),
            "outline": last.outline,
            "window": last.window,
            "content_only": last.content_only,
            "note": last.note,
        }
    )


def clipping(workshop: Workshop, record: ClippingRecord) -> wire.ClippingOut:
    """A clipping on the rack."""
    kept = workshop.pictures.frame(record.frame)
    known = workshop.pictures.clipping(record)
    outer = layout_of(record.crop.size, known.sheet, natural_scale(known)).outer
    at = None if record.pointer_x is None or record.pointer_y is None else (record.pointer_x, record.pointer_y)
    return wire.ClippingOut(
        id=record.id,
        frame=record.frame,
        name=record.name,
        kind=record.kind,
        window=record.window,
        area=RectWire.of(record.area),
        crop=RectWire.of(record.crop),
        scale_factor=record.scale_factor,
        taken_at=record.taken_at,
        version=workshop.pictures.version_of(record),
        places=workshop.store.count_places(record.id),
        has_pointer=kept.pointer is not None,
        pointer=None if at is None else wire.PointIn(x=at[0], y=at[1]),
        pointer_hot=None if kept.pointer is None else wire.PointIn(x=kept.pointer.hot_x, y=kept.pointer.hot_y),
        base=wire.SizeOut(width=known.base_size.width, height=known.base_size.height),
        outer=wire.SizeOut(width=outer.width, height=outer.height),
        is_turned=not known.sheet.turn.is_none,
        held_back=record.window if holds_back(workshop, record) else None,
    )


def slip(workshop: Workshop, each: Slip) -> wire.SlipOut:
    """A slip of the rack. Its values are the store's own, so they are not checked once more."""
    values = asdict(each)
    if values.pop("parts") != "[]":
        values["version"] = workshop.pictures.version_of(workshop.store.find(ClippingRecord, each.id))
    return wire.SlipOut.model_construct(**values)


def options(each: Options) -> wire.OptionsOut:
    """All options and all keys."""
    return wire.OptionsOut(
        keep_at_once=each.keep_at_once,
        to_clipboard=each.to_clipboard,
        pointer=each.pointer,
        single_letters=each.single_letters,
        name_pattern=each.name_pattern,
        delay_seconds=each.delay_seconds,
        by_day=each.by_day,
        actions=[
            wire.ActionOut(
                id=action.id,
                where=action.where,
                does=action.does,
                key=each.keys.get(action.id, action.key),
                default=action.key,
            )
            for action in ACTIONS
        ],
        fixed=[wire.FixedKeyOut(where=where, key=key, does=does) for where, key, does in FIXED],
    )
