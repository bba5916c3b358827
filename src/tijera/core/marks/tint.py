"""The tint: a broad see-through stroke; the text under it stays readable.

On a light ground it multiplies, on a dark one it screens (CSS Compositing and Blending 1): either way the letters keep
their colour and the ground between them changes.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from tijera.core.marks.ground import along
from tijera.core.marks.mark import Around, MarkKind, amount, choice
from tijera.core.marks.operations import Blend, Operation, Point, Shape, box_of, polygon
from tijera.core.marks.pen import smooth, thinned

COLOURS = {
    "saffron": ("#ffe28a", "#5c4600"),
    "glass": ("#b9e3d8", "#0f4a42"),
    "sky": ("#c3ddf5", "#143f66"),
    "rose": ("#f7cfd6", "#5e1f30"),
}
"""By key: the colour that multiplies on light ground, and the one that screens on dark ground."""
_LEVEL = math.tan(math.radians(8))


@dataclass(frozen=True)
class TintOptions:
    """What a tint can have."""

    colour: str = choice("Colour", "saffron", saffron="Saffron", glass="Sea glass", sky="Sky", rose="Rose")
    weight_pt: float = amount("Width", 12.0, 2.0, 72.0)
    way: str = choice("Way", "straight", straight="straight", free="free")


def way_of(points: tuple[Point, ...], way: str) -> list[Point]:
    """The line that the stroke follows: a straight one is brought to the level where it is nearly so."""
    if way == "free":
        return [points[index] for index in thinned(points)]
    (ax, ay), (bx, by) = points[0], points[-1]
    if abs(by - ay) <= _LEVEL * abs(bx - ax):
        by = ay
    return [(ax, ay), (bx, by)]


def _draw(
    points: tuple[Point, ...], options: TintOptions, around: Around, _pressures: tuple[float, ...]
) -> tuple[Operation, ...]:
    way = way_of(points, options.way)
    on_light, on_dark = COLOURS[options.colour]
    dark = around.ground.is_dark(along(way))
    path = polygon(way, closed=False) if options.way == "straight" else smooth(way)
    width = options.weight_pt * around.px_per_pt
    blend = Blend.SCREEN if dark else Blend.MULTIPLY
    return (Shape(path, box_of(way), stroke=on_dark if dark else on_light, width=width, blend=blend),)


def _touch(points: tuple[Point, ...], options: TintOptions, _around: Around) -> tuple[tuple[Point, ...], bool]:
    return tuple(way_of(points, options.way)), False


KIND = MarkKind("tint", "Tint", "stroke", TintOptions, _draw, _touch)
