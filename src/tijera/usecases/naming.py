"""Names and words of a clipping: from the window's title, the day, the time and a counter."""

from __future__ import annotations

from datetime import timedelta

from tijera.core.naming import name_by
from tijera.usecases.options import options
from tijera.usecases.workshop import Workshop


def free_name(workshop: Workshop, title: str, taken_at: str, pattern: str | None = None) -> str:
    """The first name by the user's pattern, or another, that no clipping on the rack has."""
    local = workshop.local_time(taken_at)
    return name_by(
        pattern or options(workshop).name_pattern,
        window=title,
        date=f"{local:%Y-%m-%d}",
        # No colon: a name becomes a file's name, where some systems have none.
        time=f"{local:%H.%M}",
        is_taken=workshop.store.has_name,
    )


def found_as(workshop: Workshop, taken_at: str) -> str:
    """Words for the day and the time, by which a clipping can be found."""
    local = workshop.local_time(taken_at)
    return f"{local:%Y-%m-%d %A} {local.day} {local:%B %H:%M}"


def find_terms(workshop: Workshop, words: str) -> list[str]:
    """The terms of what somebody typed to find; "today" and "yesterday" are those days."""
    today = workshop.local_time(workshop.now())
    days = {"today": f"{today:%Y-%m-%d}", "yesterday": f"{today - timedelta(days=1):%Y-%m-%d}"}
    # Control characters stand in no name; the index of words does not take them.
    plain = "".join(sign if sign.isprintable() else " " for sign in words)
    return [days.get(term.lower(), term) for term in plain.split()[:12]]
