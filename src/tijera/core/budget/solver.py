"""Which rendition of each picture: the least loss in all within a number of bytes.

A multiple-choice knapsack (Kellerer, Pferschy, Pisinger, Knapsack Problems, 2004, ch. 11; from memory), solved by
dynamic programming over Pareto states. Exact while the states stay under their cap; beyond it the states are thinned,
and the answer is within the limit but perhaps not the very best.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from tijera.core.units import round_half_up

STATES_CAP = 20_000


@dataclass(frozen=True)
class Option:
    """One way to write a picture."""

    bytes: int
    loss: float


@dataclass(frozen=True)
class _State:
    bytes: int
    loss: float
    chosen: int
    before: _State | None


def choose(ladders: Sequence[Sequence[Option]], most_bytes: int) -> tuple[int, ...] | None:
    """The index of the option to take of each ladder, or None when even the lightest ones are too heavy.

    Of equal losses the lighter choice wins. Ladders must not be empty.
    """
    lightest = [min(option.bytes for option in ladder) for ladder in ladders]
    still_needed = sum(lightest)
    if still_needed > most_bytes:
        return None
    states = [_State(0, 0.0, -1, None)]
    for ladder, least in zip(ladders, lightest, strict=True):
        still_needed -= least
        room = most_bytes - still_needed
        grown = [
            _State(state.bytes + option.bytes, state.loss + option.loss, index, state)
            for state in states
            for index, option in enumerate(ladder)
            if state.bytes + option.bytes <= room
        ]
        states = _thinned(_pareto(grown))
    best: _State | None = min(states, key=lambda state: (state.loss, state.bytes))
    chosen: list[int] = []
    while best is not None and best.before is not None:
        chosen.append(best.chosen)
        best = best.before
    return tuple(reversed(chosen))


def _pareto(states: list[_State]) -> list[_State]:
    """Those that no other state beats in both bytes and loss, the lightest first."""
    kept: list[_State] = []
    for state in sorted(states, key=lambda each: (each.bytes, each.loss)):
        if not kept or state.loss < kept[-1].loss:
            kept.append(state)
    return kept


def _thinned(states: list[_State]) -> list[_State]:
    """At most `STATES_CAP` states, evenly taken, the lightest and the least lossy among them."""
    if len(states) <= STATES_CAP:
        return states
    step = (len(states) - 1) / (STATES_CAP - 1)
    return [states[round_half_up(index * step)] for index in range(STATES_CAP)]
