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
        self._making: dict[object, threading.Lock] = {}

    def get(self, key: object, make: Callable[[], V]) -> V:
        """The value under a key, made where it is not there; a thread that wants what another one makes waits for it."""
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
                return self._values[key]
            making = self._making.setdefault(key, threading.Lock())
        with making:
            with self._lock:
                if key in self._values:
                    return self._values[key]
            try:
                value = make()
                with self._lock:
                    self._values[key] = value
                    while len(self._values) > self._most:
                        self._values.popitem(last=False)
            finally:
                with self._lock:
                    self._making.pop(key, None)
        return value
