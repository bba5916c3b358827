"""What DrawingML says the same way in every document: a picture's crop."""

from __future__ import annotations

from fractions import Fraction

from tijera.core.packages.containers.xmlspan import Element, percentage, whole_number
from tijera.core.packages.places.spots import WHOLE, Crop

_THOUSANDTHS_OF_PERCENT = 100_000
_MOST_OUTSET = 10**9


def crop_of(source_rectangle: Element | None) -> Crop:
    """The crop that a `srcRect` gives (ECMA-376 Part 1 §20.1.8.55; number from memory)."""
    if source_rectangle is None:
        return WHOLE
    return Crop(*(_share(source_rectangle, side) for side in ("l", "t", "r", "b")))


def _share(crop: Element, side: str) -> float:
    """One side: thousandths of a percent, or "12.5%" in strict files; outsets count as nothing."""
    text = crop.get(side, "0")
    share = percentage(text)
    if share is None:
        share = Fraction(whole_number(text, 0, -_MOST_OUTSET, _MOST_OUTSET), _THOUSANDTHS_OF_PERCENT)
    return min(max(float(share), 0.0), 1.0)
