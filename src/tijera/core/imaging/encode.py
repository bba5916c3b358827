"""Encodings, without metadata: nothing leaves but pixels and, where given, their density.

What the bytes buy was measured on screens with text and on photographs; see docs/decisions/0004-colours-first.md.
"""

from __future__ import annotations

import numpy as np
import oxipng
from numpy.typing import NDArray

from tijera.core.imaging.kinds import JPEG, PNG, PictureKind
from tijera.core.imaging.palette import Histogram, palette_of
from tijera.core.imaging.picture import Picture, Pixels
from tijera.core.imaging.png import indexed_png, without_density
from tijera.core.imaging.vips import VipsImage, to_vips

_MM_PER_INCH = 25.4
_PALETTE_MOST = 256


def encode_png(picture: Picture, effort: int = 9, density_ppi: float | None = None) -> bytes:
    """Encode without any loss: by a palette where 256 colours are enough, as true colour elsewhere.

    `effort` is the deflate level, 1 to 9.
    """
    exact = _exact_palette(picture.pixels)
    if exact is not None:
        return indexed_png(*exact, density_ppi)
    row_filter = "all" if picture.is_photograph else "none"
    image = _with_density(to_vips(picture.pixels), density_ppi)
    data: bytes = image.pngsave_buffer(compression=effort, filter=row_filter, keep="none")
    return data if density_ppi is not None else without_density(data)


def encode_frame(picture: Picture) -> bytes:
    """Encode a whole screen soon rather than small: a sixth of the time of level 9 for a fifth more bytes."""
    data: bytes = to_vips(picture.pixels).pngsave_buffer(compression=3, filter="none", keep="none")
    return data


def encode_fewer_colours(picture: Picture, count: int) -> bytes:
    """Encode as PNG with a palette of at most `count` colours, chosen for ink; no dither."""
    return indexed_png(*palette_of(Histogram.of(picture.pixels), count))


def encode_jpeg(
    picture: Picture, quality: int, *, full_colour: bool = False, density_ppi: float | None = None
) -> bytes:
    """Encode as progressive JPEG on white where the picture is transparent; `full_colour` keeps 4:4:4."""
    image = _with_density(to_vips(picture.pixels), density_ppi)
    if picture.has_alpha:
        image = image.flatten(background=[255, 255, 255])
    data: bytes = image.jpegsave_buffer(
        Q=quality,
        optimize_coding=True,
        interlace=True,
        subsample_mode="off" if full_colour else "on",
        keep="none",
    )
    return data


def pack_tighter(png: bytes) -> bytes:
    """Find a smaller packing of the same pixels; slow (about a second a megapixel)."""
    packed: bytes = oxipng.optimize_from_memory(png, level=2, strip=oxipng.StripChunks.safe())
    return packed if len(packed) < len(png) else png


def _with_density(image: VipsImage, density_ppi: float | None) -> VipsImage:
    """Libvips keeps densities in pixels per millimetre."""
    if density_ppi is None:
        return image
    return image.copy(xres=density_ppi / _MM_PER_INCH, yres=density_ppi / _MM_PER_INCH)


def _exact_palette(pixels: Pixels) -> tuple[Pixels, Pixels] | None:
    """Palette (n, bands) and indices (height, width) when at most 256 colours occur, else None."""
    height, width, bands = pixels.shape
    # A sample tells most pictures of many colours in no time.
    flat = pixels.reshape(-1, bands)
    if np.unique(_packed(flat[:: max(1, len(flat) // 8_192)])).size > _PALETTE_MOST:
        return None
    packed = _packed(pixels)
    colours, indices = np.unique(packed, return_inverse=True)
    if colours.size > _PALETTE_MOST:
        return None
    palette = np.stack(
        [(colours >> np.uint32(8 * (bands - 1 - band))) & np.uint32(255) for band in range(bands)], axis=1
    )
    return palette.astype(np.uint8), indices.reshape(height, width).astype(np.uint8)


def _packed(pixels: Pixels) -> NDArray[np.uint32]:
    """Each pixel's bands in one number, the first band highest."""
    packed = np.zeros(pixels.shape[:-1], dtype=np.uint32)
    for band in range(pixels.shape[-1]):
        packed = (packed << np.uint32(8)) | pixels[..., band]
    return packed


_LIKE_EFFORT, _LIKE_QUALITY = 9, 92
_SEEN_EFFORT, _SEEN_QUALITY = 6, 85


def encode_like(kind: PictureKind | None, picture: Picture) -> bytes:
    """Encode a part of a picture in the way that the whole was: JPEG as JPEG, all else without loss as PNG."""
    if kind is JPEG and not picture.has_alpha:
        return encode_jpeg(picture, _LIKE_QUALITY)
    return encode_png(picture, _LIKE_EFFORT)


def encode_for_looking(picture: Picture) -> tuple[bytes, PictureKind]:
    """Encode what is only looked at here: what looks like a photograph as JPEG, all else as PNG; never what leaves."""
    if picture.is_photograph and not picture.has_alpha:
        return encode_jpeg(picture, _SEEN_QUALITY), JPEG
    return encode_png(picture, _SEEN_EFFORT), PNG
