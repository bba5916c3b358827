"""What carries queued messages off."""

from __future__ import annotations

import logging

from tijera.core.errors import TijeraError
from tijera.usecases import sending
from tijera.usecases.mailing import Mailing
from tijera.usecases.walker import Walker
from tijera.usecases.workshop import Workshop

_SHORTEST_S, _AFTER_TROUBLE_S, _LONGEST_S = 0.05, 10.0, 60.0
_LOG = logging.getLogger(__name__)


class Postman(Walker):
    """Begins when there is something to carry."""

    def __init__(self, workshop: Workshop, mailing: Mailing) -> None:
        super().__init__("postman", _LONGEST_S)
        self._workshop = workshop
        self._mailing = mailing
        sending.recover(workshop)
        if sending.seconds_to_next(workshop) is not None:
            self.wake()

    def _round(self) -> float | None:
        # Nobody else carries messages: one that leaves now is one of which nothing could be noted.
        sending.recover(self._workshop)
        least = _SHORTEST_S
        for record in sending.due(self._workshop):
            if self._ends.is_set():
                break
            try:
                sending.attempt(self._workshop, self._mailing.post(self._workshop), record.id)
            except TijeraError as error:
                # Withdrawn meanwhile, no server is set up any more, or the disk is full.
                _LOG.info("message %s: %s", record.id, error.detail)
                least = _AFTER_TROUBLE_S
        rest = sending.seconds_to_next(self._workshop)
        return None if rest is None else max(rest, least)
