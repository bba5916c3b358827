"""How many of the panes that a page says it has are found, as somebody would come to them: by pointing, then by `[` and `]`."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from PIL import Image

from tijera.core.frames.panes import cells_of, find_panes
from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture

FOLDER = Path(__file__).resolve().parent.parent / "data/panes"
TOLERANCE = 5
"""Pixels at scale 1 by which each side may be off."""
_CANDIDATES = 3


@dataclass(frozen=True)
class Score:
    """Of so many panes: found among the first three at a point, and held at first."""

    panes: int
    found: int
    first: int
    missed: tuple[Rect, ...] = ()

    def __add__(self, other: Score) -> Score:
        return Score(self.panes + other.panes, self.found + other.found, self.first + other.first)


def known_screens(*, apart: bool) -> dict[str, tuple[Picture, float, tuple[Rect, ...]]]:
    """The screens of one half: picture, scale factor, the panes that its page names."""
    import numpy as np

    known = json.loads((FOLDER / "panes.json").read_text(encoding="utf-8"))
    return {
        name: (
            Picture(np.asarray(Image.open(FOLDER / f"{name}.png").convert("RGB"))),
            each["scale"],
            tuple(Rect(*box) for box in each["panes"]),
        )
        for name, each in known.items()
        if each["apart"] is apart
    }


def score(picture: Picture, scale: float, panes: Sequence[Rect]) -> Score:
    """Point at each pane where no smaller one lies, and see what is offered there: the smallest first, cells of tables apart."""
    every = find_panes(picture)
    cells = cells_of(every)
    found = [each for each in every if each not in cells]
    hits, firsts, missed = 0, 0, []
    for pane in panes:
        inside = [other for other in panes if other != pane and _within(other, pane)]
        x, y = _own_point(pane, inside)
        offered = [each for each in found if each.x <= x < each.right and each.y <= y < each.bottom]
        near = [_is_near(each, pane, TOLERANCE * scale) for each in offered[:_CANDIDATES]]
        hits += any(near)
        firsts += near[:1] == [True]
        if not any(near):
            missed.append(pane)
    return Score(len(panes), hits, firsts, tuple(missed))


def _within(inner: Rect, outer: Rect) -> bool:
    return inner.x >= outer.x and inner.y >= outer.y and inner.right <= outer.right and inner.bottom <= outer.bottom


def _own_point(pane: Rect, inside: Sequence[Rect]) -> tuple[int, int]:
    """A point of a pane that is of none inside it, the nearest to its middle on a coarse grid."""
    steps = [index / 24 for index in range(1, 24)]
    middle = (pane.x + pane.width / 2, pane.y + pane.height / 2)
    points = sorted(
        ((round(pane.x + a * pane.width), round(pane.y + b * pane.height)) for a in steps for b in steps),
        key=lambda at: (at[0] - middle[0]) ** 2 + (at[1] - middle[1]) ** 2,
    )
    free = (
        (x, y) for x, y in points if not any(o.x - 2 <= x < o.right + 2 and o.y - 2 <= y < o.bottom + 2 for o in inside)
    )
    return next(free, points[0])


def _is_near(one: Rect, other: Rect, most: float) -> bool:
    sides = (one.x - other.x, one.y - other.y, one.right - other.right, one.bottom - other.bottom)
    return max(abs(side) for side in sides) <= most
