"""The callout: words on a ground of their own, with a pointer that follows to what they are about."""

from __future__ import annotations

import math
from dataclasses import dataclass

from tijera.core.marks.colours import hex_of, words_on
from tijera.core.marks.letters import face
from tijera.core.marks.mark import Around, MarkKind, amount, paint, switch, typeface, words
from tijera.core.marks.operations import Box, Command, Operation, Point, Shape, box_of, polygon, rounded
from tijera.core.marks.text import Set, readable_on, set_text

_ROOT = 0.9
"""How broad the pointer leaves the box, in ems."""


@dataclass(frozen=True)
class CalloutOptions:
    """What a callout can have."""

    text: str = words("Says", lines=True)
    font: str = typeface()
    size_pt: float = amount("Size", 9.0, 4.0, 72.0)
    bold: bool = switch("Bold", default=False)
    colour: str = paint("ink")
    ground: str = paint("paper", "Ground")
    weight_pt: float = amount("Edge", 1.0, 0.25, 6.0)


def _set(points: tuple[Point, ...], options: CalloutOptions, around: Around) -> Set:
    """The anchors are the tip and the middle of the box."""
    size = options.size_pt * around.px_per_pt
    of = face(options.font, bold=options.bold)
    tint = readable_on(hex_of(options.colour), hex_of(options.ground))
    placed = set_text(options.text or " ", of, size, (0.0, 0.0), tint, padding=0.55)
    _, _, width, height = placed.box
    middle = points[1]
    return set_text(options.text or " ", of, size, (middle[0] - width / 2, middle[1] - height / 2), tint, padding=0.55)


def _root(box: Box, tip: Point, breadth: float) -> tuple[Point, Point] | None:
    """Where the pointer leaves the box, clockwise; None when its tip lies in the box."""
    left, top, right, bottom = box
    if left <= tip[0] <= right and top <= tip[1] <= bottom:
        return None
    middle = ((left + right) / 2, (top + bottom) / 2)
    dx, dy = tip[0] - middle[0], tip[1] - middle[1]
    wide, high = (right - left) / 2, (bottom - top) / 2
    half = min(breadth / 2, wide * 0.7, high * 0.7)
    if abs(dx) * high > abs(dy) * wide:
        side = right if dx > 0 else left
        at = min(max(middle[1] + dy * wide / abs(dx), top + half), bottom - half)
        return ((side, at - half), (side, at + half)) if dx > 0 else ((side, at + half), (side, at - half))
    side = bottom if dy > 0 else top
    at = min(max(middle[0] + dx * high / abs(dy), left + half), right - half)
    return ((at + half, side), (at - half, side)) if dy > 0 else ((at - half, side), (at + half, side))


def _draw(
    points: tuple[Point, ...], options: CalloutOptions, around: Around, _pressures: tuple[float, ...]
) -> tuple[Operation, ...]:
    placed = _set(points, options, around)
    tip = points[0]
    width = options.weight_pt * around.px_per_pt
    ground = hex_of(options.ground)
    edge = words_on(ground) if options.colour == options.ground else hex_of(options.colour)
    root = _root(placed.box, tip, _ROOT * options.size_pt * around.px_per_pt)
    box = rounded(placed.box, 3 * around.px_per_pt)
    shapes: list[Operation] = [Shape(box, placed.box, fill=ground, stroke=edge, width=width)]
    if root is not None:
        a, b = root
        inward = _inward(placed.box, a, b, width)
        wedge: tuple[Command, ...] = polygon([a, tip, b], closed=False)
        # The ground of the pointer runs a little into the box and covers its edge there.
        shapes.append(Shape(polygon([a, tip, b, *inward]), box_of([a, tip, b, *inward]), fill=ground))
        shapes.append(Shape(wedge, box_of([a, tip, b]), stroke=edge, width=width))
    return (*shapes, *placed.lines)


def _inward(box: Box, a: Point, b: Point, by: float) -> tuple[Point, Point]:
    middle = ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2)
    foot = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    length = math.dist(middle, foot) or 1.0
    across = a[0] == b[0]
    dx = math.copysign(by, middle[0] - foot[0]) if across and length else 0.0
    dy = 0.0 if across else math.copysign(by, middle[1] - foot[1])
    return (b[0] + dx, b[1] + dy), (a[0] + dx, a[1] + dy)


def _touch(points: tuple[Point, ...], options: CalloutOptions, around: Around) -> tuple[tuple[Point, ...], bool]:
    left, top, right, bottom = _set(points, options, around).box
    return ((left, top), (right, top), (right, bottom), (left, bottom)), True


KIND = MarkKind("callout", "Callout", "drag", CalloutOptions, _draw, _touch)
