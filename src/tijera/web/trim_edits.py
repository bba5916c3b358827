"""From an edit on the wire to the change that it means."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from tijera.core.clippings import edits
from tijera.core.clippings.sheet import Edge, Margins, Sheet, Tones, Turn
from tijera.core.geometry import Rect
from tijera.core.marks.kinds import kind_of
from tijera.core.marks.mark import Mark
from tijera.store.records import ClippingRecord
from tijera.usecases import styles, trimming
from tijera.usecases.workshop import Workshop
from tijera.web import trim_schemas as wire

Change = tuple[str, Callable[[Sheet, Rect], tuple[Sheet, Rect]]]


def apply(workshop: Workshop, clipping_id: str, body: wire.EditIn) -> tuple[ClippingRecord, list[str]]:
    """Make the change; return the clipping as it is then and the ids of new marks. Raises what `trimming.edit` raises."""
    record = workshop.store.find(ClippingRecord, clipping_id)
    each, added = body.edit, list[str]()
    if isinstance(each, wire.AddEdit):
        marks = [_made(workshop, mark, exact=each.exact) for mark in each.marks]
        added = [mark.id for mark in marks]
        what = kind_of(marks[0].kind).name if len(marks) == 1 else f"{len(marks)} marks"
        label, change = f"{what} on", _on_marks(lambda sheet: edits.add(sheet, marks))
    elif isinstance(each, wire.LayEdit):
        inset = trimming.inset_of(workshop, record, each.clipping, each.at)
        added = [inset.id]
        label, change = "Lay a clipping on", _on_marks(lambda sheet: edits.add(sheet, [inset]))
    else:
        label, change = _change(workshop, record, each)
    after = trimming.edit(workshop, clipping_id, body.version, label, change)
    _remember(workshop, after, each, added)
    return after, added


def _made(workshop: Workshop, each: wire.MarkIn, *, exact: bool) -> Mark:
    options = dict(each.options) if exact else styles.styled(workshop, each.kind, each.options)
    return Mark(each.id or workshop.new_id(), each.kind, tuple(each.points), options, tuple(each.pressures))


def _remember(workshop: Workshop, record: ClippingRecord, each: wire.AnyEdit, added: list[str]) -> None:
    """Remember the style of what was made or restyled last."""
    ids = added if isinstance(each, wire.AddEdit) and not each.exact else []
    if isinstance(each, wire.RestyleEdit):
        ids = each.ids
    for mark in workshop.pictures.sheet(record).marks:
        if mark.id in ids and mark.kind != "inset":
            styles.remember_style(workshop, mark.kind, mark.options)


def _on_marks(change: Callable[[Sheet], Sheet]) -> Callable[[Sheet, Rect], tuple[Sheet, Rect]]:
    return lambda sheet, crop: (change(sheet), crop)


def _count(ids: list[str], one: str, several: str) -> str:
    return one if len(ids) == 1 else f"{several} {len(ids)} marks on"


def _change(workshop: Workshop, record: ClippingRecord, each: Any) -> Change:  # noqa: ANN401  (the rest of the union)
    name = record.name
    makers: dict[type[Any], Callable[[], Change]] = {
        wire.RestyleEdit: lambda: (
            _count(each.ids, "Restyle a mark on", "Restyle"),
            _on_marks(lambda sheet: edits.restyle(sheet, each.ids, each.options, name)),
        ),
        wire.MoveEdit: lambda: (
            _count(each.ids, "Move a mark on", "Move"),
            _on_marks(lambda sheet: edits.move(sheet, each.ids, each.dx, each.dy, name)),
        ),
        wire.ReshapeEdit: lambda: (
            "Stretch a mark on",
            _on_marks(lambda sheet: _reshaped(workshop, sheet, each, name)),
        ),
        wire.DeriveEdit: lambda: (
            "Set a line on",
            _on_marks(lambda sheet: edits.derive(sheet, each.id, each.name, each.value, name)),
        ),
        wire.RemoveEdit: lambda: (
            _count(each.ids, "Delete a mark on", "Delete"),
            _on_marks(lambda sheet: edits.remove(sheet, each.ids, name)),
        ),
        wire.OrderEdit: lambda: (
            _count(each.ids, "Move a mark in order on", "Move in order"),
            _on_marks(lambda sheet: edits.order(sheet, each.ids, each.to, name)),
        ),
        wire.CropEdit: lambda: ("Crop", lambda sheet, _crop: (sheet, each.crop.rect())),
        wire.TurnEdit: lambda: (
            "Turn",
            trimming.turn(workshop.pictures.clipping(record), Turn(**each.turn.model_dump())),
        ),
        wire.TonesEdit: lambda: (
            "Tone",
            _on_marks(lambda sheet: replace(sheet, tones=Tones(**each.tones.model_dump()))),
        ),
        wire.RoomEdit: lambda: (
            "Give room to",
            _on_marks(lambda sheet: replace(sheet, room=Margins(**each.room.model_dump()), ground=each.ground)),
        ),
        wire.EdgeEdit: lambda: ("Edge", _on_marks(lambda sheet: replace(sheet, edge=Edge(**each.edge.model_dump())))),
        wire.ScaleEdit: lambda: ("Scale", _on_marks(lambda sheet: replace(sheet, scale=each.scale))),
    }
    return makers[type(each)]()


def _reshaped(workshop: Workshop, sheet: Sheet, each: wire.ReshapeEdit, name: str) -> Sheet:
    mark = sheet.mark(each.id, name)
    points = trimming.kept_ratio(workshop, mark, each.points) if mark.kind == "inset" else each.points
    return edits.reshape(sheet, each.id, points, name)
