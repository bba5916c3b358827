"""Typefaces of marks: how far text runs, which signs a face lacks, where lines break.

Measures come from the fonts' own tables (made by tools/make_fonts.py); the same files draw on the mat and in what leaves.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache
from pathlib import Path

FONTS = Path(__file__).resolve().parents[2] / "fonts"
FACES = {"next": "Plain", "mono": "Fixed width", "serif": "Bookish"}
"""By key, the names that people read."""
_FILES = {
    ("next", False): "hyperlegible-next-400",
    ("next", True): "hyperlegible-next-700",
    ("mono", False): "hyperlegible-mono-400",
    ("mono", True): "hyperlegible-mono-400",
    ("serif", False): "newsreader-400",
    ("serif", True): "newsreader-700",
}
_INSTEAD = "?"
LINE_HEIGHT = 1.25


@dataclass(frozen=True)
class Face:
    """A typeface in one weight; measures in ems."""

    family: str
    weight: int
    x_height: float
    cap_height: float
    advances: dict[int, float]

    def advance(self, text: str, size: float) -> float:
        """How far text runs at a size, pairs not drawn together (kerning makes it a little shorter)."""
        return sum(self.advances.get(ord(sign), 0.6) for sign in text) * size

    def missing(self, text: str) -> tuple[str, ...]:
        """The signs of a text that the face has no letter for, in order, each once."""
        lacking = (sign for sign in text if sign not in "\n" and ord(sign) not in self.advances)
        return tuple(dict.fromkeys(lacking))

    def drawable(self, text: str) -> str:
        """The text with a question mark for each sign that the face lacks: what is not there must not shift the rest."""
        return "".join(sign if ord(sign) in self.advances else _INSTEAD for sign in text)


@cache
def _measures() -> dict[str, dict[str, object]]:
    found: dict[str, dict[str, object]] = json.loads((FONTS / "measures.json").read_text(encoding="utf-8"))
    return found


@cache
def face(name: str, *, bold: bool = False) -> Face:
    """A face by its key."""
    found = _measures()[_FILES[(name, bold)]]
    advances = found["advances"]
    assert isinstance(advances, dict)
    return Face(
        str(found["family"]),
        int(str(found["weight"])),
        int(str(found["x_height"])) / 1000,
        int(str(found["cap_height"])) / 1000,
        {int(code): value / 1000 for code, value in advances.items()},
    )


def lines_of(text: str, of: Face, size: float, width: float | None = None) -> list[str]:
    """The lines of a text: its own, each broken between words where it is wider than `width` pixels."""
    lines = []
    for own in text.split("\n"):
        line = ""
        for word in own.split(" "):
            longer = f"{line} {word}" if line else word
            if line and width is not None and of.advance(longer, size) > width:
                lines.append(line)
                line = word
            else:
                line = longer
        lines.append(line)
    return lines
