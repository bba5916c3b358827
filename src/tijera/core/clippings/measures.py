"""How large a clipping becomes in its place, edge, margins and shadow counted in, and at which scale its marks are drawn.

Edge and shadow are given in points at the placed size, so their pixels depend on the placed width, which depends on
their pixels: found by going round until it stands still, which takes two or three turns.
"""

from __future__ import annotations

from dataclasses import dataclass

from tijera.core.clippings.composing import layout_of, natural_px_per_pt
from tijera.core.clippings.cutting import Clipping
from tijera.core.fit import Measures, WidthRule, measure
from tijera.core.geometry import Size
from tijera.core.units import POINTS_PER_INCH, Length

_TURNS = 12
_STILL = 1e-9


@dataclass(frozen=True)
class PlacedAs:
    """A clipping's measures in its place, the pixels of the finished picture, and its pixels per point there."""

    measures: Measures
    outer: Size
    px_per_pt: float
    bound_width: Length
    bound_height: Length
    """What it was fitted into."""
    rule: Length | WidthRule


def natural_scale(clipping: Clipping) -> float:
    """Pixels per point of a clipping that is not placed."""
    return natural_px_per_pt(clipping.scale_factor)


def placed_as(
    clipping: Clipping, place_width: Length, place_height: Length, width: Length | WidthRule = WidthRule.FIT
) -> PlacedAs:
    """Find the measures in a place. Raises `WidthTooLarge`, `RoomTooLarge`."""
    px_per_pt = natural_scale(clipping)
    for _ in range(_TURNS):
        outer = layout_of(clipping.crop.size, clipping.sheet, px_per_pt).outer
        found = measure(outer, clipping.scale_factor, place_width, place_height, width)
        after = outer.width / (found.width.inches * POINTS_PER_INCH)
        if abs(after - px_per_pt) <= _STILL * px_per_pt:
            break
        px_per_pt = after
    outer = layout_of(clipping.crop.size, clipping.sheet, px_per_pt).outer
    return PlacedAs(found, outer, px_per_pt, place_width, place_height, width)
