"""Panes: rectangles found in the picture itself, such as a dialog, a table, a tool panel or a chart.

A pane is seen by its four edges: straight steps in brightness that run along one row or column without changing sign.
Steps become lines, lines that meet become corners, and a rectangle counts when all of its sides are backed by steps in
the picture. Text, photographs and gradients make no long lines, so they make no panes.

On flat pages many panes have no four edges: a header or a side panel ends where the picture or its window does, an entry
of a list has a line above and below and none at its sides. So the picture, every pane and every stack of lines of one
length is divided further along the lines that run all across it.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
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
_MOST_RADIUS = 36
"""Of a rounded corner: 18 px at a scale factor of 2."""
_ACROSS = 0.75
"""So much of a line must be seen for it to divide a field."""
_LEAST_STACK = 3
"""So many lines of one length, one above the other, are a list or a table."""
_MOST_UNIONS = 3
"""Where a field is divided into no more parts than this, those that adjoin are a pane together, too."""
_SHARED = 0.5
_UNLIKE = 2
"""Parts of a field that differ in size by more than this many times are no entries of a list."""
_NEARLY = 8
"""Frames with a shadow are seen twice, and so is all that they are divided into."""
_DEEPEST = 5
_NEAR = 4
"""Edges no further apart may be one: a border has an outer and an inner side, and a blurred edge has two steps."""
_LOOKS = 17
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

    def between(self, first: int, last: int) -> _Lines:
        """Those from one row (or column) to another, both included; lines are in the order of their rows."""
        begin, end = np.searchsorted(self.at, (first, last + 1))
        return _Lines(self.at[begin:end], self.start[begin:end], self.end[begin:end])


def find_panes(picture: Picture) -> list[Rect]:
    """Find the panes of a picture, the smallest first."""
    image = Image.fromarray(picture.pixels).convert("L")
    grey = np.asarray(image)
    across = _steps(grey)
    # Pillow turns a picture in a quarter of the time that a transposed copy takes.
    down = _steps(np.asarray(image.transpose(Image.Transpose.TRANSPOSE)))
    rows, columns = _lines(across, LEAST_WIDTH), _lines(down, LEAST_HEIGHT)
    height, width = grey.shape
    sides = _Sides(across.tobytes(), down.tobytes(), width, height)
    framed = _distinct(_framed(rows, columns, sides), grey)
    stacks = _stacks(rows)
    parts = [*stacks, *_parts([Rect(0, 0, width, height), *framed, *stacks], rows, columns)]
    return _with_parts(framed, _unlined(parts, framed))


def _stacks(rows: _Lines) -> list[Rect]:
    """Where lines of one length stand one above the other: lists and tables that have no sides."""
    if rows.at.size == 0:
        return []
    order = np.lexsort((rows.at, rows.end // (2 * _NEAR), rows.start // (2 * _NEAR)))
    at, start, end = (each[order] for each in (rows.at, rows.start, rows.end))
    same = (abs(np.diff(start)) <= _NEAR) & (abs(np.diff(end)) <= _NEAR)
    found: list[tuple[Rect, NDArray[np.intp]]] = []
    for group in np.split(np.arange(at.size), np.flatnonzero(~same) + 1):
        heights = np.sort(at[group])
        edges = heights[np.concatenate(([True], np.diff(heights) > _NEAR))]
        left, right = int(start[group].min()), int(end[group].max())
        if edges.size >= _LEAST_STACK and right - left >= LEAST_WIDTH:
            found.append((Rect(left, int(edges[0]), right - left, int(heights[-1] - edges[0])), edges))
    return [stack for stack, edges in found if not any(_is_of_grid(stack, edges, *other) for other in found)]


def _is_of_grid(stack: Rect, edges: NDArray[np.intp], other: Rect, others: NDArray[np.intp]) -> bool:
    """Whether a stack is but some columns of a wider one, most of whose lines it shares."""
    if other.width <= stack.width + _NEAR or other.x > stack.x + _NEAR or other.right < stack.right - _NEAR:
        return False
    shared = (abs(edges[:, None] - others[None, :]) <= _NEAR).any(axis=1)
    return bool(shared.mean() >= _SHARED)


def _parts(fields: list[Rect], rows: _Lines, columns: _Lines) -> Iterator[Rect]:
    """The parts into which lines that run all across a field divide it, and those parts again."""
    waiting = [(field, 0) for field in fields]
    seen = set(fields)
    while waiting:
        field, depth = waiting.pop()
        for part in _divided(field, rows, columns):
            if part in seen or part.width < LEAST_WIDTH or part.height < LEAST_HEIGHT:
                continue
            seen.add(part)
            yield part
            if depth < _DEEPEST:
                waiting.append((part, depth + 1))


def _divided(field: Rect, rows: _Lines, columns: _Lines) -> list[Rect]:
    """By lines from side to side; only where there are none, by those that end on the way."""
    for both_ends in (True, False):
        parts = [*_bands(field, rows, both_ends=both_ends), *_bands_across(field, columns, both_ends=both_ends)]
        if parts:
            return parts
    return []


def _bands(field: Rect, rows: _Lines, *, both_ends: bool) -> list[Rect]:
    """What lies between the lines that run from the left to the right side of a field.

    A line may be seen in parts only, where what lies at either side of it is alike for a while; one end it has to reach.
    """
    first, last = np.searchsorted(rows.at, (field.y + _NEAR + 1, field.bottom - _NEAR))
    at, start, end = rows.at[first:last], rows.start[first:last], rows.end[first:last]
    seen = np.minimum(end, field.right) - np.maximum(start, field.x)
    touches = seen > 0
    at, start, end, seen = at[touches], start[touches], end[touches], seen[touches]
    if at.size == 0:
        return []
    begins = np.flatnonzero(np.concatenate(([True], np.diff(at) > 0)))
    left = np.minimum.reduceat(start, begins) <= field.x + _NEAR
    right = np.maximum.reduceat(end, begins) >= field.right - _NEAR
    reaches = left & right if both_ends else left | right
    runs = at[begins[reaches & (np.add.reduceat(seen, begins) >= _ACROSS * field.width)]]
    spans = _between(runs, field.y, field.bottom)
    return [Rect(field.x, first, field.width, last - first) for first, last in spans]


def _bands_across(field: Rect, columns: _Lines, *, both_ends: bool) -> list[Rect]:
    turned = _bands(Rect(field.y, field.x, field.height, field.width), columns, both_ends=both_ends)
    return [Rect(each.y, each.x, each.height, each.width) for each in turned]


def _between(lines: NDArray[np.intp], first: int, last: int) -> list[tuple[int, int]]:
    """The spans between lines, of which several close together are one border; with few of them also their unions."""
    if lines.size == 0:
        return []
    lines = np.sort(lines)
    parted = np.flatnonzero(np.diff(lines) > _NEAR)
    begins = [first, *(int(lines[index]) for index in (*parted, lines.size - 1))]
    ends = [*(int(lines[index]) for index in (0, *(parted + 1))), last]
    spans = list(zip(begins, ends, strict=True))
    sizes = [end - begin for begin, end in spans]
    # Entries of a list are alike, and several of them are nothing.
    if len(spans) <= _MOST_UNIONS and max(sizes) > _UNLIKE * min(sizes):
        pairs = [(one, other) for one in range(len(spans)) for other in range(one + 1, len(spans))]
        spans += [(begins[one], ends[other]) for one, other in pairs if other - one < len(ends) - 1]
    return spans


def cells_of(panes: Sequence[Rect]) -> frozenset[Rect]:
    """Those that are cells of a table, which adjoin others at a side and above or below.

    Whoever points at a table means a row or a column of it rather than a single cell: cells are offered after those.
    """
    by_row: dict[tuple[int, int], list[Rect]] = {}
    by_column: dict[tuple[int, int], list[Rect]] = {}
    cell = 2 * _NEAR
    for rect in panes:
        by_row.setdefault((rect.y // cell, rect.bottom // cell), []).append(rect)
        by_column.setdefault((rect.x // cell, rect.right // cell), []).append(rect)

    def is_cell(rect: Rect) -> bool:
        row = [
            o
            for o in by_row[rect.y // cell, rect.bottom // cell]
            if o.right <= rect.x + _NEAR or o.x >= rect.right - _NEAR
        ]
        column = [
            o
            for o in by_column[rect.x // cell, rect.right // cell]
            if o.bottom <= rect.y + _NEAR or o.y >= rect.bottom - _NEAR
        ]
        adjoins = any(min(abs(o.x - rect.right), abs(rect.x - o.right)) <= _NEAR for o in row)
        stands_on = any(min(abs(o.y - rect.bottom), abs(rect.y - o.bottom)) <= _NEAR for o in column)
        return adjoins and stands_on and len(row) > 1 and len(column) > 1

    return frozenset(rect for rect in panes if is_cell(rect))


def _unlined(parts: list[Rect], framed: list[Rect]) -> Iterator[Rect]:
    """Parts that are more than a frame without its rounded corners: lines of a frame are shorter than it is wide."""
    x, y, right, bottom = (np.array(each) for each in zip(*((f.x, f.y, f.right, f.bottom) for f in framed), strict=True)) if framed else (np.zeros(0),) * 4  # fmt: skip
    for part in parts:
        lined = (abs(part.y - y) <= _NEAR) & (abs(part.bottom - bottom) <= _NEAR)
        lined &= (part.x - x >= -_NEAR) & (part.x - x <= _MOST_RADIUS)
        lined &= (right - part.right >= -_NEAR) & (right - part.right <= _MOST_RADIUS)
        if not lined.any():
            yield part


def _with_parts(framed: list[Rect], parts: Iterable[Rect]) -> list[Rect]:
    """All panes, the smallest first; a part that is nearly one which is there already is that one."""
    kept: dict[tuple[int, int], list[Rect]] = {}
    cell = _NEARLY + 1
    for each in (framed, parts):
        near = _NEAR if each is framed else _NEARLY
        for rect in each:
            column, row = rect.x // cell, rect.y // cell
            around = product((column - 1, column, column + 1), (row - 1, row, row + 1))
            twins = (twin for place in around for twin in kept.get(place, ()))
            if not any(_are_near(twin, rect, near) for twin in twins):
                kept.setdefault((column, row), []).append(rect)
    every = [rect for rects in kept.values() for rect in rects]
    return sorted(every, key=lambda rect: (rect.width * rect.height, rect.y, rect.x))


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


def _framed(rows: _Lines, columns: _Lines, sides: _Sides) -> Iterator[tuple[int, Rect]]:
    """Rectangles between two rows and two columns that are backed on all sides, and how loosely their corners meet."""
    for y, left, right in zip(rows.at.tolist(), rows.start.tolist(), rows.end.tolist(), strict=True):
        near = columns.between(left - _MOST_RADIUS, right + _MOST_RADIUS)
        hang = (near.start <= y + _MOST_RADIUS) & (near.end >= y + LEAST_HEIGHT)
        if np.count_nonzero(hang) < 2:
            continue
        hanging = near.chosen(hang)
        below = rows.between(y + LEAST_HEIGHT, sides.height)
        below = below.chosen((below.end > left) & (below.start < right))
        for lefts, rights, reach, is_cell in _pairs(hanging, y, (left, right)):
            bottoms = _bottoms(below, lefts[0], rights[-1], reach, nearest_only=is_cell)
            for x0, x1, bottom in product(lefts, rights, bottoms):
                looseness = sides.looseness(x0, y, x1, bottom)
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
            # Of a grid only the cells and the whole: not every piece of it that could be cut out.
            begins = (
                abs(top - y) <= _MOST_RADIUS
                and alike
                and not any(
                    abs(between - top) <= 2 * _NEAR and abs(end - reach) <= 2 * _NEAR
                    for _, between, end in sides[number + 1 : other]
                )
            )
            frames = abs(lefts[0] - ends[0]) <= _NEAR and abs(rights[-1] - ends[1]) <= _NEAR
            if rights[-1] - lefts[0] >= LEAST_WIDTH and (other == number + 1 or begins or frames):
                yield lefts, rights, min(reach, other_reach), not (begins or frames)


def _bottoms(below: _Lines, x0: int, x1: int, reach: int, *, nearest_only: bool) -> list[int]:
    """The rows that close a frame: the nearest, the last that is just as wide, and the one at the sides' own end.

    Of a border both its inner and its outer edge.
    """
    closing = below.chosen(
        (below.start <= x0 + _MOST_RADIUS) & (below.end >= x1 - _MOST_RADIUS) & (below.at <= reach + _MOST_RADIUS)
    )
    if closing.at.size == 0:
        return []
    clusters = np.split(np.arange(closing.at.size), np.flatnonzero(np.diff(closing.at) > _NEAR) + 1)
    chosen = clusters[:1]
    if not nearest_only:
        alike = (abs(closing.start - x0) <= _MOST_RADIUS) & (abs(closing.end - x1) <= _MOST_RADIUS)
        chosen += [clusters[-1], *[cluster for cluster in clusters if alike[cluster].any()][-1:]]
    return sorted({int(closing.at[edge]) for cluster in chosen for edge in (cluster[0], cluster[-1])})


@dataclass(frozen=True)
class _Sides:
    """The steps of a picture, of which sides are cut: plain bytes are cut and counted faster than arrays."""

    across: bytes
    """Row by row."""
    down: bytes
    """Column by column."""
    width: int
    height: int

    def looseness(self, x0: int, y0: int, x1: int, y1: int) -> int | None:
        """How many pixels are missing at the corners; None where a side is not backed or does not meet its neighbour."""
        width, height = self.width, self.height
        if not (0 < y1 < height and 0 < x1 < width):
            return None
        # Most of those that are none are seen at the middles of their sides.
        left = self.down[x0 * height + y0 : x0 * height + y1]
        right = self.down[x1 * height + y0 : x1 * height + y1]
        if not (_is_seen(left) and _is_seen(right)):
            return None
        bottom = self.across[y1 * width + x0 : y1 * width + x1]
        if not _is_seen(bottom):
            return None
        top = self.across[y0 * width + x0 : y0 * width + x1]
        missing = 0
        corners = (
            (_gap(top), _gap(left)),
            (_gap_behind(top), _gap(right)),
            (_gap(bottom), _gap_behind(left)),
            (_gap_behind(bottom), _gap_behind(right)),
        )
        for one, other in corners:
            if one > _MOST_RADIUS or other > _MOST_RADIUS or abs(one - other) >= _NEAR:
                return None
            missing += one + other
        return missing if all(map(_is_side, (top, bottom, left, right))) else None


def _is_seen(side: bytes) -> bool:
    """Whether a side is there round its middle, as one that is backed nearly everywhere must be."""
    third = len(side) // 3
    return 2 * side.count(0, third, 2 * third) <= third


def _is_side(side: bytes) -> bool:
    inset = min(_MOST_RADIUS, len(side) // 6)
    length = len(side) - 2 * inset
    return length - side.count(0, inset, len(side) - inset) >= _SIDE_SHARE * length


def _gap(side: bytes) -> int:
    """How far from its corner a side begins; a rounded corner leaves out as much of either of its sides."""
    begin = side[: _MOST_RADIUS + _NEAR]
    return len(begin) - len(begin.lstrip(b"\0"))


def _gap_behind(side: bytes) -> int:
    """How far from its other corner it ends."""
    end = side[-_MOST_RADIUS - _NEAR :]
    return len(end) - len(end.rstrip(b"\0"))


def _distinct(found: Iterator[tuple[int, Rect]], grey: NDArray[np.uint8]) -> list[Rect]:
    """Of rectangles whose sides lie within a border of each other the best one.

    That is one of one colour right inside all its sides, which a border has and a cell has, but not a cell with the gap
    below it; then the one whose corners close; then the outermost.
    """
    every = list(set(found))
    if not every:
        return []
    uniform = _are_of_one_colour(grey, [rect for _, rect in every])

    def worth(each: tuple[tuple[int, Rect], bool]) -> tuple[bool, int, int, int, int]:
        (looseness, rect), is_uniform = each
        return (not is_uniform, looseness, -rect.width * rect.height, rect.y, rect.x)

    kept: dict[tuple[int, ...], list[Rect]] = {}
    cell = _NEAR + 1
    for (_, rect), _ in sorted(zip(every, uniform, strict=True), key=worth):
        key = (rect.x // cell, rect.y // cell)
        around = product(*((each - 1, each, each + 1) for each in key))
        twins = (twin for place in around for twin in kept.get(place, ()))
        if not any(_are_near(twin, rect) for twin in twins):
            kept.setdefault(key, []).append(rect)
    best = [rect for rects in kept.values() for rect in rects]
    return sorted(best, key=lambda rect: (rect.width * rect.height, rect.y, rect.x))


def _are_of_one_colour(grey: NDArray[np.uint8], rects: list[Rect]) -> list[bool]:
    """Whether the second pixels inside all four sides are alike, side by side their middle brightness: the first ones
    may be blurred. Each side is looked at in a few places.
    """
    x, y, right, bottom = np.array([(each.x, each.y, each.right, each.bottom) for each in rects]).T
    places = np.arange(_LOOKS) / (_LOOKS - 1)
    down = (y[:, None] + 2 + places * (bottom - y - 5)[:, None]).astype(np.intp)
    along = (x[:, None] + 2 + places * (right - x - 5)[:, None]).astype(np.intp)
    sides = (
        grey[y[:, None] + 1, along],
        grey[bottom[:, None] - 2, along],
        grey[down, x[:, None] + 1],
        grey[down, right[:, None] - 2],
    )
    middles = np.sort(np.stack(sides), axis=2)[:, :, _LOOKS // 2]
    alike: list[bool] = (np.ptp(middles, axis=0) <= _UNIFORM).tolist()
    return alike


def _are_near(one: Rect, other: Rect, most: int = _NEAR) -> bool:
    sides = (one.x - other.x, one.y - other.y, one.right - other.right, one.bottom - other.bottom)
    return max(abs(side) for side in sides) <= most
