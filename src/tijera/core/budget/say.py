"""What the user says of a picture that may have to give something up."""

from __future__ import annotations

from collections.abc import Iterable
from enum import StrEnum


class Say(StrEnum):
    """How much a picture's loss counts against that of others."""

    USUAL = "usual"
    KEEP = "keep-as-it-is"
    """It gives up nothing, whatever it weighs."""
    MORE = "matters-more"
    LESS = "may-suffer"
    FALL = "may-become-unreadable"
    """It may fall below the floor of what can be read."""

    @property
    def matters(self) -> float:
        """The weight of its loss (by eye: four times is seen, ten times starves the others)."""
        return {Say.MORE: 4.0, Say.LESS: 0.25, Say.FALL: 0.25}.get(self, 1.0)


def strongest(said: Iterable[Say]) -> Say:
    """What counts for a picture of which different things are said: its most demanding place."""
    found = set(said) or {Say.USUAL}
    return next(each for each in (Say.KEEP, Say.MORE, Say.USUAL, Say.LESS, Say.FALL) if each in found)
