"""The arrow: from its tail to its tip, straight or bent, with an open or a filled head."""

from __future__ import annotations

import math
from dataclasses import dataclass

from tijera.core.marks.colours import edge_for, hex_of
from tijera.core.marks.ground import along
from tijera.core.marks.mark import Around, MarkKind, amount, choice, paint
from tijera.core.marks.operations import Command, Operation, Point, Shape, box_of, polygon

_HEAD_ANGLE = math.radians(26)
_HEAD_LENGTH = 4.2
"""In widths of the shaft, and never shorter than:"""
_LEAST_HEAD_PT = 6.0
_BEND = 0.2
"""How far a bent arrow leaves the straight line until it is bent otherwise, in its own length."""
_EDGE_PT = 1.0


@dataclass(frozen=True)
class ArrowOptions:
    """What an arrow can have."""

    colour: str = paint("ink")
    weight_pt: float = amount("Weight", 1.5, 0.25, 24)
    line: str = choice("Line", "straight", straight="straight", bent="bent")
    head: str = choice("Head", "open", open="open", filled="filled")


def middle_of(points: tuple[Point, ...], line: str) -> Point | None:
    """The point that a bent arrow passes through half way; None for a straight one."""
    if line != "bent":
        return None
    (ax, ay), (bx, by) = points[0], points[1]
    if len(points) > 2:
        return points[2]
    return ((ax + bx) / 2 - (by - ay) * _BEND, (ay + by) / 2 + (bx - ax) * _BEND)


def _control(a: Point, b: Point, middle: Point) -> Point:
    """Of a quadratic curve from a to b through a middle point."""
    return (2 * middle[0] - (a[0] + b[0]) / 2, 2 * middle[1] - (a[1] + b[1]) / 2)


def _along_curve(a: Point, control: Point, b: Point, count: int = 64) -> list[Point]:
    out = []
    for step in range(count + 1):
        t = step / count
        u = 1 - t
        out.append(
            (
                u * u * a[0] + 2 * u * t * control[0] + t * t * b[0],
                u * u * a[1] + 2 * u * t * control[1] + t * t * b[1],
            )
        )
    return out


def _draw(
    points: tuple[Point, ...], options: ArrowOptions, around: Around, _pressures: tuple[float, ...]
) -> tuple[Operation, ...]:
    tail, tip = points[0], points[1]
    width = options.weight_pt * around.px_per_pt
    middle = middle_of(points, options.line)
    control = None if middle is None else _control(tail, tip, middle)
    comes_from = control or tail
    if math.dist(comes_from, tip) < 0.5:
        comes_from = tail
    angle = math.atan2(tip[1] - comes_from[1], tip[0] - comes_from[0])
    whole = math.dist(tail, tip)
    head = min(max(_HEAD_LENGTH * width, _LEAST_HEAD_PT * around.px_per_pt), max(whole * 0.8, width))
    wings = [
        (tip[0] - head * math.cos(angle + side), tip[1] - head * math.sin(angle + side))
        for side in (_HEAD_ANGLE, -_HEAD_ANGLE)
    ]
    way = [tail, tip] if control is None else _along_curve(tail, control, tip)
    if options.head == "filled":
        # The shaft ends inside the head, so that its end does not blunt the tip.
        back = head * math.cos(_HEAD_ANGLE) * 0.8
        end = (tip[0] - back * math.cos(angle), tip[1] - back * math.sin(angle))
    else:
        end = tip
    shaft: tuple[Command, ...] = (("M", *tail), ("L", *end) if control is None else ("Q", *control, *end))
    tint = hex_of(options.colour)
    shapes = [Shape(shaft, box_of([*way, end]), stroke=tint, width=width)]
    if options.head == "filled":
        shapes.append(
            Shape(polygon([wings[0], tip, wings[1]]), box_of([*wings, tip]), fill=tint, stroke=tint, width=width / 2)
        )
    else:
        shapes.append(
            Shape(polygon([wings[0], tip, wings[1]], closed=False), box_of([*wings, tip]), stroke=tint, width=width)
        )
    return edged(shapes, around, along([*way, wings[0], tip, wings[1]]))


def edged(shapes: list[Shape], around: Around, samples: list[Point]) -> tuple[Operation, ...]:
    """The shapes, over an edge that sets them off where the picture beneath would swallow them."""
    tint = next(each for shape in shapes for each in (shape.stroke, shape.fill) if each)
    if not around.ground.hides(tint, samples):
        return tuple(shapes)
    edge = edge_for(tint)
    under = [
        Shape(
            shape.path,
            shape.bounds,
            fill=edge if shape.fill else None,
            stroke=edge,
            width=(shape.width if shape.stroke else 0.0) + 2 * _EDGE_PT * around.px_per_pt,
        )
        for shape in shapes
    ]
    return (*under, *shapes)


def _touch(points: tuple[Point, ...], options: ArrowOptions, _around: Around) -> tuple[tuple[Point, ...], bool]:
    middle = middle_of(points, options.line)
    if middle is None:
        return (points[0], points[1]), False
    return tuple(_along_curve(points[0], _control(points[0], points[1], middle), points[1])), False


KIND = MarkKind("arrow", "Arrow", "drag", ArrowOptions, _draw, _touch)
