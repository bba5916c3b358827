"""Which rendition of each picture: the least loss in all within a number of bytes.

A multiple-choice knapsack (Kellerer, Pferschy, Pisinger, Knapsack Problems, 2004, ch. 11; from memory). The lower convex
hulls of the ladders give a multiplier, a bound that nothing can beat, and a first answer; dynamic programming over Pareto
states then looks through what could still be better: a state whose reduced cost lifts the bound above the best answer is
left out (ibid., 11.2). The answer is exact as long as the states stay under their cap; beyond it the states are thinned,
and `gap` says how far the answer may be from the best.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

STATES_CAP = 15_000
_SLACK = 1e-9
"""Of the losses: sums of floats differ by less in whichever order they are added."""

Floats: TypeAlias = NDArray[np.float64]
Ints: TypeAlias = NDArray[np.int64]


@dataclass(frozen=True)
class Option:
    """One way to write a picture."""

    bytes: int
    loss: float


@dataclass(frozen=True)
class Choice:
    """The option to take of each ladder, by its index."""

    chosen: tuple[int, ...]
    bytes: int
    loss: float
    bound: float
    """No choice within the bytes loses less than this."""

    @property
    def gap(self) -> float:
        """How much more than the best it may lose; 0 where it is the best."""
        return max(0.0, self.loss - self.bound)


@dataclass(frozen=True)
class Hull:
    """The options that no other beats, the lightest first."""

    index: Ints
    """Where each stands in the ladder as it was given."""
    bytes: Ints
    loss: Floats
    hull: Ints
    """Positions of those on the lower convex hull."""


def choose(ladders: Sequence[Sequence[Option]], most_bytes: int) -> Choice | None:
    """The least loss within the bytes, the lighter one of equals; None when even the lightest options are too heavy.

    Ladders must not be empty.
    """
    if not ladders:
        return Choice((), 0, 0.0, 0.0) if most_bytes >= 0 else None
    found = [ladder_of(each) for each in ladders]
    room = most_bytes - sum(int(each.bytes[0]) for each in found)
    if room < 0:
        return None
    positions, multiplier = along_hulls(found, room)
    _fill(found, positions, room)
    bound = _bound(found, multiplier, most_bytes)
    loss = _loss_of(found, positions)
    is_best = loss <= bound + _SLACK
    if not is_best:
        positions, is_best = _look_through(found, positions, multiplier, bound, most_bytes)
        loss = _loss_of(found, positions)
    chosen = tuple(int(each.index[at]) for each, at in zip(found, positions, strict=True))
    weight = sum(int(each.bytes[at]) for each, at in zip(found, positions, strict=True))
    return Choice(chosen, weight, loss, loss if is_best else min(bound, loss))


def ladder_of(options: Sequence[Option]) -> Hull:
    """The options that may be chosen at all, and those of them on the lower convex hull."""
    weight = np.array([each.bytes for each in options], dtype=np.int64)
    loss = np.array([each.loss for each in options], dtype=np.float64)
    order = np.lexsort((loss, weight))
    # Better than all that is lighter; the first is better than nothing.
    kept = order[np.concatenate(([True], loss[order][1:] < np.minimum.accumulate(loss[order])[:-1]))]
    weight, loss = weight[kept], loss[kept]
    hull: list[int] = []
    for at in range(kept.size):
        while len(hull) > 1 and _is_above(weight, loss, hull[-2], hull[-1], at):
            hull.pop()
        hull.append(at)
    return Hull(kept, weight, loss, np.array(hull, dtype=np.int64))


def _is_above(weight: Ints, loss: Floats, left: int, middle: int, right: int) -> bool:
    """Whether the middle point lies on or above the line between its neighbours."""
    return bool(
        (loss[left] - loss[middle]) * (weight[right] - weight[middle])
        <= (loss[middle] - loss[right]) * (weight[middle] - weight[left])
    )


def along_hulls(ladders: Sequence[Hull], room: int) -> tuple[list[int], float]:
    """Go up the hulls, always where a byte saves most, until the next step does not fit; its slope is the multiplier."""
    steps = [
        np.stack(
            (
                -np.diff(each.loss[each.hull]) / np.diff(each.bytes[each.hull]),
                np.full(each.hull.size - 1, number),
                each.hull[1:],
                np.diff(each.bytes[each.hull]),
            )
        )
        for number, each in enumerate(ladders)
    ]
    slope, number, to, more = np.concatenate(steps, axis=1)
    positions = [0] * len(ladders)
    # Steps of one ladder get flatter, so their order holds.
    order = np.argsort(-slope, kind="stable")
    used = np.cumsum(more[order])
    fit = int(np.searchsorted(used, room, side="right"))
    for at in order[:fit]:
        positions[int(number[at])] = int(to[at])
    return positions, float(slope[order[fit]]) if fit < order.size else 0.0


def _fill(ladders: Sequence[Hull], positions: list[int], room: int) -> None:
    """Take whatever single step up still fits, the one that saves most first."""
    left = room - sum(int(each.bytes[at] - each.bytes[0]) for each, at in zip(ladders, positions, strict=True))
    while True:
        best, saved = None, 0.0
        for number, (each, at) in enumerate(zip(ladders, positions, strict=True)):
            to = int(np.searchsorted(each.bytes, each.bytes[at] + left, side="right")) - 1
            if to > at and each.loss[at] - each.loss[to] > saved:
                best, saved = (number, to), float(each.loss[at] - each.loss[to])
        if best is None:
            return
        number, to = best
        left -= int(ladders[number].bytes[to] - ladders[number].bytes[positions[number]])
        positions[number] = to


def _loss_of(ladders: Sequence[Hull], positions: Sequence[int]) -> float:
    return float(sum(each.loss[at] for each, at in zip(ladders, positions, strict=True)))


def _bound(ladders: Sequence[Hull], multiplier: float, most_bytes: int) -> float:
    """Lagrange's: bytes are paid for at the multiplier, and every picture takes what is cheapest so."""
    return float(sum((each.loss + multiplier * each.bytes).min() for each in ladders)) - multiplier * most_bytes


def _look_through(
    ladders: Sequence[Hull], positions: list[int], multiplier: float, bound: float, most_bytes: int
) -> tuple[list[int], bool]:
    """The best positions, and whether they are proven to be: where nothing was thinned out."""
    best = _loss_of(ladders, positions)
    allowed = best - bound
    reduced = [_reduced(each, multiplier) for each in ladders]
    # The ladders with the most that could still be taken last: until then there are few states.
    order = sorted(range(len(ladders)), key=lambda number: int((reduced[number] < allowed).sum()))
    still = sum(int(each.bytes[0]) for each in ladders)
    weight, loss, paid = np.zeros(1, dtype=np.int64), np.zeros(1), np.zeros(1)
    trail: list[tuple[Ints, Ints]] = []
    is_thinned = False
    for number in order:
        each = ladders[number]
        still -= int(each.bytes[0])
        taken = np.flatnonzero(reduced[number] < allowed)
        if not taken.size:
            return positions, not is_thinned
        grown = (paid[:, None] + reduced[number][None, taken]).ravel()
        heavier = (weight[:, None] + each.bytes[None, taken]).ravel()
        possible = np.flatnonzero((grown < allowed) & (heavier <= most_bytes - still))
        if not possible.size:
            return positions, not is_thinned
        before, option = np.divmod(possible, taken.size)
        heavier, grown = heavier[possible], grown[possible]
        lossier = loss[before] + each.loss[taken[option]]
        kept = _pareto(heavier, lossier)
        if kept.size > STATES_CAP:
            is_thinned = True
            kept = kept[np.linspace(0, kept.size - 1, STATES_CAP).round().astype(np.int64)]
        weight, loss, paid = heavier[kept], lossier[kept], grown[kept]
        trail.append((before[kept], taken[option[kept]]))
    if loss[-1] < best - _SLACK:
        positions, at = list(positions), weight.size - 1
        for number, (before, option) in zip(reversed(order), reversed(trail), strict=True):
            positions[number] = int(option[at])
            at = int(before[at])
    return positions, not is_thinned


def _reduced(ladder: Hull, multiplier: float) -> Floats:
    """How much dearer each option is than the cheapest, at the multiplier."""
    cost = ladder.loss + multiplier * ladder.bytes
    dearer: Floats = cost - cost.min()
    return dearer


def _pareto(weight: Ints, loss: Floats) -> Ints:
    """The states that no other beats in both, the lightest first."""
    order = np.lexsort((loss, weight))
    sorted_loss = loss[order]
    kept: Ints = order[np.concatenate(([True], sorted_loss[1:] < np.minimum.accumulate(sorted_loss)[:-1]))]
    return kept
