"""Names of clippings by a pattern, made at once from what is known."""

from __future__ import annotations

import re
from collections.abc import Callable

from tijera.core.errors import OptionUnreadable

PARTS = ("window", "date", "time", "counter")
DEFAULT_PATTERN = "{window} {date} {time}"
"""A counter follows by itself where a name would stand twice."""
MOST_CHARACTERS = 120

# Control characters, and signs that turn the direction of text: a name with them could pretend to be another.
_UNSAFE = re.compile(r"[\x00-\x1f\x7f\u200e\u200f\u202a-\u202e\u2066-\u2069]")


def clean_name(name: str) -> str:
    """A name on one line, without control characters and without signs that turn the direction of text."""
    return " ".join(_UNSAFE.sub(" ", name).split())[:MOST_CHARACTERS].strip()


def check_pattern(pattern: str) -> str:
    """The pattern, cleaned. Raises `OptionUnreadable` for one that says nothing or has unknown parts."""
    cleaned = clean_name(pattern)
    unknown = [part for part in re.findall(r"\{([^}]*)\}", cleaned) if part not in PARTS]
    if unknown:
        raise OptionUnreadable(option="the naming pattern", value=pattern, why=f"{{{unknown[0]}}} is none of its parts")
    if not cleaned or re.search(r"[{}]", re.sub(r"\{[a-z]+\}", "", cleaned)):
        raise OptionUnreadable(option="the naming pattern", value=pattern, why="it has no words or a stray brace")
    return cleaned


def name_by(pattern: str, *, window: str, date: str, time: str, is_taken: Callable[[str], bool]) -> str:
    """The first free name by a pattern: the counter runs from 1 where the pattern has one, else follows from 2 on."""
    has_counter = "{counter}" in pattern
    # The window's title comes in last: it may itself hold braces.
    for number in range(1, 1_000_000):
        name = pattern.replace("{date}", date).replace("{time}", time).replace("{counter}", str(number))
        name = clean_name(name.replace("{window}", window)) or "Clipping"
        if number > 1 and not has_counter:
            name = f"{name[: MOST_CHARACTERS - 8]} {number}"
        if not is_taken(name):
            return name
    return name
