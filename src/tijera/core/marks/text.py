"""Text: on a ground of its own or straight on the picture, then with an edge where it would not be read."""

from __future__ import annotations

from dataclasses import dataclass, replace

from tijera.core.marks.colours import LEAST_TEXT_CONTRAST, contrast, edge_for, hex_of, luminance, words_on
from tijera.core.marks.letters import LINE_HEIGHT, Face, face, lines_of
from tijera.core.marks.mark import Around, MarkKind, amount, paint, switch, typeface, words
from tijera.core.marks.operations import Box, Letters, Operation, Point, Shape, rounded
from tijera.core.marks.scripts import runs_leftwards

_PADDING = 0.4
"""Round text on a ground, in ems."""
_EDGE_PT = 1.4


@dataclass(frozen=True)
class TextOptions:
    """What text can have."""

    text: str = words("Says", lines=True)
    font: str = typeface()
    size_pt: float = amount("Size", 9.0, 4.0, 72.0)
    bold: bool = switch("Bold", default=False)
    colour: str = paint("ink")
    ground: str = paint("paper", "Ground", also=(("none", "no ground"),))


@dataclass(frozen=True)
class Set:
    """Text that is set: its lines where they stand, and the box of its ground."""

    lines: tuple[Letters, ...]
    box: Box


def set_text(
    text: str, of: Face, size: float, corner: Point, tint: str, width: float | None = None, padding: float = _PADDING
) -> Set:
    """Set text from its left upper corner; `width` breaks its lines, in pixels, with the padding counted in."""
    pad = padding * size
    inner = None if width is None else max(width - 2 * pad, size)
    lines = lines_of(text, of, size, inner)
    step = LINE_HEIGHT * size
    # The middle of the capitals stands in the middle of the line.
    first = corner[1] + pad + (step + of.cap_height * size) / 2
    shown = [of.drawable(line) for line in lines]
    advances = [of.advance(line, size) for line in shown]
    widest = max(advances, default=0.0)
    across = widest + 2 * pad if width is None else max(width, widest + 2 * pad)
    letters = []
    for number, (line, advance) in enumerate(zip(shown, advances, strict=True)):
        leftwards = runs_leftwards(line)
        x = corner[0] + (across - pad - advance if leftwards else pad)
        at = (x, first + number * step)
        letters.append(Letters(line, at, advance, of.families(line), of.weight, size, tint, leftwards=leftwards))
    box = (corner[0], corner[1], corner[0] + across, corner[1] + len(lines) * step + 2 * pad)
    return Set(tuple(letters), box)


def readable_on(tint: str, ground: str) -> str:
    """The colour asked for, where it can be read on the ground; else ink or paper."""
    return tint if contrast(luminance(tint), luminance(ground)) >= LEAST_TEXT_CONTRAST else words_on(ground)


def with_edge(each: Letters, around: Around) -> Letters:
    """The letters with an edge, where the picture beneath would swallow them."""
    left, top, right, bottom = each.box
    count = 12
    samples = [
        (left + (right - left) * (i + 0.5) / count, top + (bottom - top) * (j + 0.5) / 4)
        for i in range(count)
        for j in range(4)
    ]
    if not around.ground.hides(each.colour, samples):
        return each
    return replace(each, edge=edge_for(each.colour), edge_width=2 * _EDGE_PT * around.px_per_pt)


def _set(points: tuple[Point, ...], options: TextOptions, around: Around) -> Set:
    ground = None if options.ground == "none" else hex_of(options.ground)
    tint = hex_of(options.colour)
    width = abs(points[1][0] - points[0][0]) if len(points) > 1 else None
    return set_text(
        options.text or " ",
        face(options.font, bold=options.bold),
        options.size_pt * around.px_per_pt,
        points[0],
        tint if ground is None else readable_on(tint, ground),
        width if width and width > options.size_pt * around.px_per_pt else None,
    )


def _draw(
    points: tuple[Point, ...], options: TextOptions, around: Around, _pressures: tuple[float, ...]
) -> tuple[Operation, ...]:
    placed = _set(points, options, around)
    if options.ground == "none":
        return tuple(with_edge(each, around) for each in placed.lines)
    ground = Shape(rounded(placed.box, 2 * around.px_per_pt), placed.box, fill=hex_of(options.ground))
    return (ground, *placed.lines)


def _touch(points: tuple[Point, ...], options: TextOptions, around: Around) -> tuple[tuple[Point, ...], bool]:
    left, top, right, bottom = _set(points, options, around).box
    return ((left, top), (right, top), (right, bottom), (left, bottom)), True


KIND = MarkKind("text", "Text", "click", TextOptions, _draw, _touch, least_points=1, may_be_small=True)
