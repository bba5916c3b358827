"""The pennant: a small swallow-tailed flag with a number or a letter, placed click by click.

Its number is its place among the pennants of its row on the clipping: nothing is stored, so nothing can be wrong after
one is deleted or moved in order.
"""

from __future__ import annotations

from dataclasses import dataclass

from tijera.core.marks.arrow import edged
from tijera.core.marks.colours import hex_of, words_on
from tijera.core.marks.ground import along
from tijera.core.marks.letters import face
from tijera.core.marks.mark import Around, MarkKind, amount, choice, paint, words
from tijera.core.marks.operations import Letters, Operation, Point, Shape, box_of, polygon

_HEIGHT, _TAIL = 1.45, 0.42
"""Of the flag, and how deep its tail is cut, in ems."""
_SIDE = 0.5


@dataclass(frozen=True)
class PennantOptions:
    """What a pennant can have."""

    text: str = words("Says")
    row: str = choice("Row", "numbers", numbers="1 2 3", letters="a b c")
    size_pt: float = amount("Size", 9.0, 4.0, 72.0)
    colour: str = paint("light-glass")


def label_of(number: int, row: str) -> str:
    """What stands on a pennant: 1, 2, 3 … or a … z, aa, ab …"""
    if row == "numbers":
        return str(number)
    letters = ""
    while number > 0:
        number, rest = divmod(number - 1, 26)
        letters = chr(ord("a") + rest) + letters
    return letters


def _flag(point: Point, options: PennantOptions, around: Around) -> tuple[list[Point], Letters]:
    """The flag flies to the right of its anchor, which is the middle of its hoist."""
    size = options.size_pt * around.px_per_pt
    of = face("next", bold=True)
    label = label_of(around.number, options.row)
    advance = of.advance(label, size)
    x, y = point
    half, tail = _HEIGHT * size / 2, _TAIL * size
    right = x + _SIDE * size + max(advance, 0.6 * size) + _SIDE * size + tail
    flag = [(x, y - half), (right, y - half), (right - tail, y), (right, y + half), (x, y + half)]
    tint = words_on(hex_of(options.colour))
    start = x + _SIDE * size + (max(advance, 0.6 * size) - advance) / 2
    letters = Letters(label, (start, y + of.cap_height * size / 2), advance, of.family, of.weight, size, tint)
    return flag, letters


def _draw(
    points: tuple[Point, ...], options: PennantOptions, around: Around, _pressures: tuple[float, ...]
) -> tuple[Operation, ...]:
    flag, letters = _flag(points[0], options, around)
    shape = Shape(polygon(flag), box_of(flag), fill=hex_of(options.colour))
    return (*edged([shape], around, along([*flag, flag[0]])), letters)


def _touch(points: tuple[Point, ...], options: PennantOptions, around: Around) -> tuple[tuple[Point, ...], bool]:
    return tuple(_flag(points[0], options, around)[0]), True


KIND = MarkKind("pennant", "Pennant", "click", PennantOptions, _draw, _touch, least_points=1, may_be_small=True)
