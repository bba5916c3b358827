"""The size of the text on a picture, read off its pixels: letters that stand on one line, low ones and high ones.

Low letters (a, c, e, m, n, o …) are as high as the x-height, which is about half of the em in faces for screens: 0.50 in
the one that ships here, 0.45 to 0.55 in others (common practice). A line counts only when both heights are seen in it,
else capitals or figures could pass for low letters.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from tijera.core.geometry import Rect
from tijera.core.imaging.luma import luma
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.vips import labelled

X_HEIGHT = 0.497
"""Of the em."""
_TILE = 24
_BAND_PIXELS = 2_000_000
_OVERLAP = 8 * _TILE
"""Of two bands, in rows: more than twice the highest letters."""
_LEAST_CONTRAST = 36.0
_INK_SHARE = 0.42
_HEIGHTS = (3, 70)
_TALL = (1.2, 1.72)
"""How much higher ascenders, capitals and figures are than low letters."""
_LEAST_LOW, _LEAST_TALL = 3, 1
_LEAST_LETTERS = 5
_ALIKE = 1.09

Floats = NDArray[np.float64]
Numbers = NDArray[np.int64]


@dataclass(frozen=True)
class TextSize:
    """The em of some text in pixels, and where it stands."""

    em_px: float
    box: Rect


@dataclass(frozen=True)
class _Letters:
    """The boxes of what may be letters; heights to a fraction of a pixel."""

    left: Numbers
    right: Numbers
    top: Numbers
    bottom: Numbers
    height: Floats


def smallest_text(picture: Picture) -> TextSize | None:
    """The smallest text that several letters agree on; None where no text is found."""
    lines = text_lines(picture)
    for line in lines:
        alike = [each for each in lines if each.em_px <= line.em_px * _ALIKE and each.em_px >= line.em_px]
        if sum(each.count for each in alike) >= _LEAST_LETTERS:
            weights = np.array([each.count for each in alike], dtype=float)
            em = float(np.average([each.em_px for each in alike], weights=weights))
            return TextSize(em, alike[0].box)
    return None


@dataclass(frozen=True)
class Line:
    """A line of text: its em, its box, how many letters told it."""

    em_px: float
    box: Rect
    count: int


def text_lines(picture: Picture) -> list[Line]:
    """Lines of text, the smallest first. A large picture is looked at in bands, which takes little memory."""
    found = [
        line for top, part, wanted in _bands(picture) for line in _lines_on(part, top) if line.box.bottom in wanted
    ]
    return sorted(found, key=lambda line: line.em_px)


def _bands(picture: Picture) -> Iterator[tuple[int, Picture, range]]:
    """The top of each band, its pixels, and in which rows a line has to end that is told there."""
    height, width = picture.size.height, picture.size.width
    # On whole tiles, so that the ground is the same; overlapping, so that no line is cut where it is told.
    stride = max(_BAND_PIXELS // width // _TILE, 2 * _OVERLAP // _TILE) * _TILE
    if height <= stride + _OVERLAP:
        yield 0, picture, range(height + 1)
        return
    for top in range(0, height - _OVERLAP, stride):
        end = top + stride + _OVERLAP
        is_last = top + stride >= height - _OVERLAP
        first = top + _OVERLAP // 2 if top else 0
        part = Picture(picture.pixels[top : height if is_last else end])
        yield top, part, range(first, height + 1 if is_last else top + stride + _OVERLAP // 2)


def _lines_on(part: Picture, top: int) -> Iterator[Line]:
    letters = _letters(luma(part))
    for run in () if letters is None else _runs(letters):
        line = _line(letters, run) if letters else None
        if line is not None:
            box = line.box
            yield replace(line, box=Rect(box.x, box.y + top, box.width, box.height))


def _ink(plane: NDArray[np.float32]) -> NDArray[np.float32]:
    """How much each pixel differs from the ground round it, as a share of the most that differs there; 0 to 1."""
    height, width = plane.shape
    rows, columns = -(-height // _TILE), -(-width // _TILE)
    padded = np.pad(plane, ((0, rows * _TILE - height), (0, columns * _TILE - width)), mode="edge")
    tiles = padded.reshape(rows, _TILE, columns, _TILE).swapaxes(1, 2).reshape(rows, columns, -1)
    ground = np.median(tiles, axis=2)
    most = np.abs(tiles - ground[:, :, None]).max(axis=2)
    most = np.maximum(most, _LEAST_CONTRAST)
    spread_ground = np.repeat(np.repeat(ground, _TILE, axis=0), _TILE, axis=1)[:height, :width]
    spread_most = np.repeat(np.repeat(most, _TILE, axis=0), _TILE, axis=1)[:height, :width]
    share: NDArray[np.float32] = (np.abs(plane - spread_ground) / spread_most).astype(np.float32)
    return share


def _letters(plane: NDArray[np.float32]) -> _Letters | None:
    share = _ink(plane)
    inked = share > _INK_SHARE
    rows, columns = np.nonzero(inked)
    if rows.size == 0:
        return None
    labels = labelled(inked)[rows, columns]
    _, index = np.unique(labels, return_inverse=True)
    count = int(index.max()) + 1
    top, left = np.full(count, 1 << 30), np.full(count, 1 << 30)
    bottom, right = np.zeros(count, dtype=np.int64), np.zeros(count, dtype=np.int64)
    np.minimum.at(top, index, rows)
    np.minimum.at(left, index, columns)
    np.maximum.at(bottom, index, rows + 1)
    np.maximum.at(right, index, columns + 1)
    pixels = np.bincount(index, minlength=count)
    high, wide = bottom - top, right - left
    fits = (high >= _HEIGHTS[0]) & (high <= _HEIGHTS[1]) & (wide <= 2 * high + 2) & (wide >= 2)
    fits &= (pixels >= 4) & (pixels <= 0.92 * high * wide)
    # What the picture's edge cuts through is lower than its text.
    fits &= (top > 0) & (left > 0) & (bottom < plane.shape[0]) & (right < plane.shape[1])
    chosen = np.flatnonzero(fits)
    if chosen.size == 0:
        return None
    heights = np.array([_exact_height(share, top[i], bottom[i], left[i], right[i]) for i in chosen])
    return _Letters(left[chosen], right[chosen], top[chosen], bottom[chosen], heights)


def _exact_height(share: NDArray[np.float32], top: int, bottom: int, left: int, right: int) -> float:
    """The height with the grey rows at its ends counted by their share."""
    first, last = max(top - 1, 0), min(bottom + 1, share.shape[0])
    darkest = share[first:last, left:right].max(axis=1)
    full = float(np.sort(darkest)[-max(1, len(darkest) // 3)])
    return float(np.minimum(darkest / max(full, 1e-6), 1.0).sum())


def _runs(letters: _Letters) -> list[list[int]]:
    """Letters that stand on one line near each other."""
    order = np.lexsort((letters.left, letters.bottom))
    by_bottom: dict[int, list[int]] = {}
    for i in order:
        by_bottom.setdefault(int(letters.bottom[i]), []).append(int(i))
    runs = []
    for bottom, own in by_bottom.items():
        near = sorted(own + by_bottom.get(bottom + 1, []), key=lambda i: int(letters.left[i]))
        if len(near) < _LEAST_LOW + _LEAST_TALL or len(own) * 2 < len(near):
            continue
        run = [near[0]]
        for i in near[1:]:
            gap = int(letters.left[i] - letters.right[run[-1]])
            if gap > 1.6 * float(max(letters.height[i], letters.height[run[-1]])) + 4:
                runs.append(run)
                run = []
            run.append(i)
        runs.append(run)
    return [run for run in runs if len(run) >= _LEAST_LOW + _LEAST_TALL]


def _line(letters: _Letters, run: list[int]) -> Line | None:
    heights = np.sort(letters.height[run])
    # The low ones lie close together; what is lower than they are (dots, dashes) is rare.
    for start in heights:
        low = heights[(heights >= start) & (heights <= start * 1.14)]
        if len(low) >= max(_LEAST_LOW, len(heights) * 0.3):
            break
    else:
        return None
    x_height = float(np.median(low))
    tall = heights[(heights >= x_height * _TALL[0]) & (heights <= x_height * _TALL[1])]
    if len(tall) < _LEAST_TALL or len(low) + len(tall) < len(heights) * 0.6:
        return None
    left, right = int(letters.left[run].min()), int(letters.right[run].max())
    top, bottom = int(letters.top[run].min()), int(letters.bottom[run].max())
    return Line(x_height / X_HEIGHT, Rect(left, top, right - left, bottom - top), len(run))
