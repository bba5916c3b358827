"""Who goes the rounds."""

from __future__ import annotations

from tijera.usecases import rounds
from tijera.usecases.walker import Walker
from tijera.usecases.workshop import Workshop

_SHORTEST_S, _LONGEST_S = 0.05, 20.0


class Watchman(Walker):
    """Begins when there are rounds to go."""

    def __init__(self, workshop: Workshop) -> None:
        super().__init__("watchman", _LONGEST_S)
        self._workshop = workshop
        if rounds.seconds_to_next(workshop) is not None:
            self.wake()

    def _round(self) -> float | None:
        rounds.go(self._workshop)
        rest = rounds.seconds_to_next(self._workshop)
        return None if rest is None else max(rest, _SHORTEST_S)
