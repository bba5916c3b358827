"""The ring: an outline without fill round what matters."""

from __future__ import annotations

import math
from dataclasses import dataclass

from tijera.core.marks.arrow import edged
from tijera.core.marks.colours import hex_of
from tijera.core.marks.ground import along
from tijera.core.marks.line import broken
from tijera.core.marks.mark import Around, MarkKind, amount, choice, paint
from tijera.core.marks.operations import Box, Command, Operation, Point, Shape, rounded

_RADIUS_PT = 6.0
_ROUND = 240
"""Points round an ellipse."""


@dataclass(frozen=True)
class RingOptions:
    """What a ring can have."""

    shape: str = choice("Shape", "rounded", rectangle="rectangle", rounded="rounded", ellipse="ellipse")
    colour: str = paint("ink")
    weight_pt: float = amount("Weight", 2.0, 0.25, 24)
    dash: str = choice("Line", "solid", solid="solid", dashed="dashed", dotted="dotted")


def corners(points: tuple[Point, ...]) -> Box:
    """The box between two corners, whichever they are."""
    (ax, ay), (bx, by) = points[0], points[1]
    return (min(ax, bx), min(ay, by), max(ax, bx), max(ay, by))


def ellipse(box: Box) -> tuple[Command, ...]:
    """The ellipse in a box, as two arcs."""
    left, top, right, bottom = box
    rx, ry, middle = (right - left) / 2, (bottom - top) / 2, (top + bottom) / 2
    return (
        ("M", left, middle),
        ("A", rx, ry, 0, 0, 1, right, middle),
        ("A", rx, ry, 0, 0, 1, left, middle),
        ("Z",),
    )


def _draw(
    points: tuple[Point, ...], options: RingOptions, around: Around, _pressures: tuple[float, ...]
) -> tuple[Operation, ...]:
    box = corners(points)
    width = options.weight_pt * around.px_per_pt
    radius = _RADIUS_PT * around.px_per_pt if options.shape == "rounded" else 0.0
    way = _outline(points, options, around)
    if options.dash == "solid":
        path = ellipse(box) if options.shape == "ellipse" else rounded(box, radius)
    else:
        path = broken(way, options.dash, width, closed=True)
    shape = Shape(path, box, stroke=hex_of(options.colour), width=width)
    return edged([shape], around, along([*way, way[0]]))


def _way(box: Box, shape: str, radius: float) -> list[Point]:
    """The outline as points, close enough together that nobody sees the corners."""
    left, top, right, bottom = box
    if shape == "ellipse":
        rx, ry, middle = (right - left) / 2, (bottom - top) / 2, ((left + right) / 2, (top + bottom) / 2)
        turns = [2 * math.pi * n / _ROUND for n in range(_ROUND)]
        return [(middle[0] + rx * math.cos(turn), middle[1] + ry * math.sin(turn)) for turn in turns]
    r = min(radius, (right - left) / 2, (bottom - top) / 2)
    if r <= 0:
        return [(left, top), (right, top), (right, bottom), (left, bottom)]
    corners = [
        (right - r, top + r, -0.5),
        (right - r, bottom - r, 0.0),
        (left + r, bottom - r, 0.5),
        (left + r, top + r, 1.0),
    ]
    quarter = _ROUND // 4
    return [
        (x + r * math.cos(math.pi * (start + n / quarter / 2)), y + r * math.sin(math.pi * (start + n / quarter / 2)))
        for x, y, start in corners
        for n in range(quarter + 1)
    ]


def _touch(points: tuple[Point, ...], options: RingOptions, around: Around) -> tuple[tuple[Point, ...], bool]:
    """Its outline: the corners of an ellipse's box are far from its line, and what is inside is another's to take."""
    way = _outline(points, options, around)
    return (*way, way[0]), False


def _outline(points: tuple[Point, ...], options: RingOptions, around: Around) -> list[Point]:
    radius = _RADIUS_PT * around.px_per_pt if options.shape == "rounded" else 0.0
    return _way(corners(points), options.shape, radius)


KIND = MarkKind("ring", "Ring", "box", RingOptions, _draw, _touch)
