"""How small text may become where a clipping stands."""

from __future__ import annotations

from enum import StrEnum

SMALL_PT = 6.0
"""From here down text is small (from memory)."""
FLOOR_PT = 4.5
"""Below this it is hardly read on paper (from memory)."""


class Grade(StrEnum):
    """How text stands there."""

    FINE = "fine"
    SMALL = "small"
    WEAK = "weak"
    NONE = "none"


def grade_of(text_pt: float | None) -> Grade:
    """How text of so many points reads; None for no text."""
    if text_pt is None:
        return Grade.NONE
    if text_pt < FLOOR_PT:
        return Grade.WEAK
    return Grade.SMALL if text_pt <= SMALL_PT else Grade.FINE
