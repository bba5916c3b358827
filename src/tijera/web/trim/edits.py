"""From an edit on the wire to the edit of the use cases."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from tijera.core.clippings.sheet import Edge, Margins, Tones, Turn
from tijera.usecases import edits
from tijera.web.trim import schemas as wire


def edit_of(each: wire.AnyEdit) -> edits.Edit:
    """The edit that a wire's edit means."""
    return _MADE[type(each)](each)


def _add(each: wire.AddEdit) -> edits.Edit:
    return edits.Add(tuple(_drawn(mark) for mark in each.marks), each.exact)


def _drawn(mark: wire.MarkIn) -> edits.DrawnMark:
    return edits.DrawnMark(mark.kind, tuple(mark.points), mark.options, tuple(mark.pressures), mark.id)


_MADE: dict[type[Any], Callable[[Any], edits.Edit]] = {
    wire.AddEdit: _add,
    wire.LayEdit: lambda each: edits.Lay(each.clipping, each.at),
    wire.RestyleEdit: lambda each: edits.Restyle(tuple(each.ids), each.options),
    wire.MoveEdit: lambda each: edits.Move(tuple(each.ids), each.dx, each.dy),
    wire.ReshapeEdit: lambda each: edits.Reshape(each.id, tuple(each.points)),
    wire.DeriveEdit: lambda each: edits.Derive(each.id, each.name, each.value),
    wire.RemoveEdit: lambda each: edits.Remove(tuple(each.ids)),
    wire.OrderEdit: lambda each: edits.Order(tuple(each.ids), each.to),
    wire.CropEdit: lambda each: edits.Crop(each.crop.rect()),
    wire.TurnEdit: lambda each: edits.TurnTo(Turn(**each.turn.model_dump())),
    wire.TonesEdit: lambda each: edits.Tone(Tones(**each.tones.model_dump())),
    wire.RoomEdit: lambda each: edits.GiveRoom(Margins(**each.room.model_dump()), each.ground),
    wire.EdgeEdit: lambda each: edits.SetEdge(Edge(**each.edge.model_dump())),
    wire.ScaleEdit: lambda each: edits.Scale(each.scale),
}
