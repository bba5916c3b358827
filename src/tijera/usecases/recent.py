"""A small memory of what was worked out last."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Generic, TypeVar

V = TypeVar("V")


class Recent(Generic[V]):
    """The values that were worked out last, by key; may be used from several threads."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._lock = threading.Lock()
        self._values: OrderedDict[object, V] = OrderedDict()

    def get(self, key: object, make: Callable[[], V]) -> V:
        """The value under a key, made where it is not there. Two threads may make it twice, to the same effect."""
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
                return self._values[key]
        value = make()
        with self._lock:
            self._values[key] = value
            while len(self._values) > self._most:
                self._values.popitem(last=False)
        return value
