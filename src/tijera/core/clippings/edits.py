"""Changes to the marks of a sheet: each takes a sheet and gives a new one."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from tijera.core.clippings.sheet import Sheet
from tijera.core.errors import NotFound
from tijera.core.marks.kinds import checked, kind_of
from tijera.core.marks.mark import Mark, Value
from tijera.core.marks.operations import Point


def add(sheet: Sheet, marks: Sequence[Mark]) -> Sheet:
    """The sheet with marks on top. Raises the errors of `checked`, `TooManyMarks`."""
    return sheet.with_marks((*sheet.marks, *(checked(mark) for mark in marks)))


def remove(sheet: Sheet, ids: Sequence[str], name: str) -> Sheet:
    """The sheet without some marks. Raises `MarkGone`."""
    gone = {sheet.mark(each, name).id for each in ids}
    return sheet.with_marks(tuple(mark for mark in sheet.marks if mark.id not in gone))


def restyle(sheet: Sheet, ids: Sequence[str], options: Mapping[str, Value], name: str) -> Sheet:
    """The sheet with other options on some marks; a mark takes those that its kind has.

    Raises `MarkGone`, `OptionUnreadable`, `TextTooLong`.
    """
    chosen = {sheet.mark(each, name).id for each in ids}

    def styled(mark: Mark) -> Mark:
        known = kind_of(mark.kind).declared()
        fitting = options if len(chosen) == 1 else {key: value for key, value in options.items() if key in known}
        return checked(replace(mark, options={**mark.options, **fitting}))

    return sheet.with_marks(tuple(styled(mark) if mark.id in chosen else mark for mark in sheet.marks))


def move(sheet: Sheet, ids: Sequence[str], dx: float, dy: float, name: str) -> Sheet:
    """The sheet with some marks moved, in clipping pixels. Raises `MarkGone`."""
    chosen = {sheet.mark(each, name).id for each in ids}
    return sheet.with_marks(tuple(_moved(mark, dx, dy) if mark.id in chosen else mark for mark in sheet.marks))


def _moved(mark: Mark, dx: float, dy: float) -> Mark:
    return checked(replace(mark, points=tuple((x + dx, y + dy) for x, y in mark.points)))


def reshape(sheet: Sheet, mark_id: str, points: Sequence[Point], name: str) -> Sheet:
    """The sheet with other anchors for one mark. Raises `MarkGone`, `MarkEmpty`."""
    before = sheet.mark(mark_id, name)
    after = checked(replace(before, points=tuple(points)))
    return sheet.with_marks(tuple(after if mark.id == mark_id else mark for mark in sheet.marks))


def derive(sheet: Sheet, mark_id: str, which: str, value: float, name: str) -> Sheet:
    """The sheet with one mark's anchors found from a typed value, such as the angle of a line.

    Raises `MarkGone`, `NotFound`.
    """
    before = sheet.mark(mark_id, name)
    derived = kind_of(before.kind).derived.get(which)
    if derived is None:
        raise NotFound(what="measure of the mark", key=which)
    return reshape(sheet, mark_id, derived.write(before.points, value), name)


def order(sheet: Sheet, ids: Sequence[str], to: str, name: str) -> Sheet:
    """The sheet with some marks moved in order: "front", "back", or one step "up" or "down". Raises `MarkGone`.

    Pennants are counted in this order.
    """
    chosen = {sheet.mark(each, name).id for each in ids}
    marks = list(sheet.marks)
    if to in ("front", "back"):
        own = [mark for mark in marks if mark.id in chosen]
        rest = [mark for mark in marks if mark.id not in chosen]
        return sheet.with_marks(tuple([*rest, *own] if to == "front" else [*own, *rest]))
    forward = to == "up"
    indices = range(len(marks) - 2, -1, -1) if forward else range(1, len(marks))
    step = 1 if forward else -1
    for index in indices:
        # A pennant steps past the next pennant, whatever lies between: else its number would stay.
        target = _next_like(marks, index, step)
        if marks[index].id in chosen and target is not None and marks[target].id not in chosen:
            marks.insert(target, marks.pop(index))
    return sheet.with_marks(tuple(marks))


def _next_like(marks: Sequence[Mark], index: int, step: int) -> int | None:
    at = index + step
    if marks[index].kind != "pennant":
        return at if 0 <= at < len(marks) else None
    while 0 <= at < len(marks):
        if marks[at].kind == "pennant":
            return at
        at += step
    return None
