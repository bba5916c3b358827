"""How a link stands: open, ended, seen as often as it may be, withdrawn."""

from __future__ import annotations

from enum import StrEnum


class LinkState(StrEnum):
    """Whether it can be opened."""

    OPEN = "open"
    ENDED = "ended"
    USED_UP = "used-up"
    WITHDRAWN = "withdrawn"


def state_of(
    *, withdrawn: bool, ended: bool, ends_at: str | None, most_views: int | None, views: int, now: str
) -> LinkState:
    """How it stands at a moment; moments in ISO 8601, UTC, so that they sort.

    `ended` is remembered: a clock that is set back opens nothing again.
    """
    if withdrawn:
        return LinkState.WITHDRAWN
    if ended or (ends_at is not None and ends_at <= now):
        return LinkState.ENDED
    if most_views is not None and views >= most_views:
        return LinkState.USED_UP
    return LinkState.OPEN
