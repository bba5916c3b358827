"""The harbour chart: photograph-like, made by a procedure from noise, the same on every machine."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from tijera.core.imaging.picture import Pixels

TITLE = "Harbour chart"
WIDTH, HEIGHT = 660, 480

Field = NDArray[np.float64]
# Height above water (0 to 1) → colour, from deep water to grass and rock.
_RAMP = ((0.0, (18, 52, 78)), (0.35, (38, 102, 122)), (0.5, (112, 168, 168)), (0.53, (214, 200, 160)),
         (0.62, (142, 158, 98)), (0.8, (92, 110, 74)), (1.0, (168, 158, 144)))  # fmt: skip


def paint(width: int, height: int, seed: int = 7) -> Pixels:
    """A view from above onto a made-up coast; shape (height, width, 3)."""
    random = np.random.Generator(np.random.PCG64(seed))
    land = sum((_octave(random, width, height, cells) * weight for cells, weight in _OCTAVES), np.zeros((height, width)))
    slope = np.linspace(-0.22, 0.26, width)[None, :] + np.linspace(0.1, -0.12, height)[:, None]
    land = np.clip((land - land.min()) / (np.ptp(land) or 1) * 0.8 + 0.12 + slope, 0, 1)
    light = 1 + 2.4 * (np.roll(land, 2, axis=1) - np.roll(land, -2, axis=1))
    stops = [stop for stop, _ in _RAMP]
    colour = np.stack([np.interp(land, stops, [rgb[band] for _, rgb in _RAMP]) for band in range(3)], axis=2)
    grain = random.normal(0, 5.5, (height, width, 1)) + random.normal(0, 1.5, (height, width, 3))
    painted: Pixels = np.clip(colour * np.clip(light, 0.72, 1.3)[:, :, None] + grain, 0, 255).astype(np.uint8)
    return painted


_OCTAVES = ((3, 1.0), (6, 0.5), (12, 0.25), (28, 0.12), (60, 0.06), (140, 0.03))


def _octave(random: np.random.Generator, width: int, height: int, cells: int) -> Field:
    """Smooth noise with so many cells across: random values, joined by smoothstep."""
    rows = max(2, round(cells * height / width))
    values = random.random((rows + 2, cells + 2))
    y, x = np.linspace(0, rows, height), np.linspace(0, cells, width)
    y0, x0 = np.floor(y).astype(int), np.floor(x).astype(int)
    fy, fx = (_smooth(y - y0))[:, None], (_smooth(x - x0))[None, :]
    top = values[y0][:, x0] * (1 - fx) + values[y0][:, x0 + 1] * fx
    bottom = values[y0 + 1][:, x0] * (1 - fx) + values[y0 + 1][:, x0 + 1] * fx
    field: Field = top * (1 - fy) + bottom * fy
    return field


def _smooth(t: Field) -> Field:
    smoothed: Field = t * t * (3 - 2 * t)
    return smoothed
