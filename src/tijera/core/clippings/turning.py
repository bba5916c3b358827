"""Turning: where the pixels of an area come to lie, and back. Coordinates are continuous, pixel (0, 0) spans 0 to 1."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import replace

from tijera.core.clippings.sheet import Margins, Sheet, Turn
from tijera.core.errors import CropOutside
from tijera.core.geometry import Rect, Size
from tijera.core.marks.mark import Mark
from tijera.core.marks.operations import Point
from tijera.core.units import round_half_up

_SQUARE = 1e-6
"""Radians or pixels: nearer than this counts as exactly there."""


def squared(turn: Turn, area: Size) -> Size:
    """The size of an area after mirroring and quarter turns."""
    return area if turn.quarters % 2 == 0 else Size(area.height, area.width)


def turned_size(turn: Turn, area: Size) -> Size:
    """The size of an area turned: straightened by an angle, all of it is in view."""
    size = squared(turn, area)
    if turn.degrees == 0:
        return size
    cos, sin = abs(math.cos(math.radians(turn.degrees))), abs(math.sin(math.radians(turn.degrees)))
    return Size(
        math.ceil(size.width * cos + size.height * sin - 1e-6), math.ceil(size.width * sin + size.height * cos - 1e-6)
    )


def forward(turn: Turn, area: Size, points: Iterable[Point]) -> list[Point]:
    """Where points of the area come to lie."""
    square, out = squared(turn, area), turned_size(turn, area)
    found = []
    for x, y in points:
        px = area.width - x if turn.flipped else x
        py = y
        for _ in range(turn.quarters % 4):
            # A quarter clockwise: the left edge becomes the top.
            px, py = -py, px
        px += (0, area.height, area.width, 0)[turn.quarters % 4]
        py += (0, 0, area.height, area.width)[turn.quarters % 4]
        found.append(_about(px, py, square, out, turn.degrees))
    return found


def back(turn: Turn, area: Size, points: Iterable[Point]) -> list[Point]:
    """Where in the area points of the turned picture come from."""
    square, out = squared(turn, area), turned_size(turn, area)
    found = []
    for x, y in points:
        px, py = _about(x, y, out, square, -turn.degrees)
        px -= (0, area.height, area.width, 0)[turn.quarters % 4]
        py -= (0, 0, area.height, area.width)[turn.quarters % 4]
        for _ in range(turn.quarters % 4):
            px, py = py, -px
        found.append((area.width - px if turn.flipped else px, py))
    return found


def _about(x: float, y: float, inner: Size, outer: Size, degrees: float) -> Point:
    """Turn about the middle of one size, which lies on the middle of another."""
    if degrees == 0:
        return (x, y)
    cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    dx, dy = x - inner.width / 2, y - inner.height / 2
    return (outer.width / 2 + dx * cos - dy * sin, outer.height / 2 + dx * sin + dy * cos)


def back_rect(turn: Turn, area: Size, rect: Rect) -> Rect:
    """Where a rectangle comes from; exact for quarter turns, else the rectangle round it, cut to the area."""
    corners = back(
        turn, area, [(rect.x, rect.y), (rect.right, rect.y), (rect.right, rect.bottom), (rect.x, rect.bottom)]
    )
    xs, ys = zip(*corners, strict=True)
    slack = 0 if turn.degrees == 0 else 1
    left, top = math.floor(min(xs) + 1e-6) - slack, math.floor(min(ys) + 1e-6) - slack
    right, bottom = math.ceil(max(xs) - 1e-6) + slack, math.ceil(max(ys) - 1e-6) + slack
    found = Rect(left, top, max(right - left, 1), max(bottom - top, 1)).within(area)
    return found or Rect(0, 0, 1, 1)


def upright_inside(turn: Turn, area: Size) -> Rect:
    """The largest upright rectangle without an empty corner in an area turned by an angle."""
    square, out = squared(turn, area), turned_size(turn, area)
    if turn.degrees == 0:
        return Rect.whole(out)
    across, down = _inscribed(square.width, square.height, abs(math.radians(turn.degrees)))
    width, height = max(1, math.floor(across) - 1), max(1, math.floor(down) - 1)
    return Rect((out.width - width) // 2, (out.height - height) // 2, width, height)


def _inscribed(width: float, height: float, slope: float) -> tuple[float, float]:
    """Width and height of the largest upright rectangle in one of `width` × `height` turned by `slope`, in radians.

    The classic case distinction: either two corners touch one side, or each touches a side of its own.
    """
    sin, cos = abs(math.sin(slope)), abs(math.cos(slope))
    longer, shorter = max(width, height), min(width, height)
    if shorter <= 2 * sin * cos * longer or abs(sin - cos) < 1e-9:
        half = shorter / 2
        return (half / sin, half / cos) if width >= height else (half / cos, half / sin)
    double = cos * cos - sin * sin
    return (width * cos - height * sin) / double, (height * cos - width * sin) / double


def turn_sheet(sheet: Sheet, crop: Rect, area: Size, to: Turn) -> tuple[Sheet, Rect]:
    """A sheet and its crop, turned otherwise: marks go along, margins change sides.

    The crop shows the same part; turned by an angle, the largest upright part of it, so that nothing comes back that
    was cut away.
    """
    before = sheet.turn

    def moved(points: Iterable[Point]) -> list[Point]:
        return forward(to, area, back(before, area, points))

    marks = tuple(_moved_mark(mark, moved) for mark in sheet.marks)
    showed_all = crop in (Rect.whole(turned_size(before, area)), upright_inside(before, area))
    after = upright_inside(to, area) if showed_all else _crop_inside(crop, moved, turned_size(to, area))
    return replace(sheet, marks=marks, turn=to, room=_moved_room(sheet.room, moved)), after


Moved = Callable[[Iterable[Point]], list[Point]]


def _moved_mark(mark: Mark, moved: Moved) -> Mark:
    is_box = mark.kind in ("black-out", "ring", "inset") and len(mark.points) == 2
    there = [(round(x, 4), round(y, 4)) for x, y in moved(corners_of(mark) if is_box else mark.points)]
    if not is_box:
        return replace(mark, points=tuple(there))
    xs, ys = zip(*there, strict=True)
    upright = len({round(x, 1) for x in xs}) == 2 and len({round(y, 1) for y in ys}) == 2
    if mark.kind == "black-out" and not upright:
        # The rectangle round it would grow with every turn; what is hidden stays what was hidden.
        return replace(mark, points=tuple(there))
    return replace(mark, points=((min(xs), min(ys)), (max(xs), max(ys))))


def corners_of(mark: Mark) -> tuple[Point, ...]:
    """All four corners of a mark that is a box between two."""
    (ax, ay), (bx, by) = mark.points
    return ((ax, ay), (bx, ay), (bx, by), (ax, by))


def _crop_inside(crop: Rect, moved: Moved, size: Size) -> Rect:
    """The largest upright rectangle of whole pixels in a crop that is turned along, within the picture."""
    (ax, ay), (bx, by), (_, _), (dx, dy) = moved(
        [(crop.x, crop.y), (crop.right, crop.y), (crop.right, crop.bottom), (crop.x, crop.bottom)]
    )
    slope = math.atan2(by - ay, bx - ax) % (math.pi / 2)
    slope = min(slope, math.pi / 2 - slope)
    lies = abs(bx - ax) >= abs(by - ay)
    across, down = (crop.width, crop.height) if lies else (crop.height, crop.width)
    width, height = (across, down) if slope < _SQUARE else _inscribed(across, down, slope)
    middle = ((bx + dx) / 2, (by + dy) / 2)
    left, right = math.ceil(middle[0] - width / 2 - _SQUARE), math.floor(middle[0] + width / 2 + _SQUARE)
    top, bottom = math.ceil(middle[1] - height / 2 - _SQUARE), math.floor(middle[1] + height / 2 + _SQUARE)
    found = Rect(left, top, right - left, bottom - top).within(size) if right > left and bottom > top else None
    if found is None:
        raise CropOutside(crop=str(crop), size=str(size))
    return found


def _moved_room(room: Margins, moved: Moved) -> Margins:
    """Each margin on the side to which its side of the picture went."""
    sides = {(-1, 0): room.left, (0, -1): room.top, (1, 0): room.right, (0, 1): room.bottom}
    ((ox, oy),) = moved([(0, 0)])
    found = {}
    for (dx, dy), margin in sides.items():
        ((x, y),) = moved([(dx, dy)])
        found[(round_half_up(x - ox), round_half_up(y - oy))] = margin
    return Margins(*(found.get(side, margin) for side, margin in sides.items()))
