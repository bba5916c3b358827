"""A mark as data, and what a kind of mark is made of.

A kind declares its options once, as the fields of a frozen dataclass; what the interface offers, what is checked and
what the drawing gets (the resolved options) all come from that one declaration.
"""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar

from tijera.core.errors import MarkEmpty, MarkTooLong, OptionUnreadable, TextTooLong
from tijera.core.marks.colours import COLOURS
from tijera.core.marks.ground import Ground
from tijera.core.marks.letters import FACES
from tijera.core.marks.operations import Operation, Point

Value = str | float | bool
MOST_POINTS = 20_000
MOST_CHARACTERS = 2_000
FURTHEST = 200_000.0


@dataclass(frozen=True)
class Mark:
    """An object on a clipping: anchors in clipping pixels, and the options that differ from its kind's own."""

    id: str
    kind: str
    points: tuple[Point, ...]
    options: Mapping[str, Value]
    pressures: tuple[float, ...] = ()
    """Of a pen stroke, one a point, 0 to 1; none where the device has none."""


@dataclass(frozen=True)
class Around:
    """What a mark is drawn in: the scale of the place, what lies beneath, and its number among its like."""

    px_per_pt: float
    ground: Ground
    number: int = 1


# Options


@dataclass(frozen=True)
class Choice:
    """One of several named values."""

    label: str
    values: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class Amount:
    """A number with a unit: "pt" at the placed size, "px", "%", "°"."""

    label: str
    least: float
    most: float
    unit: str


@dataclass(frozen=True)
class Words:
    """A text; `lines` tells whether it may have several."""

    label: str
    lines: bool


@dataclass(frozen=True)
class Switch:
    """On or off."""

    label: str


Option = Choice | Amount | Words | Switch


def choice(label: str, default: str, **values: str) -> Any:  # noqa: ANN401  (a field of whatever type)
    """Declare a choice; a name's underscores are hyphens in its value."""
    named = tuple((key.replace("_", "-"), text) for key, text in values.items())
    return field(default=default, metadata={"option": Choice(label, named)})


def paint(default: str, label: str = "Colour", also: tuple[tuple[str, str], ...] = ()) -> Any:  # noqa: ANN401
    """Declare a colour of the palette."""
    named = (*also, *((key, name) for key, (name, _) in COLOURS.items()))
    return field(default=default, metadata={"option": Choice(label, named)})


def typeface() -> Any:  # noqa: ANN401
    """Declare a typeface."""
    return field(default="next", metadata={"option": Choice("Font", tuple(FACES.items()))})


def amount(label: str, default: float, least: float, most: float, unit: str = "pt") -> Any:  # noqa: ANN401
    """Declare an amount."""
    return field(default=default, metadata={"option": Amount(label, least, most, unit)})


def words(label: str, *, lines: bool = False) -> Any:  # noqa: ANN401
    """Declare a text; empty unless given."""
    return field(default="", metadata={"option": Words(label, lines)})


def switch(label: str, *, default: bool) -> Any:  # noqa: ANN401
    """Declare a switch."""
    return field(default=default, metadata={"option": Switch(label)})


O = TypeVar("O")  # noqa: E741


@dataclass(frozen=True)
class MarkKind(Generic[O]):
    """A kind of mark. `gesture` tells the interface how it is made: "drag" from point to point, "box" from corner to
    corner, "click", or "stroke" along the way of the pointer.
    """

    id: str
    name: str
    gesture: str
    options: type[O]
    draw: Callable[[tuple[Point, ...], O, Around, tuple[float, ...]], tuple[Operation, ...]]
    touch: Callable[[tuple[Point, ...], O, Around], tuple[tuple[Point, ...], bool]] | None = None
    """The outline that a pointer takes hold of, and whether its inside counts; the box of what is drawn without it."""
    derived: Mapping[str, Derived] = field(default_factory=dict)
    least_points: int = 2
    may_be_small: bool = False
    """A click makes it; else from anchor to anchor there must be some way."""

    def declared(self) -> dict[str, Option]:
        """Its options by name."""
        return {each.name: each.metadata["option"] for each in dataclasses.fields(self.options)}  # type: ignore[arg-type]

    def defaults(self) -> dict[str, Value]:
        """What its options are until they are changed."""
        return {each.name: each.default for each in dataclasses.fields(self.options)}  # type: ignore[arg-type,misc]

    def resolve(self, given: Mapping[str, Value]) -> O:
        """The options of a mark, all of them, checked. Raises `OptionUnreadable`, `TextTooLong`."""
        declared = self.declared()
        for name in given:
            if name not in declared:
                raise OptionUnreadable(option="the mark", value=name, why=f"{self.name} has no such option")
        return self.options(**{name: _checked(declared[name], value) for name, value in given.items()})


@dataclass(frozen=True)
class Derived:
    """Something that can be read off the anchors and typed instead: the angle of a line, its length."""

    label: str
    unit: str
    read: Callable[[tuple[Point, ...]], float]
    write: Callable[[tuple[Point, ...], float], tuple[Point, ...]]


def _checked(option: Option, value: Value) -> Value:
    if isinstance(option, Choice):
        if value not in [key for key, _ in option.values]:
            raise OptionUnreadable(option=option.label, value=value, why="it is none of the choices")
        return value
    if isinstance(option, Amount):
        if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
            raise OptionUnreadable(option=option.label, value=value, why="it is no number")
        if not option.least <= value <= option.most:
            span = f"it must lie between {option.least:g} and {option.most:g} {option.unit}"
            raise OptionUnreadable(option=option.label, value=value, why=span)
        return float(value)
    if isinstance(option, Switch):
        if not isinstance(value, bool):
            raise OptionUnreadable(option=option.label, value=value, why="it is either on or off")
        return value
    text = str(value)
    if len(text) > MOST_CHARACTERS:
        raise TextTooLong(count=len(text), most=MOST_CHARACTERS)
    # Control characters can't be drawn, and SVG text may not hold them.
    cleaned = "".join(sign for sign in text if sign == "\n" or sign.isprintable() or sign == "\u00ad")
    return cleaned if option.lines else " ".join(cleaned.split())


def check_points(kind: MarkKind[Any], points: tuple[Point, ...]) -> tuple[Point, ...]:
    """The anchors of a mark, checked. Raises `MarkEmpty`, `MarkTooLong`."""
    if len(points) > MOST_POINTS:
        raise MarkTooLong(count=len(points), most=MOST_POINTS)
    if not all(math.isfinite(value) and abs(value) <= FURTHEST for point in points for value in point):
        raise MarkEmpty(what=kind.name)
    if len(points) < kind.least_points:
        raise MarkEmpty(what=kind.name)
    if not kind.may_be_small:
        xs, ys = zip(*points, strict=True)
        across, down = max(xs) - min(xs), max(ys) - min(ys)
        if (kind.gesture == "box" and min(across, down) < 1) or max(across, down) < 1:
            raise MarkEmpty(what=kind.name)
    return tuple((round(x, 2), round(y, 2)) for x, y in points)
