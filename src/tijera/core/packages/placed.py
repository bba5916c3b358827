"""What goes into a document of any format, and what comes out."""

from __future__ import annotations

from dataclasses import dataclass

from tijera.core.packages.spots import Spot, SpotKind
from tijera.core.units import Length

CLEAR = Length.from_mm(3)
"""Room above and below a picture in the body."""
_CLEAR_IN_CELL = Length.from_mm(1)


@dataclass(frozen=True)
class PlacedPicture:
    """A picture as it goes into a document: encoded bytes and measures."""

    spot: str
    data: bytes
    extension: str
    """"png" or "jpeg"."""
    width: Length
    height: Length
    description: str
    """The alternative text; may be empty."""


@dataclass(frozen=True)
class Written:
    """A written copy, and the member that each placed picture went into."""

    data: bytes
    members: tuple[str, ...]


def clear_of(spot: Spot, height: Length) -> Length:
    """The room above and below a picture: one as high as its place leaves no room to be clear of anything."""
    clear = CLEAR if spot.kind is SpotKind.BODY else _CLEAR_IN_CELL
    return min(clear, Length(max((spot.height.emu - height.emu) // 2, 0)))
