"""Sizes and rectangles in whole pixels; x to the right, y down, the far edges exclusive."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from tijera.core.units import round_half_up


@dataclass(frozen=True)
class Size:
    """A width and a height in pixels, both at least 1."""

    width: int
    height: int

    def __post_init__(self) -> None:
        if self.width < 1 or self.height < 1:
            msg = f"a size is at least 1 × 1, not {self.width} × {self.height}"
            raise ValueError(msg)

    @property
    def pixels(self) -> int:
        """The number of pixels."""
        return self.width * self.height

    def scaled(self, factor: Fraction | float) -> Size:
        """So many times as large, at least one pixel each way."""
        return Size(max(1, round_half_up(self.width * factor)), max(1, round_half_up(self.height * factor)))

    def __str__(self) -> str:
        """Width × height, as people write it."""
        return f"{self.width} × {self.height}"


@dataclass(frozen=True)
class Rect:
    """A rectangle of at least 1 × 1 pixel; its corner may lie anywhere."""

    x: int
    y: int
    width: int
    height: int

    def __post_init__(self) -> None:
        if self.width < 1 or self.height < 1:
            msg = f"a rectangle is at least 1 × 1, not {self.width} × {self.height}"
            raise ValueError(msg)

    @classmethod
    def whole(cls, size: Size) -> Rect:
        """The rectangle that covers a size."""
        return cls(0, 0, size.width, size.height)

    @property
    def size(self) -> Size:
        """Its width and height."""
        return Size(self.width, self.height)

    @property
    def right(self) -> int:
        """The first column to the right of it."""
        return self.x + self.width

    @property
    def bottom(self) -> int:
        """The first row below it."""
        return self.y + self.height

    def lies_within(self, size: Size) -> bool:
        """Tell whether all of it lies on a picture of that size."""
        return self.x >= 0 and self.y >= 0 and self.right <= size.width and self.bottom <= size.height

    def shifted(self, dx: int, dy: int) -> Rect:
        """The same rectangle, moved."""
        return Rect(self.x + dx, self.y + dy, self.width, self.height)

    def overlap(self, other: Rect) -> int:
        """How many pixels two rectangles share."""
        across = min(self.right, other.right) - max(self.x, other.x)
        down = min(self.bottom, other.bottom) - max(self.y, other.y)
        return max(across, 0) * max(down, 0)

    def within(self, size: Size) -> Rect | None:
        """The part of it that lies on a picture of that size; None where none does."""
        left, top = max(self.x, 0), max(self.y, 0)
        right, bottom = min(self.right, size.width), min(self.bottom, size.height)
        return Rect(left, top, right - left, bottom - top) if left < right and top < bottom else None

    def meet(self, other: Rect) -> Rect | None:
        """The part that two rectangles share; None where they share none."""
        left, top = max(self.x, other.x), max(self.y, other.y)
        right, bottom = min(self.right, other.right), min(self.bottom, other.bottom)
        return Rect(left, top, right - left, bottom - top) if left < right and top < bottom else None

    def __str__(self) -> str:
        """Position and size, as people write it."""
        return f"{self.width} × {self.height} at {self.x}, {self.y}"
