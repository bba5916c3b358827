"""How far an encoding is from its original, where it matters: can each line of text still be read, are areas as they were.

*Text.* Each line that is found in the original is looked at by itself, as large as its letters are of ten pixels: what is finer
than that nobody needs in order to read it. What counts is the correlation of the gradients there, which knows edges, their
direction and their contrast, and punishes noise by how strong it is against the letters. The worst line decides, not the mean.
Over 493 encodings of 29 made-up screens (light, dark, pale, small, coloured grounds, with photographs, text in one corner;
palettes, JPEG, fewer pixels) it follows the share of words that a recogniser still reads with a rank correlation of 0.90, at
native pixels 0.85, within a screen 0.94 (median); 280 keep 0.98 of the words and more, and so many ties leave about 0.94 at most.
See docs/decisions/0028-loss-is-the-worst-line.md; tests/reference/test_readability.py reads what is offered above the floor.

*Areas.* The mean colours of blocks of 8 × 8 pixels; the hundredth that is shown worst decides.

*Photographs* without text: gradients at the strongest tenth (the similarity of GMSD; Xue et al., IEEE TIP 23(2), 2014, from
memory), as before.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from tijera.core.imaging.lettering import Line, text_lines
from tijera.core.imaging.luma import Plane
from tijera.core.imaging.picture import Picture, Pixels
from tijera.core.imaging.resize import resize
from tijera.core.units import round_half_up

_LETTERS_PX = 10.0
"""Lines are compared as large as this em; smaller ones as they are (9 to 12 are alike)."""
_ROUND_LINE = 3
_HALF_OF_BOTH = math.sqrt(2) / 2
"""Halves a difference, and makes the mean over two directions their sum."""
_MOST_LINES = 200
_ABOUT = 1.1
"""Lines whose em differs by no more are looked at together."""
_FAINT = 4.0
"""Keeps the ratio calm where there is next to no contrast."""
_BLOCK = 8
_WORST_BLOCKS = 0.99
_TOLD_APART = 160.0
"""A difference of colour that weighs as much as a line that can't be read; 16 is seen at once side by side (by eye)."""
_INK_SHARE = 0.10
"""Of a photograph the strongest tenth of the gradients counts."""
_STABILISER = 170.0
"""Keeps the ratio calm where both gradients are small; GMSD's constant for 8-bit luma (from memory)."""
_FAINTEST_INK = 4.0


@dataclass(frozen=True)
class Loss:
    """What an encoding lacks; 0 is the original."""

    text: float
    """Of the worst line of text: up to 0.04 all words are still recognised, at 0.1 nine of ten, at 0.2 half, at 0.3 a third."""
    area: float
    """Of areas and their colours, or of a photograph's edges."""

    @property
    def total(self) -> float:
        """One number for both."""
        return self.text + self.area


class Original:
    """What encodings of one picture are compared with; its lines and areas are found once."""

    def __init__(self, picture: Picture, lines: Iterable[Line] | None = None) -> None:
        self.size = picture.size
        self._is_photograph = picture.is_photograph
        found = text_lines(picture) if lines is None else lines
        image = _on_white(picture)
        plane = image.convert("L")
        self._lines = [_Lines(plane, group) for group in _by_size(found)]
        self._blocks = None if self._is_photograph else _blocks(image)
        self._edges = _Edges(np.asarray(plane)) if self._is_photograph else None

    @property
    def has_text(self) -> bool:
        """Whether lines of text were found."""
        return bool(self._lines)

    def loss(self, candidate: Picture) -> Loss:
        """What a candidate lacks; one of another size is compared on as many pixels as the original has."""
        image = _on_white(resize(candidate, self.size))
        plane = image.convert("L")
        area = self._of_areas(image) if self._edges is None else 1 - self._edges.kept(np.asarray(plane))
        return Loss(self._of_text(plane), area)

    def _of_text(self, plane: Image.Image) -> float:
        kept = [each for lines in self._lines for each in lines.kept(plane)]
        return max(0.0, 1 - min(kept, default=1.0))

    def _of_areas(self, seen: Image.Image) -> float:
        if self._blocks is None:
            return 0.0
        apart = np.sqrt(((_blocks(seen) - self._blocks) ** 2).sum(axis=2))
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
        self._energies = [float(np.vdot(own, own)) / own.size for own in self._own]

    def _box(self, line: Line, share: float) -> tuple[slice, slice]:
        left, right = (round_half_up((x - self._left) * share) for x in (line.box.x, line.box.right))
        top, bottom = (round_half_up((y - self._top) * share) for y in (line.box.y, line.box.bottom))
        # Room for ascenders, which the box of low letters need not hold, and for what an encoder smears beside it.
        return slice(max(top - _ROUND_LINE, 0), bottom + _ROUND_LINE), slice(
            max(left - _ROUND_LINE, 0), right + _ROUND_LINE
        )

    def _part(self, plane: Image.Image) -> Pixels:
        """What holds the lines, as large as they are looked at, with an edge of one pixel round it."""
        box = self._left, self._top, self._right, self._bottom
        width, height = self._size
        part = np.empty((height + 2, width + 2), dtype=np.uint8)
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
            common, other = float(np.vdot(seen, own)) / own.size, float(np.vdot(seen, seen)) / own.size
            # The constant takes a little from the original too; that is given back.
            back = max(energy / (energy + _FAINT), 1e-6)
            kept.append(common / math.sqrt((other + _FAINT) * (energy + _FAINT)) / back)
        return kept


def _gradients_in(part: Pixels, box: tuple[slice, slice]) -> Plane:
    """Central differences across and down in a box of a part that has an edge of one pixel, one beside the other.

    They are taken of every pixel of the box at once; the mean of their squares is that of across and down together.
    """
    rows, columns = box
    wide = part[rows.start : rows.stop + 2, columns.start : columns.stop + 2].astype(np.float32)
    across = wide[1:-1, 2:] - wide[1:-1, :-2]
    down = wide[2:, 1:-1] - wide[:-2, 1:-1]
    # Half of each difference; their squares are summed over both directions and shared out over one.
    both: Plane = np.stack((across, down)) * np.float32(_HALF_OF_BOTH)
    return both


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
    """The strongest edges of a photograph."""

    def __init__(self, plane: Pixels) -> None:
        gradient = np.hypot(*_gradients(plane.astype(np.float32)))
        threshold = max(float(np.quantile(gradient, 1 - _INK_SHARE)), _FAINTEST_INK)
        self._ink = gradient >= threshold
        self._at_ink = gradient[self._ink]

    def kept(self, plane: Pixels) -> float:
        """The share of their gradients that a candidate keeps, 0 to 1."""
        if not self._at_ink.size:
            return 1.0
        gradient = np.hypot(*_gradients(plane.astype(np.float32)))[self._ink]
        similar = (2 * gradient * self._at_ink + _STABILISER) / (gradient**2 + self._at_ink**2 + _STABILISER)
        return float(similar.mean())


def _gradients(plane: Plane) -> tuple[Plane, Plane]:
    """Central differences across and down; the outer edge is zero."""
    across, down = np.zeros_like(plane), np.zeros_like(plane)
    across[:, 1:-1] = (plane[:, 2:] - plane[:, :-2]) / 2
    down[1:-1, :] = (plane[2:, :] - plane[:-2, :]) / 2
    return across, down


def _on_white(picture: Picture) -> Image.Image:
    image = Image.fromarray(picture.pixels)
    if not picture.has_alpha:
        return image
    return Image.alpha_composite(Image.new("RGBA", image.size, "white"), image).convert("RGB")


def _blocks(image: Image.Image) -> NDArray[np.float32]:
    """The mean colour of each block, its lightness counted double."""
    means = np.asarray(image.reduce(_BLOCK), dtype=np.float32)
    lightness = means @ np.array([0.299, 0.587, 0.114], dtype=np.float32)
    return np.dstack((lightness * np.float32(1.41), means[:, :, 0] - lightness, means[:, :, 2] - lightness))
