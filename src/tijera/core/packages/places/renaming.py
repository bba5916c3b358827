"""Names of pictures in packages: the ending says the kind."""

from __future__ import annotations

import posixpath
from collections.abc import Collection

from tijera.core.imaging.kinds import by_ending


def stem_of(member: str) -> str:
    """A member's name without its ending."""
    return posixpath.splitext(member)[0]


def ending_of(member: str) -> str:
    """Its ending, in small letters, without the full stop."""
    return posixpath.splitext(member)[1][1:].lower()


def media_type_of(member: str) -> str:
    """What its ending stands for. Raises `ValueError` for none that is known."""
    kind = by_ending(ending_of(member))
    if kind is None:
        msg = f"{member} is no picture by its name"
        raise ValueError(msg)
    return kind.media_type


def sibling(member: str, names: Collection[str]) -> str | None:
    """The same member under the name of another kind, among some names; None where none or several are there."""
    found = [
        name for name in names if name != member and stem_of(name) == stem_of(member) and by_ending(ending_of(name))
    ]
    return found[0] if len(found) == 1 else None
