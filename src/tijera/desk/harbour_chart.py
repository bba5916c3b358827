"""The harbour chart: photograph-like, made by a procedure from noise, the same on every machine."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from tijera.core.imaging.picture import Pixels

Field = NDArray[np.float32]
# Height above water (0 to 1) → colour, from deep water to grass and rock.
_RAMP = ((0.0, (18, 52, 78)), (0.35, (38, 102, 122)), (0.5, (112, 168, 168)), (0.53, (214, 200, 160)),
         (0.62, (142, 158, 98)), (0.8, (92, 110, 74)), (1.0, (168, 158, 144)))  # fmt: skip


def paint(width: int, height: int, seed: int = 7) -> Pixels:
    """A view from above onto a made-up coast; shape (height, width, 3)."""
    random = np.random.Generator(np.random.PCG64(seed))
    land = np.zeros((height, width), dtype=np.float32)
    for cells, weight in _OCTAVES:
        land += _octave(random, width, height, cells) * np.float32(weight)
    land -= land.min()
    land *= 0.8 / max(float(land.max()), 1e-6)
    land += 0.12
    land += np.linspace(-0.22, 0.26, width, dtype=np.float32)[None, :]
    land += np.linspace(0.1, -0.12, height, dtype=np.float32)[:, None]
    np.clip(land, 0, 1, out=land)
    light = np.clip(1 + 2.4 * (np.roll(land, 2, axis=1) - np.roll(land, -2, axis=1)), 0.72, 1.3)
    painted: Field = _colours()[(land * (_SHADES - 1)).astype(np.int16)] * light[:, :, None]
    painted += random.standard_normal((height, width, 1), dtype=np.float32) * np.float32(5.5)
    painted += random.standard_normal((height, width, 3), dtype=np.float32) * np.float32(1.5)
    pixels: Pixels = np.clip(painted, 0, 255).astype(np.uint8)
    return pixels


_SHADES = 1_024


def _colours() -> Field:
    """The ramp as a table of `_SHADES` colours."""
    stops, at = [stop for stop, _ in _RAMP], np.linspace(0, 1, _SHADES)
    bands = [np.interp(at, stops, [rgb[band] for _, rgb in _RAMP]) for band in range(3)]
    return np.stack(bands, axis=1).astype(np.float32)


_OCTAVES = ((3, 1.0), (6, 0.5), (12, 0.25), (28, 0.12), (60, 0.06), (140, 0.03))


def _octave(random: np.random.Generator, width: int, height: int, cells: int) -> Field:
    """Smooth noise with so many cells across: random values, joined by smoothstep in both directions."""
    rows = max(2, round(cells * height / width))
    values = random.random((rows + 2, cells + 2), dtype=np.float32)
    down, across = _weights(height, rows), _weights(width, cells)
    field: Field = (down @ values @ across.T).astype(np.float32)
    return field


def _weights(length: int, cells: int) -> Field:
    """How much each of the values counts at each pixel; shape (length, cells + 2)."""
    at = np.linspace(0, cells, length)
    left = np.floor(at).astype(int)
    t = at - left
    share = t * t * (3 - 2 * t)
    weights = np.zeros((length, cells + 2), dtype=np.float32)
    pixel = np.arange(length)
    weights[pixel, left] = 1 - share
    weights[pixel, left + 1] = share
    return weights
