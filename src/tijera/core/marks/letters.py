"""Typefaces of marks: how far text runs, which signs a face lacks, where lines break.

Measures come from the fonts' own tables (made by tools/make_fonts.py); the same files draw on the mat and in what leaves.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache

from tijera.core.marks.scripts import FONTS, asked_in_order, is_unseen, may_break_before, preferred, script_of

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
_UNKNOWN = 0.6
"""Taken for how far a sign runs that no font has, in ems."""
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
        """How far text runs at a size, pairs not drawn together (kerning and joined letters make it a little shorter)."""
        first = preferred(text) if any(ord(sign) not in self.advances for sign in text) else ""
        return sum(self._advance(sign, first) for sign in text) * size

    def _advance(self, sign: str, first: str) -> float:
        own = self.advances.get(ord(sign))
        if own is not None:
            return own
        if is_unseen(sign):
            return 0.0
        script = script_of(sign, first)
        return _UNKNOWN if script is None else script.advance(sign) or 0.0

    def has(self, sign: str) -> bool:
        """Whether the face or one of the fonts for other scripts has a letter for a sign."""
        return ord(sign) in self.advances or is_unseen(sign) or script_of(sign) is not None

    def families(self, text: str) -> str:
        """The families that draw a text, as CSS and SVG list them: the face's own, and what it lacks of other scripts.

        In the order in which they are asked here: a renderer takes the first that has a letter, and that has to be this one.
        """
        first = preferred(text)
        wanted = {script_of(sign, first) for sign in text if ord(sign) not in self.advances and not is_unseen(sign)}
        return ", ".join([self.family, *(each.family for each in asked_in_order(first) if each in wanted)])

    def missing(self, text: str) -> tuple[str, ...]:
        """The signs of a text that no font has a letter for, in order, each once."""
        return tuple(dict.fromkeys(sign for sign in text if sign != "\n" and not self.has(sign)))

    def drawable(self, text: str) -> str:
        """The text with a question mark for each sign that no font has: what is not there must not shift the rest."""
        return "".join(sign if self.has(sign) else _INSTEAD for sign in text)


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
    """The lines of a text: its own, each broken between words where it is wider than `width` pixels.

    A word that is wider by itself, or a line of a script that has no spaces, is broken between signs. No sign is lost but
    the spaces at which a line was broken.
    """
    lines = []
    for own in text.split("\n"):
        line = ""
        for word in own.split(" "):
            longer = f"{line} {word}" if line else word
            if width is None or of.advance(longer, size) <= width:
                line = longer
                continue
            if line:
                lines.append(line)
            *whole, line = _pieces(word, of, size, width)
            lines += whole
        lines.append(line)
    return lines


def _pieces(word: str, of: Face, size: float, width: float) -> list[str]:
    """A word in pieces that are no wider than `width`; each has at least one sign with what is written onto it."""
    pieces = [""]
    for cluster in _clusters(word):
        if pieces[-1] and of.advance(pieces[-1] + cluster, size) > width:
            pieces.append("")
        pieces[-1] += cluster
    return pieces


def _clusters(word: str) -> list[str]:
    """Each sign with what is written onto it."""
    clusters: list[str] = []
    for sign in word:
        if clusters and not may_break_before(sign):
            clusters[-1] += sign
        else:
            clusters.append(sign)
    return clusters
