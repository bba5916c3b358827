"""The one door to libvips: settings that must stand before it loads, and conversion to and from arrays.

FONTCONFIG_FILE must be set before the library loads: librsvg silently takes another font otherwise.
"""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

import numpy as np

FONTS = Path(__file__).resolve().parents[2] / "fonts"

os.environ["FONTCONFIG_FILE"] = str(FONTS / "fonts.conf")
os.environ.setdefault("VIPS_CONCURRENCY", "1")

import pyvips  # noqa: E402  (the settings above must come first)

from tijera.core.imaging.picture import Picture, Pixels  # noqa: E402

VipsImage = Any
"""pyvips ships no types."""


def to_vips(pixels: Pixels) -> VipsImage:
    """Wrap an array of shape (height, width, bands) without copying; the caller keeps the array alive."""
    height, width, bands = pixels.shape
    image = pyvips.Image.new_from_memory(np.ascontiguousarray(pixels).data, width, height, bands, "uchar")
    return image.copy(interpretation="srgb")


def to_picture(image: VipsImage, density_ppi: float | None = None) -> Picture:
    """Read an 8-bit sRGB image into an array."""
    pixels = np.frombuffer(image.write_to_memory(), dtype=np.uint8).reshape(image.height, image.width, image.bands)
    return Picture(pixels, density_ppi)


def draw_svg(svg: str, scale: float) -> Picture:
    """Rasterise SVG text with the fonts that ship with Tijera; `scale` is pixels per SVG unit. Keeps transparency."""
    image = pyvips.Image.svgload_buffer(svg.encode(), scale=scale)
    return to_picture(image)


def draw_text_width(text: str, family: str) -> int:
    """The inked width in pixels of a text at 100 px: how the start-up check finds out that a font is missing."""
    svg = (
        '<svg xmlns="http://www.w3.org/2000/svg" width="2000" height="200">'
        f'<text x="10" y="120" font-size="100" font-family="{family}">{text}</text></svg>'
    )
    inked = np.flatnonzero(draw_svg(svg, 1).pixels[:, :, 3].any(axis=0))
    return int(inked[-1] - inked[0] + 1) if inked.size else 0
