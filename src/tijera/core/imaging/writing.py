"""Picture files of every kind that is written, with their density; nothing else stands in them but pixels."""

from __future__ import annotations

import io
import struct
import zlib

from PIL import Image

from tijera.core.imaging.encode import encode_jpeg, encode_png
from tijera.core.imaging.kinds import BMP, JPEG, PNG, TIFF, WEBP, PictureKind
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.vips import to_picture, to_vips
from tijera.core.units import round_half_up

WRITTEN = (PNG, JPEG, WEBP, TIFF, BMP)
"""The kinds that a clipping can be saved as."""
LOSSY = (JPEG, WEBP)
"""Those that can give something up by a quality."""
SAVED_QUALITY = 90
"""Of a JPEG that may weigh what it likes, in full colour (common practice)."""
_INCHES_A_METRE = 1 / 0.0254
_METRE = 1
_PER_INCH = 1
_SIGNATURE_AND_HEADER = 8 + 25
"""Of a PNG: its signature and IHDR with length, name and sum (PNG, third edition, 5.2 and 11.2.1)."""


def encode_as(picture: Picture, kind: PictureKind, density_ppi: float | None, quality: int | None = None) -> bytes:
    """Encode as one of `WRITTEN`; without a `quality` what loses nothing, JPEG at its usual one.

    Density stands in all but WebP, whose format has no place for it but metadata. What has no transparency (JPEG, BMP)
    stands on white.
    """
    if kind is PNG:
        return encode_png(picture, density_ppi=density_ppi)
    if kind is JPEG:
        data = encode_jpeg(picture, quality or SAVED_QUALITY, full_colour=quality is None)
        # The encoder writes a density without its unit, which readers take for a ratio.
        return data if density_ppi is None else with_density(data, JPEG, density_ppi)
    out = io.BytesIO()
    seen = Image.fromarray((on_white(picture) if kind is BMP else picture).pixels)
    dpi = {} if density_ppi is None else {"dpi": (density_ppi, density_ppi)}
    if kind is WEBP:
        seen.save(out, "WEBP", lossless=quality is None, quality=quality or 100, method=4, exact=False)
    elif kind is TIFF:
        seen.save(out, "TIFF", compression="tiff_adobe_deflate", **dpi)
    else:
        seen.save(out, "BMP", **dpi)
    return out.getvalue()


def on_white(picture: Picture) -> Picture:
    """The picture without transparency."""
    if not picture.has_alpha:
        return picture
    return to_picture(to_vips(picture.pixels).flatten(background=[255, 255, 255]), picture.density_ppi)


def with_density(data: bytes, kind: PictureKind, density_ppi: float) -> bytes:
    """A PNG or JPEG that was encoded without one, with its density written in; its pixels stay, bit for bit."""
    if kind is PNG:
        per_metre = round_half_up(density_ppi * _INCHES_A_METRE)
        body = b"pHYs" + struct.pack(">2IB", per_metre, per_metre, _METRE)
        chunk = struct.pack(">I", 9) + body + struct.pack(">I", zlib.crc32(body))
        return data[:_SIGNATURE_AND_HEADER] + chunk + data[_SIGNATURE_AND_HEADER:]
    # JFIF 1.02: version, units, densities across and down, in the APP0 that an encoder puts first.
    per_inch = round_half_up(density_ppi)
    if data[2:4] == b"\xff\xe0" and data[6:11] == b"JFIF\0":
        return data[:13] + struct.pack(">B2H", _PER_INCH, per_inch, per_inch) + data[18:]
    head = b"\xff\xe0\x00\x10JFIF\0\x01\x02" + struct.pack(">B2H", _PER_INCH, per_inch, per_inch) + b"\0\0"
    return data[:2] + head + data[2:]
