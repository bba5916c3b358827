"""How many pixels are worked on at once: several small pictures side by side, large ones one after the other.

What was in use for a large one goes back to the system before the next one comes in: an allocator that keeps it in pieces
would need about as much again for each (glibc, measured: 217 MB instead of 75 for the step after).
"""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from tijera.core.imaging.allocator import give_back


class Gate:
    """Lets work on pictures in as long as their pixels together are within a budget; a larger one goes in alone."""

    def __init__(self, most_pixels: int) -> None:
        self._most = most_pixels
        self._inside = 0
        self._changed = threading.Condition()

    @contextmanager
    def passed(self, pixels: int) -> Iterator[None]:
        """While a picture of so many pixels is worked on; waits until there is room for it."""
        with self._changed:
            self._changed.wait_for(lambda: self._inside == 0 or self._inside + pixels <= self._most)
            self._inside += pixels
        try:
            yield
        finally:
            if pixels >= _LARGE_PIXELS:
                give_back()
            with self._changed:
                self._inside -= pixels
                self._changed.notify_all()


_LARGE_PIXELS = 2_000_000
