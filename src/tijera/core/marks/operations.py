"""Drawing operations: what a mark is drawn with. All in clipping pixels, x to the right, y down."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum

Point = tuple[float, float]
Box = tuple[float, float, float, float]
"""Left, top, right, bottom."""

Command = tuple[str, *tuple[float, ...]]
"""A path command as in SVG 2, 9.3: M, L, Q, C, A and Z, absolute, with its numbers."""


class Blend(StrEnum):
    """How an operation meets what lies beneath (CSS Compositing and Blending 1)."""

    NORMAL = "normal"
    MULTIPLY = "multiply"
    SCREEN = "screen"


@dataclass(frozen=True)
class Shape:
    """A path, filled, stroked, or both. `bounds` holds all of it but the stroke's width."""

    path: tuple[Command, ...]
    bounds: Box
    fill: str | None = None
    stroke: str | None = None
    width: float = 0.0
    blend: Blend = Blend.NORMAL

    @property
    def box(self) -> Box:
        """The rectangle that it can colour; mitres are not used, so half the width is enough."""
        return grown(self.bounds, self.width / 2 if self.stroke else 0.0)


@dataclass(frozen=True)
class Letters:
    """One line of text. `baseline` is where its first letter stands; `advance` how far it runs."""

    text: str
    baseline: Point
    advance: float
    family: str
    weight: int
    size: float
    colour: str
    edge: str | None = None
    edge_width: float = 0.0
    leftwards: bool = False
    """Whether it is written from right to left; `baseline` is its left end all the same."""

    @property
    def box(self) -> Box:
        """A rectangle that surely holds it; accents and tails count."""
        x, y = self.baseline
        return grown((x, y - 1.1 * self.size, x + self.advance * 1.06, y + 0.4 * self.size), self.edge_width)


Operation = Shape | Letters


def grown(box: Box, by: float) -> Box:
    """The box, larger on every side."""
    return (box[0] - by, box[1] - by, box[2] + by, box[3] + by)


def box_of(points: Iterable[Point]) -> Box:
    """The smallest box round points."""
    xs, ys = zip(*points, strict=True)
    return (min(xs), min(ys), max(xs), max(ys))


def joined(boxes: Iterable[Box]) -> Box | None:
    """The box round boxes; None for none."""
    lefts = list(boxes)
    if not lefts:
        return None
    return (
        min(box[0] for box in lefts),
        min(box[1] for box in lefts),
        max(box[2] for box in lefts),
        max(box[3] for box in lefts),
    )


def polygon(points: Iterable[Point], *, closed: bool = True) -> tuple[Command, ...]:
    """A path along points."""
    first, *rest = points
    path: list[Command] = [("M", *first), *(("L", *point) for point in rest)]
    return tuple([*path, ("Z",)] if closed else path)


def rounded(box: Box, radius: float) -> tuple[Command, ...]:
    """A rectangle with round corners."""
    left, top, right, bottom = box
    r = min(radius, (right - left) / 2, (bottom - top) / 2)
    if r <= 0:
        return polygon(((left, top), (right, top), (right, bottom), (left, bottom)))
    return (
        ("M", left + r, top),
        ("L", right - r, top),
        ("A", r, r, 0, 0, 1, right, top + r),
        ("L", right, bottom - r),
        ("A", r, r, 0, 0, 1, right - r, bottom),
        ("L", left + r, bottom),
        ("A", r, r, 0, 0, 1, left, bottom - r),
        ("L", left, top + r),
        ("A", r, r, 0, 0, 1, left + r, top),
        ("Z",),
    )
