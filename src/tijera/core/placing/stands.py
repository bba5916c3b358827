"""How large a clipping becomes in its place: one rule for the interface, the command line and the weight."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from tijera.core.clippings.cutting import Clipping
from tijera.core.clippings.legend import LegendLine
from tijera.core.clippings.measures import PlacedAs, placed_as
from tijera.core.errors import NotFound
from tijera.core.fit import WidthRule, natural_width
from tijera.core.packages.places.placed import PLAIN, Layout, leaving_room, room_for_words
from tijera.core.packages.places.spots import Spot
from tijera.core.units import Length

_LEAST_LEFT_BY_WORDS = 4
"""Words below a picture leave it at least this part of the height: the page tells of too many, not the picture."""
Rule = Length | WidthRule | Fraction
"""A width, a way to find it, or a share of the natural size that is kept whatever is cropped."""


@dataclass(frozen=True)
class Wish:
    """What is asked of a placement."""

    place_width: Length
    """The column that it is measured for: one of the spot's widths."""
    rule: Rule = WidthRule.FIT
    layout: Layout = PLAIN
    legend: tuple[LegendLine, ...] = ()
    """What its pennants say; counted where the layout wants it below."""

    @classmethod
    def plain(cls, spot: Spot) -> Wish:
        """Nothing but the place itself."""
        return cls(spot.width)


def stand_in(clipping: Clipping, spot: Spot, wish: Wish) -> PlacedAs:
    """How a clipping stands in a spot, edge, margins and the room for its words counted in.

    Raises `NotFound` for a column that the spot does not have, `WidthTooLarge`, `RoomTooLarge`.
    """
    if wish.place_width not in spot.widths:
        raise NotFound(what="column width", key=f"{wish.place_width.mm:.1f} mm")
    rule = wish.rule
    # Where the width is an offer and no bound, only filling it means that width.
    bound = spot.most_width if spot.free_width is not None and rule is not WidthRule.FILL else wish.place_width
    height = _height_left(spot, wish)
    if isinstance(rule, Fraction):
        found = placed_as(clipping, bound, height, WidthRule.FIT)
        kept = Length.exactly(natural_width(found.outer.width, clipping.scale_factor) * rule)
        return placed_as(clipping, bound, height, min(kept, bound))
    found = placed_as(clipping, bound, height, rule)
    if rule is WidthRule.FIT:
        narrowed = leaving_room(wish.layout.stand, found.measures.width, wish.place_width)
        if narrowed != found.measures.width:
            found = placed_as(clipping, bound, height, narrowed)
    return found


def _height_left(spot: Spot, wish: Wish) -> Length:
    """The height of the place less what the words below take."""
    height = spot.height
    if wish.layout.grows_row and spot.grows_to is not None:
        height = spot.grows_to
    lines = wish.legend if wish.layout.legend else ()
    words = room_for_words(wish.layout, lines, wish.place_width)
    return max(height - words, Length(height.emu // _LEAST_LEFT_BY_WORDS))


def scale_in(clipping: Clipping, spot: Spot, wish: Wish) -> Fraction:
    """The share of its natural size at which a clipping stands in a spot."""
    found = stand_in(clipping, spot, wish)
    return found.measures.width.emu / natural_width(found.outer.width, clipping.scale_factor)


def stand_alike(clipping: Clipping, spot: Spot, wish: Wish, group: Sequence[tuple[Clipping, Spot, Wish]]) -> PlacedAs:
    """How a clipping stands with the scale of its group, itself among it: the smallest that any of them needs."""
    natural = natural_width(stand_in(clipping, spot, wish).outer.width, clipping.scale_factor)
    width = Length(max(1, int(natural * min(scale_in(*each) for each in group))))
    return stand_in(clipping, spot, replace(wish, rule=width))
