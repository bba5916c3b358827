"""Joining strips, one after another, while the page is scrolled."""

from __future__ import annotations

from enum import StrEnum

import numpy as np

from tijera.core.errors import StripApart, StripSize, TijeraError
from tijera.core.frames.longpage.overlap import find_overlap
from tijera.core.frames.longpage.rows import Rows
from tijera.core.frames.longpage.scrollbar import bar_columns
from tijera.core.imaging.decode import MAX_PIXELS
from tijera.core.imaging.picture import Picture, Pixels

MOST_HEIGHT_PX = 30_000
"""Where a page that never ends is left off."""


class Joined(StrEnum):
    """What became of a strip."""

    FIRST = "first"
    NEW = "new"
    """It brought new rows."""
    SAME = "same"
    """Nothing was scrolled, or back to what is there already."""
    FULL = "full"
    """It reached the greatest height; what goes beyond was left out."""


class Stitcher:
    """The page so far. Every strip is either joined where it surely belongs, or refused; nothing is ever guessed.

    The seam lies in the middle of rows that both strips show alike, so a fixed head stands once, from the first strip,
    and a fixed foot once, from the last. `exact` is False for a video, whose pixels are a little off.
    """

    def __init__(self, *, exact: bool = True) -> None:
        self._exact = exact
        self._pieces: list[Pixels] = []
        self._last: Rows | None = None
        self._last_start = 0
        """The row of the last strip at which the last piece begins."""
        self._margins: tuple[list[Pixels], list[Pixels]] = ([], [])
        """The outer columns of every joined strip, left and right, the edge last: there a scroll bar may be."""

    @property
    def height(self) -> int:
        """Rows joined so far."""
        return sum(int(piece.shape[0]) for piece in self._pieces)

    @property
    def most_height(self) -> int:
        """The greatest height for strips of this width."""
        width = int(self._pieces[0].shape[1]) if self._pieces else 1
        return min(MOST_HEIGHT_PX, MAX_PIXELS // width)

    def add(self, strip: Picture, expected_px: int | None = None) -> Joined:
        """Join the next strip. `expected_px` is how far the source says that it scrolled since the last joined one.

        Raises `StripApart`, `StripAmbiguous`, `StripSize`; the page so far stays as it was.
        """
        lower = Rows(np.ascontiguousarray(strip.pixels[:, :, :3]), self._exact)
        upper = self._last
        if upper is None:
            self._last = lower
            self._pieces = [lower.pixels]
            self._remember_margins(lower)
            return self._limited(Joined.FIRST)
        if upper.pixels.shape != lower.pixels.shape:
            raise StripSize(was=_size(upper), now=_size(lower))
        if self.height >= self.most_height:
            return Joined.FULL
        try:
            overlap = find_overlap(upper, lower, expected_px)
        except TijeraError:
            if expected_px is None and _is_above(upper, lower):
                return Joined.SAME
            raise
        if overlap is None:
            return Joined.SAME
        seam = max((overlap.start + overlap.end) // 2, self._last_start - overlap.shift + 1)
        if seam >= overlap.end:
            raise StripApart
        self._pieces[-1] = self._pieces[-1][: seam + overlap.shift - self._last_start]
        self._pieces.append(lower.pixels[seam:])
        self._last, self._last_start = lower, seam
        self._remember_margins(lower)
        return self._limited(Joined.NEW)

    def _remember_margins(self, strip: Rows) -> None:
        width, margin = strip.pixels.shape[1], strip.margin
        left, right = self._margins
        left.append(strip.pixels[:, :margin][:, ::-1].copy())
        right.append(strip.pixels[:, width - margin :].copy())

    def _limited(self, joined: Joined) -> Joined:
        over = self.height - self.most_height
        if over < 0:
            return joined
        if over > 0:
            self._pieces[-1] = self._pieces[-1][: -over or None]
        return Joined.FULL

    def picture(self) -> Picture:
        """The page so far, without the columns of what is proven to be a scroll bar; at least one strip must be there."""
        whole = np.concatenate(self._pieces, axis=0)
        left, right = (bar_columns(each, exact=self._exact) for each in self._margins)
        return Picture(np.ascontiguousarray(whole[:, left : whole.shape[1] - right]))

    def thumbnail(self, most: int) -> Picture:
        """The page so far, every n-th row and column, no side longer than `most` pixels."""
        step = max(1, -(-max(self.height, int(self._pieces[0].shape[1])) // most))
        offset, parts = 0, []
        for piece in self._pieces:
            parts.append(piece[offset::step, ::step])
            offset = (offset - piece.shape[0]) % step
        return Picture(np.ascontiguousarray(np.concatenate(parts, axis=0)))


def _is_above(upper: Rows, lower: Rows) -> bool:
    """Whether a strip shows what stands further up: somebody scrolled back."""
    try:
        return find_overlap(lower, upper) is not None
    except TijeraError:
        return False


def _size(rows: Rows) -> str:
    return f"{rows.pixels.shape[1]} × {rows.pixels.shape[0]}"
