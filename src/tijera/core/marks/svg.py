"""Drawing operations as SVG text: the very text that the mat shows is what is rasterised for what leaves (SVG 2)."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable
from xml.sax.saxutils import escape, quoteattr

from tijera.core.geometry import Size
from tijera.core.marks.operations import Blend, Box, Command, Letters, Operation, Shape


def number(value: float) -> str:
    """A coordinate with as many decimals as can be seen."""
    text = f"{value:.2f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def exact(value: float) -> str:
    """A number of the view box: two decimals could shift a large picture by a pixel."""
    return f"{value:.6f}".rstrip("0").rstrip(".") or "0"


def path_data(path: Iterable[Command]) -> str:
    """The `d` attribute of a path (SVG 2, 9.3)."""
    return "".join(command[0] + " ".join(number(value) for value in command[1:]) for command in path)


def element(operation: Operation) -> str:
    """One element for one operation."""
    return _shape(operation) if isinstance(operation, Shape) else _letters(operation)


def group(operations: Iterable[Operation], mark_id: str) -> str:
    """A mark's elements, with its id."""
    return f"<g data-mark={quoteattr(mark_id)}>{''.join(element(each) for each in operations)}</g>"


def document(body: str, box: Box, size: Size | None = None) -> str:
    """A whole SVG text that shows a box of clipping pixels, on as many pixels or on a given size."""
    left, top, right, bottom = box
    width, height = exact(right - left), exact(bottom - top)
    view = f"{exact(left)} {exact(top)} {width} {height}"
    if size is not None:
        width, height = str(size.width), str(size.height)
    return f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" viewBox="{view}">{body}</svg>'


def _shape(shape: Shape) -> str:
    said = [f'd="{path_data(shape.path)}"', f'fill="{shape.fill or "none"}"']
    if shape.stroke:
        said += [
            f'stroke="{shape.stroke}"',
            f'stroke-width="{number(shape.width)}"',
            'stroke-linecap="round"',
            'stroke-linejoin="round"',
        ]
    if shape.blend is not Blend.NORMAL:
        said.append(f'class="blend-{shape.blend.value}"')
    return f"<path {' '.join(said)}/>"


def _letters(each: Letters) -> str:
    x, y = each.baseline
    if each.leftwards:
        # Text that runs to the left begins at its right end (SVG 2, 11.4.3).
        x += each.advance
    said = (
        f'x="{number(x)}" y="{number(y)}" font-family="{each.family}" font-weight="{each.weight}" '
        f'font-size="{number(each.size)}" xml:space="preserve"'
        f"{' direction=' + quoteattr('rtl') if each.leftwards else ''}"
    )
    text = _spaced(each)
    under = ""
    if each.edge:
        # Two elements rather than paint-order: what is drawn first lies beneath for every renderer.
        under = (
            f'<text {said} fill="{each.edge}" stroke="{each.edge}" stroke-width="{number(each.edge_width)}" '
            f'stroke-linejoin="round">{text}</text>'
        )
    return f'{under}<text {said} fill="{each.colour}">{text}</text>'


def _spaced(each: Letters) -> str:
    """The words, their spaces set in the face's own font: between scripts one renderer takes them from the word before.

    Not where a part runs to the left: the parts of such a line are put in order as one text only.
    """
    own, *others = each.family.split(", ")
    if not others or each.leftwards or any(unicodedata.bidirectional(sign) in ("R", "AL") for sign in each.text):
        return escape(each.text)
    parts = re.split("( +)", each.text)
    return "".join(
        f"<tspan font-family={quoteattr(own)}>{part}</tspan>" if part.startswith(" ") else escape(part)
        for part in parts
    )
