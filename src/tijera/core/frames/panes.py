"""Panes: rectangles found in the picture itself, such as a dialog, a table, a tool panel or a chart.

A pane is seen by its four edges: straight steps in brightness that run along one row or column without changing sign.
Steps become lines, lines that meet become corners, and a rectangle counts when all of its sides are backed by steps in
the picture. Text, photographs and gradients make no long lines, so they make no panes.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture

LEAST_WIDTH, LEAST_HEIGHT = 40, 20
"""Smaller rectangles are letters, icons and boxes to tick."""

_STEP = 3
"""A step in brightness counts above this, of 255; the faintest border of a panel that was met has 5."""
_LEAST_RUN = 14
"""Shorter runs of equal sign are strokes of letters."""
_JOIN_GAP = 16
"""Parts of one line: what lies over it, or a rounded corner, may part it by so much."""
_SIDE_SHARE = 0.86
"""So much of each side must be backed by steps."""
_MOST_RADIUS = 12
"""Of a rounded corner."""
_NEAR = 4
"""Edges no further apart are one: a border has an outer and an inner side, and a blurred edge has two steps."""

Steps = NDArray[np.int8]
"""1 where it grows brighter, -1 where it grows darker, 0 elsewhere."""


@dataclass(frozen=True)
class _Lines:
    """Lines of one direction: `at` is the first row (or column) behind the step, `start` to `end` its extent."""

    at: NDArray[np.intp]
    start: NDArray[np.intp]
    end: NDArray[np.intp]

    def chosen(self, which: NDArray[np.bool_]) -> _Lines:
        return _Lines(self.at[which], self.start[which], self.end[which])


def find_panes(picture: Picture) -> list[Rect]:
    """Find the panes of a picture, the smallest first."""
    grey = np.asarray(Image.fromarray(picture.pixels[:, :, :3]).convert("L"))
    across = _steps(grey)
    down = _steps(np.ascontiguousarray(grey.T))
    rows, columns = _lines(across, LEAST_WIDTH), _lines(down, LEAST_HEIGHT)
    return _distinct(_framed(rows, columns, across, down))


def _steps(grey: NDArray[np.uint8]) -> Steps:
    """Steps from each row to the next; row 0 has none."""
    steps = np.zeros(grey.shape, dtype=np.int8)
    upper, lower = grey[:-1], grey[1:]
    # Unsigned subtraction wraps round, so each direction is asked where it can't.
    np.subtract(
        (lower > upper) & (lower - upper > _STEP),
        (upper > lower) & (upper - lower > _STEP),
        out=steps[1:],
        dtype=np.int8,
    )
    return steps


def _lines(steps: Steps, least: int) -> _Lines:
    """Runs of equal sign along the rows, joined over small gaps, at least `least` long."""
    width = steps.shape[1]
    flat = steps.ravel()
    change = np.flatnonzero(flat[1:] != flat[:-1]) + 1
    # A run also ends where its row does.
    bounds = np.union1d(change, np.arange(0, flat.size + 1, width))
    begin, end = bounds[:-1], bounds[1:]
    keep = (end - begin >= _LEAST_RUN) & (flat[begin] != 0)
    begin, end = begin[keep], end[keep]
    if begin.size == 0:
        empty = np.zeros(0, dtype=np.intp)
        return _Lines(empty, empty, empty)
    row = begin // width
    first = np.concatenate(([True], (row[1:] != row[:-1]) | (begin[1:] - end[:-1] > _JOIN_GAP)))
    starts = begin[first]
    ends = end[np.concatenate((first[1:], [True]))]
    at = row[first]
    lines = _Lines(at, starts - at * width, ends - at * width)
    return lines.chosen(lines.end - lines.start >= least)


def _framed(rows: _Lines, columns: _Lines, across: Steps, down: Steps) -> Iterator[Rect]:
    """Rectangles between two rows and two columns that meet at their corners and are backed on all sides."""
    for y, left, right in zip(rows.at.tolist(), rows.start.tolist(), rows.end.tolist(), strict=True):
        hang = (
            (columns.start <= y + _JOIN_GAP)
            & (columns.end >= y + LEAST_HEIGHT)
            & (columns.at >= left - _JOIN_GAP)
            & (columns.at <= right + _JOIN_GAP)
        )
        if np.count_nonzero(hang) < 2:
            continue
        hanging = columns.chosen(hang)
        below = rows.chosen((rows.at >= y + LEAST_HEIGHT) & (rows.end > left) & (rows.start < right))
        for x0, x1, reach in _pairs(hanging, y):
            for bottom in _bottoms(below, x0, x1, reach):
                if _is_backed(across, down, x0, y, x1, bottom):
                    yield Rect(x0, y, x1 - x0, bottom - y)


def _pairs(hanging: _Lines, y: int) -> Iterator[tuple[int, int, int]]:
    """Left and right columns that hang from one row, and how far down both reach.

    Neighbours make a cell; columns that begin and end alike make the frame of something larger.
    """
    order = np.argsort(hanging.at, kind="stable")
    at, start, end = (each[order].tolist() for each in (hanging.at, hanging.start, hanging.end))
    groups: list[list[int]] = []
    for index, x in enumerate(at):
        if groups and x - at[groups[-1][-1]] <= _NEAR:
            groups[-1].append(index)
        else:
            groups.append([index])
    sides = [
        (at[group[0]], at[group[-1]], min(start[i] for i in group), max(end[i] for i in group)) for group in groups
    ]
    for number, (x0, _, top, reach) in enumerate(sides):
        for other in range(number + 1, len(sides)):
            _, x1, other_top, other_reach = sides[other]
            alike = abs(top - other_top) <= 2 * _NEAR and abs(reach - other_reach) <= 2 * _NEAR
            begins = abs(top - y) <= _JOIN_GAP and alike
            if x1 - x0 >= LEAST_WIDTH and (other == number + 1 or begins):
                yield x0, x1, min(reach, other_reach)


def _bottoms(below: _Lines, x0: int, x1: int, reach: int) -> Iterator[int]:
    """The rows that close a frame: the nearest, and the one at the columns' own end; of a border its outer side."""
    closing = below.at[
        (below.start <= x0 + _JOIN_GAP) & (below.end >= x1 - _JOIN_GAP) & (below.at <= reach + _JOIN_GAP)
    ]
    if closing.size == 0:
        return
    ends = closing[np.concatenate((np.diff(closing) > _NEAR, [True]))]
    yield int(ends[0])
    if ends.size > 1:
        yield int(ends[-1])


def _is_backed(across: Steps, down: Steps, x0: int, y0: int, x1: int, y1: int) -> bool:
    """Whether all four sides are backed along most of their length and meet at their corners."""
    if not (0 < y1 < across.shape[0] and 0 < x1 < down.shape[0]):
        return False
    top, bottom, left, right = across[y0, x0:x1], across[y1, x0:x1], down[x0, y0:y1], down[x1, y0:y1]
    if not all(_is_side(side) for side in (top, bottom, left, right)):
        return False
    return (
        _meet(top, left) and _meet(top[::-1], right) and _meet(bottom, left[::-1]) and _meet(bottom[::-1], right[::-1])
    )


def _is_side(side: Steps) -> bool:
    inset = min(_MOST_RADIUS, len(side) // 6)
    part = side[inset : len(side) - inset]
    return np.count_nonzero(part) >= _SIDE_SHARE * len(part)


def _meet(one: Steps, other: Steps) -> bool:
    """Whether two sides, each seen from their corner, begin there; a rounded corner leaves out as much of either."""
    gaps = [
        int(np.argmax(side[: _MOST_RADIUS + _NEAR] != 0)) if side[: _MOST_RADIUS + _NEAR].any() else _MOST_RADIUS * 2
        for side in (one, other)
    ]
    return max(gaps) <= _MOST_RADIUS and abs(gaps[0] - gaps[1]) < _NEAR


def _distinct(found: Iterator[Rect]) -> list[Rect]:
    """Of rectangles whose sides lie within a border of each other the outermost; the smallest first."""
    kept: dict[tuple[int, int, int, int], Rect] = {}
    by_size = sorted({(r.width * r.height, r.x, r.y, r.width, r.height) for r in found}, reverse=True)
    cell = _NEAR + 1
    near = range(-1, 2)
    for _, x, y, width, height in by_size:
        key = (x // cell, y // cell, (x + width) // cell, (y + height) // cell)
        around = (
            (key[0] + a, key[1] + b, key[2] + c, key[3] + d) for a in near for b in near for c in near for d in near
        )
        twins = (kept[each] for each in around if each in kept)
        if any(_are_near(twin, x, y, width, height) for twin in twins):
            continue
        kept[key] = Rect(x, y, width, height)
    return sorted(kept.values(), key=lambda r: (r.width * r.height, r.y, r.x))


def _are_near(one: Rect, x: int, y: int, width: int, height: int) -> bool:
    sides = (one.x - x, one.y - y, one.right - x - width, one.bottom - y - height)
    return max(abs(side) for side in sides) <= _NEAR
