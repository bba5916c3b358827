"""Encodings, without metadata: nothing leaves but pixels and, where given, their density.

What the bytes buy was measured on screens with text and on photographs; see docs/decisions/0004-colours-first.md.
"""

from __future__ import annotations

import io

import numpy as np
import oxipng
from numpy.typing import NDArray
from PIL import Image

from tijera.core.imaging.kinds import JPEG, PNG, PictureKind
from tijera.core.imaging.picture import Picture, Pixels
from tijera.core.imaging.vips import VipsImage, to_vips

_MM_PER_INCH = 25.4
_PALETTE_MOST = 256


def encode_png(picture: Picture, effort: int = 9, density_ppi: float | None = None) -> bytes:
    """Encode without any loss: by a palette where 256 colours are enough, as true colour elsewhere.

    `effort` is the deflate level, 1 to 9.
    """
    exact = _exact_palette(picture.pixels)
    if exact is not None:
        return _indexed_png(*exact, density_ppi)
    row_filter = "all" if picture.is_photograph else "none"
    image = _with_density(to_vips(picture.pixels), density_ppi)
    data: bytes = image.pngsave_buffer(compression=effort, filter=row_filter, keep="none")
    return data


def encode_frame(picture: Picture) -> bytes:
    """Encode a whole screen soon rather than small: a sixth of the time of level 9 for a fifth more bytes."""
    data: bytes = to_vips(picture.pixels).pngsave_buffer(compression=3, filter="none", keep="none")
    return data


def encode_fewer_colours(picture: Picture, quality: int, effort: int = 1) -> bytes:
    """Encode as PNG with a palette; `quality` 100 gives up to 256 colours, 50 about 30. No dither.

    The count of colours can't be given: libvips takes a target quality instead.
    """
    image = to_vips(picture.pixels)
    data: bytes = image.pngsave_buffer(
        palette=True, Q=quality, dither=0, effort=effort, compression=9, filter="none", keep="none"
    )
    return data


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


def _indexed_png(palette: Pixels, indices: Pixels, density_ppi: float | None) -> bytes:
    """Write a palette image with as few bits a pixel as its colours need."""
    height, width = indices.shape
    image = Image.frombuffer("P", (width, height), indices.tobytes(), "raw", "P", 0, 1)
    image.putpalette(palette[:, :3].tobytes(), rawmode="RGB")
    count = len(palette)
    bits = next(bits for bits in (1, 2, 4, 8) if count <= 2**bits)
    options: dict[str, object] = {"bits": bits, "compress_level": 9}
    if palette.shape[1] == 4:
        options["transparency"] = palette[:, 3].tobytes()
    if density_ppi is not None:
        options["dpi"] = (density_ppi, density_ppi)
    out = io.BytesIO()
    image.save(out, "PNG", **options)
    return out.getvalue()


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
