"""How large a clipping becomes in its place: width, height, sharpness.

A screen of scale factor s has s × 96 pixels per natural inch. A clipping takes the width of its place, or its natural
width where that is smaller (common practice: a small picture is never made larger by itself); the ratio is kept, and
a picture that would be higher than its place is scaled by its height.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from fractions import Fraction

from tijera.core.errors import WidthTooLarge
from tijera.core.geometry import Size
from tijera.core.units import EMU_PER_INCH, PIXELS_PER_INCH, Length, round_half_up


class WidthRule(Enum):
    """How a placement's width is found when no length is given."""

    FIT = "fit"
    """The place's width, or the natural width where that is smaller."""
    FILL = "fill"
    """The place's width, even if that enlarges."""


@dataclass(frozen=True)
class Measures:
    """What a clipping measures in its place."""

    width: Length
    height: Length
    ppi: float
    """Pixels kept per placed inch, across."""
    enlarged: bool
    """Larger than natural size."""
    bound_by: str
    """What decided the size: "place", "natural", "height" or "given"."""


def natural_width(width_px: int, scale_factor: float) -> Fraction:
    """The width in EMU, not yet rounded, of so many screen pixels at a scale factor."""
    return Fraction(width_px) * EMU_PER_INCH / (PIXELS_PER_INCH * Fraction(str(scale_factor)))


def measure(
    pixels: Size,
    scale_factor: float,
    place_width: Length,
    place_height: Length,
    width: Length | WidthRule = WidthRule.FIT,
) -> Measures:
    """Find the measures of a clipping of `pixels` in a place of `place_width` × `place_height`.

    Raises `WidthTooLarge` when a given width is more than the place has.
    """
    natural = natural_width(pixels.width, scale_factor)
    if isinstance(width, Length):
        if width > place_width:
            raise WidthTooLarge(width_mm=width.mm, place_mm=place_width.mm)
        exact, bound_by = Fraction(width.emu), "given"
    elif width is WidthRule.FILL or natural >= place_width.emu:
        exact, bound_by = Fraction(place_width.emu), "place"
    else:
        exact, bound_by = natural, "natural"
    ratio = Fraction(pixels.height, pixels.width)
    if exact * ratio > place_height.emu:
        exact, bound_by = place_height.emu / ratio, "height"
    placed_width, placed_height = (Length(max(1, round_half_up(emu))) for emu in (exact, exact * ratio))
    return Measures(
        width=placed_width,
        height=placed_height,
        ppi=pixels.width / placed_width.inches,
        enlarged=placed_width.emu > round_half_up(natural),
        bound_by=bound_by,
    )
