"""How far one strip is scrolled past another: found from the pixels, and only where one answer is possible.

Every shift is asked whether it could be the one. Under the true shift the lower strip falls into a fixed head, rows that
were seen before, new rows, and a fixed foot, and each but the new ones must agree with the upper strip. A shift that
can't be explained so is out. If exactly one is left it is the answer; if several are, the page repeats itself there.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from tijera.core.errors import StripAmbiguous, StripApart
from tijera.core.frames.longpage.rows import (
    NOISE,
    Flags,
    Indices,
    Rows,
    confirmed,
    differing_columns,
    equal_rows,
    votes,
)

EXPECTED_WITHIN_PX = 3
"""A reported scroll position may be wrong by so much: it counts in CSS pixels and is rounded."""
LEAST_ROWS = 8
"""Fewer rows in common prove nothing, even where the distance is known."""
LEAST_SHARE_UNSUPPORTED = 0.25
"""Where nobody knows the distance, this part of a strip must be seen twice: a page may hold the same block at two
places, further apart than a strip is high, and then only the length of what agrees speaks for one of them."""
LEAST_DISTINCT_UNSUPPORTED = 6
"""And so many different rows with detail must be among it."""
_LEAST_DISTINCT = 1
"""Blank rows in common say nothing about where they belong."""

_CARET_COLUMNS, _CARET_ROWS, _MOST_CARETS = 6, 72, 2
"""A text caret: narrow, no higher than a line; gone in one place and back in another."""
_CLOCK_ROWS, _CLOCK_SHARE = 64, 0.35
"""A clock in a fixed head: no higher than a line of title, no wider than this part of the strip."""
_STATUS_ROWS, _STATUS_SHARE = 64, 4
"""A status line that says something else on every strip, as wide as it likes: at the very top or bottom, no higher than
this and than this part of the strip. It is looked for only where nothing else explains the strips."""
_GAP_ROWS = 8
"""Changed rows no further apart than this belong to one patch."""


@dataclass(frozen=True)
class Overlap:
    """Row y of the lower strip is row y + `shift` of the upper one, for every y from `start` to `end`."""

    shift: int
    start: int
    end: int


def find_overlap(upper: Rows, lower: Rows, expected_px: int | None = None) -> Overlap | None:
    """Find the one shift (at least 1) that explains both strips; None when the lower one was not scrolled.

    `expected_px` is how far the source says that it scrolled. Raises `StripApart` when no shift fits, `StripAmbiguous`
    when several do or when what both show is blank.
    """
    patches = _patches(np.flatnonzero(~equal_rows(upper, lower, 0)))
    if not expected_px and all(_is_clock(upper, lower, patch) for patch in patches) and len(patches) <= _MOST_CARETS:
        return None
    head, foot = _fixed_ends(upper, lower, patches)
    try:
        overlap = _only_overlap(upper, lower, expected_px, head, foot)
    except StripApart:
        if not expected_px and _only_status_changed(upper, lower, patches):
            return None
        head, foot = (max(end, min(_STATUS_ROWS, upper.height // _STATUS_SHARE)) for end in (head, foot))
        overlap = _only_overlap(upper, lower, expected_px, head, foot)
    return _without_fixed_ink(upper, lower, overlap, head, foot)


def _only_overlap(upper: Rows, lower: Rows, expected_px: int | None, head: int, foot: int) -> Overlap:
    """The one shift that explains both strips, where so many rows at the top and at the bottom may be fixed."""
    possible = [
        overlap
        for shift in _shifts(upper, lower, expected_px)
        if (overlap := _explained(upper, lower, shift, head, foot)) is not None
    ]
    detailed = [each for each in possible if lower.distinct(each.start, each.end) >= _LEAST_DISTINCT]
    if len(detailed) > 1:
        raise StripAmbiguous(why=f"it repeats itself after {abs(detailed[1].shift - detailed[0].shift)} rows")
    if not detailed:
        raise StripAmbiguous(why="what both strips show is blank") if possible and expected_px else StripApart
    only = detailed[0]
    if expected_px is None:
        _demand_proof(upper, lower, only)
    return only


def _demand_proof(upper: Rows, lower: Rows, overlap: Overlap) -> None:
    """Where nobody knows the distance, the rows in common must be many, of many kinds, and found nowhere else."""
    start, end = overlap.start, overlap.end
    if end - start < LEAST_SHARE_UNSUPPORTED * lower.height or lower.distinct(start, end) < LEAST_DISTINCT_UNSUPPORTED:
        raise StripApart
    detail = lower.detail[start:end]
    shifts: Iterable[int] = range(1, upper.height - (end - start) // 2)
    if upper.exact:
        agreeing = votes(upper, lower)
        shifts = [shift for shift in shifts if agreeing[shift] * 4 > detail.sum()]
    for shift in shifts:
        part = min(end, upper.height - shift) - start
        wanted = detail[: max(part, 0)]
        if shift == overlap.shift or wanted.sum() * 2 < detail.sum():
            continue
        same = equal_rows(upper, lower, shift)[start : start + part] & wanted
        if same.sum() * 2 > wanted.sum():
            raise StripAmbiguous(why=f"it repeats itself after {abs(shift - overlap.shift)} rows")


def _without_fixed_ink(upper: Rows, lower: Rows, overlap: Overlap, head: int, foot: int) -> Overlap:
    """The overlap without rows that stand still: a head or foot whose only ink lies in the margins seems to scroll along.

    Rows are compared by what is between the margins, as a scroll bar may be in them; so a label there goes unseen.
    """
    shift, start, end = overlap.shift, overlap.start, overlap.end
    top = _standing(upper, lower, range(start, min(end, head)), shift, 0)
    # The foot is the upper strip's: its row stands at the same height in the lower one.
    bottom = _standing(upper, lower, range(max(start, upper.height - foot - shift), end), shift, shift)
    start = int(top[-1]) + 1 if top.size else start
    end = int(bottom[0]) if bottom.size else end
    return Overlap(shift, start, end) if end - start >= LEAST_ROWS else overlap


def _standing(upper: Rows, lower: Rows, rows: range, shift: int, down: int) -> Indices:
    """The `rows` that would change in the margins if they moved by `shift`, and don't where they are, `down` rows further down."""
    if not rows:
        return np.empty(0, dtype=np.intp)
    moves = _margins_differ(upper, lower, rows, shift, 0)
    return np.flatnonzero(moves & ~_margins_differ(upper, lower, rows, down, down)) + rows.start


def _margins_differ(upper: Rows, lower: Rows, rows: range, upper_down: int, lower_down: int) -> Flags:
    """For each of some rows, both strips taken so far further down: whether the columns beside the inner ones differ."""
    differ = np.zeros(len(rows), dtype=np.bool_)
    for side in (slice(None, upper.margin), slice(upper.pixels.shape[1] - upper.margin, None)):
        of_upper = upper.pixels[rows.start + upper_down : rows.stop + upper_down, side]
        of_lower = lower.pixels[rows.start + lower_down : rows.stop + lower_down, side]
        apart = (
            of_upper != of_lower
            if upper.exact
            else np.abs(of_upper.astype(np.int16) - of_lower.astype(np.int16)) > NOISE
        )
        differ |= apart.any(axis=(1, 2))
    return differ


def _shifts(upper: Rows, lower: Rows, expected_px: int | None) -> Iterable[int]:
    most = upper.height - LEAST_ROWS
    if expected_px is None and upper.exact:
        # Where no row with detail agrees there is nothing that could speak for a shift.
        return [int(shift) for shift in np.flatnonzero(votes(upper, lower)[: most + 1]) if shift > 0]
    if expected_px is None:
        return range(1, most + 1)
    return range(max(1, expected_px - EXPECTED_WITHIN_PX), min(most, expected_px + EXPECTED_WITHIN_PX) + 1)


def _patches(changed: Indices) -> list[Indices]:
    """Changed rows, gathered into patches."""
    if changed.size == 0:
        return []
    return np.split(changed, np.flatnonzero(np.diff(changed) > _GAP_ROWS) + 1)


def _is_clock(upper: Rows, lower: Rows, patch: Indices) -> bool:
    """Whether rows that stayed where they were differ in a small patch only."""
    if np.ptp(patch) >= _CLOCK_ROWS:
        return False
    columns = differing_columns(upper, lower, 0, patch)
    return columns.size == 0 or bool(np.ptp(columns) < _CLOCK_SHARE * upper.inner.shape[1])


def _only_status_changed(upper: Rows, lower: Rows, patches: list[Indices]) -> bool:
    """Whether all that changed lies where a status line does, and what is between has enough detail to say that it stayed."""
    most = min(_STATUS_ROWS, upper.height // _STATUS_SHARE)
    above = [patch for patch in patches if patch[-1] < most]
    below = [patch for patch in patches if patch[0] >= upper.height - most]
    if len(above) + len(below) != len(patches):
        return False
    # What lies where a head or a foot may is no witness: it stays, however far the page went.
    return lower.distinct(most, upper.height - most) >= LEAST_DISTINCT_UNSUPPORTED


def _fixed_ends(upper: Rows, lower: Rows, patches: list[Indices]) -> tuple[int, int]:
    """How many rows at the top and at the bottom could be a fixed head and foot, each with one clock in it."""
    height = upper.height
    starts = [int(patch[0]) for patch in patches] + [height]
    ends = [0] + [int(patch[-1]) + 1 for patch in patches]
    if not patches:
        return height, height
    head = starts[1] if _is_clock(upper, lower, patches[0]) else starts[0]
    foot = ends[-2] if _is_clock(upper, lower, patches[-1]) else ends[-1]
    return head, height - foot


def _explained(upper: Rows, lower: Rows, shift: int, head: int, foot: int) -> Overlap | None:
    """The rows in common under a shift, if all that is not in common can be a fixed head, foot or caret."""
    same = equal_rows(upper, lower, shift)
    reach = same.size
    first, last = min(head, reach), max(reach - foot, 0)
    # Between the longest possible head and the longest possible foot every row must agree.
    if first < last and np.count_nonzero(~same[first:last]) > _MOST_CARETS * _CARET_ROWS:
        return None
    best: Overlap | None = None
    for start, end in _runs(upper, lower, shift, same):
        # A caret may also stand right below the head or right above the foot.
        to_head = start <= head or _is_caret(upper, lower, shift, head, start)
        to_foot = end >= reach - foot or _is_caret(upper, lower, shift, end, reach - foot)
        if to_head and to_foot and (best is None or end - start > best.end - best.start):
            best = Overlap(shift, start, end)
    if best is None or not _confirmed(upper, lower, best, same):
        return None
    return best


def _confirmed(upper: Rows, lower: Rows, overlap: Overlap, same: Flags) -> bool:
    """Compare what seems equal pixel by pixel."""
    if overlap.end - overlap.start < LEAST_ROWS:
        return False
    truly = confirmed(upper, lower, overlap.shift, overlap.start, overlap.end)
    return bool(truly[same[overlap.start : overlap.end]].all())


def _runs(upper: Rows, lower: Rows, shift: int, same: Flags) -> list[tuple[int, int]]:
    """Stretches of equal rows; a caret does not part them."""
    edges = np.flatnonzero(np.diff(np.concatenate(([False], same, [False])).astype(np.int8)))
    long = [(int(a), int(b)) for a, b in zip(edges[::2], edges[1::2], strict=True) if b - a >= LEAST_ROWS]
    runs: list[tuple[int, int]] = []
    carets = 0
    for start, end in long:
        before = runs[-1] if runs else None
        if before is not None and carets < _MOST_CARETS and _is_caret(upper, lower, shift, before[1], start):
            runs[-1] = (before[0], end)
            carets += 1
        else:
            runs.append((start, end))
    return runs


def _is_caret(upper: Rows, lower: Rows, shift: int, start: int, end: int) -> bool:
    if end - start > _CARET_ROWS:
        return False
    columns = differing_columns(upper, lower, shift, np.arange(start, end))
    return columns.size == 0 or bool(np.ptp(columns) < _CARET_COLUMNS)
