"""A rendition: the encoded bytes of a picture, what they lack, and the first one, which lacks nothing."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum

from tijera.core.geometry import Size
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_jpeg, encode_png, is_noise, pack_tighter
from tijera.core.imaging.kinds import JPEG
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.strip import shows_all, strip_jpeg

CUT_QUALITY = 95
"""Of what is cut from a JPEG: no eye sees that it was encoded once more."""


class Way(StrEnum):
    """How a rendition was made."""

    AS_TAKEN = "as-taken"
    """Every pixel as it was taken."""
    AS_IT_CAME = "as-it-came"
    """The very file that came in: a JPEG without its metadata, or a picture that stands in a file already."""
    COLOURS = "colours"
    JPEG = "jpeg"


@dataclass(frozen=True)
class Rendition:
    """The encoded bytes of a picture for the places where it stands."""

    data: bytes
    extension: str
    """"png" or "jpeg"."""
    size: Size
    way: Way
    loss: float
    """0 is the original; see `tijera.core.imaging.measure`."""
    quality: int = 0
    """Of a JPEG its quality; of a palette the number of its colours; else 0."""
    is_above_floor: bool = True
    """Whether every word that could be read still can be, and areas look as they did."""

    @property
    def bytes(self) -> int:
        """What it weighs."""
        return len(self.data)

    @property
    def is_noise(self) -> bool:
        """Of a PNG: whether it hardly gets lighter however it is packed; see `tijera.core.imaging.encode.pack_tighter`."""
        return is_noise(self.bytes, self.size.pixels)


def first_rendition(picture: Picture, source: bytes | None = None, *, is_whole: bool = True) -> Rendition:
    """What a placement carries until something has to be given up: nothing is lost that the source had.

    `source` is the file that the picture came as, `is_whole` whether it is all of that. A JPEG keeps its own bytes, less
    its metadata, if it holds no more than it shows; a part of one is encoded once more.
    """
    if source is None or not JPEG.is_in(source) or picture.has_alpha:
        return Rendition(encode_png(picture), "png", picture.size, Way.AS_TAKEN, 0.0)
    if not is_whole:
        return _cut_from_jpeg(picture)
    stripped = strip_jpeg(source)
    if stripped is None or not decode(stripped).has_pixels_of(picture):
        return Rendition(encode_png(picture), "png", picture.size, Way.AS_TAKEN, 0.0)
    if not shows_all(stripped):
        return _cut_from_jpeg(picture)
    return Rendition(stripped, "jpeg", picture.size, Way.AS_IT_CAME, 0.0)


def _cut_from_jpeg(picture: Picture) -> Rendition:
    """What a part of a JPEG carries: encoded once more at a quality where no eye sees it.

    Without loss it would weigh several times as much as the whole picture did.
    """
    data = encode_jpeg(picture, CUT_QUALITY, full_colour=True)
    return Rendition(data, "jpeg", picture.size, Way.JPEG, 0.0, CUT_QUALITY)


def packed_tighter(rendition: Rendition) -> Rendition:
    """The same pixels in fewer bytes, where that can be found; slow."""
    if rendition.extension != "png":
        return rendition
    data = pack_tighter(rendition.data)
    came = rendition.way is Way.AS_IT_CAME and data is not rendition.data
    return replace(rendition, data=data, way=Way.AS_TAKEN if came else rendition.way)
