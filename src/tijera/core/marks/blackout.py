"""The black-out: what lies under it is gone from what leaves. The pixels are taken out in `tijera.core.clippings`."""

from __future__ import annotations

import math
from dataclasses import dataclass

from tijera.core.marks.mark import Around, MarkKind
from tijera.core.marks.operations import Operation, Point, Shape, box_of, polygon

BLACK = "#000000"


@dataclass(frozen=True)
class BlackOutOptions:
    """A black-out has no choices: it hides."""


def covered(points: tuple[Point, ...]) -> tuple[Point, ...]:
    """The corners of what is hidden. Two anchors span whole pixels, each that they touch; four are a turned rectangle."""
    if len(points) > 2:
        return points
    (ax, ay), (bx, by) = points[0], points[1]
    left, right = math.floor(min(ax, bx)), math.ceil(max(ax, bx))
    top, bottom = math.floor(min(ay, by)), math.ceil(max(ay, by))
    return ((left, top), (right, top), (right, bottom), (left, bottom))


def _draw(
    points: tuple[Point, ...], _options: BlackOutOptions, _around: Around, _pressures: tuple[float, ...]
) -> tuple[Operation, ...]:
    corners = covered(points)
    return (Shape(polygon(corners), box_of(corners), fill=BLACK),)


def _touch(points: tuple[Point, ...], _options: BlackOutOptions, _around: Around) -> tuple[tuple[Point, ...], bool]:
    return covered(points), True


KIND = MarkKind("black-out", "Black out", "box", BlackOutOptions, _draw, _touch)
