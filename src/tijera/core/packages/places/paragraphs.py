"""Paragraphs that a walk met: where they stand is known at once, their words are read when somebody looks.

A text of 300 pages has thousands of paragraphs, and few manners for one to stand in it. So the walk that finds every
place makes one `Manner` for all that are alike, and keeps of the paragraphs themselves a mark here and there, from which
the others are found again. A block and the place behind it are made when they are looked at.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import islice
from operator import attrgetter
from typing import NamedTuple, overload

from tijera.core.packages.containers.lazy_reading import Pulled
from tijera.core.packages.containers.xmlspan import Element
from tijera.core.packages.places.spots import (
    Block,
    Container,
    Follows,
    Section,
    ShownPicture,
    Side,
    Spot,
    SpotExtent,
    SpotKind,
    Stand,
    TextOutline,
    spot_ids,
)

_MOST_DIGITS = 9


@dataclass(frozen=True)
class Manner:
    """How paragraphs stand that say the same of themselves and stand in the same lane."""

    kind: str
    """As a block's."""
    level: int
    section: int
    within: SpotKind
    room: SpotExtent | None
    """What a picture behind one of them has; None where there is no place."""
    stands: tuple[Stand, ...]
    begins_page: bool = False
    """A page begins with each of them."""


class ParagraphWords(NamedTuple):
    """What a paragraph says and shows."""

    text: str
    pictures: tuple[ShownPicture, ...] = ()


class ParagraphMark(NamedTuple):
    """A paragraph that was met; those up to the next mark, if they are paragraphs, are its next siblings."""

    at: int
    """Its place among the blocks of its container."""
    number: int
    """Its number in the ids; those that follow it count on."""
    node: Element


MARK_EVERY = 16
"""How many paragraphs go by a mark: looking at one goes past half as many."""


@dataclass(frozen=True)
class ParagraphReading:
    """How a format reads its paragraphs."""

    tags: tuple[str, ...]
    """Of the elements that are paragraphs."""
    words: Callable[[Element], ParagraphWords]


class Passages(Sequence[Block]):
    """The blocks of one container, as a walk met them. A paragraph's block is made when it is looked at."""

    def __init__(
        self, path: str, entries: Sequence[Manner | Block], marks: Sequence[ParagraphMark], reading: ParagraphReading
    ) -> None:
        self.entries = entries
        """A paragraph as its manner, anything else as its block."""
        self.path = path
        self._marks = marks
        self._reading = reading
        self._made: dict[int, tuple[Block, Element]] = {}

    def __len__(self) -> int:
        """How many there are; makes none of them."""
        return len(self.entries)

    @overload
    def __getitem__(self, index: int) -> Block: ...
    @overload
    def __getitem__(self, index: slice) -> Sequence[Block]: ...
    def __getitem__(self, index: int | slice) -> Block | Sequence[Block]:
        """One or several; those with a bound from the front read no further than that."""
        if isinstance(index, slice):
            start, stop, step = index.start or 0, index.stop, index.step or 1
            from_front = stop is not None and min(start, stop, step) >= 0
            count = len(self.entries[:stop]) if from_front else len(self)
            return [self._block(at) for at in range(count)[index]]
        return self._block(index if index >= 0 else len(self) + index)

    def _block(self, at: int) -> Block:
        entry = self.entries[at]
        return entry if isinstance(entry, Block) else self._looked_at(at, entry)[0]

    def _looked_at(self, at: int, manner: Manner) -> tuple[Block, Element]:
        """The block of a paragraph, and its element."""
        made = self._made.get(at)
        if made is None:
            mark = self._marks[bisect_right(self._marks, at, key=attrgetter("at")) - 1]
            following = mark.node.itersiblings(*self._reading.tags)
            node = mark.node if mark.at == at else next(islice(following, at - mark.at - 1, None))
            own, words = f"{self.path}.{mark.number + at - mark.at}", self._reading.words(node)
            spots = () if manner.room is None else (own,)
            block = Block(own, manner.kind, manner.level, words.text, manner.section, words.pictures, spots=spots)
            made = self._made[at] = block, node
        return made

    def spot_after(self, number: int) -> Spot | None:
        """The place behind a paragraph that was met; None where the number is none of one that has a place."""
        before = bisect_right(self._marks, number, key=attrgetter("number")) - 1
        if before < 0:
            return None
        at = self._marks[before].at + number - self._marks[before].number
        manner = next(iter(self.entries[at : at + 1]), None)
        if not isinstance(manner, Manner) or manner.room is None:
            return None
        block, node = self._looked_at(at, manner)
        return Spot(
            id=block.id,
            kind=manner.within,
            follows=Follows.PARAGRAPH,
            after_text=block.text,
            widths=manner.room.widths,
            height=manner.room.height,
            section=manner.section,
            side=Side.AFTER,
            indent_left=manner.room.left,
            indent_right=manner.room.right,
            stands=manner.stands,
            element=node,
        )

    def count_spots_after(self) -> int:
        """How many of its paragraphs have a place behind them."""
        return sum(isinstance(entry, Manner) and entry.room is not None for entry in self.entries)


Walk = Callable[[list[ParagraphMark]], Iterator[Manner | Block]]
"""Goes through a container: yields what it meets, and sets marks. (It holds no container itself: no circle to collect.)"""


class Places:
    """What a walk finds beside the body's blocks: the places behind no plain paragraph, and the containers inside."""

    def __init__(self, reading: ParagraphReading) -> None:
        self.reading = reading
        self.others: dict[str, Spot] = {}
        self.nested: dict[str, Passages] = {}

    def container(self, path: str, start: tuple[str, ...], walk: Walk) -> Container:
        """A container inside, walked through."""
        marks: list[ParagraphMark] = []
        blocks = self.nested[path] = Passages(path, tuple(walk(marks)), marks, self.reading)
        return Container(start, blocks)

    def outline(self, path: str, start: tuple[str, ...], walk: Walk, sections: Sequence[Section]) -> TextOutline:
        """The outline of a body, which is walked through as far as somebody asks."""
        marks: list[ParagraphMark] = []
        blocks = Passages(path, Pulled(walk(marks)), marks, self.reading)
        body = Container(start, blocks)
        return TextOutline(body, Walked(body, blocks, self), sections)


class Walked(Mapping[str, Spot]):
    """All places of a text by id, in reading order, found as far as they are asked for."""

    def __init__(self, body: Container, blocks: Passages, places: Places) -> None:
        self._body = body
        self._blocks = blocks
        self._others = places.others
        self._nested = places.nested

    def __getitem__(self, key: str) -> Spot:
        """Find a place, reading on until it comes up; raise `KeyError` once all was read."""
        path, _, last = key.rpartition(".")
        number = int(last) if last.isdecimal() and len(last) <= _MOST_DIGITS else -1
        is_all_read = False
        while True:
            passages = self._blocks if path == self._blocks.path else self._nested.get(path)
            found = self._others.get(key) or (None if passages is None else passages.spot_after(number))
            # By its number, a paragraph may be taken for another while what lies before it is still being read.
            if found is not None and found.id == key:
                return found
            if is_all_read:
                raise KeyError(key)
            is_all_read = not self._read_on()

    def _read_on(self) -> bool:
        """Read the body on by a step; whether there may be more of it."""
        entries = self._blocks.entries
        return isinstance(entries, Pulled) and entries.pull_more()

    def __iter__(self) -> Iterator[str]:
        """All ids in reading order; reads all."""
        return spot_ids(self._body)

    def __len__(self) -> int:
        """How many there are; reads on to the end, but no words."""
        while self._read_on():
            pass
        containers = (self._blocks, *self._nested.values())
        return len(self._others) + sum(each.count_spots_after() for each in containers)
