"""Finding renditions whose *written* result is under the limit and loses the least, using the bytes that there are."""

from __future__ import annotations

from collections.abc import Callable, Generator, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from functools import partial
from typing import Protocol

from tijera.core.budget.ladder import FIRST, Ladder, Recipe
from tijera.core.budget.rendition import Rendition, Way
from tijera.core.budget.solver import Choice, Option, choose

_MOST_WRITES = 8
"""Another ending changes a few bytes of the file's own parts: so often the solver is told, and asked again."""
_LOOKS = 40
"""So often what was chosen is looked at more closely at the most; each look halves the step of a few pictures."""
_AT_ONCE = 4
"""So many pictures at a look, those first that lose the most for their bytes."""
_PACKING_MAY_SAVE = 0.2
"""Of the bytes of lossless pictures: where no more is over, packing them tighter comes first, which loses nothing."""
_UNUSED_SHARE = 0.001
"""Of the limit: as long as more is unused, something better is looked for."""

_MEASURING = "measuring what fewer colours and pixels would lose"

Pattern = tuple[tuple[str, bool], ...]
Task = Callable[[], None]
Run = Callable[[Sequence[Task]], Iterator[None]]
"""Carry tasks out, perhaps side by side, and tell of each that is done."""


def one_by_one(tasks: Sequence[Task]) -> Iterator[None]:
    """Carry tasks out one after the other."""
    return (task() for task in tasks)


class Goods(Protocol):
    """A file or message in which pictures are sent: what it weighs."""

    def written(self, renditions: Sequence[Rendition]) -> int:
        """Its length in bytes, written with these renditions."""

    def takes(self, index: int, picture_bytes: int) -> int:
        """What so many bytes of a picture take in it, each time that it is in it; its own parts not counted."""


@dataclass(frozen=True)
class Wanted:
    """A picture that may be given another rendition."""

    ladder: Ladder
    matters: float = 1.0
    """How much its loss counts against that of others."""
    is_kept: bool = False
    """Whether it stays as it is, whatever that weighs."""
    may_fall: bool = False
    """Whether it may fall below the floor of what can be read."""

    def rungs(self) -> list[Recipe]:
        """What it may be given, the heaviest first. One that is kept may be packed tighter, which loses nothing."""
        return [FIRST] if self.is_kept else self.ladder.rungs(below_floor=self.may_fall)


@dataclass(frozen=True)
class Progress:
    """How far the search is: steps done, what is being tried."""

    done: int
    of: int
    doing: str


@dataclass(frozen=True)
class Verdict:
    """What was found: one rendition for each picture, and what the result weighs when written."""

    fits: bool
    written_bytes: int
    renditions: tuple[Rendition, ...]
    lacking: tuple[int | None, ...] = ()
    """For each picture, how many bytes its next better rendition is beyond what is free; None where there is none."""
    gap: float = 0.0
    """How much more than the best choice of these renditions it may lose; 0 where it is proven to be the best."""


Search = Iterator[Progress | Verdict]


def find_fit(wanted: Sequence[Wanted], limit_bytes: int, goods: Goods, run: Run = one_by_one) -> Search:
    """Search step by step: progress comes out, the verdict last. Stopping is not asking for the next step."""
    firsts = tuple(each.ladder.first for each in wanted)
    if (written := goods.written(firsts)) <= limit_bytes:
        yield Verdict(fits=True, written_bytes=written, renditions=firsts, lacking=(None,) * len(firsts))
        return
    yield from _Finding(wanted, limit_bytes, goods, run, written).steps()


def verdict_of(search: Search) -> Generator[Progress, None, Verdict]:
    """Pass a search's progress on; what `yield from` gives is its verdict, which comes last."""
    for step in search:
        if isinstance(step, Verdict):
            return step
        yield step
    msg = "a search ends with its verdict"
    raise AssertionError(msg)


@dataclass(eq=False)
class _Finding:
    """One search. The goods' own bytes are known for each pattern of endings that was written."""

    wanted: Sequence[Wanted]
    limit: int
    goods: Goods
    run: Run
    firsts_bytes: int
    rest: dict[Pattern, int] = field(default_factory=dict)
    done: int = 0
    is_measured: bool = False
    """Whether all pictures were measured in an earlier search. Then the ladders are dense, and only what is expected to have
    room is added; in the first search what has none, too, as it may be worth more than what another picture has."""

    def steps(self) -> Search:
        """Nothing lost, if that is enough; else what is needed, ever more finely, packed, and written."""
        self._learn([each.ladder.first for each in self.wanted], self.firsts_bytes)
        free = [each for each in self.wanted if not each.is_kept]
        self.is_measured = all(each.ladder.is_begun for each in free)
        changeable = [each.ladder for each in free]
        packed = sum(each.first.bytes for each in changeable if each.first.extension == "png")
        if self.firsts_bytes - self.limit <= packed * _PACKING_MAY_SAVE:
            yield from self._packed([(each, FIRST) for each in changeable])
        found = self._solved()
        for climb in (Ladder.begin, Ladder.go_further):
            if found is None:
                yield from self._carried([partial(climb, each) for each in changeable], _MEASURING)
                found = self._solved()
        falling = [each.ladder for each in free if each.may_fall]
        if found is None and falling:
            yield from self._carried([each.fall for each in falling], _MEASURING)
            found = self._solved()
        if found is None:
            yield from self._packed([(each.ladder, each.rungs()[-1]) for each in free])
            found = self._solved()
        if found is None:
            lightest = self._renditions([rungs[-1] for rungs in self._rungs()])
            written = self.goods.written(lightest)
            yield Verdict(written <= self.limit, written, lightest, (None,) * len(lightest))
            return
        yield from self._polished(found)

    def _polished(self, found: _Found) -> Search:
        """Use what is free: finer steps first, then tighter packing of what was chosen, which frees bytes again."""
        for _ in range(_LOOKS):
            has_room = self._unused(found) > self.limit * _UNUSED_SHARE
            finer = self._finer(found) if has_room else []
            loose = [
                (each.ladder, recipe)
                for each, recipe in zip(self.wanted, found.recipes, strict=True)
                if not each.is_kept
                and recipe not in each.ladder.packed
                and each.ladder.made[recipe].extension == "png"
                # A photograph hardly gets lighter: worth it only while what is unused wants a little more.
                and (has_room or not each.ladder.made[recipe].is_noise)
            ]
            if finer:
                yield from self._made(finer)
            elif loose:
                yield from self._packed(loose)
            elif hopeful := self._hopeful(found):
                yield from self._packed(hopeful)
            else:
                break
            found = self._solved() or found
        renditions = self._renditions(found.recipes)
        written = self.goods.written(renditions)
        yield Verdict(
            written <= self.limit,
            written,
            renditions,
            self._lacking(found.recipes, self.limit - written),
            found.choice.gap,
        )

    def _made(self, wished: Iterable[tuple[Ladder, Recipe]]) -> Iterator[Progress]:
        return self._carried([partial(ladder.make, recipe) for ladder, recipe in wished], _MEASURING)

    def _packed(self, wished: Iterable[tuple[Ladder, Recipe]]) -> Iterator[Progress]:
        queue = [each for each in wished if each[1] not in each[0].packed]
        return self._carried(
            [partial(ladder.pack, recipe) for ladder, recipe in queue], "packing the same pixels tighter"
        )

    def _carried(self, tasks: Sequence[Task], doing: str) -> Iterator[Progress]:
        for count, _ in enumerate(self.run(tasks)):
            self.done += 1
            yield Progress(self.done, self.done + len(tasks) - count, doing)

    def _rungs(self) -> list[list[Recipe]]:
        """What each picture may be given, the heaviest first."""
        return [each.rungs() for each in self.wanted]

    def _renditions(self, recipes: Sequence[Recipe]) -> tuple[Rendition, ...]:
        return tuple(each.ladder.made[recipe] for each, recipe in zip(self.wanted, recipes, strict=True))

    def _learn(self, renditions: Sequence[Rendition], written: int) -> None:
        """The goods' own bytes under this pattern of endings."""
        taken = sum(self.goods.takes(at, each.bytes) for at, each in enumerate(renditions))
        self.rest[_pattern(renditions)] = written - taken

    def _solved(self) -> _Found | None:
        """The best choice that is within the limit when written; None where not even the lightest is."""
        rungs = self._rungs()
        options = [
            [
                Option(self.goods.takes(at, made.bytes), made.loss * each.matters)
                for made in map(each.ladder.made.__getitem__, ladder)
            ]
            for at, (each, ladder) in enumerate(zip(self.wanted, rungs, strict=True))
        ]
        own = min(self.rest.values())
        for _ in range(_MOST_WRITES):
            choice = choose(options, self.limit - own)
            if choice is None:
                return None
            recipes = tuple(ladder[at] for ladder, at in zip(rungs, choice.chosen, strict=True))
            renditions = self._renditions(recipes)
            if _pattern(renditions) not in self.rest:
                self._learn(renditions, self.goods.written(renditions))
            if self.rest[_pattern(renditions)] + choice.bytes <= self.limit:
                return _Found(recipes, choice)
            own = max(own + 1, self.rest[_pattern(renditions)])
        return None

    def _unused(self, found: _Found) -> int:
        return self.limit - self.rest[_pattern(self._renditions(found.recipes))] - found.choice.bytes

    def _finer(self, found: _Found) -> list[tuple[Ladder, Recipe]]:
        """Renditions that are expected to take what is unused, of the pictures that a byte helps most."""
        unused = self._unused(found)
        wished: list[tuple[float, Ladder, Recipe]] = []
        for number, (each, recipe, rungs) in enumerate(zip(self.wanted, found.recipes, self._rungs(), strict=True)):
            at = rungs.index(recipe)
            if at == 0:
                continue
            worse, better = (each.ladder.made[rungs[place]] for place in (at, at - 1))
            taken = self.goods.takes(number, worse.bytes)
            most = worse.bytes * (1 + unused / taken)
            finer = each.ladder.between(recipe, rungs[at - 1], most, only_with_room=self.is_measured)
            if finer is not None:
                more = self.goods.takes(number, better.bytes) - taken
                wished.append((each.matters * (worse.loss - better.loss) / max(more, 1), each.ladder, finer))
        wished.sort(key=lambda each: -each[0])
        return [(ladder, finer) for _, ladder, finer in wished[:_AT_ONCE]]

    def _hopeful(self, found: _Found) -> list[tuple[Ladder, Recipe]]:
        """The next better renditions that would have room if packing them tighter saves what it may."""
        unused, hopeful = self._unused(found), []
        for number, (each, recipe, rungs) in enumerate(zip(self.wanted, found.recipes, self._rungs(), strict=True)):
            at = rungs.index(recipe)
            better = rungs[at - 1] if at > 0 else recipe
            made = each.ladder.made[better]
            if better in (recipe, FIRST) or better in each.ladder.packed or made.extension != "png":
                continue
            now, then = (self.goods.takes(number, size) for size in (each.ladder.made[recipe].bytes, made.bytes))
            if then - now - unused <= then * _PACKING_MAY_SAVE:
                hopeful.append((each.ladder, better))
        return hopeful[:_AT_ONCE]

    def _lacking(self, recipes: Sequence[Recipe], free: int) -> tuple[int | None, ...]:
        """How far the next better rendition of each picture is out of reach."""
        lacking: list[int | None] = []
        for number, (each, recipe, rungs) in enumerate(zip(self.wanted, recipes, self._rungs(), strict=True)):
            at = rungs.index(recipe)
            if at == 0:
                lacking.append(None)
                continue
            now, better = (self.goods.takes(number, each.ladder.made[rungs[place]].bytes) for place in (at, at - 1))
            lacking.append(better - now - free)
        return tuple(lacking)


@dataclass(frozen=True)
class _Found:
    """A recipe for each picture."""

    recipes: tuple[Recipe, ...]
    choice: Choice


def _pattern(renditions: Iterable[Rendition]) -> Pattern:
    """What of renditions decides the goods' own bytes: their endings, and which are in the goods already, packed somehow."""
    return tuple((each.extension, each.way is Way.AS_IT_CAME) for each in renditions)
