"""Palettes chosen for ink: a few colours for a screen, so that letters keep their contrast and grounds become even.

A usual quantiser spends its colours where most pixels are. On a screen that is the ground, which one colour shows as well;
what is read are the few pixels of the letters. So a colour counts here by a root of its share only, and differences in
lightness count for more than those in hue (contrast sensitivity; common practice). Near-equal grounds fall together and
the steps of anti-aliased edges become few, which is what deflate feeds on.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tijera.core.imaging.picture import Indexed, Pixels, whole_values

_BITS = {3: 6, 4: 5}
"""Of each channel, by their number: cells of four steps, or of eight where there is transparency too."""
_SHARE_POWER = 0.5
"""How much the number of its pixels lets a colour weigh (set by hand); 1 would be the mean error over the picture."""
_TURNS = 8
_STRETCH = 1_000_000
_DISTANCES = 200_000
_MANY_CELLS = 8_192
"""More than a screen has; a photograph's palette is found from fewer."""
_TO_SEEN = np.array([[0.55, 1.1, 0.24], [0.35, -0.35, 0.0], [-0.1, -0.18, 0.28]], dtype=np.float32)
"""From red, green, blue to lightness and two differences of colour, the lightness counted about twice (set by hand)."""

Floats = NDArray[np.float32]
Numbers = NDArray[np.int64]


@dataclass(frozen=True, eq=False)
class Histogram:
    """The colours of a picture, gathered into cells of a few steps a channel; made once for all its palettes."""

    pixels: Pixels
    """Of shape (height, width, 3 or 4)."""
    occupied: Numbers
    """The cells that occur."""
    colours: Floats
    """The mean colour of each, (n, 3) or with transparency (n, 4), 0 to 255."""
    counts: Numbers

    @classmethod
    def of(cls, pixels: Pixels) -> Histogram:
        """Of pixels of shape (height, width, 3 or 4)."""
        bands = pixels.shape[2]
        counts = np.zeros(1 << (bands * _BITS[bands]), dtype=np.int64)
        sums = np.zeros((counts.size, bands))
        for rows in stretches(pixels):
            flat = _cells(pixels[rows]).ravel()
            counts += np.bincount(flat, minlength=counts.size)
            for band in range(bands):
                sums[:, band] += np.bincount(flat, weights=pixels[rows, :, band].ravel(), minlength=counts.size)
        occupied = np.flatnonzero(counts)
        colours = sums[occupied] / counts[occupied, None]
        return cls(pixels, occupied, colours.astype(np.float32), counts[occupied])

    @cached_property
    def coarser(self) -> Histogram:
        """The same colours in cells twice as wide each way: enough to find the colours of a photograph's palette."""
        bands = self.colours.shape[1]
        cells = np.zeros(len(self.colours), dtype=np.int64)
        for channel in self.colours.T:
            cells = (cells << (_BITS[bands] - 1)) | (channel.astype(np.int64) >> (9 - _BITS[bands]))
        occupied, at = np.unique(cells, return_inverse=True)
        counts = np.bincount(at, weights=self.counts)
        colours = [np.bincount(at, weights=self.counts * channel) / counts for channel in self.colours.T]
        return Histogram(self.pixels, occupied, np.stack(colours, axis=1).astype(np.float32), counts.astype(np.int64))

    @cached_property
    def weight(self) -> Floats:
        """How much each colour counts."""
        return self.counts.astype(np.float32) ** _SHARE_POWER

    @cached_property
    def beginnings(self) -> _Beginnings:
        """From which palettes of any size begin."""
        return _Beginnings(self.seen, self.weight)

    @cached_property
    def seen(self) -> Floats:
        """Each colour as an eye tells it from others, on white where it is see-through: (n, 3) or (n, 4)."""
        if self.colours.shape[1] == 3:
            return self.colours @ _TO_SEEN.T
        cover = self.colours[:, 3:] / 255
        on_white = self.colours[:, :3] * cover + 255 * (1 - cover)
        return np.concatenate((on_white @ _TO_SEEN.T, self.colours[:, 3:]), axis=1)


class _Beginnings:
    """Colours to begin with: the heaviest, then always the one that is worst shown, by its weight.

    A larger palette begins with the colours of a smaller one; so they are found once for all.
    """

    def __init__(self, seen: Floats, weight: Floats) -> None:
        self._channels = [np.ascontiguousarray(channel) for channel in seen.T]
        self._weight = weight
        at = int(np.argmax(weight))
        self._chosen = [at]
        self._apart = self._from(at)

    def of(self, count: int) -> list[int]:
        """Which colours; as many as asked for, or as there are."""
        while len(self._chosen) < count:
            at = int(np.argmax(self._apart * self._weight))
            if self._apart[at] == 0:
                break
            self._chosen.append(at)
            np.minimum(self._apart, self._from(at), out=self._apart)
        return self._chosen[:count]

    def _from(self, at: int) -> Floats:
        """How far each colour is from one of them, squared."""
        apart = np.zeros_like(self._weight)
        for channel in self._channels:
            off = channel - channel[at]
            off *= off
            apart += off
        return apart


def in_few_colours(histogram: Histogram, count: int) -> Indexed:
    """The picture in at most `count` colours.

    Deterministic: the heaviest colour first, then always the one that is worst shown so far, then some turns of k-means
    (Lloyd, IEEE Trans. Inf. Theory 28, 1982; from memory).
    """
    middles = _found(histogram if len(histogram.counts) <= _MANY_CELLS else histogram.coarser, count)
    nearest = _nearest(histogram.seen, middles)
    used, nearest = np.unique(nearest, return_inverse=True)
    pixels = histogram.counts.astype(np.float64)
    total = np.bincount(nearest, weights=pixels)
    colours = np.stack(
        [np.bincount(nearest, weights=pixels * channel) / total for channel in histogram.colours.T], axis=1
    )
    # The most frequent first: their indices are the small ones.
    order = np.argsort(-total, kind="stable")
    rank = np.empty(used.size, dtype=np.uint8)
    rank[order] = np.arange(used.size, dtype=np.uint8)
    table = np.zeros(int(histogram.occupied[-1]) + 1, dtype=np.uint8)
    table[histogram.occupied] = rank[nearest]
    indices = np.empty(histogram.pixels.shape[:2], dtype=np.uint8)
    for rows in stretches(histogram.pixels):
        indices[rows] = table[_cells(histogram.pixels[rows])]
    return Indexed(whole_values(colours[order]), indices)


def _cells(pixels: Pixels) -> NDArray[np.int32]:
    """The cell of each pixel, of shape (height, width)."""
    bits = _BITS[pixels.shape[2]]
    cells = np.zeros(pixels.shape[:2], dtype=np.int32)
    for band in range(pixels.shape[2]):
        cells <<= bits
        cells |= pixels[:, :, band] >> (8 - bits)
    return cells


def stretches(pixels: NDArray[Any]) -> Iterator[slice]:
    """The rows of a picture, about a million pixels at a time: numpy widens what it counts with to eight bytes each."""
    height, width = pixels.shape[:2]
    rows = max(1, _STRETCH // width)
    return (slice(start, start + rows) for start in range(0, height, rows))


def _found(histogram: Histogram, count: int) -> Floats:
    """The colours of a palette, as they are seen."""
    seen, weight = histogram.seen, histogram.weight
    middles = seen[histogram.beginnings.of(count)]
    nearest = _nearest(seen, middles)
    for _ in range(_TURNS):
        before, middles = nearest, _middles(seen, weight, nearest, middles)
        nearest = _nearest(seen, middles)
        if np.array_equal(nearest, before):
            break
    return middles


def _nearest(seen: Floats, middles: Floats) -> Numbers:
    # |a - b|² without the part that is the same for all middles; so many at a time as stay near the processor.
    at_once = max(1, _DISTANCES // len(middles))
    own = (middles**2).sum(axis=1)[None]
    both = np.concatenate((-2 * middles.T, own))
    ones = np.concatenate((seen, np.ones((len(seen), 1), dtype=np.float32)), axis=1)
    near = np.empty(len(seen), dtype=np.int64)
    for start in range(0, len(seen), at_once):
        some = slice(start, start + at_once)
        near[some] = np.argmin(ones[some] @ both, axis=1)
    return near


def _middles(seen: Floats, weight: Floats, nearest: Numbers, before: Floats) -> Floats:
    total = np.bincount(nearest, weights=weight, minlength=len(before))
    sums = np.stack(
        [np.bincount(nearest, weights=weight * channel, minlength=len(before)) for channel in seen.T], axis=1
    )
    return np.where(total[:, None] > 0, sums / np.maximum(total, 1e-9)[:, None], before).astype(np.float32)
