"""One clipping as a file: of the kind that is wanted, under a limit where there is one, and what each kind would weigh."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from tijera.core.budget.ladder import TEXT_FLOOR, Ladder
from tijera.core.budget.rendition import Rendition, Way
from tijera.core.budget.search import Verdict, Wanted, find_fit
from tijera.core.budget.told import given_up
from tijera.core.errors import LimitNotMet
from tijera.core.imaging.decode import decode
from tijera.core.imaging.kinds import JPEG, PNG, WEBP, PictureKind
from tijera.core.imaging.measure import Original
from tijera.core.imaging.palette import Histogram, in_few_colours
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.writing import LOSSY, SAVED_QUALITY, encode_as, on_white, with_density
from tijera.core.units import EMU_PER_INCH, Length, round_half_up

_WEBP_COLOURS = (256, 128, 64, 48, 32, 24, 16, 12, 8, 6, 5, 4, 3)
_WEBP_QUALITIES = (100, 98, 95, 90, 85, 80, 75, 68, 60, 52, 45, 38, 30)
_JPEG_WORTH = 0.8
"""Where a JPEG that smears nothing weighs less than this share of the PNG, it is proposed (by common practice: photographs)."""


@dataclass(frozen=True)
class SavedFile:
    """A picture file."""

    data: bytes
    kind: PictureKind
    smears: bool
    """Whether words on it are harder to read than they were."""
    note: str = ""
    """What it gave up for its limit, in words."""


@dataclass(frozen=True)
class _Alone:
    """A file that is nothing but the picture, its density written in."""

    kind: PictureKind
    density_ppi: float

    def written(self, renditions: Sequence[Rendition]) -> int:
        return len(with_density(renditions[0].data, self.kind, self.density_ppi))

    def takes(self, _index: int, picture_bytes: int) -> int:
        return picture_bytes


def save_as(picture: Picture, kind: PictureKind, density_ppi: float, limit_bytes: int | None = None) -> SavedFile:
    """A file with all that its kind can hold; under a limit with what has to be given up for it, words last.

    Raises `LimitNotMet` with the least that the kind comes to.
    """
    seen = on_white(picture) if kind is JPEG else picture
    data = encode_as(seen, kind, density_ppi)
    if limit_bytes is None or len(data) <= limit_bytes:
        return SavedFile(data, kind, _smears(seen, data, kind))
    if kind in (PNG, JPEG):
        return _by_ladder(seen, kind, density_ppi, limit_bytes)
    if kind is WEBP:
        return _webp(seen, limit_bytes)
    raise _too_heavy(len(data), limit_bytes, kind)


def _by_ladder(picture: Picture, kind: PictureKind, density_ppi: float, limit_bytes: int) -> SavedFile:
    extension, way = ("png", Way.AS_TAKEN) if kind is PNG else ("jpeg", Way.JPEG)
    first = Rendition(
        encode_as(picture, kind, None), extension, picture.size, way, 0.0, 0 if kind is PNG else SAVED_QUALITY
    )
    width = Length(max(1, round_half_up(picture.size.width / density_ppi * EMU_PER_INCH)))
    ladder = Ladder(lambda: picture, first, width, frozenset({extension}))
    *_, verdict = find_fit([Wanted(ladder)], limit_bytes, _Alone(kind, density_ppi))
    assert isinstance(verdict, Verdict)
    if not verdict.fits:
        raise _too_heavy(verdict.written_bytes, limit_bytes, kind)
    (rendition,) = verdict.renditions
    # With fewer pixels it keeps its size on paper.
    chosen = with_density(rendition.data, kind, density_ppi * rendition.size.width / picture.size.width)
    return SavedFile(chosen, kind, _smears(picture, chosen, kind), given_up(ladder, rendition))


def _webp(picture: Picture, limit_bytes: int) -> SavedFile:
    """A photograph gives up quality, a screen colours, as in other kinds; words stay."""
    original, least = Original(picture), len(encode_as(picture, WEBP, None))
    for data, note in _webps(picture):
        if original.loss(decode(data)).text > TEXT_FLOOR:
            break
        least = min(least, len(data))
        if len(data) <= limit_bytes:
            return SavedFile(data, WEBP, smears=False, note=note)
    raise _too_heavy(least, limit_bytes, WEBP)


def _webps(picture: Picture) -> Iterator[tuple[bytes, str]]:
    if picture.is_photograph:
        for quality in _WEBP_QUALITIES:
            yield encode_as(picture, WEBP, None, quality), f"WebP at quality {quality}"
        return
    histogram = Histogram.of(picture.pixels)
    for count in _WEBP_COLOURS:
        fewer = in_few_colours(histogram, count)
        yield encode_as(fewer.spread(), WEBP, None), f"{len(fewer.palette)} colours"


def _too_heavy(least: int, limit_bytes: int, kind: PictureKind) -> LimitNotMet:
    return LimitNotMet(
        least_bytes=least,
        over_bytes=least - limit_bytes,
        limit_bytes=limit_bytes,
        in_the_way=f"{kind.name} at this size",
        pictures=[],
    )


def _smears(picture: Picture, data: bytes, kind: PictureKind) -> bool:
    if kind not in LOSSY:
        return False
    seen = decode(data)
    # Fewer pixels are seen at the size of the original, as a reader would see them.
    return Original(picture).loss(seen).text > TEXT_FLOOR


def proposed_kind(png: SavedFile, jpeg: SavedFile) -> PictureKind:
    """PNG or JPEG, by what they weigh and what words would suffer."""
    return JPEG if not jpeg.smears and len(jpeg.data) < _JPEG_WORTH * len(png.data) else PNG
