"""The pen: a free stroke, wider where a pen presses harder."""

from __future__ import annotations

import math
from dataclasses import dataclass

from tijera.core.marks.arrow import edged
from tijera.core.marks.colours import hex_of
from tijera.core.marks.ground import along
from tijera.core.marks.mark import Around, MarkKind, amount, paint
from tijera.core.marks.operations import Command, Operation, Point, Shape, box_of, polygon

_TOLERANCE = 0.4
"""How far, in clipping pixels, a stroke may lie from the way of the pointer."""
_MAY_CUT = 0.8
"""How far, in clipping pixels, a rounded corner may lie from the corner that was drawn."""
_SEAM = 0.06
"""Of the weight: a thin line round the outline closes the seams between its pieces."""
_LEAST_SHARE = 0.25
"""Of the weight, where a pen hardly presses."""


@dataclass(frozen=True)
class PenOptions:
    """What a stroke can have."""

    colour: str = paint("ink")
    weight_pt: float = amount("Weight", 2.0, 0.25, 36)


def thinned(points: tuple[Point, ...], tolerance: float = _TOLERANCE) -> list[int]:
    """The indices of the points that a line needs to stay within a tolerance of all of them (Douglas and Peucker)."""
    keep = {0, len(points) - 1}
    spans = [(0, len(points) - 1)]
    while spans:
        first, last = spans.pop()
        if last - first < 2:
            continue
        (ax, ay), (bx, by) = points[first], points[last]
        dx, dy = bx - ax, by - ay
        length = math.hypot(dx, dy)
        worst, at = tolerance, -1
        for index in range(first + 1, last):
            px, py = points[index][0] - ax, points[index][1] - ay
            away = abs(px * dy - py * dx) / length if length else math.hypot(px, py)
            if away > worst:
                worst, at = away, index
        if at >= 0:
            keep.add(at)
            spans += [(first, at), (at, last)]
    return sorted(keep)


def smooth(points: list[Point]) -> tuple[Command, ...]:
    """The way with its corners rounded: by half of each side where it hardly bends, by little where it turns sharply.

    A quadratic curve from r before a corner to r behind it passes the corner at r · |u + v| / 4, where u and v are the
    unit vectors along its sides (from the curve's definition at t = 1/2).
    """
    if len(points) < 3:
        return polygon(points, closed=False)
    path: list[Command] = [("M", *points[0])]
    at = points[0]
    for before, corner, behind in zip(points, points[1:], points[2:], strict=False):
        one, other = math.dist(before, corner), math.dist(corner, behind)
        u = ((before[0] - corner[0]) / (one or 1), (before[1] - corner[1]) / (one or 1))
        v = ((behind[0] - corner[0]) / (other or 1), (behind[1] - corner[1]) / (other or 1))
        reach = 4 * _MAY_CUT / max(math.hypot(u[0] + v[0], u[1] + v[1]), 1e-6)
        first, last = (
            (corner[0] + towards[0] * min(reach, side / 2), corner[1] + towards[1] * min(reach, side / 2))
            for towards, side in ((u, one), (v, other))
        )
        if math.dist(at, first) > 1e-6:
            path.append(("L", *first))
        path.append(("Q", *corner, *last))
        at = last
    path.append(("L", *points[-1]))
    return tuple(path)


def _draw(
    points: tuple[Point, ...], options: PenOptions, around: Around, pressures: tuple[float, ...]
) -> tuple[Operation, ...]:
    width = options.weight_pt * around.px_per_pt
    tint = hex_of(options.colour)
    kept = thinned(points)
    way = [points[index] for index in kept]
    if pressures:
        # Thinning follows the way only; pressure is read where the way bends, and between the bends every few points.
        kept = sorted({*kept, *range(0, len(points), 4)})
        way = [points[index] for index in kept]
        widths = [width * (_LEAST_SHARE + (1 - _LEAST_SHARE) * pressures[index]) for index in kept]
        outline = _outline(way, widths)
        shape = Shape(polygon(outline), box_of(outline), fill=tint, stroke=tint, width=width * _SEAM)
    elif len(way) == 1:
        shape = Shape(
            polygon([way[0], (way[0][0] + 0.01, way[0][1])], closed=False), box_of(way), stroke=tint, width=width
        )
    else:
        shape = Shape(smooth(way), box_of(way), stroke=tint, width=width)
    return edged([shape], around, along(way))


def _outline(way: list[Point], widths: list[float]) -> list[Point]:
    """Both sides of a stroke whose width changes."""
    left, right = [], []
    for index, (x, y) in enumerate(way):
        (px, py), (nx, ny) = way[max(index - 1, 0)], way[min(index + 1, len(way) - 1)]
        length = math.hypot(nx - px, ny - py) or 1.0
        half = widths[index] / 2
        dx, dy = -(ny - py) / length * half, (nx - px) / length * half
        left.append((x + dx, y + dy))
        right.append((x - dx, y - dy))
    return left + right[::-1]


def _touch(points: tuple[Point, ...], _options: PenOptions, _around: Around) -> tuple[tuple[Point, ...], bool]:
    return tuple(points[index] for index in thinned(points, 2.0)), False


KIND = MarkKind("pen", "Pen", "stroke", PenOptions, _draw, _touch, least_points=1, may_be_small=True)
