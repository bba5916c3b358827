"""What lies beneath marks: how light the picture is, for choosing an edge that sets a mark off."""

from __future__ import annotations

from collections.abc import Hashable, Iterable
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tijera.core.imaging.picture import Picture
from tijera.core.marks.colours import LEAST_CONTRAST, contrast, luminance
from tijera.core.marks.operations import Point

_TOO_WEAK_SHARE = 0.04
"""So much of a mark may lie on weak contrast before it gets its edge: a hairline that it crosses is no reason."""
_DARK = 0.18
"""Below this luminance light letters on a ground read better than dark ones (contrast with black equals that with white)."""
_LINEAR = np.array(
    [v / 255 / 12.92 if v / 255 <= 0.04045 else ((v / 255 + 0.055) / 1.055) ** 2.4 for v in range(256)],
    dtype=np.float32,
)


class Ground:
    """Relative luminances of a picture whose left upper corner lies at `corner`, in clipping pixels.

    `scale` is the picture's pixels per clipping pixel. Beyond the picture the ground is white, as paper is.
    """

    def __init__(self, picture: Picture | None, corner: Point = (0.0, 0.0), scale: float = 1.0) -> None:
        self._corner, self._scale = corner, scale
        self.drawn: dict[Hashable, Any] = {}
        """Marks that were drawn on it, by all that decides how they look."""
        self._plane: NDArray[np.float32] | None = None if picture is None else _luminances(picture)

    def at(self, points: Iterable[Point]) -> list[float]:
        """The luminance under each point."""
        if self._plane is None:
            return [1.0 for _ in points]
        height, width = self._plane.shape
        found = []
        for x, y in points:
            column, row = int((x - self._corner[0]) * self._scale), int((y - self._corner[1]) * self._scale)
            inside = 0 <= column < width and 0 <= row < height
            found.append(float(self._plane[row, column]) if inside else 1.0)
        return found

    def hides(self, colour: str, points: Iterable[Point]) -> bool:
        """Whether a colour has too little contrast with what lies under the points."""
        own = luminance(colour)
        under = self.at(points)
        weak = sum(contrast(own, each) < LEAST_CONTRAST for each in under)
        return weak > _TOO_WEAK_SHARE * len(under)

    def is_dark(self, points: Iterable[Point]) -> bool:
        """Whether most of the points lie on something dark."""
        under = self.at(points)
        return sum(each < _DARK for each in under) * 2 > len(under)


def _luminances(picture: Picture) -> NDArray[np.float32]:
    linear = _LINEAR[picture.pixels[:, :, :3]]
    plane: NDArray[np.float32] = linear @ np.array([0.2126, 0.7152, 0.0722], dtype=np.float32)
    if picture.has_alpha:
        cover = picture.pixels[:, :, 3] / np.float32(255)
        plane = (plane * cover + (1 - cover)).astype(np.float32)
    return plane


def along(points: Iterable[Point], step: float = 4.0) -> list[Point]:
    """Points at most `step` pixels apart along a line through points; at most some 2,000 of them."""
    corners = list(points)
    total = sum(abs(b[0] - a[0]) + abs(b[1] - a[1]) for a, b in pairwise(corners))
    step = max(step, total / 2_000)
    out = [corners[0]]
    for (ax, ay), (bx, by) in pairwise(corners):
        count = max(1, int(max(abs(bx - ax), abs(by - ay)) / step))
        out.extend((ax + (bx - ax) * n / count, ay + (by - ay) * n / count) for n in range(1, count + 1))
    return out
