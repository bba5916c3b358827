"""What carries queued messages off: one thread, which sleeps until the next one is due or it is woken."""

from __future__ import annotations

import logging
import threading

from tijera.core.errors import TijeraError
from tijera.usecases import sending
from tijera.usecases.mailing import Mailing
from tijera.usecases.workshop import Workshop

_LONGEST_S = 60.0
"""It looks at the clock at least so often: that may be set, and a computer may sleep."""
_LOG = logging.getLogger(__name__)


class Postman:
    """Begins when there is something to carry."""

    def __init__(self, workshop: Workshop, mailing: Mailing) -> None:
        self._workshop = workshop
        self._mailing = mailing
        self._woken = threading.Event()
        self._ends = threading.Event()
        self._lock = threading.Lock()
        self._thread: threading.Thread | None = None
        sending.recover(workshop)
        if sending.seconds_to_next(workshop) is not None:
            self.wake()

    def wake(self) -> None:
        """There is something to carry, or to carry at once."""
        self._woken.set()
        with self._lock:
            if self._thread is None and not self._ends.is_set():
                self._thread = threading.Thread(target=self._walk, name="postman", daemon=True)
                self._thread.start()

    def close(self) -> None:
        """Stop after what is under way."""
        self._ends.set()
        self._woken.set()
        if self._thread is not None:
            self._thread.join(10)

    def _walk(self) -> None:
        while not self._ends.is_set():
            self._woken.clear()
            try:
                pause = self._round()
            except Exception:
                # Nobody waits for this thread: what went wrong is written down, and the next round tries again.
                _LOG.exception("carrying messages failed")
                pause = _LONGEST_S
            self._woken.wait(pause)

    def _round(self) -> float | None:
        for record in sending.due(self._workshop):
            if self._ends.is_set():
                break
            try:
                sending.attempt(self._workshop, self._mailing.post(self._workshop), record.id)
            except TijeraError as error:
                # Withdrawn meanwhile, or no server is set up any more.
                _LOG.info("message %s: %s", record.id, error.detail)
        rest = sending.seconds_to_next(self._workshop)
        return None if rest is None else min(max(rest, 0.05), _LONGEST_S)
