"""Freehand outlines: a closed line drawn by hand; what lies outside it becomes transparent."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tijera.core.errors import AreaEmpty
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.vips import draw_svg

MOST_POINTS = 20_000
_LEAST_STEP = 0.4
"""Points closer together than this, in pixels, are one."""

Coverage = NDArray[np.uint8]


@dataclass(frozen=True)
class Outline:
    """A closed line through points (x, y) in pixels; where it crosses itself, all that it goes round is inside."""

    points: tuple[tuple[float, float], ...]

    @classmethod
    def drawn(cls, points: list[tuple[float, float]], within: Size) -> Outline:
        """From the points of a pointer, kept within a frame and thinned out. Raises `AreaEmpty`."""
        kept: list[tuple[float, float]] = []
        for x, y in points[:MOST_POINTS]:
            point = (min(max(x, 0.0), float(within.width)), min(max(y, 0.0), float(within.height)))
            if not kept or math.dist(point, kept[-1]) >= _LEAST_STEP:
                kept.append(point)
        outline = cls(tuple(kept))
        if len(kept) < 3 or outline.area < 1:
            raise AreaEmpty(width=0, height=0)
        return outline

    @property
    def area(self) -> float:
        """Of a line that does not cross itself, in square pixels (the shoelace formula)."""
        following = self.points[1:] + self.points[:1]
        return abs(sum(x0 * y1 - x1 * y0 for (x0, y0), (x1, y1) in zip(self.points, following, strict=True))) / 2

    @property
    def bounds(self) -> Rect:
        """The smallest rectangle of whole pixels round it."""
        left, top = (math.floor(min(point[axis] for point in self.points)) for axis in (0, 1))
        right, bottom = (math.ceil(max(point[axis] for point in self.points)) for axis in (0, 1))
        return Rect(left, top, max(right - left, 1), max(bottom - top, 1))

    def shifted(self, dx: float, dy: float) -> Outline:
        """The same line, moved."""
        return Outline(tuple((x + dx, y + dy) for x, y in self.points))

    def coverage(self, part: Rect) -> Coverage:
        """How much of each pixel of `part` lies inside, 0 to 255; shape (height, width)."""
        path = "M" + " L".join(f"{x - part.x:.2f} {y - part.y:.2f}" for x, y in self.points) + " Z"
        svg = (
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{part.width}" height="{part.height}" '
            f'viewBox="0 0 {part.width} {part.height}"><path d="{path}" fill="#fff" fill-rule="nonzero"/></svg>'
        )
        return np.ascontiguousarray(draw_svg(svg, 1).pixels[:, :, 3])
