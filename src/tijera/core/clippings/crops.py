"""Crops that a clipping suggests by itself: without its empty border, round its marks."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture
from tijera.core.marks.operations import Box, joined

_SAME = 6
"""So far a border's pixels may differ from its corner and still be empty, of 255."""
_LEAST_CORNERS = 3
"""So many corners share the border's colour: a title bar and a page below it are no border."""
_ROUND_MARKS = 12


def without_border(picture: Picture) -> Rect | None:
    """The part inside a border of one colour; None where there is no border, or nothing but border."""
    pixels = picture.pixels.astype(np.int16)
    corners = pixels[[0, 0, -1, -1], [0, -1, 0, -1]]
    alike = (np.abs(corners[:, None] - corners[None, :]) <= _SAME).all(axis=2).sum(axis=1)
    if int(alike.max()) < _LEAST_CORNERS:
        return None
    differs = (np.abs(pixels - corners[int(alike.argmax())]) > _SAME).any(axis=2)
    rows, columns = np.flatnonzero(differs.any(axis=1)), np.flatnonzero(differs.any(axis=0))
    if rows.size == 0:
        return None
    found = Rect(int(columns[0]), int(rows[0]), int(columns[-1] - columns[0]) + 1, int(rows[-1] - rows[0]) + 1)
    return None if found.size == picture.size else found


def round_marks(boxes: Iterable[Box], base: Size) -> Rect | None:
    """The part of a clipping round its marks, a little air included; None without marks on it."""
    box = joined(boxes)
    if box is None:
        return None
    left, top = int(box[0]) - _ROUND_MARKS, int(box[1]) - _ROUND_MARKS
    right, bottom = int(box[2]) + _ROUND_MARKS + 1, int(box[3]) + _ROUND_MARKS + 1
    return Rect(left, top, max(right - left, 1), max(bottom - top, 1)).within(base)
