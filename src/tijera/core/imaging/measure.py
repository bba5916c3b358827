"""How far an encoding is from its original, where it matters for reading.

Gradient similarity gathered at the inked pixels: of the fast measures the one that follows the share of words that
are still recognised best (rank correlation 0.94 over 164 encodings of text screens). It ranks well and guarantees
nothing. Reference: the gradient similarity of GMSD (Xue et al., IEEE TIP 23(2), 2014), from memory.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from tijera.core.imaging.picture import Picture
from tijera.core.imaging.resize import resize

_INK_SHARE = 0.10
"""The strongest tenth of the gradients counts as ink."""
_STABILISER = 170.0
"""Keeps the ratio calm where both gradients are small; GMSD's constant for 8-bit luma (from memory)."""
_FAINTEST_INK = 4.0

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


def _gradient(plane: Plane) -> Plane:
    """Magnitude of the central differences; the outer edge is zero."""
    across, down = np.zeros_like(plane), np.zeros_like(plane)
    across[:, 1:-1] = (plane[:, 2:] - plane[:, :-2]) / 2
    down[1:-1, :] = (plane[2:, :] - plane[:-2, :]) / 2
    magnitude: Plane = np.hypot(across, down)
    return magnitude


class Original:
    """What encodings of one picture are compared with; its ink is found once."""

    def __init__(self, picture: Picture) -> None:
        self.size = picture.size
        gradient = _gradient(luma(picture))
        threshold = max(float(np.quantile(gradient, 1 - _INK_SHARE)), _FAINTEST_INK)
        self._ink = gradient >= threshold
        self._at_ink = gradient[self._ink]

    def kept(self, candidate: Picture) -> float:
        """The share of the ink's gradients that a candidate keeps, 0 to 1; 1 is the original."""
        if not self._at_ink.size:
            return 1.0
        gradient = _gradient(luma(resize(candidate, self.size)))[self._ink]
        similar = (2 * gradient * self._at_ink + _STABILISER) / (gradient**2 + self._at_ink**2 + _STABILISER)
        return float(similar.mean())
