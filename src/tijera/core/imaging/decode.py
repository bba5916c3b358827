"""Pictures from outside: recognised by content, never by name, and refused before they can do harm.

Colours are brought to sRGB, the orientation of a camera is applied, a transparency that covers nothing is dropped.
"""

from __future__ import annotations

import contextlib
import io
import warnings
from collections.abc import Callable, Iterator

import numpy as np
from PIL import Image, ImageCms, ImageOps, UnidentifiedImageError

from tijera.core.errors import InputEmpty, NotAPicture, PictureDamaged, PictureTooLarge
from tijera.core.imaging.kinds import sniff
from tijera.core.imaging.picture import Picture, Pixels

MAX_PIXELS = 80_000_000
"""Guard: more pixels than any screen has, fewer than what could exhaust the machine."""

_BAND_PIXELS = 1_000_000
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
            ImageOps.exif_transpose(image, in_place=True)
            return Picture(_pixels(image), density)
    except UnidentifiedImageError as error:
        raise PictureDamaged(name=name, why="its header is broken") from error
    except _READ_ERRORS as error:
        raise PictureDamaged(name=name, why=str(error) or type(error).__name__) from error


_elsewhere: list[Callable[[bytes, str], Picture]] = []


def decode_foreign(data: bytes, name: str = "picture") -> Picture:
    """Decode a picture that somebody else made: in another process where the application has one for it, else here.

    Raises the errors of `decode`.
    """
    return (_elsewhere[-1] if _elsewhere else decode)(data, name)


@contextlib.contextmanager
def decoded_elsewhere(by: Callable[[bytes, str], Picture]) -> Iterator[None]:
    """Until the end of the block foreign pictures are decoded by somebody else, in all threads."""
    _elsewhere.append(by)
    try:
        yield
    finally:
        _elsewhere.remove(by)


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
    """Bring any mode to 8-bit sRGB with or without alpha; in bands, since each step would be a copy of the whole."""
    width, height = image.size
    transparent = image.mode in ("LA", "PA", "RGBA", "La", "RGBa") or "transparency" in image.info
    to_srgb = _profile_of(image)
    pixels = np.empty((height, width, 4 if transparent else 3), dtype=np.uint8)
    rows = max(1, _BAND_PIXELS // width)
    for top in range(0, height, rows):
        bottom = min(top + rows, height)
        band = image.crop((0, top, width, bottom))
        if band.mode.startswith("I") or band.mode == "F":
            band = _to_eight_bits(band)
        pixels[top:bottom, :, :3] = np.asarray(_in_srgb(band, to_srgb))
        if transparent:
            pixels[top:bottom, :, 3] = np.asarray(band.convert("RGBA").getchannel("A"))
    if transparent and int(pixels[:, :, 3].min()) == 255:
        return np.ascontiguousarray(pixels[:, :, :3])
    return pixels


def _to_eight_bits(image: Image.Image) -> Image.Image:
    """Scale 16-bit grey down; clip floating point."""
    values = np.asarray(image)
    if image.mode == "F":
        return Image.fromarray(np.clip(values, 0, 255).astype(np.uint8))
    return Image.fromarray((np.clip(values, 0, 65_535).astype(np.uint32) >> 8).astype(np.uint8))


def _profile_of(image: Image.Image) -> ImageCms.ImageCmsTransform | None:
    """From the embedded profile to sRGB, where there is a usable one."""
    profile = image.info.get("icc_profile")
    if not profile or image.mode == "L" or image.mode.startswith("I") or image.mode == "F":
        return None
    with contextlib.suppress(ImageCms.PyCMSError, OSError, ValueError):
        source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        if "srgb" not in (ImageCms.getProfileDescription(source) or "").lower():
            mode = "CMYK" if image.mode == "CMYK" else "RGB"
            return ImageCms.buildTransform(source, ImageCms.createProfile("sRGB"), mode, "RGB")
    return None


def _in_srgb(band: Image.Image, to_srgb: ImageCms.ImageCmsTransform | None) -> Image.Image:
    plain = band if band.mode in ("RGB", "CMYK", "L") else band.convert("RGBA").convert("RGB")
    converted = None if to_srgb is None else ImageCms.applyTransform(plain, to_srgb)
    return plain.convert("RGB") if converted is None else converted
