"""Names: of clippings by a pattern, made at once from what is known; of files, as every system takes them."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection

from tijera.core.errors import OptionUnreadable

PARTS = ("window", "date", "time", "counter")
DEFAULT_PATTERN = "{window} {date} {time}"
"""A counter follows by itself where a name would stand twice."""
MOST_CHARACTERS = 120
MOST_FILE_BYTES = 255
"""Of a file's name, its ending counted in (common practice: what the usual file systems take)."""

# Control characters, and signs that turn the direction of text: a name with them could pretend to be another.
_UNSAFE = re.compile(r"[\x00-\x1f\x7f\u200e\u200f\u202a-\u202e\u2066-\u2069]")
_FORBIDDEN = re.compile(r'[\\/:*?"<>|]+')
"""Signs that some system forbids in a file's name."""
_RESERVED = re.compile(r"(?:con|prn|aux|nul|com[0-9]|lpt[0-9])(?=\.|$)", re.IGNORECASE)
"""Names of devices, which some systems forbid with any ending (common practice)."""
_ENDINGS = frozenset(
    [
        "docx",
        "docm",
        "dotx",
        "dotm",
        "doc",
        "odt",
        "ott",
        "rtf",
        "xlsx",
        "xlsm",
        "xltx",
        "xltm",
        "xls",
        "ods",
        "ots",
        "csv",
        "eml",
        "msg",
        "pptx",
        "odp",
        "pdf",
        "txt",
        "htm",
        "html",
        "xml",
        "zip",
        "png",
        "jpg",
        "jpeg",
        "jpe",
        "bmp",
        "webp",
        "tif",
        "tiff",
        "gif",
        "tmp",
        "bin",
        "part",
    ]
)
"""Endings that say what a file is. What stands behind another full stop is part of the name."""


def clean_name(name: str) -> str:
    """A name on one line, without control characters and without signs that turn the direction of text."""
    return " ".join(_UNSAFE.sub(" ", name).split())[:MOST_CHARACTERS].strip()


def file_name(name: str, ending: str, also: Collection[str] = (), *, else_called: str = "document") -> str:
    """A file's name that every system takes, with the ending of its content.

    An ending among `also` stays as it was written; another one that says what a file is gives way. The stem is shortened
    to what fits, never the ending; of a path the last part counts.
    """
    plain = " ".join(_UNSAFE.sub(" ", name.replace("\\", "/").rsplit("/", 1)[-1]).split())
    stem, _, last = plain.rpartition(".")
    if stem and last.lower() in {ending, *also}:
        ending = last
    elif not stem or last.lower() not in _ENDINGS:
        stem = plain
    return f"{file_stem(stem, else_called, room=MOST_FILE_BYTES - len(ending.encode()) - 1)}.{ending}"


def file_stem(name: str, else_called: str = "clipping", *, room: int = MOST_FILE_BYTES - 32) -> str:
    """A name without signs that some system forbids, in so many bytes of UTF-8; no device's name."""
    stem = _FORBIDDEN.sub("-", _UNSAFE.sub(" ", name)).strip(" .") or else_called
    if _RESERVED.match(stem):
        stem = f"_{stem}"
    return stem.encode()[:room].decode("utf-8", "ignore").rstrip(" .") or else_called


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
