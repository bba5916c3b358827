"""Results that were worked out lately, kept until there are newer ones."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Iterable
from typing import Any, Generic, TypeVar

V = TypeVar("V")
_PATIENCE_S = 2.0
"""So long the maker of a value is waited for; after that it is made twice."""


class Budget:
    """So many bytes for several of them together: what was used longest ago goes first, wherever it is; the newest stays."""

    def __init__(self, most_bytes: int) -> None:
        self._most = most_bytes
        self._lock = threading.Lock()
        self._sizes: OrderedDict[tuple[Recent[Any], object], int] = OrderedDict()

    def used(self, by: Recent[Any], key: object, size: int) -> None:
        """A value was made or asked for; what no longer has room is dropped."""
        gone = []
        with self._lock:
            self._sizes[by, key] = size
            self._sizes.move_to_end((by, key))
            total = sum(self._sizes.values())
            while total > self._most and len(self._sizes) > 1:
                oldest, freed = self._sizes.popitem(last=False)
                total -= freed
                gone.append(oldest)
        # Without the lock: another one may be telling of a use just now.
        for owner, old in gone:
            owner.drop(old)

    def dropped(self, by: Recent[Any], keys: Iterable[object]) -> None:
        """Values that their owner keeps no longer."""
        with self._lock:
            for key in keys:
                self._sizes.pop((by, key), None)


class Recent(Generic[V]):
    """The values that were worked out last, by key; may be used from several threads.

    Of what is large, `size` gives the bytes, and a `budget` is shared with others.
    """

    def __init__(
        self,
        most: int,
        budget: Budget | None = None,
        size: Callable[[V], int] = lambda _: 0,
        patience_s: float = _PATIENCE_S,
    ) -> None:
        self._most, self._patience_s = most, patience_s
        self._budget, self._size = budget, size
        self._lock = threading.Lock()
        self._values: OrderedDict[object, V] = OrderedDict()
        self._making: dict[object, threading.Lock] = {}

    def get(self, key: object, make: Callable[[], V]) -> V:
        """The value under a key, made where it is not there; a thread that wants what another one makes waits for it a while."""
        value, gone = self._found_or_made(key, make)
        if self._budget:
            self._budget.dropped(self, gone)
            self._budget.used(self, key, self._size(value))
        return value

    def known(self, key: object) -> V | None:
        """The value under a key, if it is there; nothing is made."""
        with self._lock:
            return self._values.get(key)

    def drop(self, key: object) -> None:
        """Forget a value, if it is there."""
        with self._lock:
            self._values.pop(key, None)

    def _found_or_made(self, key: object, make: Callable[[], V]) -> tuple[V, list[object]]:
        """The value, and the keys of those that it took the place of."""
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
                return self._values[key], []
            making = self._making.setdefault(key, threading.Lock())
        # Not for ever: who asks within a change holds the database, which the maker may be waiting for.
        waited = making.acquire(timeout=self._patience_s)
        try:
            with self._lock:
                if key in self._values:
                    return self._values[key], []
            gone = []
            value = make()
            with self._lock:
                self._values[key] = value
                while len(self._values) > self._most:
                    gone.append(self._values.popitem(last=False)[0])
            return value, gone
        finally:
            if waited:
                with self._lock:
                    self._making.pop(key, None)
                making.release()
