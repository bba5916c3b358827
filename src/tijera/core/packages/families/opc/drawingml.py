"""What DrawingML says the same way in every document: a picture's crop."""

from __future__ import annotations

from fractions import Fraction

from tijera.core.packages.containers.xmlspan import Element, percentage, whole_number
from tijera.core.packages.places.spots import WHOLE, Crop
from tijera.core.units import round_half_up

_THOUSANDTHS_OF_PERCENT = 100_000
_MOST_OUTSET = 10**9
_SIDES = ("l", "t", "r", "b")


def crop_of(source_rectangle: Element | None) -> Crop:
    """The crop that a `srcRect` gives (ECMA-376 Part 1 §20.1.8.55; number from memory)."""
    if source_rectangle is None:
        return WHOLE
    return Crop(*(_share(source_rectangle, side) for side in _SIDES))


def is_outset(source_rectangle: Element) -> bool:
    """Whether it adds room at a side instead of hiding some of the picture."""
    return any(_fraction(source_rectangle, side) < 0 for side in _SIDES)


def written_sides(crop: Crop, *, in_percent: bool) -> dict[str, str]:
    """The attributes of a `srcRect` for a crop: thousandths of a percent, or "12.5%" as strict files have it."""
    shares = zip(_SIDES, (crop.left, crop.top, crop.right, crop.bottom), strict=True)
    numbers = {side: round_half_up(share * _THOUSANDTHS_OF_PERCENT) for side, share in shares}
    return {side: f"{number / 1000:g}%" if in_percent else str(number) for side, number in numbers.items() if number}


def _share(crop: Element, side: str) -> float:
    """One side; outsets count as nothing."""
    return min(max(float(_fraction(crop, side)), 0.0), 1.0)


def _fraction(crop: Element, side: str) -> Fraction:
    """One side: thousandths of a percent, or "12.5%" in strict files."""
    text = crop.get(side, "0")
    share = percentage(text)
    if share is not None:
        return share
    return Fraction(whole_number(text, 0, -_MOST_OUTSET, _MOST_OUTSET), _THOUSANDTHS_OF_PERCENT)
