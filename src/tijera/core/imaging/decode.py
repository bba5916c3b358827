"""Pictures from outside: recognised by content, never by name, and refused before they can do harm.

Colours are brought to sRGB, the orientation of a camera is applied, a transparency that covers nothing is dropped.
"""

from __future__ import annotations

import contextlib
import io
import warnings

import numpy as np
from PIL import Image, ImageCms, ImageOps, UnidentifiedImageError

from tijera.core.errors import InputEmpty, NotAPicture, PictureDamaged, PictureTooLarge
from tijera.core.imaging.kinds import sniff
from tijera.core.imaging.picture import Picture, Pixels

MAX_PIXELS = 80_000_000
"""Guard: more pixels than any screen has, fewer than what could exhaust the machine."""

_SENSIBLE_PPI = (20.0, 2_400.0)

# Pillow's own guard would hide the size, which the message needs; ours stands right behind opening.
Image.MAX_IMAGE_PIXELS = None

_READ_ERRORS = (OSError, SyntaxError, ValueError, EOFError, IndexError, TypeError, KeyError, MemoryError, OverflowError)


def decode(data: bytes, name: str = "picture") -> Picture:
    """Decode a picture of one of `KINDS`; of several frames the first.

    Raises `InputEmpty`, `NotAPicture`, `PictureDamaged` or `PictureTooLarge`, the last before anything is unpacked.
    """
    if not data:
        raise InputEmpty(name=name)
    kind = sniff(data)
    if kind is None:
        raise NotAPicture(name=name)
    try:
        with warnings.catch_warnings(), Image.open(io.BytesIO(data), formats=[kind.name]) as image:
            warnings.simplefilter("ignore")
            width, height = image.size
            if width * height > MAX_PIXELS:
                raise PictureTooLarge(name=name, width=width, height=height, most=MAX_PIXELS)
            image.load()
            density = _density(image)
            return Picture(_pixels(ImageOps.exif_transpose(image)), density)
    except UnidentifiedImageError as error:
        raise PictureDamaged(name=name, why="its header is broken") from error
    except _READ_ERRORS as error:
        raise PictureDamaged(name=name, why=str(error) or type(error).__name__) from error


def _density(image: Image.Image) -> float | None:
    """The declared horizontal density in ppi, where it is believable; an aspect ratio (JFIF unit 0) is not one."""
    declared = image.info.get("dpi")
    if not isinstance(declared, tuple) or image.info.get("jfif_unit") == 0:
        return None
    with contextlib.suppress(TypeError, ValueError, ZeroDivisionError):
        ppi = round(float(declared[0]), 1)
        if _SENSIBLE_PPI[0] <= ppi <= _SENSIBLE_PPI[1]:
            return ppi
    return None


def _pixels(image: Image.Image) -> Pixels:
    """Bring any mode to 8-bit sRGB with or without alpha."""
    if image.mode.startswith("I") or image.mode == "F":
        image = _to_eight_bits(image)
    transparent = image.mode in ("LA", "PA", "RGBA", "La", "RGBa") or "transparency" in image.info
    alpha = image.convert("RGBA").getchannel("A") if transparent else None
    colour = _to_srgb(image)
    pixels = np.asarray(colour, dtype=np.uint8)
    if alpha is None:
        return np.array(pixels, order="C", copy=True)
    cover = np.asarray(alpha, dtype=np.uint8)
    if int(cover.min()) == 255:
        return np.array(pixels, order="C", copy=True)
    return np.dstack((pixels, cover))


def _to_eight_bits(image: Image.Image) -> Image.Image:
    """Scale 16-bit grey down; clip floating point."""
    values = np.asarray(image)
    if image.mode == "F":
        return Image.fromarray(np.clip(values, 0, 255).astype(np.uint8))
    return Image.fromarray((np.clip(values, 0, 65_535).astype(np.uint32) >> 8).astype(np.uint8))


def _to_srgb(image: Image.Image) -> Image.Image:
    """Convert by the embedded profile, where there is a usable one."""
    profile = image.info.get("icc_profile")
    base = image if image.mode in ("RGB", "CMYK", "L") else image.convert("RGBA").convert("RGB")
    if profile and image.mode != "L":
        with contextlib.suppress(ImageCms.PyCMSError, OSError, ValueError):
            source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            if "srgb" not in (ImageCms.getProfileDescription(source) or "").lower():
                converted = ImageCms.profileToProfile(base, source, ImageCms.createProfile("sRGB"), outputMode="RGB")
                if converted is not None:
                    return converted
    return base.convert("RGB")
