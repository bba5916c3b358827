"""The ladder of a picture: renditions with measured bytes and measured loss, colours given up first, pixels last.

Measured on screens with text: shrinking makes them larger *and* harder to read, fewer colours at native pixels makes
them smaller and leaves the words. Photographs are the other way round. See docs/decisions/0004-colours-first.md.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from tijera.core.geometry import Size
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_fewer_colours, encode_jpeg, encode_png, pack_tighter
from tijera.core.imaging.kinds import JPEG
from tijera.core.imaging.measure import Original
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.resize import resize
from tijera.core.imaging.strip import shows_all, strip_jpeg
from tijera.core.units import Length

PHOTOGRAPH_PPI = 300
"""What a document's page can show of a photograph (common practice for print)."""

SCREEN_FLOOR = 0.90
"""Below this share of kept ink a screen's words get lost: 0.90 to 0.95 had 0.93 of the words still recognised."""
PHOTOGRAPH_FLOOR = 0.78
"""Below this a photograph falls apart into blocks (judged by eye on the harbour chart)."""

_PALETTE_QUALITIES = (100, 90, 80, 70, 50, 30)
_SCREEN_SCALES = (0.85, 0.7)
_FULL_COLOUR_FROM = 95
"""From this quality on JPEG keeps the colours at full resolution."""
_JPEG_QUALITIES = (98, 95, 92, 86, 78, 68, 58, 48)
_PHOTOGRAPH_PPIS = (300, 240, 190, 150, 120)


class Way(StrEnum):
    """How a rendition was made."""

    AS_TAKEN = "as-taken"
    """Every pixel as it was taken."""
    AS_IT_CAME = "as-it-came"
    """The very JPEG that came in, without its metadata."""
    COLOURS = "colours"
    JPEG = "jpeg"


@dataclass(frozen=True)
class Rendition:
    """The encoded bytes of a clipping for one placement."""

    data: bytes
    extension: str
    """"png" or "jpeg"."""
    size: Size
    way: Way
    loss: float
    """0 is the original; see `tijera.core.imaging.measure`."""
    quality: int = 0

    @property
    def bytes(self) -> int:
        """What it weighs."""
        return len(self.data)


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
    if stripped is None or not np.array_equal(decode(stripped).pixels, picture.pixels):
        return Rendition(encode_png(picture), "png", picture.size, Way.AS_TAKEN, 0.0)
    if not shows_all(stripped):
        return _cut_from_jpeg(picture)
    return Rendition(stripped, "jpeg", picture.size, Way.AS_IT_CAME, 0.0)


def _cut_from_jpeg(picture: Picture) -> Rendition:
    """What a part of a JPEG carries: encoded once more at a quality where no eye sees it.

    Without loss it would weigh several times as much as the whole picture did.
    """
    return Rendition(encode_jpeg(picture, 95, full_colour=True), "jpeg", picture.size, Way.JPEG, 0.0, 95)


def packed_tighter(rendition: Rendition) -> Rendition:
    """The same pixels in fewer bytes, where that can be found; slow."""
    if rendition.extension != "png":
        return rendition
    return Rendition(
        pack_tighter(rendition.data), "png", rendition.size, rendition.way, rendition.loss, rendition.quality
    )


def climb_down(picture: Picture, placed_width: Length) -> Iterator[Rendition]:
    """Make the lossy renditions one by one, so that the work can be stopped between them.

    Only those above the floor come out: text stays readable.
    """
    if picture.is_photograph and not picture.has_alpha:
        yield from _photographs(picture, placed_width)
    else:
        yield from _screens(picture)


def _screens(picture: Picture) -> Iterator[Rendition]:
    original = Original(picture)
    for scale in (1.0, *_SCREEN_SCALES):
        size = picture.size.scaled(scale)
        smaller = resize(picture, size)
        for quality in _PALETTE_QUALITIES:
            data = encode_fewer_colours(smaller, quality)
            loss = 1 - original.kept(decode(data))
            if loss > 1 - SCREEN_FLOOR:
                break
            yield Rendition(data, "png", size, Way.COLOURS, loss, quality)


def _photographs(picture: Picture, placed_width: Length) -> Iterator[Rendition]:
    native_ppi = picture.size.width / placed_width.inches
    # A photograph is compared at what its place can show; sharper than that nobody sees it.
    reference = resize(picture, picture.size.scaled(min(1.0, PHOTOGRAPH_PPI / native_ppi)))
    original = Original(reference)
    for ppi in (native_ppi, *(ppi for ppi in _PHOTOGRAPH_PPIS if ppi < native_ppi)):
        size = picture.size.scaled(ppi / native_ppi)
        smaller = resize(picture, size)
        for quality in _JPEG_QUALITIES:
            data = encode_jpeg(smaller, quality, full_colour=quality >= _FULL_COLOUR_FROM)
            loss = 1 - original.kept(decode(data))
            if loss > 1 - PHOTOGRAPH_FLOOR:
                break
            yield Rendition(data, "jpeg", size, Way.JPEG, loss, quality)


def worth_keeping(renditions: list[Rendition]) -> list[Rendition]:
    """Leave out what another rendition beats in both bytes and loss; the heaviest first."""
    kept: list[Rendition] = []
    for rendition in sorted(renditions, key=lambda each: (each.bytes, each.loss)):
        if not kept or rendition.loss < kept[-1].loss:
            kept.append(rendition)
    return kept[::-1]
