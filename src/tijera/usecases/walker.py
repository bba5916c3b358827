"""Somebody who goes round by themselves: one thread, asleep until something is due or it is woken."""

from __future__ import annotations

import logging
import threading
from abc import ABC, abstractmethod

_LOG = logging.getLogger(__name__)


class Walker(ABC):
    """Begins when there is something to do. A kind of walker says by `_round` what that is."""

    def __init__(self, name: str, longest_s: float) -> None:
        """`longest_s` is how long it sleeps at most: the clock may be set, and a computer may sleep too."""
        self._name = name
        self._longest_s = longest_s
        self._woken = threading.Event()
        self._ends = threading.Event()
        self._lock = threading.Lock()
        self._thread: threading.Thread | None = None

    def wake(self) -> None:
        """There is something to do, or to do at once."""
        self._woken.set()
        with self._lock:
            if self._thread is None and not self._ends.is_set():
                self._thread = threading.Thread(target=self._walk, name=self._name, daemon=True)
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
                _LOG.exception("the %s failed", self._name)
                pause = self._longest_s
            self._woken.wait(None if pause is None else min(pause, self._longest_s))

    @abstractmethod
    def _round(self) -> float | None:
        """Do what is due; how long until the next is, in seconds, or None where nothing is foreseen."""
