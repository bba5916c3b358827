"""Rows of a strip, made comparable: exactly by a hash of their pixels, or roughly where a video adds noise."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from tijera.core.imaging.picture import Pixels

Flags = NDArray[np.bool_]
Indices = NDArray[np.intp]

MOST_BAR_PX = 48
"""So wide at most is a scroll bar with its track at either side of a strip (common practice: 8 to 17 CSS pixels)."""
_BAR_SHARE = 12
"""A margin is at most this part of the width, so that something is left to compare on a narrow strip."""

_BLOCKS = 32
_PROFILE_TOLERANCE = 1.5
"""Two rows of a video may be equal when no block's mean brightness differs by more, of 255."""
NOISE = 12
"""They are when hardly any pixel's brightness differs by more than this."""
_NOISY_SHARE = 0.01


@dataclass(frozen=True, eq=False)
class Rows:
    """A strip of shape (height, width, 3) and what its rows are compared by, the margins left out."""

    pixels: Pixels
    exact: bool

    @property
    def height(self) -> int:
        """The number of rows."""
        return int(self.pixels.shape[0])

    @property
    def margin(self) -> int:
        """Columns at either side that may belong to a scroll bar."""
        return min(MOST_BAR_PX, int(self.pixels.shape[1]) // _BAR_SHARE)

    @cached_property
    def inner(self) -> Pixels:
        """The pixels between the margins."""
        width = self.pixels.shape[1]
        return np.ascontiguousarray(self.pixels[:, self.margin : width - self.margin])

    @cached_property
    def keys(self) -> NDArray[np.uint64]:
        """A 64-bit hash of each row, shape (height,): its words, mixed, each times an odd number of its own, summed.

        It only finds candidates: what is joined is compared pixel by pixel.
        """
        flat = self.inner.reshape(self.height, -1)
        spare = -flat.shape[1] % 8
        padded = np.pad(flat, ((0, 0), (0, spare))) if spare else flat
        words = padded.view(np.uint64)
        factors = np.random.default_rng(20).integers(1, 2**63, words.shape[1], dtype=np.uint64) | np.uint64(1)
        # In place: each copy of a strip takes as long as the sums themselves.
        mixed = words >> np.uint64(29)
        mixed ^= words
        mixed *= factors
        keys: NDArray[np.uint64] = mixed.sum(axis=1, dtype=np.uint64)
        return keys

    @cached_property
    def brightness(self) -> NDArray[np.float32]:
        """Luma of the inner pixels, shape (height, inner width): a video keeps it at full resolution."""
        luma: NDArray[np.float32] = self.inner.astype(np.float32) @ np.array((0.299, 0.587, 0.114), dtype=np.float32)
        return luma

    @cached_property
    def profiles(self) -> NDArray[np.float32]:
        """Mean brightness in blocks of columns, shape (height, blocks)."""
        width = self.brightness.shape[1]
        edges = np.unique(np.linspace(0, width, _BLOCKS + 1).astype(int)[:-1])
        sums = np.add.reduceat(self.brightness, edges, axis=1)
        means: NDArray[np.float32] = (sums / np.diff(np.append(edges, width))).astype(np.float32)
        return means

    @cached_property
    def detail(self) -> Flags:
        """Which rows are not of one flat colour, shape (height,)."""
        if self.exact:
            # Each pixel against the one before, a row's bytes in one piece: thirteen times as fast as against the first pixel.
            flat = self.inner.reshape(self.height, -1)
            flags: Flags = (flat[:, 3:] != flat[:, :-3]).any(axis=1)
            return flags
        drawn: Flags = np.ptp(self.brightness, axis=1) > 2 * NOISE
        return drawn

    def distinct(self, start: int, end: int) -> int:
        """How many different rows with detail stand between two rows."""
        detailed = self.detail[start:end]
        if self.exact:
            return int(np.unique(self.keys[start:end][detailed]).size)
        rough = np.floor(self.profiles[start:end][detailed] / (4 * _PROFILE_TOLERANCE) + 0.5)
        return len(np.unique(rough, axis=0)) if rough.size else 0


def equal_rows(upper: Rows, lower: Rows, shift: int) -> Flags:
    """Tell for each row y of `lower`, as far as both reach, whether it seems to equal row y + shift of `upper`."""
    count = upper.height - shift
    if upper.exact:
        same: Flags = upper.keys[shift:] == lower.keys[:count]
        return same
    close: Flags = np.abs(upper.profiles[shift:] - lower.profiles[:count]).max(axis=1) <= _PROFILE_TOLERANCE
    return close


def votes(upper: Rows, lower: Rows) -> Indices:
    """How many rows with detail agree under each shift from 0 on, for rows that are compared exactly."""
    places = np.flatnonzero(upper.detail)
    order = places[np.argsort(upper.keys[places], kind="stable")]
    known = upper.keys[order]
    rows = np.flatnonzero(lower.detail)
    first = np.searchsorted(known, lower.keys[rows], side="left")
    count = np.searchsorted(known, lower.keys[rows], side="right") - first
    # Every row of the lower strip meets all rows of the upper one that have its key.
    nth = np.arange(int(count.sum())) - np.repeat(np.cumsum(count) - count, count)
    shifts = order[np.repeat(first, count) + nth] - np.repeat(rows, count)
    return np.bincount(shifts[shifts >= 0], minlength=upper.height)


def confirmed(upper: Rows, lower: Rows, shift: int, start: int, end: int) -> Flags:
    """For rows start to end of `lower`: whether they truly equal those `shift` further down in `upper`."""
    if upper.exact:
        same: Flags = (upper.inner[start + shift : end + shift] == lower.inner[start:end]).all(axis=(1, 2))
        return same
    apart = np.abs(upper.brightness[start + shift : end + shift] - lower.brightness[start:end]) > NOISE
    quiet: Flags = apart.mean(axis=1) <= _NOISY_SHARE
    return quiet


def differing_columns(upper: Rows, lower: Rows, shift: int, rows: Indices) -> Indices:
    """The inner columns in which the given rows of `lower` differ from those `shift` further down in `upper`."""
    if upper.exact:
        differs = (upper.inner[rows + shift] != lower.inner[rows]).any(axis=2)
    else:
        differs = np.abs(upper.brightness[rows + shift] - lower.brightness[rows]) > NOISE
    return np.flatnonzero(differs.any(axis=0))
