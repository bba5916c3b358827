"""The vocabulary of edits on the mat: what can be done to a clipping, what undo calls it, how it is made."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from tijera.core.clippings import edits
from tijera.core.clippings.sheet import Edge, Margins, Sheet, Tones, Turn
from tijera.core.geometry import Rect
from tijera.core.marks.kinds import kind_of
from tijera.core.marks.mark import Mark, Value
from tijera.core.marks.operations import Point
from tijera.records import ClippingRecord
from tijera.usecases import styles, trimming
from tijera.usecases.workshop import Workshop


@dataclass(frozen=True)
class DrawnMark:
    """A mark as it was drawn: options that are not given are those of the last one of its kind."""

    kind: str
    points: tuple[Point, ...]
    options: Mapping[str, Value] = field(default_factory=dict)
    pressures: tuple[float, ...] = ()
    id: str | None = None


@dataclass(frozen=True)
class Add:
    """Marks on top; `exact` takes their options as they are."""

    marks: tuple[DrawnMark, ...]
    exact: bool = False


@dataclass(frozen=True)
class Lay:
    """Another clipping laid on, its corner at a point."""

    clipping: str
    at: Point


@dataclass(frozen=True)
class Restyle:
    """Other options on some marks."""

    ids: tuple[str, ...]
    options: Mapping[str, Value]


@dataclass(frozen=True)
class Move:
    """Some marks moved, in clipping pixels."""

    ids: tuple[str, ...]
    dx: float
    dy: float


@dataclass(frozen=True)
class Reshape:
    """Other anchors for one mark."""

    id: str
    points: tuple[Point, ...]


@dataclass(frozen=True)
class Derive:
    """A line set by its length or its angle."""

    id: str
    name: str
    value: float


@dataclass(frozen=True)
class Remove:
    """Some marks taken off."""

    ids: tuple[str, ...]


@dataclass(frozen=True)
class Order:
    """Some marks moved up or down among the others."""

    ids: tuple[str, ...]
    to: str


@dataclass(frozen=True)
class Crop:
    """Another crop."""

    to: Rect


@dataclass(frozen=True)
class TurnTo:
    """Turned, mirrored, straightened."""

    turn: Turn


@dataclass(frozen=True)
class Tone:
    """Other tones."""

    tones: Tones


@dataclass(frozen=True)
class GiveRoom:
    """Other margins, and the ground in them."""

    margins: Margins
    ground: str | None


@dataclass(frozen=True)
class SetEdge:
    """Another edge and shadow."""

    edge: Edge


@dataclass(frozen=True)
class Scale:
    """Another scale."""

    scale: float


Edit = (
    Add | Lay | Restyle | Move | Reshape | Derive | Remove | Order | Crop | TurnTo | Tone | GiveRoom | SetEdge | Scale
)


@dataclass(frozen=True)
class Edited:
    """A clipping after an edit, and the ids of the marks that it made."""

    record: ClippingRecord
    added: tuple[str, ...] = ()


def make(workshop: Workshop, clipping_id: str, version: str | None, edit: Edit) -> Edited:
    """Make an edit, as one step that can be undone. Raises what `trimming.edit` raises, and the errors of the edit."""
    record = workshop.store.find(ClippingRecord, clipping_id)
    marks: list[Mark] = []
    if isinstance(edit, Add):
        marks = [_made(workshop, each, exact=edit.exact) for each in edit.marks]
    elif isinstance(edit, Lay):
        marks = [trimming.inset_of(workshop, record, edit.clipping, edit.at)]
    after = trimming.edit(workshop, clipping_id, version, label_of(edit), _change(workshop, record, edit, marks))
    added = tuple(mark.id for mark in marks)
    _remember(workshop, after, edit, added)
    return Edited(after, added)


def label_of(edit: Edit) -> str:
    """What undo calls an edit; the clipping's name follows."""
    match edit:
        case Add(marks=(one,)):
            return f"{kind_of(one.kind).name} on"
        case Add():
            return f"{len(edit.marks)} marks on"
        case Restyle():
            return _count(edit.ids, "Restyle a mark on", "Restyle")
        case Move():
            return _count(edit.ids, "Move a mark on", "Move")
        case Remove():
            return _count(edit.ids, "Delete a mark on", "Delete")
        case Order():
            return _count(edit.ids, "Move a mark in order on", "Move in order")
    return _LABELS[type(edit)]


_LABELS: Mapping[type[object], str] = {
    Lay: "Lay a clipping on",
    Reshape: "Stretch a mark on",
    Derive: "Set a line on",
    Crop: "Crop",
    TurnTo: "Turn",
    Tone: "Tone",
    GiveRoom: "Give room to",
    SetEdge: "Edge",
    Scale: "Scale",
}


def _count(ids: Sequence[str], one: str, several: str) -> str:
    return one if len(ids) == 1 else f"{several} {len(ids)} marks on"


def _change(workshop: Workshop, record: ClippingRecord, edit: Edit, marks: Sequence[Mark]) -> trimming.Edit:
    """What the edit makes of a sheet and a crop."""
    match edit:
        case Crop():
            return lambda sheet, _: (sheet, edit.to)
        case TurnTo():
            return trimming.turn(workshop.pictures.clipping(record), edit.turn)
    return lambda sheet, crop: (_on_sheet(workshop, record.name, sheet, edit, marks), crop)


def _on_sheet(workshop: Workshop, name: str, sheet: Sheet, edit: Edit, marks: Sequence[Mark]) -> Sheet:
    match edit:
        case Add() | Lay():
            return edits.add(sheet, marks)
        case Restyle():
            return edits.restyle(sheet, edit.ids, edit.options, name)
        case Move():
            return edits.move(sheet, edit.ids, edit.dx, edit.dy, name)
        case Reshape():
            mark = sheet.mark(edit.id, name)
            points = trimming.kept_ratio(workshop, mark, edit.points) if mark.kind == "inset" else edit.points
            return edits.reshape(sheet, edit.id, points, name)
        case Derive():
            return edits.derive(sheet, edit.id, edit.name, edit.value, name)
        case Remove():
            return edits.remove(sheet, edit.ids, name)
        case Order():
            return edits.order(sheet, edit.ids, edit.to, name)
        case Tone():
            return replace(sheet, tones=edit.tones)
        case GiveRoom():
            return replace(sheet, room=edit.margins, ground=edit.ground)
        case SetEdge():
            return replace(sheet, edge=edit.edge)
        case Scale():
            return replace(sheet, scale=edit.scale)
    return sheet


def _made(workshop: Workshop, each: DrawnMark, *, exact: bool) -> Mark:
    options = dict(each.options) if exact else styles.styled(workshop, each.kind, each.options)
    return Mark(each.id or workshop.new_id(), each.kind, each.points, options, each.pressures)


def _remember(workshop: Workshop, record: ClippingRecord, edit: Edit, added: Sequence[str]) -> None:
    """Remember the style of what was made or restyled last."""
    ids: Sequence[str] = ()
    if isinstance(edit, Add) and not edit.exact:
        ids = added
    elif isinstance(edit, Restyle):
        ids = edit.ids
    for mark in workshop.pictures.sheet(record).marks:
        if mark.id in ids and mark.kind != "inset":
            styles.remember_style(workshop, mark.kind, mark.options)
