"""How far an encoding is from its original, where it matters: can each line of text still be read, are areas as they were.

*Text.* Each line that is found in the original is looked at by itself, with as many whole pixels together as leave its letters
six pixels large: what is finer than that nobody needs in order to read it. What counts is the correlation of the gradients
there, which knows edges, their direction and their contrast, and punishes noise by how strong it is against the letters; where
more than that is left of the letters, it sees finer things, and counts less. The worst line decides, not the mean.
Over 442 encodings of 26 made-up screens (light, dark, pale, small, coloured grounds, with photographs, text in one corner;
palettes, JPEG, fewer pixels) it follows the share of words that a recogniser still reads with a rank correlation of 0.92 (0.98
is the most that is possible where so many are alike), at native pixels 0.90, within a screen 0.95 (median): `make loss-study`.
See docs/decisions/0028-loss-is-the-worst-line.md; tests/reference/test_readability.py reads what is offered above the floor.

*Areas.* The mean colours of blocks of 8 × 8 pixels; the hundredth that is shown worst decides.

*Photographs*: gradients at the strongest tenth (the similarity of GMSD; Xue et al., IEEE TIP 23(2), 2014, from memory), and how
far colours are off, by blocks of 8 × 8 pixels, of which the hundredth that is shown worst decides. Where a screen shows a
photograph, which is told tile by tile, that part is looked at by its gradients too.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import accumulate

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageChops

from tijera.core.geometry import Size
from tijera.core.imaging.lettering import Line, text_lines
from tijera.core.imaging.luma import Plane
from tijera.core.imaging.photographic import photographic_part
from tijera.core.imaging.picture import Indexed, Picture, Pixels
from tijera.core.imaging.resize import resize
from tijera.core.units import round_half_up

_LEAST_EM_PX = 6
"""A line is compared with as many whole pixels taken together as leave its letters so large."""
_USUAL_EM_PX = 7.5
"""Of letters so large the loss is what the correlation lacks."""
_FINER = 1.5
"""The power of their size with which larger letters, whose detail is finer, lack more at the same legibility."""
_ROUND_LINE = 0.4
"""Of its em: room for ascenders, which the box of low letters need not hold, for what an encoder smears, and for an edge."""
_MOST_LINES = 200
_ABOUT = 1.1
"""Lines whose em differs by no more are looked at together."""
_ONE_ROW = 4
"""In pixels: lines that end so near each other stand side by side."""
_FAINT = 4.0
"""Keeps the ratio calm where there is next to no contrast."""
_BLOCK = 8
_BAND_PIXELS = 128_000
"""As many as stay near the processor while they are looked at."""
_WORST_BLOCKS = 0.99
_LIGHTNESS_AND_COLOUR = np.array(
    [[0.299 * 1.41, 0.701, -0.299], [0.587 * 1.41, -0.587, -0.587], [0.114 * 1.41, -0.114, 0.886]], dtype=np.float32
)
"""Of red, green and blue: lightness counted double (squared), red beside it, blue beside it."""
_TOLD_APART = 160.0
"""A difference of colour that weighs as much as a line that can't be read; 16 is seen at once side by side (by eye)."""
_INK_SHARE = 0.10
"""Of a photograph the strongest tenth of the gradients counts."""
_STABILISER = 170.0
"""Keeps the ratio calm where both gradients are small; GMSD's constant for 8-bit luma (from memory)."""
_FAINTEST_INK = 4.0

_Box = tuple[int, int, int, int]
"""Left, top, right, bottom; in pixels."""
_MOST_DIFFERENCE = 255


@dataclass(frozen=True)
class Loss:
    """What an encoding lacks; 0 is the original."""

    text: float
    """Of the worst line of text: up to 0.04 all words are still recognised, at 0.1 nine of ten, at 0.2 half, at 0.3 a third."""
    area: float
    """Of areas and their colours."""
    edges: float = 0.0
    """Of a photograph, or of what of a screen shows one."""

    @property
    def total(self) -> float:
        """One number for all."""
        return self.text + self.area + self.edges


class Original:
    """What encodings of one picture are compared with; its lines and areas are found once."""

    def __init__(self, picture: Picture, lines: Iterable[Line] | None = None) -> None:
        self.size = picture.size
        self._is_photograph = picture.is_photograph
        found = text_lines(picture) if lines is None else lines
        seen = _Seen.of(picture, with_blocks=not self._is_photograph)
        self._texts = list(_strips(seen.plane, found))
        self._blocks = seen.blocks
        part = None if self._is_photograph else photographic_part(picture)
        self._edges = _Edges(seen.plane, part) if self._is_photograph or part is not None else None
        self._colours = _Colours(picture) if self._is_photograph else None
        self._looked_at = (
            None if self._edges else _sparse([box for text in self._texts for box in text.boxes], self.size)
        )

    @property
    def has_text(self) -> bool:
        """Whether lines of text were found."""
        return bool(self._texts)

    def loss(self, candidate: Picture | Indexed) -> Loss:
        """What a candidate lacks; one of another size is compared on as many pixels as the original has."""
        if candidate.size != self.size:
            candidate = resize(candidate if isinstance(candidate, Picture) else candidate.spread(), self.size)
        seen = _Seen.of(candidate, with_blocks=self._blocks is not None, where=self._looked_at)
        edges = 0.0 if self._edges is None else 1 - self._edges.kept(seen.plane)
        area = self._of_areas(seen) if self._colours is None else self._colours.off(candidate)
        return Loss(self._of_text(seen.plane), area, edges)

    def _of_text(self, plane: Image.Image) -> float:
        return max((text.lost(plane) for text in self._texts), default=0.0)

    def _of_areas(self, seen: _Seen) -> float:
        if self._blocks is None or seen.blocks is None:
            return 0.0
        apart = seen.blocks - self._blocks
        squares = np.einsum("yxc,yxc->yx", apart, apart).ravel()
        worst = int(_WORST_BLOCKS * (squares.size - 1))
        return math.sqrt(np.partition(squares, worst)[worst]) / _TOLD_APART


class _Place:
    """Lines of text side by side, of about one size, and where they are taken from to be looked at."""

    def __init__(self, size: tuple[int, int], lines: Sequence[Line]) -> None:
        """`size` is the picture's, in pixels."""
        width, height = size
        em = lines[0].em_px
        self.step = step = max(1, int(em / _LEAST_EM_PX))
        self.weight = (_USUAL_EM_PX * step / em) ** _FINER
        """Of what the correlation lacks."""
        room = math.ceil(_ROUND_LINE * em)
        left = max(min(line.box.x for line in lines) - room, 0)
        top = max(min(line.box.y for line in lines) - room, 0)
        right = min(max(line.box.right for line in lines) + room, width)
        bottom = min(max(line.box.bottom for line in lines) + room, height)
        self.box = left, top, right, bottom
        self.width, self.height = max(3, -(-(right - left) // step)), max(3, -(-(bottom - top) // step))
        # The outer edge has no gradients, so that columns begin one later.
        starts = [round_half_up((line.box.x - room - left) / step) - 1 for line in lines]
        ends = [round_half_up((line.box.right + room - left) / step) - 1 for line in lines]
        self.first = np.clip(starts, 0, self.width - 3)
        self.last = np.clip(ends, self.first + 1, self.width - 2)

    def of(self, plane: Image.Image) -> Image.Image:
        """What stands there, so many pixels together."""
        return plane.crop(self.box) if self.step == 1 else plane.reduce(self.step, self.box)


class _Text:
    """Lines of text, laid out in one strip, so that all are looked at together."""

    def __init__(self, plane: Image.Image, places: Sequence[_Place]) -> None:
        starts = [0, *accumulate(place.width for place in places)]
        self._size = starts.pop(), max(place.height for place in places)
        self._places = list(zip(places, starts, strict=True))
        self.boxes = [place.box for place in places]
        """What of a plane is looked at."""
        self._first = np.concatenate([place.first + at for place, at in self._places])
        self._last = np.concatenate([place.last + at for place, at in self._places])
        heights = np.concatenate([np.full(place.first.size, place.height - 2) for place in places])
        self._weights = np.concatenate([np.full(place.first.size, place.weight) for place in places])
        self._pixels = (self._last - self._first) * heights
        self._own = self._gradients(plane)
        self._energies = self._mean_products(self._own, self._own)
        # The constant takes a little from the original too; that is given back.
        back = np.maximum(self._energies / (self._energies + _FAINT), 1e-6)
        self._whole = np.sqrt(self._energies + _FAINT) * back

    def _gradients(self, plane: Image.Image) -> Plane:
        """Twice the gradients across and down, but for the outer edge: (2, height, width)."""
        strip = Image.new("L", self._size)
        for place, at in self._places:
            strip.paste(place.of(plane), (at, 0))
        part = np.asarray(strip, dtype=np.float32)
        both = np.empty((2, part.shape[0] - 2, part.shape[1] - 2), dtype=np.float32)
        np.subtract(part[1:-1, 2:], part[1:-1, :-2], out=both[0])
        np.subtract(part[2:, 1:-1], part[:-2, 1:-1], out=both[1])
        for place, at in self._places:
            if place.height < self._size[1]:
                # Below a lower line stands nothing; the edge to it is none.
                both[:, place.height - 2 :, at : at + place.width] = 0
        return both

    def _mean_products(self, one: Plane, other: Plane) -> NDArray[np.float64]:
        """Of two gradients, the mean over each line's pixels; both are twice as large, and in two directions."""
        sums = np.zeros(one.shape[2] + 1)
        np.cumsum(np.einsum("dyx,dyx->x", one, other), out=sums[1:])
        means: NDArray[np.float64] = (sums[self._last] - sums[self._first]) / (4 * self._pixels)
        return means

    def lost(self, plane: Image.Image) -> float:
        """Of the worst line what the correlation of its gradients with those of a candidate lacks, weighed."""
        seen = self._gradients(plane)
        common, other = self._mean_products(seen, self._own), self._mean_products(seen, seen)
        correlation = common / (np.sqrt(other + _FAINT) * self._whole)
        return max(0.0, float(((1 - correlation) * self._weights).max()))


def _sparse(boxes: Sequence[_Box], size: Size) -> Sequence[_Box] | None:
    """Where to look, if that is less than half of a picture; else None, for everywhere."""
    looked_at = sum((right - left) * (bottom - top) for left, top, right, bottom in boxes)
    return boxes if looked_at * 2 < size.pixels else None


def _strips(plane: Image.Image, lines: Iterable[Line]) -> Iterator[_Text]:
    """All lines, in strips that stay near the processor."""
    places: list[_Place] = []
    pixels = 0
    for row in _by_row(lines):
        place = _Place(plane.size, row)
        if places and pixels + place.width * place.height > _BAND_PIXELS:
            yield _Text(plane, places)
            places, pixels = [], 0
        places.append(place)
        pixels += place.width * place.height
    if places:
        yield _Text(plane, places)


def _by_row(lines: Iterable[Line]) -> Iterator[list[Line]]:
    """Lines in groups that stand side by side and are of about one size; no more than the smallest two hundred."""
    rows: dict[int, list[list[Line]]] = {}
    for line in sorted(lines, key=lambda line: line.em_px)[:_MOST_LINES]:
        foot = line.box.bottom
        for row in rows.setdefault(foot // _ONE_ROW, []):
            if line.em_px <= row[0].em_px * _ABOUT:
                row.append(line)
                break
        else:
            rows[foot // _ONE_ROW].append([line])
    for beside in rows.values():
        yield from beside


class _Edges:
    """The strongest edges of a photograph, looked at in bands: whole planes of them would be four bytes a pixel each."""

    def __init__(self, image: Image.Image, part: NDArray[np.bool_] | None) -> None:
        """Of a picture in lightness; `part` is where it is looked at, (height, width), None for everywhere."""
        self._window = _around(part) if part is not None else (slice(None), slice(None))
        plane = np.asarray(image)[self._window]
        self._rows = max(1, _BAND_PIXELS // plane.shape[1])
        within = np.ones_like(plane, dtype=bool) if part is None else part[self._window]
        parts = [within[top : top + self._rows] for top in range(0, len(plane), self._rows)]
        counts = np.zeros(2 * _MOST_DIFFERENCE**2 + 1, dtype=np.int64)
        for steepness, inside in zip(self._steepness(plane), parts, strict=True):
            counts += np.bincount(steepness[inside], minlength=counts.size)
        # So that a tenth of the pixels is as steep as that, or steeper.
        tenth = int(np.searchsorted(np.cumsum(counts), (1 - _INK_SHARE) * counts.sum()))
        least = max(tenth, int((2 * _FAINTEST_INK) ** 2))
        self._ink = [
            np.flatnonzero((steepness >= least) & inside)
            for steepness, inside in zip(self._steepness(plane), parts, strict=True)
        ]
        self._at_ink = list(self._strengths(plane))

    def kept(self, image: Image.Image) -> float:
        """The share of their gradients that a candidate keeps, 0 to 1."""
        total = sum(ink.size for ink in self._ink)
        if not total:
            return 1.0
        alike = 0.0
        for seen, own in zip(self._strengths(np.asarray(image)[self._window]), self._at_ink, strict=True):
            alike += float(((2 * seen * own + _STABILISER) / (seen**2 + own**2 + _STABILISER)).sum())
        return alike / total

    def _steepness(self, plane: Pixels) -> Iterator[NDArray[np.int32]]:
        """The squares of twice the gradient, band by band."""
        for across, down in self._bands(plane):
            yield across.astype(np.int32) ** 2 + down.astype(np.int32) ** 2

    def _strengths(self, plane: Pixels) -> Iterator[Plane]:
        """The gradients at the ink, band by band."""
        for (across, down), ink in zip(self._bands(plane), self._ink, strict=True):
            strength: Plane = np.hypot(across.ravel()[ink].astype(np.float32), down.ravel()[ink].astype(np.float32))
            strength /= 2
            yield strength

    def _bands(self, plane: Pixels) -> Iterator[tuple[NDArray[np.int16], NDArray[np.int16]]]:
        """Twice the gradient across and down at each pixel, band by band; the picture's outer edge has none."""
        for top in range(0, len(plane), self._rows):
            bottom = min(top + self._rows, len(plane))
            first, last = max(top, 1), min(bottom, len(plane) - 1)
            around = plane[max(top - 1, 0) : bottom + 1].astype(np.int16)
            own = around[top - max(top - 1, 0) :][: bottom - top]
            across, down = (np.zeros((bottom - top, plane.shape[1]), dtype=np.int16) for _ in range(2))
            np.subtract(own[:, 2:], own[:, :-2], out=across[:, 1:-1])
            if first < last:
                np.subtract(around[2:], around[:-2], out=down[first - top : last - top])
            yield across, down


def _around(part: NDArray[np.bool_]) -> tuple[slice, slice]:
    """The rows and the columns of some part of a plane, and one more at each side, where gradients come from."""
    rows, columns = (np.flatnonzero(part.any(axis=axis)) for axis in (1, 0))
    return slice(max(int(rows[0]) - 1, 0), int(rows[-1]) + 2), slice(max(int(columns[0]) - 1, 0), int(columns[-1]) + 2)


class _Colours:
    """A photograph's colours beside its lightness, in every other row: of what is off anywhere, half tells as much."""

    def __init__(self, picture: Picture) -> None:
        self._own = list(self._seen(picture))

    def off(self, other: Picture | Indexed) -> float:
        """How far another picture's are off, in the hundredth of the blocks that is worst."""
        apart = []
        for own, seen in zip(self._own, self._seen(other), strict=True):
            blue, red = (
                np.asarray(ImageChops.difference(one, two).reduce((_BLOCK, _BLOCK // 2)), dtype=np.float32)
                for one, two in zip(own, seen, strict=True)
            )
            apart.append(np.hypot(blue, red).ravel())
        return float(np.quantile(np.concatenate(apart), _WORST_BLOCKS)) / _TOLD_APART

    @staticmethod
    def _seen(picture: Picture | Indexed) -> Iterator[tuple[Image.Image, Image.Image]]:
        for _, band in _bands(picture, every=2):
            _, blue, red = band.convert("YCbCr").split()
            yield blue, red


@dataclass(frozen=True, eq=False)
class _Seen:
    """What is looked at of a picture on white: its lightness, and the mean colours of its blocks."""

    plane: Image.Image
    blocks: NDArray[np.float32] | None

    @classmethod
    def of(cls, picture: Picture | Indexed, *, with_blocks: bool, where: Sequence[_Box] | None = None) -> _Seen:
        """Made in bands of rows: colours are in memory for one of them at a time. Lightness only `where` it is looked at."""
        plane = Image.new("L", (picture.size.width, picture.size.height))
        blocks = []
        for top, band in _bands(picture):
            if where is None:
                plane.paste(band.convert("L"), (0, top))
            for left, first, right, last in where or ():
                above, below = max(first, top), min(last, top + band.height)
                if above < below:
                    part = band.crop((left, above - top, right, below - top))
                    plane.paste(part.convert("L"), (left, above))
            if with_blocks:
                blocks.append(np.asarray(band.reduce(_BLOCK)))
        return cls(plane, _weighed(np.concatenate(blocks)) if with_blocks else None)


def _bands(picture: Picture | Indexed, every: int = 1) -> Iterator[tuple[int, Image.Image]]:
    """Whole blocks of rows, each of them or every so many, on white where the picture is transparent."""
    rows = max(1, _BAND_PIXELS // _BLOCK // picture.size.width) * _BLOCK
    palette = None if isinstance(picture, Picture) else _on_white(picture.palette[None]).tobytes()
    samples = picture.pixels if isinstance(picture, Picture) else picture.indices
    for top in range(0, picture.size.height, rows):
        some = samples[top : top + rows : every]
        if palette is None:
            yield top, _on_white(some)
            continue
        band = Image.fromarray(some, "P")
        band.putpalette(palette)
        yield top, band.convert("RGB")


def _on_white(pixels: Pixels) -> Image.Image:
    image = Image.fromarray(pixels)
    if image.mode == "RGB":
        return image
    return Image.alpha_composite(Image.new("RGBA", image.size, "white"), image).convert("RGB")


def _weighed(blocks: Pixels) -> NDArray[np.float32]:
    """The mean colour of each block as its lightness, counted double, and what of red and blue is beside it."""
    means = blocks.astype(np.float32).reshape(-1, 3)
    return (means @ _LIGHTNESS_AND_COLOUR).reshape(blocks.shape)
