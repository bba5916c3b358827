"""The inset: a clipping laid on another as an object. Its pixels are laid on in `tijera.core.clippings`."""

from __future__ import annotations

from dataclasses import dataclass

from tijera.core.marks.mark import Around, MarkKind, words
from tijera.core.marks.operations import Operation, Point
from tijera.core.marks.ring import corners


@dataclass(frozen=True)
class InsetOptions:
    """Which clipping is laid on."""

    clipping: str = words("Clipping")


def _draw(
    _points: tuple[Point, ...], _options: InsetOptions, _around: Around, _pressures: tuple[float, ...]
) -> tuple[Operation, ...]:
    return ()


def _touch(points: tuple[Point, ...], _options: InsetOptions, _around: Around) -> tuple[tuple[Point, ...], bool]:
    left, top, right, bottom = corners(points)
    return ((left, top), (right, top), (right, bottom), (left, bottom)), True


KIND = MarkKind("inset", "Laid on", "box", InsetOptions, _draw, _touch)
