"""Where a screen shows a photograph."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from tijera.core.imaging.picture import PHOTOGRAPH_FLAT_SHARE, Picture

_TILE, _FEWEST_TILES = 48, 6
"""In pixels, and how many of them a photograph on a screen has at least: about 120 × 120 pixels."""


def photographic_part(picture: Picture) -> NDArray[np.bool_] | None:
    """The pixels of a photograph on a screen, (height, width); None where there are few.

    They are told by tiles in which hardly any pixel equals its neighbour.
    """
    height, width = picture.size.height, picture.size.width
    down, across = height // _TILE, width // _TILE
    shown = np.zeros((down, across), dtype=bool)
    for row in range(down):
        band = picture.pixels[row * _TILE : (row + 1) * _TILE, : across * _TILE]
        same = np.ones((_TILE, across * _TILE), dtype=np.float32)
        same[:, 1:] = (band[:, 1:] == band[:, :-1]).all(axis=2)
        shown[row] = same.reshape(_TILE, across, _TILE).mean(axis=(0, 2)) < PHOTOGRAPH_FLAT_SHARE
    if np.count_nonzero(shown) < _FEWEST_TILES:
        return None
    part = np.zeros((height, width), dtype=bool)
    part[: down * _TILE, : across * _TILE] = np.repeat(np.repeat(shown, _TILE, axis=0), _TILE, axis=1)
    return part
