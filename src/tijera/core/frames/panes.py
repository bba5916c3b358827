"""Panes: rectangles found in the picture itself, such as a dialog, a table, a tool panel or a chart.

A pane is seen by its four edges: straight steps in brightness that run along one row or column without changing sign.
Steps become lines, lines that meet become corners, and a rectangle counts when all of its sides are backed by steps in
the picture. Text, photographs and gradients make no long lines, so they make no panes.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import product

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
"""Edges no further apart may be one: a border has an outer and an inner side, and a blurred edge has two steps."""
_UNIFORM = 6
"""So much the four sides of a rectangle may differ in brightness right inside it, to be of one colour."""

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
    image = Image.fromarray(picture.pixels).convert("L")
    grey = np.asarray(image)
    across = _steps(grey)
    # Pillow turns a picture in a quarter of the time that a transposed copy takes.
    down = _steps(np.asarray(image.transpose(Image.Transpose.TRANSPOSE)))
    rows, columns = _lines(across, LEAST_WIDTH), _lines(down, LEAST_HEIGHT)
    return _distinct(_framed(rows, columns, across, down), grey)


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
    bounds = np.sort(np.concatenate((change, np.arange(0, flat.size + 1, width))))
    begin, end = bounds[:-1], bounds[1:]
    keep = end - begin >= _LEAST_RUN
    begin, end = begin[keep], end[keep]
    keep = flat[begin] != 0
    begin, end = begin[keep], end[keep]
    if begin.size == 0:
        empty = np.zeros(0, dtype=np.intp)
        return _Lines(empty, empty, empty)
    row = begin // width
    apart = (row[1:] != row[:-1]) | (begin[1:] - end[:-1] > _JOIN_GAP)
    first = np.concatenate(([True], apart))
    starts = begin[first]
    ends = end[np.concatenate((first[1:], [True]))]
    at = row[first]
    lines = _Lines(at, starts - at * width, ends - at * width)
    return lines.chosen(lines.end - lines.start >= least)


def _framed(rows: _Lines, columns: _Lines, across: Steps, down: Steps) -> Iterator[tuple[int, Rect]]:
    """Rectangles between two rows and two columns that are backed on all sides, and how loosely their corners meet."""
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
        for lefts, rights, reach, is_cell in _pairs(hanging, y, (left, right)):
            bottoms = _bottoms(below, lefts[0], rights[-1], reach, nearest_only=is_cell)
            for x0, x1, bottom in product(lefts, rights, bottoms):
                looseness = _looseness(across, down, x0, y, x1, bottom)
                if looseness is not None:
                    yield looseness, Rect(x0, y, x1 - x0, bottom - y)


def _pairs(hanging: _Lines, y: int, ends: tuple[int, int]) -> Iterator[tuple[list[int], list[int], int, bool]]:
    """Left and right sides that hang from one row, how far down both reach, and whether they are but a cell's.

    Neighbours make a cell; sides that begin and end alike, or stand at the row's own ends, make the frame of something
    larger. A side is one column or two: a border has an outer and an inner edge, a gap has one at either bank.
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
        (sorted({at[group[0]], at[group[-1]]}), min(start[i] for i in group), max(end[i] for i in group))
        for group in groups
    ]
    for number, (lefts, top, reach) in enumerate(sides):
        for other in range(number + 1, len(sides)):
            rights, other_top, other_reach = sides[other]
            alike = abs(top - other_top) <= 2 * _NEAR and abs(reach - other_reach) <= 2 * _NEAR
            begins = abs(top - y) <= _JOIN_GAP and alike
            frames = abs(lefts[0] - ends[0]) <= _NEAR and abs(rights[-1] - ends[1]) <= _NEAR
            if rights[-1] - lefts[0] >= LEAST_WIDTH and (other == number + 1 or begins or frames):
                yield lefts, rights, min(reach, other_reach), not (begins or frames)


def _bottoms(below: _Lines, x0: int, x1: int, reach: int, *, nearest_only: bool) -> list[int]:
    """The rows that close a frame: the nearest, the last that is just as wide, and the one at the sides' own end.

    Of a border both its inner and its outer edge.
    """
    closing = below.chosen(
        (below.start <= x0 + _MOST_RADIUS) & (below.end >= x1 - _MOST_RADIUS) & (below.at <= reach + _JOIN_GAP)
    )
    if closing.at.size == 0:
        return []
    clusters = np.split(np.arange(closing.at.size), np.flatnonzero(np.diff(closing.at) > _NEAR) + 1)
    chosen = clusters[:1]
    if not nearest_only:
        alike = (abs(closing.start - x0) <= _JOIN_GAP) & (abs(closing.end - x1) <= _JOIN_GAP)
        chosen += [clusters[-1], *[cluster for cluster in clusters if alike[cluster].any()][-1:]]
    return sorted({int(closing.at[edge]) for cluster in chosen for edge in (cluster[0], cluster[-1])})


def _looseness(across: Steps, down: Steps, x0: int, y0: int, x1: int, y1: int) -> int | None:
    """How many pixels are missing at the corners; None where a side is not backed or does not meet its neighbour."""
    if not (0 < y1 < across.shape[0] and 0 < x1 < down.shape[0]):
        return None
    top, bottom, left, right = across[y0, x0:x1], across[y1, x0:x1], down[x0, y0:y1], down[x1, y0:y1]
    missing = 0
    corners = ((top, left), (top[::-1], right), (bottom, left[::-1]), (bottom[::-1], right[::-1]))
    for gaps in ((_gap(one), _gap(other)) for one, other in corners):
        if max(gaps) > _MOST_RADIUS or abs(gaps[0] - gaps[1]) >= _NEAR:
            return None
        missing += sum(gaps)
    return missing if all(_is_side(side) for side in (top, bottom, left, right)) else None


def _is_side(side: Steps) -> bool:
    inset = min(_MOST_RADIUS, len(side) // 6)
    part = side[inset : len(side) - inset].tobytes()
    return len(part) - part.count(0) >= _SIDE_SHARE * len(part)


def _gap(side: Steps) -> int:
    """How far from its corner a side begins; a rounded corner leaves out as much of either of its sides."""
    begin = side[: _MOST_RADIUS + _NEAR].tobytes()
    return len(begin) - len(begin.lstrip(b"\0"))


def _distinct(found: Iterator[tuple[int, Rect]], grey: NDArray[np.uint8]) -> list[Rect]:
    """Of rectangles whose sides lie within a border of each other the best one.

    That is one of one colour right inside all its sides, which a border has and a cell has, but not a cell with the gap
    below it; then the one whose corners close; then the outermost.
    """

    def worth(each: tuple[int, Rect]) -> tuple[bool, int, int, int, int]:
        looseness, rect = each
        return (not _is_of_one_colour(grey, rect), looseness, -rect.width * rect.height, rect.y, rect.x)

    kept: dict[tuple[int, ...], list[Rect]] = {}
    best_first = sorted(set(found), key=worth)
    cell = _NEAR + 1
    for _, rect in best_first:
        key = (rect.x // cell, rect.y // cell)
        around = product(*((each - 1, each, each + 1) for each in key))
        twins = (twin for place in around for twin in kept.get(place, ()))
        if not any(_are_near(twin, rect) for twin in twins):
            kept.setdefault(key, []).append(rect)
    every = [rect for rects in kept.values() for rect in rects]
    return sorted(every, key=lambda rect: (rect.width * rect.height, rect.y, rect.x))


def _is_of_one_colour(grey: NDArray[np.uint8], rect: Rect) -> bool:
    """Whether the second pixels inside all four sides are alike: the first ones may be blurred."""
    rows = slice(rect.y + 2, rect.bottom - 2, max(1, rect.height // 16))
    columns = slice(rect.x + 2, rect.right - 2, max(1, rect.width // 16))
    sides = (
        grey[rect.y + 1, columns],
        grey[rect.bottom - 2, columns],
        grey[rows, rect.x + 1],
        grey[rows, rect.right - 2],
    )
    middles: list[int] = [sorted(side.tolist())[len(side) // 2] for side in sides]
    return max(middles) - min(middles) <= _UNIFORM


def _are_near(one: Rect, other: Rect) -> bool:
    sides = (one.x - other.x, one.y - other.y, one.right - other.right, one.bottom - other.bottom)
    return max(abs(side) for side in sides) <= _NEAR
