"""The line: with its angle as an arc and its length, where they are wanted."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from tijera.core.marks.arrow import edged
from tijera.core.marks.colours import edge_for, hex_of
from tijera.core.marks.ground import along
from tijera.core.marks.letters import face
from tijera.core.marks.mark import Around, Derived, MarkKind, amount, choice, paint, switch
from tijera.core.marks.operations import Command, Letters, Operation, Point, Shape, box_of, polygon
from tijera.core.units import round_half_up

_LABEL_PT = 9.0
_ARC_PT = 22.0
_THIN = 0.6


@dataclass(frozen=True)
class LineOptions:
    """What a line can have."""

    colour: str = paint("ink")
    weight_pt: float = amount("Weight", 1.5, 0.25, 24)
    dash: str = choice("Line", "solid", solid="solid", dashed="dashed", dotted="dotted")
    angle: bool = switch("Angle shown", default=False)
    length: bool = switch("Length shown", default=False)


def dashes(dash: str, width: float) -> tuple[float, float] | None:
    """How long a dash and a gap are; round ends add a width to each dash. None for an unbroken line."""
    if dash == "dashed":
        return (4 * width, 3.5 * width)
    return (0.01, 2.4 * width) if dash == "dotted" else None


def broken(way: Sequence[Point], dash: str, width: float, *, closed: bool = False) -> tuple[Command, ...]:
    """A way as a path of dashes or dots, each of its own, evenly spread from end to end.

    Renderers measure curves each in their own manner; a dash pattern left to them would drift apart along the way.
    """
    pattern = dashes(dash, width)
    corners = [*way, way[0]] if closed else list(way)
    if pattern is None:
        return polygon(way, closed=closed)
    steps = [math.dist(a, b) for a, b in pairwise(corners)]
    total = sum(steps)
    on, off = pattern
    # A whole number of dashes; an open way also ends with one.
    count = max(1, round_half_up((total if closed else total + off) / (on + off)))
    step = total / count if closed else (total - on) / max(count - 1, 1)
    path: list[Command] = []
    for number in range(count):
        path += _part(corners, steps, number * step, number * step + on)
    return tuple(path)


def _part(corners: list[Point], steps: list[float], start: float, end: float) -> list[Command]:
    """The part of a way between two lengths along it."""
    path: list[Command] = []
    passed = 0.0
    for (a, b), step in zip(pairwise(corners), steps, strict=True):
        if step > 0 and passed + step >= start and passed <= end:
            shares = [min(max((at - passed) / step, 0.0), 1.0) for at in (start, end)]
            first, last = ((a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t) for t in shares)
            if not path:
                path.append(("M", *first))
            path.append(("L", *last))
        passed += step
    return path


def angle_of(points: tuple[Point, ...]) -> float:
    """The angle of a line against the horizontal, anticlockwise, in degrees from −180 to 180."""
    (ax, ay), (bx, by) = points[0], points[1]
    # Whole zero, never minus zero: a flat line reads 0° or 180°, not −0° or −180°.
    return math.degrees(math.atan2(-(by - ay) + 0.0, bx - ax))


def length_of(points: tuple[Point, ...]) -> float:
    """The length of a line in clipping pixels."""
    return math.dist(points[0], points[1])


def with_angle(points: tuple[Point, ...], degrees: float) -> tuple[Point, ...]:
    """The line turned about its first anchor to an angle."""
    (ax, ay), length = points[0], length_of(points)
    turn = math.radians(degrees)
    return (points[0], (ax + length * math.cos(turn), ay - length * math.sin(turn)))


def with_length(points: tuple[Point, ...], length: float) -> tuple[Point, ...]:
    """The line with another length, in the same direction."""
    (ax, ay), (bx, by) = points[0], points[1]
    share = max(length, 1.0) / (length_of(points) or 1.0)
    return (points[0], (ax + (bx - ax) * share, ay + (by - ay) * share))


def _draw(
    points: tuple[Point, ...], options: LineOptions, around: Around, _pressures: tuple[float, ...]
) -> tuple[Operation, ...]:
    width = options.weight_pt * around.px_per_pt
    tint = hex_of(options.colour)
    ends = [points[0], points[1]]
    line = Shape(broken(ends, options.dash, width), box_of(ends), stroke=tint, width=width)
    shapes, labels = [line], []
    if options.angle:
        shapes += _arc(points, tint, width, around)
        labels.append(f"{angle_of(points):.1f}".rstrip("0").rstrip(".") + "°")
    if options.length:
        labels.append(f"{length_of(points):.0f} px")
    drawn = edged(shapes, around, along(ends))
    return (*drawn, *_label(" · ".join(labels), points, tint, around)) if labels else drawn


def _arc(points: tuple[Point, ...], tint: str, width: float, around: Around) -> list[Shape]:
    """From the horizontal through the first anchor to the line."""
    (ax, ay), angle = points[0], math.radians(angle_of(points))
    radius = min(_ARC_PT * around.px_per_pt, length_of(points) * 0.6)
    start = (ax + radius, ay)
    end = (ax + radius * math.cos(angle), ay - radius * math.sin(angle))
    base = (ax + radius * 1.25, ay)
    thin = width * _THIN
    sweep = 0.0 if angle > 0 else 1.0
    box = (ax - radius, ay - radius, ax + radius, ay + radius)
    return [
        Shape((("M", *start), ("A", radius, radius, 0, 0, sweep, *end)), box, stroke=tint, width=thin),
        Shape(polygon([points[0], base], closed=False), box_of([points[0], base]), stroke=tint, width=thin),
    ]


def _label(text: str, points: tuple[Point, ...], tint: str, around: Around) -> tuple[Operation, ...]:
    """Beside the middle of the line, on the side away from the arc."""
    of, size = face("next"), _LABEL_PT * around.px_per_pt
    (ax, ay), (bx, by) = points[0], points[1]
    advance = of.advance(text, size)
    length = length_of(points) or 1.0
    across = ((by - ay) / length, -(bx - ax) / length)
    if across[1] > 0:
        across = (-across[0], -across[1])
    away = size * 0.55 + abs(across[0]) * advance / 2 + 2 * around.px_per_pt
    middle = ((ax + bx) / 2 + across[0] * away, (ay + by) / 2 + across[1] * away)
    baseline = (middle[0] - advance / 2, middle[1] + of.cap_height * size / 2)
    edge_width = 2 * around.px_per_pt
    return (Letters(text, baseline, advance, of.family, of.weight, size, tint, edge_for(tint), edge_width),)


def _touch(points: tuple[Point, ...], _options: LineOptions, _around: Around) -> tuple[tuple[Point, ...], bool]:
    return (points[0], points[1]), False


KIND = MarkKind(
    "line",
    "Line",
    "drag",
    LineOptions,
    _draw,
    _touch,
    {
        "degrees": Derived("Angle", "°", angle_of, with_angle),
        "pixels": Derived("Length", "px", length_of, with_length),
    },
)
