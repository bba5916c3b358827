"""When a limit can't be met: by how much, what stands in the way, and what would help."""

from __future__ import annotations

from collections.abc import Sequence

from tijera.core.budget.search import Verdict
from tijera.core.errors import LimitNotMet
from tijera.core.units import format_bytes

_NAMED_IN_THE_WAY = 4


def limit_not_met(
    verdict: Verdict, limit_bytes: int, weights: Sequence[tuple[str, int]], **what_helps: object
) -> LimitNotMet:
    """The error for a verdict that does not fit; the heaviest of `weights` (name, bytes) stand in the way."""
    heaviest = sorted(weights, key=lambda item: -item[1])[:_NAMED_IN_THE_WAY]
    return LimitNotMet(
        least_bytes=verdict.written_bytes,
        over_bytes=verdict.written_bytes - limit_bytes,
        limit_bytes=limit_bytes,
        in_the_way=", ".join(f"{name} ({format_bytes(size)})" for name, size in heaviest) or "the text itself",
        pictures=[{"name": name, "bytes": size} for name, size in heaviest],
        **what_helps,
    )
