"""Which columns at a strip's edge are a scroll bar, and nothing but that: proven from all strips, else none.

A bar is a track of one colour on which one thumb lies, a single stretch of rows, that goes down while the page goes up.
Whatever else the columns show is ink: of the page, which moves the other way in many stretches, or of a fixed head or
foot, which stays. A column with ink is never cut off.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from tijera.core.frames.longpage.rows import Flags
from tijera.core.imaging.picture import Pixels

_VIDEO_CONTRAST = 40
"""How much the pixels of a thumb differ from its track in a video, at least."""
_SPARE_BUTTON_ROWS = 2
"""A button at a bar's end is as high as the bar is wide, and its edge."""
_SAME_LENGTH = 0.3
"""A thumb's length changes by no more than this part of it, but where the page grows."""


@dataclass(frozen=True)
class _Thumbs:
    """The rows of a column's thumb, strip by strip: first and last + 1."""

    starts: tuple[int, ...]
    ends: tuple[int, ...]

    @property
    def go_down(self) -> bool:
        """Whether they move as a thumb does: down, or up only where it also became shorter (the page has grown)."""
        moved = False
        pairs = zip(self.starts, self.ends, strict=True)
        before = next(pairs)
        for now in pairs:
            length, was = now[1] - now[0], before[1] - before[0]
            if now[0] < before[0] and length >= was:
                return False
            if length > was * (1 + _SAME_LENGTH) + 1 or (now[0] >= before[0] and length < was * (1 - _SAME_LENGTH) - 1):
                return False
            moved = moved or now[0] > before[0]
            before = now
        return moved


def bar_columns(margins: Sequence[Pixels], *, exact: bool) -> int:
    """How many outer columns are a scroll bar with its track; 0 where that is not proven.

    `margins` are the same columns of every strip that was joined, in order, each of shape (height, columns, 3), with
    the outer edge last.
    """
    if len(margins) < 2:
        return 0
    strips = np.stack(margins)
    tracks = _most_frequent(strips)
    far = np.abs(strips.astype(np.int16) - tracks[None, None]).max(axis=3) > (0 if exact else _VIDEO_CONTRAST)
    moving = _moving_rows(strips, exact=exact)
    thumbs = [_thumbs_of(far[:, :, column], moving[:, column]) for column in range(strips.shape[2])]
    first = _innermost(thumbs, far, moving)
    if first is None:
        return 0
    first = _with_track(first, tracks, far, moving)
    return 0 if _has_ink_at_ends(strips, far, moving, first, exact=exact) else int(strips.shape[2]) - first


def _most_frequent(strips: Pixels) -> Pixels:
    """Each column's most frequent colour, over all strips, shape (columns, 3)."""
    values = strips.reshape(-1, strips.shape[2], 3).astype(np.uint32)
    packed = (values[:, :, 0] << 16) | (values[:, :, 1] << 8) | values[:, :, 2]
    found = []
    for column in packed.T:
        colours, counts = np.unique(column, return_counts=True)
        found.append(int(colours[counts.argmax()]))
    return np.array([((each >> 16) & 255, (each >> 8) & 255, each & 255) for each in found], dtype=np.int16)


def _moving_rows(strips: Pixels, *, exact: bool) -> Flags:
    """For each row and column: whether the strips differ there, shape (height, columns)."""
    first = strips[0].astype(np.int16)
    apart: Flags = np.zeros(strips.shape[1:3], dtype=np.bool_)
    for strip in strips[1:]:
        apart |= np.abs(strip.astype(np.int16) - first).max(axis=2) > (0 if exact else _VIDEO_CONTRAST)
    return apart


def _thumbs_of(far: Flags, moving: Flags) -> _Thumbs | None:
    """The one stretch of rows off the track in every strip, between the first and the last row that ever changes."""
    rows = np.flatnonzero(moving)
    if rows.size == 0:
        return None
    low, high = int(rows[0]), int(rows[-1]) + 1
    starts, ends = [], []
    for strip in far[:, low:high]:
        edges = np.flatnonzero(np.diff(np.concatenate(([False], strip, [False])).astype(np.int8)))
        if edges.size != 2:
            return None
        starts.append(low + int(edges[0]))
        ends.append(low + int(edges[1]))
    thumbs = _Thumbs(tuple(starts), tuple(ends))
    return thumbs if thumbs.go_down else None


def _innermost(thumbs: Sequence[_Thumbs | None], far: Flags, moving: Flags) -> int | None:
    """The first column with a thumb, if from there to the edge is nothing but thumb and track."""
    first = next((column for column, each in enumerate(thumbs) if each is not None), None)
    if first is None:
        return None
    rows = np.flatnonzero(moving[:, first:].any(axis=1))
    between = slice(int(rows[0]), int(rows[-1]) + 1)
    for column in range(first, len(thumbs)):
        if thumbs[column] is None and far[:, between, column].any():
            return None
    return first


def _with_track(first: int, tracks: Pixels, far: Flags, moving: Flags) -> int:
    """The track reaches further in than the thumb: to where its colour ends.

    Where it ends nowhere, the page has the same colour; then as far as at the outer side, as thumbs lie in the middle.
    """
    rows = np.flatnonzero(moving[:, first:].any(axis=1))
    flat = np.asarray(~moving.any(axis=0) & ~far[:, int(rows[0]) : int(rows[-1]) + 1].any(axis=(0, 1)))
    edge = first
    while edge > 0 and flat[edge - 1] and (tracks[edge - 1] == tracks[first]).all():
        edge -= 1
    if edge > 0:
        return edge
    outer = 0
    while outer < first and flat[far.shape[2] - 1 - outer]:
        outer += 1
    return first - outer


def _has_ink_at_ends(strips: Pixels, far: Flags, moving: Flags, first: int, *, exact: bool) -> bool:
    """Whether the columns show something above or below the bar that is neither its button nor a flat head or foot."""
    rows = np.flatnonzero(moving[:, first:].any(axis=1))
    drawn = np.asarray(far[:, :, first:].any(axis=(0, 2)))
    if first > 0:
        # A head or foot that runs on as one colour from the page's side carries nothing of its own here.
        beside = np.abs(strips[:, :, first:].astype(np.int16) - strips[:, :, first - 1 : first].astype(np.int16))
        drawn &= (beside.max(axis=3) > (0 if exact else _VIDEO_CONTRAST)).any(axis=(0, 2))
    most = strips.shape[2] - first + _SPARE_BUTTON_ROWS
    above, below = drawn[: int(rows[0])][::-1], drawn[int(rows[-1]) + 1 :]
    return any(_beyond_button(each, most) for each in (above, below))


def _beyond_button(drawn: Flags, most: int) -> bool:
    """Whether rows are drawn that can't be one button of so many rows."""
    at = np.flatnonzero(drawn)
    return at.size > 0 and int(np.ptp(at)) >= most
