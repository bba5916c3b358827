"""What is read only as far as it is asked for: the first page of a long document need not wait for its last."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from itertools import islice
from threading import RLock
from typing import TypeVar, overload

_T = TypeVar("_T")
_STEP = 256


class Pulled(Sequence[_T]):
    """A sequence that is pulled from an iterator as far as it is asked for, and kept. Threads may share it.

    What the iterator raises is raised again whenever somebody asks for more: it never looks as if it had ended.
    """

    def __init__(self, source: Iterator[_T]) -> None:
        self._source = source
        self._known: list[_T] = []
        self._ended = False
        self._failed: Exception | None = None
        self._lock = RLock()

    def pull(self, count: int) -> bool:
        """Read on until `count` are known; whether there are so many."""
        with self._lock:
            missing = count - len(self._known)
            if missing > 0 and not self._ended:
                if self._failed is not None:
                    raise self._failed
                try:
                    self._known.extend(islice(self._source, missing))
                except Exception as error:
                    self._failed = error
                    raise
                self._ended = len(self._known) < count
            return len(self._known) >= count

    def up_to(self, is_beyond: Callable[[_T], bool]) -> Sequence[_T]:
        """Those that are known once one is beyond what is wanted, which is among the last of them."""
        while not (self._known and is_beyond(self._known[-1])) and self.pull_more():
            pass
        return self._known

    def pull_more(self) -> bool:
        """Read on by a step; whether there may be more."""
        return self.pull(len(self._known) + _STEP)

    def _pull_all(self) -> list[_T]:
        while self.pull_more():
            pass
        return self._known

    def __len__(self) -> int:
        """How many there are; reads all of them."""
        return len(self._pull_all())

    @overload
    def __getitem__(self, index: int) -> _T: ...
    @overload
    def __getitem__(self, index: slice) -> Sequence[_T]: ...
    def __getitem__(self, index: int | slice) -> _T | Sequence[_T]:
        """One or several; those with a bound from the front read no further than that."""
        bound = index.stop if isinstance(index, slice) else index + 1
        if bound is None or bound <= 0:
            self._pull_all()
        else:
            self.pull(bound)
        return self._known[index]

    def __iter__(self) -> Iterator[_T]:
        """Go through them, reading on as needed."""
        at = 0
        while self.pull(at + 1):
            known = self._known[at:]
            yield from known
            at += len(known)
