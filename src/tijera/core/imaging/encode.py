"""Encodings, without metadata: nothing leaves but pixels and, where given, their density.

What the bytes buy was measured on screens with text and on photographs; see docs/decisions/0004-colours-first.md.
"""

from __future__ import annotations

import struct

import numpy as np
import oxipng
from numpy.typing import NDArray

from tijera.core.imaging.kinds import JPEG, PNG, PictureKind
from tijera.core.imaging.palette import Histogram, in_few_colours, stretches
from tijera.core.imaging.picture import Indexed, Picture, Pixels
from tijera.core.imaging.png import indexed_png, without_density
from tijera.core.imaging.vips import VipsImage, to_vips

_MM_PER_INCH = 25.4
_PALETTE_MOST = 256
_SIZE_AT, _COLOUR_TYPE_AT, _INDEXED = slice(16, 24), 25, 3
"""In a PNG's header (ISO/IEC 15948, 11.2.2)."""
_PALETTE_FILTERS = (oxipng.RowFilter.NoOp, oxipng.RowFilter.Bigrams, oxipng.RowFilter.BigEnt)
_LITTLE, _MUCH, _ALL_IT_CAN = 3, 11, 12
_STRIP = oxipng.StripChunks.safe()
_LARGE_PIXELS = 8_000_000


def encode_png(picture: Picture, effort: int = 9, density_ppi: float | None = None) -> bytes:
    """Encode without any loss: by a palette where 256 colours are enough, as true colour elsewhere.

    `effort` is the deflate level, 1 to 9.
    """
    exact = _exactly(picture.pixels)
    if exact is not None:
        return indexed_png(exact, density_ppi)
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
    return indexed_png(in_few_colours(Histogram.of(picture.pixels), count))


def encode_jpeg(
    picture: Picture, quality: int, *, full_colour: bool = False, density_ppi: float | None = None
) -> bytes:
    """Encode as JPEG on white where the picture is transparent; `full_colour` keeps 4:4:4.

    Progressive, and its codes found for it, which is lighter. For that an encoder holds the whole picture (of 20 megapixels
    in full colour 240 MB, measured), and who reads it twice the picture; so a very large one comes row by row.
    """
    is_large = picture.size.pixels > _LARGE_PIXELS
    image = _with_density(to_vips(picture.pixels), density_ppi)
    if picture.has_alpha:
        image = image.flatten(background=[255, 255, 255])
    data: bytes = image.jpegsave_buffer(
        Q=quality,
        optimize_coding=not (is_large and full_colour),
        interlace=not is_large,
        subsample_mode="off" if full_colour else "on",
        keep="none",
    )
    return data


def pack_tighter(png: bytes) -> bytes:
    """Find a smaller packing of the same pixels; slow (up to two seconds a megapixel).

    Filters for a palette are tried one by one, and the deflater takes its time over the best: what the packer expects of
    them when it tries all at once is off. Measured on 13 screens in 3 to 16 colours: 0.88 of the bytes, 0.90 when it chooses.
    A photograph, of more than a byte a pixel, is noise to a deflater: little effort finds as much in it as more does (0.15 to
    0.6 %), all that it can 0.3 % more in five times the time.
    """
    if png[_COLOUR_TYPE_AT] != _INDEXED:
        width, height = struct.unpack(">2I", png[_SIZE_AT])
        if is_noise(len(png), width * height):
            return min(png, _deflated(png, oxipng.RowFilter.MinSum, _LITTLE), key=len)
        return min(png, oxipng.optimize_from_memory(png, level=2, strip=_STRIP), key=len)
    packed = {each: _deflated(png, each) for each in _PALETTE_FILTERS}
    best = min(packed, key=lambda each: len(packed[each]))
    return min(png, packed[best], _deflated(png, best, _ALL_IT_CAN), key=len)


def is_noise(png_bytes: int, pixels: int) -> bool:
    """Whether a PNG of so many pixels shows a photograph, in which a deflater finds next to nothing."""
    return png_bytes > pixels


def _deflated(png: bytes, row_filter: oxipng.RowFilter, effort: int = _MUCH) -> bytes:
    deflater = oxipng.Deflaters.libdeflater(effort)
    packed: bytes = oxipng.optimize_from_memory(png, level=2, filter=[row_filter], deflate=deflater, strip=_STRIP)
    return packed


def _with_density(image: VipsImage, density_ppi: float | None) -> VipsImage:
    """Libvips keeps densities in pixels per millimetre."""
    if density_ppi is None:
        return image
    return image.copy(xres=density_ppi / _MM_PER_INCH, yres=density_ppi / _MM_PER_INCH)


def _exactly(pixels: Pixels) -> Indexed | None:
    """The same picture with a palette when at most 256 colours occur, else None."""
    bands = pixels.shape[2]
    # A sample tells most pictures of many colours in no time.
    flat = pixels.reshape(-1, bands)
    colours = np.unique(_packed(flat[:: max(1, len(flat) // 8_192)]))
    for rows in stretches(pixels):
        if colours.size > _PALETTE_MOST:
            return None
        colours = np.union1d(colours, _packed(pixels[rows]))
    if colours.size > _PALETTE_MOST:
        return None
    indices = np.empty(pixels.shape[:2], dtype=np.uint8)
    for rows in stretches(pixels):
        indices[rows] = np.searchsorted(colours, _packed(pixels[rows]))
    palette = np.stack(
        [(colours >> np.uint32(8 * (bands - 1 - band))) & np.uint32(255) for band in range(bands)], axis=1
    )
    return Indexed(palette.astype(np.uint8), indices)


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
