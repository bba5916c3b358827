"""From the core's values to what goes over the wire: sources, live views, frames, cuts, long pages."""

from __future__ import annotations

from dataclasses import fields

from tijera.core.frames.abilities import ABILITY_NAMES, SOURCE_NAMES, SOURCES, Abilities
from tijera.core.frames.frame import Monitor, is_covered
from tijera.core.frames.source import LiveView, OpenMenu
from tijera.core.geometry import Rect
from tijera.records import FrameRecord
from tijera.usecases.taking import LastArea
from tijera.web import base
from tijera.web.take import schemas as take_schemas

_LIVE = {"desk": "windows", "screen": "picture", "share": "video", "picture": "none"}


def source(source_id: str, *, available: bool, why_not: str) -> take_schemas.SourceOut:
    """A kind of source with its abilities."""
    abilities = SOURCES[source_id]
    return take_schemas.SourceOut.model_validate(
        {
            "id": source_id,
            "name": SOURCE_NAMES[source_id],
            "live": _LIVE[source_id],
            "available": available,
            "why_not": why_not,
            "abilities": {field.name: _ability(abilities, field.name) for field in fields(Abilities)},
        }
    )


def _ability(abilities: Abilities, name: str) -> take_schemas.AbilityOut:
    return take_schemas.AbilityOut(
        name=ABILITY_NAMES[name], can=abilities.can(name), instead=getattr(abilities, name) or ""
    )


def monitor(each: Monitor) -> take_schemas.MonitorOut:
    """A monitor."""
    return take_schemas.MonitorOut(
        id=each.id, name=each.name, box=take_schemas.ScreenBoxOut.of(each.box), scale_factor=each.scale_factor
    )


def live_view(view: LiveView) -> take_schemas.LiveViewOut:
    """A source as it is seen live."""
    return take_schemas.LiveViewOut(
        width=view.size.width,
        height=view.size.height,
        monitors=[monitor(each) for each in view.monitors],
        ground_version=view.ground_version,
        windows=[
            take_schemas.LiveWindowOut(
                id=window.id,
                title=window.title,
                box=take_schemas.ScreenBoxOut.of(window.box),
                content=take_schemas.ScreenBoxOut.of(window.content),
                depth=window.depth,
                version=window.version,
                can_scroll=window.can_scroll,
                scrolled_px=window.scrolled_px,
                most_px=window.most_px,
                scroll_bar=take_schemas.ScreenBoxOut.of(window.scroll_bar) if window.scroll_bar else None,
                menus=[
                    take_schemas.MenuHeadOut(title=each.title, box=take_schemas.ScreenBoxOut.of(each.box))
                    for each in window.menus
                ],
            )
            for window in view.windows
        ],
        menu=None if view.menu is None else _menu(view.menu),
    )


def _menu(menu: OpenMenu) -> take_schemas.OpenMenuOut:
    return take_schemas.OpenMenuOut(
        window=menu.window,
        title=menu.title,
        box=take_schemas.ScreenBoxOut.of(menu.box),
        items=list(menu.items),
        item_boxes=[take_schemas.ScreenBoxOut.of(each) for each in menu.item_boxes],
        version=menu.version,
    )


def frame(record: FrameRecord) -> take_schemas.FrameOut:
    """A frozen screen."""
    monitors = record.monitors or (Monitor("whole", "Picture", Rect.whole(record.size), record.scale_factor),)
    return take_schemas.FrameOut(
        id=record.id,
        source=record.source,
        width=record.width,
        height=record.height,
        scale_factor=record.scale_factor,
        monitors=[monitor(each) for each in monitors],
        windows=[
            take_schemas.WindowBoxOut(
                id=each.id,
                title=each.title,
                box=take_schemas.ScreenBoxOut.of(each.box),
                content=None if each.content is None else take_schemas.ScreenBoxOut.of(each.content),
                depth=each.depth,
                is_covered=is_covered(each, record.windows),
                is_whole=each.is_whole,
            )
            for each in record.windows
        ],
        pointer=None if record.pointer is None else take_schemas.PointIn(x=record.pointer.x, y=record.pointer.y),
        has_pointer=record.pointer is not None,
        taken_at=record.taken_at,
    )


def last_area(last: LastArea) -> take_schemas.LastAreaOut:
    """The last cut on a frame."""
    return take_schemas.LastAreaOut.model_validate(
        {
            "kind": last.kind.value,
            "area": base.RectWire.of(last.area),
            "outline": last.outline,
            "window": last.window,
            "content_only": last.content_only,
            "note": last.note,
        }
    )
