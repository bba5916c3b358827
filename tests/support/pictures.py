"""Small pictures for tests, never square, never symmetric."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image

from tijera.core.imaging.picture import Picture


def text_like(width: int = 120, height: int = 70, seed: int = 3) -> Picture:
    """Flat ground with dark strokes of a few colours, as a screen has."""
    random = np.random.default_rng(seed)
    pixels = np.full((height, width, 3), 250, dtype=np.uint8)
    for _ in range(width * height // 60):
        x, y = int(random.integers(0, width - 8)), int(random.integers(0, height - 3))
        pixels[y : y + int(random.integers(1, 3)), x : x + int(random.integers(2, 8))] = random.integers(0, 120, 3)
    return Picture(pixels)


def photograph_like(width: int = 120, height: int = 70, seed: int = 5) -> Picture:
    """Smooth with grain: hardly two neighbours alike."""
    random = np.random.default_rng(seed)
    ramp = np.linspace(40, 200, width)[None, :, None] + np.linspace(-30, 30, height)[:, None, None]
    return Picture(np.clip(ramp + random.normal(0, 9, (height, width, 3)), 0, 255).astype(np.uint8))


def encoded(picture: Picture, file_format: str = "PNG", **options: object) -> bytes:
    """Encode with Pillow: an encoder that is not ours."""
    out = io.BytesIO()
    Image.fromarray(picture.pixels).save(out, file_format, **options)
    return out.getvalue()
