"""Signs that the faces of marks lack, in every script: which of the fonts that ship has a letter for them, and which way they run.

The fonts are Noto's, under the SIL Open Font License; what each covers is in `fonts/scripts.json`, made by tools/make_fonts.py
from the fonts' own tables. Shaping and direction are the renderer's: HarfBuzz and the Unicode Bidirectional Algorithm
(Unicode Standard Annex 9) on the mat and in what leaves.
"""

from __future__ import annotations

import bisect
import json
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path

FONTS = Path(__file__).resolve().parents[2] / "fonts"
_KANA = ("Noto Sans JP", range(0x3040, 0x3100))
_HANGUL = ("Noto Sans KR", range(0xAC00, 0xD7B0))
_UNSEEN = frozenset("\u200b\u200c\u200d\u200e\u200f\u2060\ufe0e\ufe0f\ufeff\u00ad")
"""Default ignorable code points that text really has: joiners, marks of direction, selectors of variants."""


@dataclass(frozen=True, eq=False)
class Script:
    """A font for signs of some scripts. `starts`, `ends` and `advances` are runs of code points, advances in ems."""

    family: str
    file: str
    starts: Sequence[int]
    ends: Sequence[int]
    advances: Sequence[float]

    def advance(self, sign: str) -> float | None:
        """How far a sign runs by itself, in ems; None where there is no letter for it."""
        code = ord(sign)
        at = bisect.bisect_right(self.starts, code) - 1
        return self.advances[at] if at >= 0 and code <= self.ends[at] else None


@cache
def scripts() -> tuple[Script, ...]:
    """All fonts that ship, in the order in which they are asked."""
    found = json.loads((FONTS / "scripts.json").read_text(encoding="utf-8"))
    return tuple(
        Script(
            each["family"],
            each["file"],
            [run[0] for run in each["runs"]],
            [run[1] for run in each["runs"]],
            [run[2] / 1000 for run in each["runs"]],
        )
        for each in found
    )


def is_unseen(sign: str) -> bool:
    """Whether a sign only tells the renderer something."""
    return sign in _UNSEEN


@cache
def script_of(sign: str, first: str = "") -> Script | None:
    """The font that has a letter for a sign; the family `first` is asked before all others."""
    return next((each for each in asked_in_order(first) if each.advance(sign) is not None), None)


def asked_in_order(first: str) -> list[Script]:
    """All fonts, the family `first` before the others."""
    return sorted(scripts(), key=lambda each: each.family != first)


def preferred(text: str) -> str:
    """The family that a text's Han signs are drawn with: they look different in Japanese and in Korean."""
    for family, signs in (_KANA, _HANGUL):
        if any(ord(sign) in signs for sign in text):
            return family
    return ""


def runs_leftwards(text: str) -> bool:
    """Whether a text begins at the right: by its first strong sign (Unicode Standard Annex 9, P2 and P3)."""
    strong = (unicodedata.bidirectional(sign) for sign in text)
    return next((each in ("R", "AL") for each in strong if each in ("L", "R", "AL")), False)


def may_break_before(sign: str) -> bool:
    """Whether a line may be broken there inside a word: not between a letter and what is written onto it."""
    return not is_unseen(sign) and unicodedata.category(sign) not in ("Mn", "Me", "Mc")
