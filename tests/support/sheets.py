"""Clippings and their sources for tests."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from tijera.core.clippings.cutting import Clipping
from tijera.core.clippings.sheet import PLAIN, Sheet
from tijera.core.clippings.turning import turned_size
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture, Pixels
from tijera.core.imaging.resize import resize
from tijera.core.marks.mark import Mark, Value
from tijera.core.marks.operations import Point


@dataclass
class Given:
    """Sources that are given."""

    picture: Picture
    layer: Picture | None = None
    parts: Mapping[str, Picture] = field(default_factory=dict)

    def frame(self) -> Picture:
        return self.picture

    def pointer(self) -> Picture | None:
        return self.layer

    def part(self, clipping_id: str, size: Size, px_per_pt: float) -> Picture:
        return resize(self.parts[clipping_id], size)


def screen(width: int = 120, height: int = 80) -> Pixels:
    """A small screen: light ground, a dark bar, some letters' worth of stripes; nothing is symmetric."""
    pixels = np.full((height, width, 3), (232, 238, 236), dtype=np.uint8)
    pixels[:12] = (28, 72, 66)
    for column in range(10, width - 30, 7):
        pixels[30 : 30 + column % 11 + 4, column : column + 2] = (32, 40, 42)
    pixels[55:70, 15:50] = (181, 53, 31)
    return pixels


def clipping_of(pixels: Pixels, crop: Rect | None = None, sheet: Sheet = PLAIN, scale_factor: float = 1.0) -> Clipping:
    """A clipping of all these pixels."""
    size = Size(pixels.shape[1], pixels.shape[0])
    whole = Rect.whole(turned_size(sheet.turn, size))
    return Clipping(size, Rect.whole(size), crop or whole, scale_factor, sheet=sheet)


def mark(kind: str, *points: Point, id_: str = "m", **options: Value) -> Mark:
    """A mark through points."""
    return Mark(id_, kind, points, options)
