"""The one door to libvips: settings that must stand before it loads, and conversion to and from arrays.

FONTCONFIG_FILE must be set before the library loads: librsvg silently takes another font otherwise.
"""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

FONTS = Path(__file__).resolve().parents[2] / "fonts"

os.environ["FONTCONFIG_FILE"] = str(FONTS / "fonts.conf")
os.environ.setdefault("VIPS_CONCURRENCY", "1")

import pyvips  # noqa: E402  (the settings above must come first)

from tijera.core.geometry import Size  # noqa: E402
from tijera.core.imaging.picture import Picture, Pixels  # noqa: E402

# Nothing is asked for twice here, and what it keeps would be whole pictures.
pyvips.cache_set_max(0)

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


def enlarged(image: VipsImage, scales: tuple[float, float], size: Size) -> VipsImage:
    """An image on more pixels, by cubic interpolation between the middles of its own."""
    return image.affine(
        (scales[0], 0, 0, scales[1]),
        interpolate=pyvips.Interpolate.new("bicubic"),
        odx=(scales[0] - 1) / 2,
        ody=(scales[1] - 1) / 2,
        oarea=(0, 0, size.width, size.height),
        extend="copy",
    )


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


def affine(
    planes: NDArray[np.float32],
    start: tuple[float, float],
    right: tuple[float, float],
    down: tuple[float, float],
    size: Size,
) -> NDArray[np.float32]:
    """Sample planes of shape (height, width, bands) bilinearly, zero outside; coordinates are of pixel middles.

    `start` is where the first sample lies, `right` and `down` the steps from one to the next.
    """
    height, width, bands = planes.shape
    image = pyvips.Image.new_from_memory(np.ascontiguousarray(planes).data, width, height, bands, "float")
    index = pyvips.Image.xyz(size.width, size.height)
    across = index[0] * right[0] + index[1] * down[0] + start[0]
    index = across.bandjoin(index[0] * right[1] + index[1] * down[1] + start[1])
    sampled = image.mapim(index, interpolate=pyvips.Interpolate.new("bilinear"), extend="black")
    data = sampled.cast("float").write_to_memory()
    return np.frombuffer(data, dtype=np.float32).reshape(size.height, size.width, bands)


def blurred(plane: Pixels, sigma: float) -> Pixels:
    """A plane of shape (height, width) under a Gaussian blur."""
    image = to_vips(plane[:, :, None]).copy(interpretation="b-w").gaussblur(sigma, precision="integer")
    return np.frombuffer(image.write_to_memory(), dtype=np.uint8).reshape(plane.shape)


def labelled(mask: NDArray[np.bool_]) -> NDArray[np.int32]:
    """A number for each connected region (four neighbours) of equal values in a plane."""
    plane = np.ascontiguousarray(mask, dtype=np.uint8)
    image = pyvips.Image.new_from_memory(plane.data, plane.shape[1], plane.shape[0], 1, "uchar")
    return np.frombuffer(image.labelregions().write_to_memory(), dtype=np.int32).reshape(plane.shape)
