"""How far an encoding is from its original, where it matters: can each line of text still be read, are areas as they were.

*Text.* Each line that is found in the original is looked at by itself, as large as its letters are of ten pixels: what is finer
than that nobody needs in order to read it. What counts is the correlation of the gradients there, which knows edges, their
direction and their contrast, and punishes noise by how strong it is against the letters. The worst line decides, not the mean.
Over 493 encodings of 29 made-up screens (light, dark, pale, small, coloured grounds, with photographs, text in one corner;
palettes, JPEG, fewer pixels) it follows the share of words that a recogniser still reads with a rank correlation of 0.90, at
native pixels 0.85, within a screen 0.94 (median); 280 keep 0.98 of the words and more, and so many ties leave about 0.94 at most.
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

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageChops

from tijera.core.imaging.lettering import Line, text_lines
from tijera.core.imaging.luma import Plane
from tijera.core.imaging.picture import PHOTOGRAPH_FLAT_SHARE, Indexed, Picture, Pixels
from tijera.core.imaging.resize import resize
from tijera.core.units import round_half_up

_LETTERS_PX = 10.0
"""Lines are compared as large as this em; smaller ones as they are (9 to 12 are alike)."""
_ROUND_LINE = 3
_MOST_LINES = 200
_ABOUT = 1.1
"""Lines whose em differs by no more are looked at together."""
_FAINT = 4.0
"""Keeps the ratio calm where there is next to no contrast."""
_BLOCK = 8
_BAND_PIXELS = 64_000
"""As many as stay near the processor while they are looked at."""
_WORST_BLOCKS = 0.99
_TOLD_APART = 160.0
"""A difference of colour that weighs as much as a line that can't be read; 16 is seen at once side by side (by eye)."""
_INK_SHARE = 0.10
"""Of a photograph the strongest tenth of the gradients counts."""
_STABILISER = 170.0
"""Keeps the ratio calm where both gradients are small; GMSD's constant for 8-bit luma (from memory)."""
_FAINTEST_INK = 4.0

_MOST_DIFFERENCE = 255
_TILE, _FEWEST_TILES = 48, 6
"""In pixels, and how many of them a photograph on a screen has at least: about 120 × 120 pixels."""


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
        self._lines = [_Lines(seen.plane, group) for group in _by_size(found)]
        self._blocks = seen.blocks
        part = None if self._is_photograph else _photographic(picture)
        self._edges = _Edges(seen.plane, part) if self._is_photograph or part is not None else None
        self._picture = picture if self._is_photograph else None

    @property
    def has_text(self) -> bool:
        """Whether lines of text were found."""
        return bool(self._lines)

    def loss(self, candidate: Picture | Indexed) -> Loss:
        """What a candidate lacks; one of another size is compared on as many pixels as the original has."""
        if candidate.size != self.size:
            candidate = resize(candidate if isinstance(candidate, Picture) else candidate.spread(), self.size)
        seen = _Seen.of(candidate, with_blocks=self._blocks is not None)
        edges = 0.0 if self._edges is None else 1 - self._edges.kept(seen.plane)
        area = self._of_areas(seen) if self._picture is None else _colours_off(self._picture, candidate)
        return Loss(self._of_text(seen.plane), area, edges)

    def _of_text(self, plane: Image.Image) -> float:
        kept = [each for lines in self._lines for each in lines.kept(plane)]
        return max(0.0, 1 - min(kept, default=1.0))

    def _of_areas(self, seen: _Seen) -> float:
        if self._blocks is None or seen.blocks is None:
            return 0.0
        apart = np.sqrt(((seen.blocks - self._blocks) ** 2).sum(axis=2))
        return float(np.quantile(apart, _WORST_BLOCKS)) / _TOLD_APART


class _Lines:
    """Lines of text of about one size: they are looked at on one plane, as large as their letters are of ten pixels."""

    def __init__(self, plane: Image.Image, lines: Sequence[Line]) -> None:
        width, height = plane.size
        share = min(1.0, _LETTERS_PX / lines[0].em_px)
        # Only what holds them all is looked at.
        self._left = max(min(line.box.x for line in lines) - _ROUND_LINE, 0)
        self._top = max(min(line.box.y for line in lines) - _ROUND_LINE, 0)
        self._right = min(max(line.box.right for line in lines) + _ROUND_LINE, width)
        self._bottom = min(max(line.box.bottom for line in lines) + _ROUND_LINE, height)
        self._size = tuple(
            max(3, round_half_up(side * share)) for side in (self._right - self._left, self._bottom - self._top)
        )
        part = self._part(plane)
        self._boxes = [self._box(line, share) for line in lines]
        self._own = [_gradients_in(part, box) for box in self._boxes]
        self._energies = [_mean_product(own, own) for own in self._own]

    def _box(self, line: Line, share: float) -> tuple[slice, slice]:
        left, right = (round_half_up((x - self._left) * share) for x in (line.box.x, line.box.right))
        top, bottom = (round_half_up((y - self._top) * share) for y in (line.box.y, line.box.bottom))
        # Room for ascenders, which the box of low letters need not hold, and for what an encoder smears beside it.
        return slice(max(top - _ROUND_LINE, 0), bottom + _ROUND_LINE), slice(
            max(left - _ROUND_LINE, 0), right + _ROUND_LINE
        )

    def _part(self, plane: Image.Image) -> Plane:
        """What holds the lines, as large as they are looked at, with an edge of one pixel round it."""
        box = self._left, self._top, self._right, self._bottom
        width, height = self._size
        part = np.empty((height + 2, width + 2), dtype=np.float32)
        part[1:-1, 1:-1] = np.asarray(plane.resize((width, height), Image.Resampling.BILINEAR, box=box))
        part[0], part[-1] = part[1], part[-2]
        part[:, 0], part[:, -1] = part[:, 1], part[:, -2]
        return part

    def kept(self, plane: Image.Image) -> list[float]:
        """For each line the correlation of its gradients with those of a candidate, -1 to 1."""
        part = self._part(plane)
        kept = []
        for box, own, energy in zip(self._boxes, self._own, self._energies, strict=True):
            seen = _gradients_in(part, box)
            common, other = _mean_product(seen, own), _mean_product(seen, seen)
            # The constant takes a little from the original too; that is given back.
            back = max(energy / (energy + _FAINT), 1e-6)
            kept.append(common / math.sqrt((other + _FAINT) * (energy + _FAINT)) / back)
        return kept


def _gradients_in(part: Plane, box: tuple[slice, slice]) -> Plane:
    """Twice the gradients across and down in a box of a part that has an edge of one pixel: (2, height, width)."""
    rows, columns = box
    wide = part[rows.start : rows.stop + 2, columns.start : columns.stop + 2]
    both = np.empty((2, wide.shape[0] - 2, wide.shape[1] - 2), dtype=np.float32)
    np.subtract(wide[1:-1, 2:], wide[1:-1, :-2], out=both[0])
    np.subtract(wide[2:, 1:-1], wide[:-2, 1:-1], out=both[1])
    return both


def _mean_product(one: Plane, other: Plane) -> float:
    """Of the gradients of two boxes, the mean over its pixels; both are twice as large, and in two directions."""
    return float(np.vdot(one, other)) / (2 * one.size)


def _by_size(lines: Iterable[Line]) -> Iterator[list[Line]]:
    """Lines in groups of about one size, the smallest first."""
    group: list[Line] = []
    for line in sorted(lines, key=lambda line: line.em_px)[:_MOST_LINES]:
        if group and line.em_px > max(group[0].em_px, _LETTERS_PX) * _ABOUT:
            yield group
            group = []
        group.append(line)
    if group:
        yield group


class _Edges:
    """The strongest edges of a photograph, looked at in bands: whole planes of them would be four bytes a pixel each."""

    def __init__(self, image: Image.Image, part: NDArray[np.bool_] | None) -> None:
        """Of a picture in lightness; `part` is where it is looked at, (height, width), None for everywhere."""
        self._rows = max(1, _BAND_PIXELS // image.width)
        plane = np.asarray(image)
        within = np.ones_like(plane, dtype=bool) if part is None else part
        parts = [within[top : top + self._rows] for top in range(0, len(plane), self._rows)]
        counts = np.zeros(2 * _MOST_DIFFERENCE**2 + 1, dtype=np.int64)
        for steepness, inside in zip(self._bands(plane), parts, strict=True):
            counts += np.bincount(steepness[inside], minlength=counts.size)
        # So that a tenth of the pixels is as steep as that, or steeper.
        tenth = int(np.searchsorted(np.cumsum(counts), (1 - _INK_SHARE) * counts.sum()))
        least = max(tenth, int((2 * _FAINTEST_INK) ** 2))
        self._ink = [
            np.flatnonzero((steepness >= least) & inside)
            for steepness, inside in zip(self._bands(plane), parts, strict=True)
        ]
        self._at_ink = [_strength(each, ink) for each, ink in zip(self._bands(plane), self._ink, strict=True)]

    def kept(self, image: Image.Image) -> float:
        """The share of their gradients that a candidate keeps, 0 to 1."""
        total = sum(ink.size for ink in self._ink)
        if not total:
            return 1.0
        alike = 0.0
        for steepness, ink, own in zip(self._bands(np.asarray(image)), self._ink, self._at_ink, strict=True):
            seen = _strength(steepness, ink)
            alike += float(((2 * seen * own + _STABILISER) / (seen**2 + own**2 + _STABILISER)).sum())
        return alike / total

    def _bands(self, plane: Pixels) -> Iterator[NDArray[np.int32]]:
        """The squares of twice the gradient at each pixel, band by band; the picture's outer edge has none."""
        for top in range(0, len(plane), self._rows):
            bottom = min(top + self._rows, len(plane))
            first, last = max(top, 1), min(bottom, len(plane) - 1)
            steepness = np.zeros((bottom - top, plane.shape[1]), dtype=np.int32)
            wide = plane[top:bottom].astype(np.int32)
            steepness[:, 1:-1] = (wide[:, 2:] - wide[:, :-2]) ** 2
            if first < last:
                down = plane[first + 1 : last + 1].astype(np.int32) - plane[first - 1 : last - 1]
                steepness[first - top : last - top] += down**2
            yield steepness


def _photographic(picture: Picture) -> NDArray[np.bool_] | None:
    """Where a screen shows a photograph: tiles in which hardly any pixel equals its neighbour; None where there are few."""
    height, width = picture.size.height, picture.size.width
    down, across = height // _TILE, width // _TILE
    shown = np.zeros((down, across), dtype=bool)
    for row in range(down):
        band = picture.pixels[row * _TILE : (row + 1) * _TILE, : across * _TILE]
        same = np.ones((_TILE, across * _TILE), dtype=np.float32)
        same[:, 1:] = (band[:, 1:] == band[:, :-1]).all(axis=2)
        shown[row] = same.reshape(_TILE, across, _TILE).mean(axis=(0, 2)) < PHOTOGRAPH_FLAT_SHARE
    if np.count_nonzero(shown) < _FEWEST_TILES:
        return None
    part = np.zeros((height, width), dtype=bool)
    part[: down * _TILE, : across * _TILE] = np.repeat(np.repeat(shown, _TILE, axis=0), _TILE, axis=1)
    return part


def _colours_off(one: Picture, other: Picture | Indexed) -> float:
    """How far the colours of two pictures are apart beside their lightness, in the hundredth of the blocks that is worst."""
    apart = []
    for (_, ours), (_, theirs) in zip(_bands(one), _bands(other), strict=True):
        off = ImageChops.difference(ours.convert("YCbCr"), theirs.convert("YCbCr")).reduce(_BLOCK)
        _, blue, red = np.moveaxis(np.asarray(off, dtype=np.float32), 2, 0)
        apart.append(np.hypot(blue, red).ravel())
    return float(np.quantile(np.concatenate(apart), _WORST_BLOCKS)) / _TOLD_APART


def _strength(steepness: NDArray[np.int32], at: NDArray[np.int64]) -> Plane:
    """The gradients at some pixels of a band."""
    strength: Plane = np.sqrt(steepness.ravel()[at].astype(np.float32))
    strength /= 2
    return strength


@dataclass(frozen=True, eq=False)
class _Seen:
    """What is looked at of a picture on white: its lightness, and the mean colours of its blocks."""

    plane: Image.Image
    blocks: NDArray[np.float32] | None

    @classmethod
    def of(cls, picture: Picture | Indexed, *, with_blocks: bool) -> _Seen:
        """Made in bands of rows: colours are in memory for one of them at a time."""
        plane = Image.new("L", (picture.size.width, picture.size.height))
        blocks = []
        for top, band in _bands(picture):
            plane.paste(band.convert("L"), (0, top))
            if with_blocks:
                blocks.append(_blocks(band))
        return cls(plane, np.concatenate(blocks) if with_blocks else None)


def _bands(picture: Picture | Indexed) -> Iterator[tuple[int, Image.Image]]:
    """Whole blocks of rows, on white where the picture is transparent."""
    rows = max(1, _BAND_PIXELS // _BLOCK // picture.size.width) * _BLOCK
    palette = None if isinstance(picture, Picture) else _on_white(picture.palette[None]).tobytes()
    samples = picture.pixels if isinstance(picture, Picture) else picture.indices
    for top in range(0, picture.size.height, rows):
        some = samples[top : top + rows]
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


def _blocks(image: Image.Image) -> NDArray[np.float32]:
    """The mean colour of each block, its lightness counted double."""
    means = np.asarray(image.reduce(_BLOCK), dtype=np.float32)
    lightness = means @ np.array([0.299, 0.587, 0.114], dtype=np.float32)
    return np.dstack((lightness * np.float32(1.41), means[:, :, 0] - lightness, means[:, :, 2] - lightness))
