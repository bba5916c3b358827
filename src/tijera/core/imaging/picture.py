"""A picture in memory."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tijera.core.geometry import Rect, Size

Pixels = NDArray[np.uint8]


def whole_values(values: NDArray[np.floating[Any]]) -> Pixels:
    """Values of samples as 8 bits: what lies outside 0 to 255 is cut off, halves go up as everywhere."""
    whole: Pixels = np.clip(np.floor(values + 0.5), 0, 255).astype(np.uint8)
    return whole


PHOTOGRAPH_FLAT_SHARE = 0.35
"""Below this share of pixels equal to their left neighbour a picture counts as a photograph.

Measured on the practice desk: its text windows have 0.75 to 0.95, the harbour chart 0.02.
"""


@dataclass(frozen=True, eq=False)
class Indexed:
    """A picture of at most 256 colours: a number for each pixel instead of its samples."""

    palette: Pixels
    """The colours, (n, 3) or with transparency (n, 4)."""
    indices: Pixels
    """Of each pixel, (height, width)."""

    @property
    def size(self) -> Size:
        """Width and height in pixels."""
        return Size(self.indices.shape[1], self.indices.shape[0])

    def spread(self) -> Picture:
        """The same picture with its samples at each pixel."""
        return Picture(self.palette[self.indices])


@dataclass(frozen=True, eq=False)
class Picture:
    """sRGB pixels of shape (height, width, 3) or, with transparency, (height, width, 4), 8 bits each."""

    pixels: Pixels
    density_ppi: float | None = None
    """Pixels per inch that the source declared; None when it declared none."""

    def __post_init__(self) -> None:
        shape = self.pixels.shape
        if self.pixels.dtype != np.uint8 or len(shape) != 3 or shape[2] not in (3, 4) or not shape[0] * shape[1]:
            msg = f"a picture has shape (height, width, 3 or 4) in uint8, not {shape} in {self.pixels.dtype}"
            raise ValueError(msg)

    @property
    def size(self) -> Size:
        """Width and height in pixels."""
        return Size(self.pixels.shape[1], self.pixels.shape[0])

    @property
    def has_alpha(self) -> bool:
        """Whether there is a transparency channel."""
        return bool(self.pixels.shape[2] == 4)

    def has_pixels_of(self, other: Picture) -> bool:
        """Whether every pixel is the same as in another picture."""
        if self.pixels.shape != other.pixels.shape:
            return False
        return all(np.array_equal(ours, theirs) for ours, theirs in zip(self.pixels, other.pixels, strict=True))

    def cut(self, area: Rect) -> Picture:
        """Copy the pixels of `area` and nothing else; the area must lie within the picture."""
        if not area.lies_within(self.size):
            msg = f"{area} does not lie within {self.size}"
            raise ValueError(msg)
        part = self.pixels[area.y : area.bottom, area.x : area.right]
        return Picture(np.array(part, order="C", copy=True), self.density_ppi)

    def as_seen(self) -> Picture:
        """The same picture with nothing in it that can't be seen: no colour under full transparency, no idle alpha."""
        if not self.has_alpha:
            return self
        alpha = self.pixels[:, :, 3]
        if int(alpha.min()) == 255:
            return Picture(np.ascontiguousarray(self.pixels[:, :, :3]), self.density_ppi)
        unseen = alpha == 0
        if not self.pixels[:, :, :3][unseen].any():
            return self
        pixels = self.pixels.copy()
        pixels[unseen] = 0
        return Picture(pixels, self.density_ppi)

    @cached_property
    def is_photograph(self) -> bool:
        """Whether it looks like a photograph rather than a screen: hardly any pixel equals its neighbour."""
        if self.size.width < 2:
            return False
        rows = self.pixels[:: max(1, self.size.height // 512)]
        same = np.all(rows[:, 1:] == rows[:, :-1], axis=2)
        return float(same.mean()) < PHOTOGRAPH_FLAT_SHARE
