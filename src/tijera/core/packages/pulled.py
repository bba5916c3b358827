"""What is read only as far as it is asked for: the first page of a long document need not wait for its last."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from threading import RLock
from typing import Generic, TypeVar, overload

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
            while len(self._known) < count and not self._ended:
                if self._failed is not None:
                    raise self._failed
                try:
                    self._known.append(next(self._source))
                except StopIteration:
                    self._ended = True
                except Exception as error:
                    self._failed = error
                    raise
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
            yield self._known[at]
            at += 1


class PulledMapping(Mapping[str, _T], Generic[_T]):
    """What comes up while a sequence is pulled, by its id; asking for one reads on until it comes up."""

    def __init__(self, known: dict[str, _T], source: Pulled[object]) -> None:
        self._known = known
        self._source = source

    @staticmethod
    def over(known: dict[str, _T], source: Sequence[object]) -> Mapping[str, _T]:
        """What comes up while `source` is pulled; `known` as it is where nothing is pulled."""
        return PulledMapping(known, source) if isinstance(source, Pulled) else known

    def __getitem__(self, key: str) -> _T:
        """Find one; raise `KeyError` once all was read."""
        while key not in self._known:
            if not self._source.pull_more() and key not in self._known:
                raise KeyError(key)
        return self._known[key]

    def __iter__(self) -> Iterator[str]:
        """All ids in order; reads all."""
        len(self._source)
        return iter(self._known)

    def __len__(self) -> int:
        """How many there are; reads all."""
        len(self._source)
        return len(self._known)
