"""Namespaces and lengths of OpenDocument (ODF 1.2 Part 1 §1.4 and §18.3.18; clause numbers from memory)."""

from __future__ import annotations

import re
from fractions import Fraction
from functools import cache

from tijera.core.packages.containers.xmlspan import Element
from tijera.core.units import EMU_PER_INCH, EMU_PER_MM, EMU_PER_PIXEL

_URN = "urn:oasis:names:tc:opendocument:xmlns:"
NAMESPACES = {
    "office": f"{_URN}office:1.0",
    "style": f"{_URN}style:1.0",
    "text": f"{_URN}text:1.0",
    "table": f"{_URN}table:1.0",
    "draw": f"{_URN}drawing:1.0",
    "fo": f"{_URN}xsl-fo-compatible:1.0",
    "svg": f"{_URN}svg-compatible:1.0",
    "manifest": f"{_URN}manifest:1.0",
    "xlink": "http://www.w3.org/1999/xlink",
}
_EMU_BY_UNIT = {
    "cm": Fraction(10 * EMU_PER_MM),
    "mm": Fraction(EMU_PER_MM),
    "in": Fraction(EMU_PER_INCH),
    "pt": Fraction(EMU_PER_INCH, 72),
    "pc": Fraction(EMU_PER_INCH, 6),
    "px": Fraction(EMU_PER_PIXEL),
}
_LENGTH = re.compile(r"(-?(?:[0-9]{1,9}(?:\.[0-9]{0,9})?|\.[0-9]{1,9}))(cm|mm|in|pt|pc|px)")
_SHARE = re.compile(r"([0-9]{1,9}(?:\.[0-9]{0,9})?)\*")
_MOST_EMU = 10**12


@cache
def q(prefixed: str) -> str:
    """The qualified name of "text:p"."""
    prefix, local = prefixed.split(":")
    return f"{{{NAMESPACES[prefix]}}}{local}"


def declared(*prefixes: str) -> str:
    """Declarations for an element of ours, so that it stands for itself whatever the part calls its namespaces."""
    return "".join(f' xmlns:{prefix}="{NAMESPACES[prefix]}"' for prefix in prefixes)


def length(text: str | None) -> Fraction | None:
    """Read "2.5cm" as EMU before rounding; None for anything else, percentages too."""
    match = _LENGTH.fullmatch(text.strip()) if text else None
    value = Fraction(match[1].rstrip(".")) * _EMU_BY_UNIT[match[2]] if match else None
    return value if value is not None and abs(value) <= _MOST_EMU else None


def share(text: str | None) -> Fraction | None:
    """Read a relative width, "32768*"."""
    match = _SHARE.fullmatch(text.strip()) if text else None
    return Fraction(match[1].rstrip(".")) if match else None


def length_of(node: Element | None, prefixed: str) -> Fraction | None:
    """An attribute as a length; None where it, or the element, is not there."""
    return None if node is None else length(node.get(q(prefixed)))


def sides(node: Element | None, what: str, *which: str) -> Fraction:
    """The sum of a box's sides: `fo:margin-left` and the like, or the one value that stands for all sides."""
    if node is None:
        return Fraction(0)
    every = length_of(node, f"fo:{what}")
    found = (length_of(node, f"fo:{what}-{side}") for side in which)
    return sum(((every or Fraction(0)) if each is None else each for each in found), Fraction(0))


def borders(node: Element | None, *which: str) -> Fraction:
    """The sum of the widths of some sides' lines, "0.5pt solid #000000"."""
    if node is None:
        return Fraction(0)
    every = node.get(q("fo:border"))
    lines = (node.get(q(f"fo:border-{side}"), every) for side in which)
    widths = (next((length(word) for word in (line or "").split() if length(word)), None) for line in lines)
    return sum((each for each in widths if each), Fraction(0))


def written(emu: int) -> str:
    """A length in millimetres, to the tenth of a micrometre, never longer than it is."""
    sign, (whole, part) = "-" if emu < 0 else "", divmod(abs(emu) * 10_000 // EMU_PER_MM, 10_000)
    return f"{sign}{whole}.{part:04}".rstrip("0").rstrip(".") + "mm"
