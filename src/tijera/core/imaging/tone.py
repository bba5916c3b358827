"""Tones of a picture: brightness, contrast, grey, paler for behind text. Pixel by pixel, in sRGB values."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from tijera.core.imaging.picture import Picture, Pixels, whole_values

_STEEPEST = 4.0
"""How steep the curve becomes at full contrast."""
_MIDDLE = 127.5


def _curve(brightness: float, contrast: float, paler: float) -> Pixels:
    """The new value for each of the 256 old ones; amounts in per cent."""
    values = np.arange(256, dtype=np.float64)
    steep = 1 + contrast / 100 if contrast <= 0 else 1 + contrast / 100 * (_STEEPEST - 1)
    values = np.clip((values - _MIDDLE) * steep + _MIDDLE + brightness * 1.275, 0, 255)
    values += (255 - values) * paler / 100
    return whole_values(values)


def toned(
    picture: Picture, *, brightness: float = 0, contrast: float = 0, paler: float = 0, grey: bool = False
) -> Picture:
    """The picture with other tones; transparency stays.

    `grey` takes the luma of Rec. 709 (0.2126, 0.7152, 0.0722).
    """
    colours = picture.pixels[:, :, :3]
    if grey:
        weights = np.array([0.2126, 0.7152, 0.0722], dtype=np.float32)
        luma: NDArray[np.float32] = colours.astype(np.float32) @ weights
        colours = np.repeat(whole_values(luma)[:, :, None], 3, axis=2)
    if brightness or contrast or paler:
        colours = _curve(brightness, contrast, paler)[colours]
    if not picture.has_alpha:
        return Picture(np.ascontiguousarray(colours), picture.density_ppi)
    out = np.dstack((colours, picture.pixels[:, :, 3]))
    out[out[:, :, 3] == 0] = 0
    return Picture(out, picture.density_ppi)
