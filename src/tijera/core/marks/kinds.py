"""All kinds of mark: each module here that has a `KIND` is one. Drawing a row of marks, in order."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache, cached_property
from typing import Any

from tijera import core
from tijera.core.errors import MarkUnknown
from tijera.core.marks.ground import Ground
from tijera.core.marks.letters import face
from tijera.core.marks.mark import Around, Mark, MarkKind, check_points
from tijera.core.marks.operations import Box, Operation, Point, box_of, joined
from tijera.core.marks.svg import group

_MOST_DRAWN = 4_000


@cache
def kinds() -> Mapping[str, MarkKind[Any]]:
    """Every kind by its id."""
    folder = f"{core.__name__}.marks"
    package = importlib.import_module(folder)
    modules = (importlib.import_module(f"{folder}.{each.name}") for each in pkgutil.iter_modules(package.__path__))
    found = [module.KIND for module in modules if hasattr(module, "KIND")]
    return {kind.id: kind for kind in found}


def kind_of(name: str) -> MarkKind[Any]:
    """A kind by its id; raise `MarkUnknown`."""
    if name not in kinds():
        raise MarkUnknown(kind=name)
    return kinds()[name]


def checked(mark: Mark) -> Mark:
    """The mark with its anchors and options checked. Raises `MarkUnknown`, `MarkEmpty`, `MarkTooLong` and more."""
    kind = kind_of(mark.kind)
    points = check_points(kind, mark.points)
    resolved = kind.resolve(mark.options)
    options = {name: getattr(resolved, name) for name in mark.options}
    pressures = mark.pressures if len(mark.pressures) == len(points) else ()
    return replace(mark, points=points, options=options, pressures=tuple(min(max(p, 0.0), 1.0) for p in pressures))


@dataclass(frozen=True)
class Drawn:
    """A mark that is drawn: its operations, and where it can be taken hold of."""

    mark: Mark
    operations: tuple[Operation, ...]
    touch: tuple[Point, ...]
    touch_closed: bool
    box: Box
    number: int
    missing: tuple[str, ...]
    """Signs that its typeface lacks."""

    @cached_property
    def svg(self) -> str:
        """Its elements as SVG text, written once: a long stroke has thousands of numbers."""
        return group(self.operations, self.mark.id)


def draw(mark: Mark, px_per_pt: float, ground: Ground, number: int = 1) -> Drawn:
    """A mark as drawing operations, its options resolved; the one way from data to what is seen."""
    kind = kind_of(mark.kind)
    options = kind.resolve(mark.options)
    around = Around(px_per_pt, ground, number)
    operations = kind.draw(mark.points, options, around, mark.pressures)
    touch, closed = kind.touch(mark.points, options, around) if kind.touch else (mark.points, False)
    box = joined([*(each.box for each in operations), box_of(touch)])
    text = str(getattr(options, "text", ""))
    missing = face(getattr(options, "font", "next"), bold=bool(getattr(options, "bold", False))).missing(text)
    return Drawn(mark, operations, touch, closed, box or box_of(mark.points), number, missing)


def numbers_of(marks: Sequence[Mark]) -> list[int]:
    """Each mark's number among those of its kind and row, from 1."""
    counts: dict[tuple[str, str], int] = {}
    numbers = []
    for mark in marks:
        row = (mark.kind, str(mark.options.get("row", "")) or "numbers")
        counts[row] = counts.get(row, 0) + 1
        numbers.append(counts[row])
    return numbers


def draw_all(marks: Sequence[Mark], px_per_pt: float, ground: Ground) -> list[Drawn]:
    """Marks in their order, numbered. What was drawn on this ground already is not drawn again."""
    drawn = []
    for mark, number in zip(marks, numbers_of(marks), strict=True):
        options = tuple(sorted(mark.options.items()))
        key = (mark.id, mark.kind, mark.points, mark.pressures, options, px_per_pt, number)
        if key not in ground.drawn:
            ground.drawn[key] = draw(mark, px_per_pt, ground, number)
        drawn.append(ground.drawn[key])
    while len(ground.drawn) > _MOST_DRAWN:
        ground.drawn.pop(next(iter(ground.drawn)))
    return drawn
