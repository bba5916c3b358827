"""Lightness, as measures and the search for letters see it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from tijera.core.imaging.picture import Picture

Plane = NDArray[np.float32]


def luma(picture: Picture) -> Plane:
    """Rec. 601 luma, 0 to 255, on white where the picture is transparent."""
    pixels = picture.pixels.astype(np.float32)
    grey: Plane = (
        pixels[:, :, 0] * np.float32(0.299) + pixels[:, :, 1] * np.float32(0.587) + pixels[:, :, 2] * np.float32(0.114)
    )
    if picture.has_alpha:
        cover = pixels[:, :, 3] / np.float32(255)
        grey = grey * cover + np.float32(255) * (1 - cover)
    return grey
