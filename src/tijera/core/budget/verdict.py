"""Finding renditions whose *written* result is under the limit, and saying what was given up."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from tijera.core.budget.ladder import Rendition, climb_down, packed_tighter, worth_keeping
from tijera.core.budget.solver import Option, choose
from tijera.core.errors import LimitNotMet
from tijera.core.imaging.picture import Picture
from tijera.core.units import Length, format_bytes

_MOST_ROUNDS = 6
_NAMED_IN_THE_WAY = 4
Write = Callable[[Sequence[Rendition]], int]
"""Write the destination with these renditions and return its length in bytes."""


@dataclass(frozen=True)
class Candidate:
    """A picture that may be given another rendition; candidates that show the same picture share one."""

    picture: Picture
    first: Rendition
    placed_width: Length
    """The largest width that it is placed at."""


@dataclass(frozen=True)
class Verdict:
    """What was found: one rendition for each candidate, and what the result weighs when written."""

    fits: bool
    written_bytes: int
    renditions: tuple[Rendition, ...]


@dataclass(frozen=True)
class Progress:
    """How far the search is: steps done, what is being tried."""

    done: int
    of: int
    doing: str


Search = Iterator[Progress | Verdict]


def find_fit(candidates: Sequence[Candidate], limit_bytes: int, write: Write) -> Search:
    """Search step by step: progress comes out, the verdict last. Stopping is not asking for the next step.

    First the same pixels are packed tighter; only when that is not enough, something is given up.
    """
    total = len(candidates) * 2 + 2
    firsts = [candidate.first for candidate in candidates]
    if (written := write(firsts)) <= limit_bytes:
        yield Verdict(fits=True, written_bytes=written, renditions=tuple(firsts))
        return
    tight: list[Rendition] = []
    for index, candidate in enumerate(candidates):
        yield Progress(index, total, "packing the same pixels tighter")
        tight.append(packed_tighter(candidate.first))
    if (written := write(tight)) <= limit_bytes:
        yield Verdict(fits=True, written_bytes=written, renditions=tuple(tight))
        return
    ladders: list[list[Rendition]] = []
    for index, candidate in enumerate(candidates):
        rungs = [tight[index]]
        for rung in climb_down(candidate.picture, candidate.placed_width):
            yield Progress(len(candidates) + index, total, "measuring what fewer colours and pixels would lose")
            rungs.append(rung)
        ladders.append(worth_keeping(rungs))
    chosen = _solve(ladders, limit_bytes, write, firsts)
    yield Progress(total - 2, total, "packing what was chosen")
    _pack_chosen(ladders, chosen)
    yield Progress(total - 1, total, "weighing the written result")
    chosen = _solve(ladders, limit_bytes, write, firsts)
    renditions = [ladder[index] for ladder, index in zip(ladders, chosen, strict=True)]
    written = write(renditions)
    yield Verdict(written <= limit_bytes, written, tuple(renditions))


def _solve(
    ladders: Sequence[Sequence[Rendition]], limit_bytes: int, write: Write, firsts: Sequence[Rendition]
) -> tuple[int, ...]:
    """Choose by the solver, write, and tighten by what the written result is over; the lightest where nothing fits."""
    lightest = tuple(min(range(len(ladder)), key=lambda i: ladder[i].bytes) for ladder in ladders)
    options = [[Option(rung.bytes, rung.loss) for rung in ladder] for ladder in ladders]
    room = limit_bytes - (write(firsts) - sum(rung.bytes for rung in firsts))
    for _ in range(_MOST_ROUNDS):
        chosen = choose(options, room)
        if chosen is None:
            return lightest
        over = write([ladder[index] for ladder, index in zip(ladders, chosen, strict=True)]) - limit_bytes
        if over <= 0:
            return chosen
        # Another extension changes a few bytes of the package's own parts.
        room -= over
    return lightest


def _pack_chosen(ladders: list[list[Rendition]], chosen: Sequence[int]) -> None:
    """Pack the winners tighter; the bytes that this saves may let another picture keep more."""
    for ladder, index in zip(ladders, chosen, strict=True):
        ladder[index] = packed_tighter(ladder[index])


def limit_not_met(verdict: Verdict, limit_bytes: int, weights: Sequence[tuple[str, int]]) -> LimitNotMet:
    """The error for a verdict that does not fit; the heaviest of `weights` (name, bytes) stand in the way."""
    heaviest = sorted(weights, key=lambda item: -item[1])[:_NAMED_IN_THE_WAY]
    return LimitNotMet(
        least_bytes=verdict.written_bytes,
        over_bytes=verdict.written_bytes - limit_bytes,
        limit_bytes=limit_bytes,
        in_the_way=", ".join(f"{name} ({format_bytes(size)})" for name, size in heaviest) or "the text itself",
        pictures=[{"name": name, "bytes": size} for name, size in heaviest],
    )
