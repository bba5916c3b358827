"""The ladder of a picture: its renditions, each made when it is asked for, with measured bytes and measured loss.

Measured on screens with text: shrinking makes them larger *and* harder to read, fewer colours at native pixels make them
smaller and leave the words. Photographs are the other way round. What a picture is, its own renditions tell: both ways are
tried where it is not plain. See docs/decisions/0004-colours-first.md and 0027-a-ladder-is-climbed-as-far-as-needed.md.
"""

from __future__ import annotations

import math
import threading
import weakref
from collections import OrderedDict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from itertools import pairwise
from typing import NamedTuple

from tijera.core.budget.rendition import Rendition, Way, packed_tighter
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_jpeg
from tijera.core.imaging.gate import Gate
from tijera.core.imaging.lettering import Line, text_lines
from tijera.core.imaging.measure import Loss, Original
from tijera.core.imaging.palette import Histogram, in_few_colours
from tijera.core.imaging.picture import Indexed, Picture
from tijera.core.imaging.png import SEARCHING, indexed_png
from tijera.core.imaging.resize import resize
from tijera.core.units import Length

PHOTOGRAPH_PPI = 300
"""What a document's page can show of a photograph (common practice for print)."""
TEXT_FLOOR = 0.04
"""The most that the worst lines of text may lose: above it words go. On 118 of 124 encodings that lose less a recogniser
read 0.98 of the words and more, on the others all but one (docs/decisions/0028-loss-is-the-worst-line.md)."""
AREA_FLOOR = 0.10
"""The most that areas and their colours may lose: a difference that is seen at once where both are side by side (by eye)."""
PHOTOGRAPH_FLOOR = 0.22
"""The most that a photograph's edges may lose: beyond that it falls apart into blocks (judged by eye on the harbour chart)."""
_MANY_COLOURS = 4_000
"""Cells of the histogram from which on a screen shows a photograph, and JPEG may do better (measured: 40 to 500 without)."""


@dataclass(frozen=True)
class Recipe:
    """How a rendition is made."""

    way: Way
    amount: int = 0
    """Colours of a palette, or a JPEG's quality."""
    share: float = 1.0
    """Of the picture's width and height in pixels."""
    full_colour: bool = False
    """Of a JPEG: whether its colours are as fine as its lightness (4:4:4), or half as fine (4:2:0)."""

    @property
    def extension(self) -> str:
        """Of what it makes."""
        return "jpeg" if self.way is Way.JPEG else "png"


FIRST = Recipe(Way.AS_TAKEN)
"""The rendition that lacks nothing, however it was made."""
_SCREEN = tuple(Recipe(Way.COLOURS, count) for count in (256, 48, 16, 8, 5))
_SCREEN_FURTHER = (
    *(Recipe(Way.COLOURS, count) for count in (12, 4, 3)),
    *(Recipe(Way.COLOURS, count, share) for count, share in ((16, 0.85), (8, 0.7), (3, 0.7), (5, 0.55))),
)
_MIXED_FURTHER = tuple(Recipe(Way.JPEG, quality, share) for quality, share in ((38, 1.0), (55, 0.75), (38, 0.6)))
_MIXED = (Recipe(Way.JPEG, 92, full_colour=True), Recipe(Way.JPEG, 80), Recipe(Way.JPEG, 55))
_PHOTOGRAPH_AS_PNG = ((256, 0.0), (128, 0.0), (256, 300.0), (256, 220.0), (256, 150.0), (128, 120.0))
"""Where the kind of file must stay: colours, and pixels per placed inch at the most."""
_PHOTOGRAPH = (
    (98, 0.0, True),
    (96, 0.0, True),
    (93, 0.0, False),
    (88, 0.0, False),
    (80, 300.0, False),
    (72, 240.0, False),
    (64, 190.0, False),
    (50, 120.0, False),
)
"""Quality, pixels per placed inch at the most (0: all there are), and whether in full colour."""
_LARGE_PIXELS = 8_000_000
_FALLEN_PHOTOGRAPH = ((40, 90.0), (30, 60.0), (25, 40.0))
_FALLEN_SCREEN = ((8, 0.5), (4, 0.4), (3, 0.3))
"""What is made only where the user says that a picture may become unreadable."""


@dataclass(eq=False)
class _Seen:
    """A picture while it is looked at: its pixels, and what is worked out from them once."""

    picture: Picture
    placed_width: Length
    kinds: frozenset[str]
    keeps_pixels: bool
    density_ppi: float | None
    found_lines: Sequence[Line] | None = None
    """Its lines of text, where they were found before: finding them takes longer than making a rendition."""

    @cached_property
    def native_ppi(self) -> float:
        """Pixels per placed inch."""
        return self.picture.size.width / self.placed_width.inches

    @property
    def is_photograph(self) -> bool:
        """Whether it is compared as a photograph: at what its place can show."""
        return self.picture.is_photograph and not self.picture.has_alpha

    def is_above_floor(self, loss: Loss) -> bool:
        """Whether what can be read still can be, and what is seen is still the same."""
        return loss.text <= TEXT_FLOOR and loss.area <= AREA_FLOOR and loss.edges <= PHOTOGRAPH_FLOOR

    @cached_property
    def histogram(self) -> Histogram:
        """Its colours."""
        return Histogram.of(self.picture.pixels)

    @cached_property
    def original(self) -> Original:
        """What renditions are compared with."""
        # A photograph is compared at what its place can show; sharper than that nobody sees it.
        share = min(1.0, PHOTOGRAPH_PPI / self.native_ppi) if self.is_photograph else 1.0
        compared = self.smaller(share)
        if self.found_lines is None:
            self.found_lines = text_lines(compared)
        return Original(compared, self.found_lines)

    def smaller(self, share: float) -> Picture:
        """The picture with fewer pixels."""
        return self.picture if share >= 1 else resize(self.picture, self.picture.size.scaled(share))

    def usual(self) -> Sequence[Recipe]:
        """The renditions to begin with, the heaviest first; they bracket what will be chosen."""
        return self._allowed(self._usual())

    def _allowed(self, recipes: Iterable[Recipe]) -> list[Recipe]:
        """Of some recipes those that may be made here."""
        return [each for each in recipes if each.extension in self.kinds and (each.share >= 1 or not self.keeps_pixels)]

    def _usual(self) -> Sequence[Recipe]:
        if self.is_photograph and "jpeg" in self.kinds:
            # Of a large picture the first weighs as much as its pixels do, and there are few of them in a file.
            which = _PHOTOGRAPH[1:] if self.picture.size.pixels > _LARGE_PIXELS else _PHOTOGRAPH
            return [Recipe(Way.JPEG, quality, self._share(ppi), full) for quality, ppi, full in which]
        if self.is_photograph:
            return [Recipe(Way.COLOURS, count, self._share(ppi)) for count, ppi in _PHOTOGRAPH_AS_PNG]
        return (*_SCREEN, *_MIXED) if self._may_be_jpeg else _SCREEN

    def _share(self, ppi: float) -> float:
        """The share of its pixels that leaves so many to the placed inch; 0 stands for all of them."""
        return min(1.0, ppi / self.native_ppi) if ppi and not self.keeps_pixels else 1.0

    @property
    def _may_be_jpeg(self) -> bool:
        """Whether a screen shows a photograph, or is a JPEG that has to stay one."""
        if self.picture.has_alpha:
            return False
        return "png" not in self.kinds or self.histogram.counts.size >= _MANY_COLOURS

    def unusual(self) -> Sequence[Recipe]:
        """What may still be lighter: a screen gives up pixels last."""
        if self.is_photograph:
            return ()
        further = (*_SCREEN_FURTHER, *_MIXED_FURTHER) if self._may_be_jpeg else _SCREEN_FURTHER
        return self._allowed(further)

    def fallen(self) -> Sequence[Recipe]:
        """What is lighter still, and below the floor."""
        recipes = [Recipe(Way.JPEG, quality, self._share(ppi)) for quality, ppi in _FALLEN_PHOTOGRAPH]
        if not self.is_photograph:
            recipes = [Recipe(Way.COLOURS, count, share) for count, share in _FALLEN_SCREEN]
        return self._allowed(recipes)

    def made(self, recipe: Recipe) -> Rendition:
        """A rendition, measured."""
        data, seen = self._encoded(recipe)
        loss = self.original.loss(seen)
        return Rendition(
            data, recipe.extension, seen.size, recipe.way, loss.total, recipe.amount, self.is_above_floor(loss)
        )

    def _encoded(self, recipe: Recipe) -> tuple[bytes, Picture | Indexed]:
        """The bytes, and what is seen of them."""
        smaller = self.smaller(recipe.share)
        density = self.density_ppi * smaller.size.width / self.picture.size.width if self.density_ppi else None
        if recipe.way is Way.JPEG:
            data = encode_jpeg(smaller, recipe.amount, full_colour=recipe.full_colour, density_ppi=density)
            return data, decode(data)
        histogram = self.histogram if smaller is self.picture else Histogram.of(smaller.pixels)
        seen = in_few_colours(histogram, recipe.amount)
        return indexed_png(seen, density, SEARCHING), seen


class _LookedAt:
    """The pictures that were looked at last: one that is looked at closely is asked for again and again."""

    def __init__(self, most_pixels: int) -> None:
        self._most = most_pixels
        self._lock = threading.Lock()
        self._seen: OrderedDict[int, tuple[weakref.ref[Ladder], _Seen]] = OrderedDict()

    def of(self, ladder: Ladder, look: Callable[[], _Seen]) -> _Seen:
        """What is seen of a ladder's picture; only of a few, and of none that is large, is it kept."""
        key = id(ladder)
        with self._lock:
            kept = self._seen.get(key)
            if kept is not None and kept[0]() is ladder:
                self._seen.move_to_end(key)
                return kept[1]
        seen = look()
        with self._lock:
            self._seen[key] = weakref.ref(ladder), seen
            while self._seen and sum(each.picture.size.pixels for _, each in self._seen.values()) > self._most:
                self._seen.popitem(last=False)
        return seen


_LOOKED_AT = _LookedAt(most_pixels=6_000_000)
"""Some 25 bytes a pixel are worked out of each."""
_GATE = Gate(most_pixels=8_000_000)
"""Of all that are worked on side by side."""


@dataclass(eq=False)
class Ladder:
    """One picture, in all the places where it stands with the same pixels; it is in memory only while it is worked on."""

    load: Callable[[], Picture]
    first: Rendition
    placed_width: Length
    """The largest width that it is placed at."""
    kinds: frozenset[str] = frozenset({"png", "jpeg"})
    """The extensions that its renditions may have."""
    keeps_pixels: bool = False
    """Where it would be shown otherwise with fewer of them."""
    density_ppi: float | None = None
    """Where its density says how large it is by itself: with fewer pixels it stays as large."""
    made: dict[Recipe, Rendition] = field(default_factory=dict)
    """What was made so far, below the floor too, each packed as tightly as it was asked for."""
    packed: set[Recipe] = field(default_factory=set)
    _is_begun: bool = False
    _went_further: bool = False
    _is_fallen: bool = False
    _lines: Sequence[Line] | None = None

    def __post_init__(self) -> None:
        self.made.setdefault(FIRST, self.first)

    def _seen(self) -> _Seen:
        return _LOOKED_AT.of(
            self,
            lambda: _Seen(self.load(), self.placed_width, self.kinds, self.keeps_pixels, self.density_ppi, self._lines),
        )

    @property
    def is_begun(self) -> bool:
        """Whether the renditions that bracket what will be chosen are made."""
        return self._is_begun

    def begin(self) -> None:
        """Make the renditions that bracket what will be chosen."""
        if not self._is_begun:
            self._make(_Seen.usual)
            self._is_begun = True

    def go_further(self) -> None:
        """Make what may still be lighter."""
        if not self._went_further:
            self._make(_Seen.unusual)
            self._went_further = True

    def fall(self) -> None:
        """Make what is below the floor, for where the user lets it fall so far."""
        if not self._is_fallen:
            self._make(_Seen.fallen)
            self._is_fallen = True

    def make(self, recipe: Recipe) -> None:
        """Make one rendition."""
        if recipe not in self.made:
            self._make(lambda _: (recipe,))

    def _make(self, which: Callable[[_Seen], Iterable[Recipe]]) -> None:
        with _GATE.passed(self.first.size.pixels):
            seen = self._seen()
            for recipe in which(seen):
                if recipe not in self.made:
                    self.made[recipe] = seen.made(recipe)
            self._lines = seen.found_lines

    def pack(self, recipe: Recipe) -> None:
        """Pack a rendition that was made as tightly as can be; slow, and never done twice."""
        if recipe not in self.packed:
            self.made[recipe] = packed_tighter(self.made[recipe])
            self.packed.add(recipe)

    def rungs(self, *, below_floor: bool = False) -> list[Recipe]:
        """What may be chosen, the heaviest first: above the floor, and beaten by no other in both bytes and loss."""
        return worth_keeping({recipe: each for recipe, each in self.made.items() if each.is_above_floor or below_floor})

    def between(
        self, lighter: Recipe, heavier: Recipe, most_bytes: float = 0.0, *, only_with_room: bool = False
    ) -> Recipe | None:
        """A recipe between a rung and the heavier one above it, the best that is expected to weigh no more than that.

        It lies half-way where no such weight lies between the two. None where there is nothing new between; with
        `only_with_room` also where even the least step is expected to weigh more.
        """
        if lighter.way not in _MOST:
            return None
        is_alike = (heavier.way, heavier.full_colour) == (lighter.way, lighter.full_colour)
        if is_alike and heavier.share - lighter.share > _SAME_SHARE:
            far = _how_far(self.made[lighter].bytes, self.made[heavier].bytes, most_bytes)
            share = lighter.share + far * (heavier.share - lighter.share)
            middle = replace(lighter, amount=_amount_at(far, lighter.amount, heavier.amount, lighter.way), share=share)
            if middle not in self.made:
                return middle
        low, high = self._neighbours(lighter, heavier, most_bytes)
        far = _how_far(low.bytes, high.bytes, most_bytes)
        least = low.amount if only_with_room else low.amount + 1
        amount = min(max(_amount_at(far, low.amount, high.amount, lighter.way), least), high.amount - 1)
        return replace(lighter, amount=amount) if amount > low.amount else None

    def _neighbours(self, lighter: Recipe, heavier: Recipe, between_bytes: float) -> tuple[_Known, _Known]:
        """With as many pixels as the lighter one: the two amounts made, worth keeping or not, between which such a weight lies.

        The first two where it lies between none.
        """
        alike = [
            _Known(recipe.amount, made.bytes)
            for recipe, made in self.made.items()
            if recipe.amount >= lighter.amount and replace(recipe, amount=lighter.amount) == lighter
        ]
        alike.sort(key=lambda each: each.amount)
        if replace(heavier, amount=lighter.amount) != lighter:
            # The heavier one stands for what comes after the last amount, as if it had as few pixels.
            as_few = self.made[heavier].bytes * (lighter.share / heavier.share) ** 2
            alike.append(_Known(_MOST[lighter.way] + 1, as_few))
        pairs = list(pairwise(alike))
        return next((pair for pair in pairs if pair[0].bytes < between_bytes < pair[1].bytes), pairs[0])


class _Known(NamedTuple):
    """What an amount of colours or a quality weighs."""

    amount: int
    bytes: float


_MOST = {Way.COLOURS: 256, Way.JPEG: 100}
_SAME_SHARE = 0.02


def _how_far(least: float, most: float, wanted: float) -> float:
    """How far between two weights a third one is expected: each step makes it heavier by about the same ratio."""
    if not least < wanted < most:
        return 0.5
    return math.log(wanted / least) / math.log(most / least)


def _amount_at(far: float, low: int, high: int, way: Way) -> int:
    """The amount so far on the way from one to another: colours by their ratio, qualities by their difference."""
    if way is Way.COLOURS:
        return math.floor(low * math.pow(high / low, far))
    return math.floor(low + far * (high - low))


def worth_keeping(made: Mapping[Recipe, Rendition]) -> list[Recipe]:
    """Leave out what another rendition beats in both bytes and loss; the heaviest first."""
    kept: list[Recipe] = []
    for recipe, rendition in sorted(made.items(), key=lambda each: (each[1].bytes, each[1].loss)):
        if not kept or rendition.loss < made[kept[-1]].loss:
            kept.append(recipe)
    return kept[::-1]
