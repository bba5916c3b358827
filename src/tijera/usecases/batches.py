"""Many files brought under a limit, side by side: a worker that dies loses none, and a second run skips what is done."""

from __future__ import annotations

import contextlib
import hashlib
import json
import posixpath
from collections.abc import Callable, Iterator, Mapping
from concurrent.futures import Executor, Future, as_completed
from concurrent.futures.process import BrokenProcessPool
from contextlib import AbstractContextManager
from dataclasses import asdict, dataclass
from enum import StrEnum

from tijera.core.errors import LimitNotMet, TijeraError
from tijera.usecases.shelves import Shelf
from tijera.usecases.slimming import Slimmed, slim

RECORD = ".tijera-fit.json"
"""In the folder of the copies: what was made of which bytes, under which limit."""
ENDINGS = frozenset(
    {".docx", ".docm", ".dotx", ".dotm", ".odt", ".ott", ".xlsx", ".xlsm", ".xltx", ".xltm", ".ods", ".ots", ".eml"}
)
_MOST_TRIES = 3
"""So often a file is begun whose worker died; a file that kills its worker each time is told and left."""


@dataclass(frozen=True)
class Workers:
    """Who does the work: how a pool is begun, and what its futures raise where a worker died."""

    new_pool: Callable[[], AbstractContextManager[Executor]]
    died: tuple[type[BaseException], ...] = (BrokenProcessPool,)


class State(StrEnum):
    """What became of a file."""

    WRITTEN = "written"
    """A copy under the limit was written."""
    DONE_BEFORE = "done-before"
    """The copy of an earlier run is still right."""
    OVER = "over"
    """It can't be brought under the limit without losing what must stay readable."""
    REFUSED = "refused"
    """It is none that can be read, or its worker died each time."""


@dataclass(frozen=True)
class Outcome:
    """What became of one file."""

    name: str
    """Its path below the folder, with slashes."""
    state: State
    before_bytes: int
    after_bytes: int
    """Of the copy; what it would weigh at least where it is over; 0 where it was refused."""
    why: str = ""


@dataclass(frozen=True)
class _Known:
    """What the record says of a file."""

    source: str
    limit: int
    copy: str


def fit_file(source: Shelf, out: Shelf, name: str, limit_bytes: int) -> Outcome:
    """Bring one file under a limit and write the copy. Raises `OSError` only; refusals are told."""
    data = source.read(name)
    try:
        *_, last = slim(data, posixpath.basename(name), limit_bytes)
    except LimitNotMet as error:
        least = int(str(error.values["least_bytes"]))
        return Outcome(name, State.OVER, len(data), least, f"{error.detail} {error.remedy}")
    except TijeraError as error:
        return Outcome(name, State.REFUSED, len(data), 0, f"{error.detail} {error.remedy}")
    assert isinstance(last, Slimmed)
    out.write(name, last.data)
    return Outcome(name, State.WRITTEN, len(data), len(last.data))


def files_in(shelf: Shelf) -> list[str]:
    """The files on a shelf that can be fitted, in the order of their names; no hidden ones, no locks of open files."""
    return sorted(
        name
        for name in shelf.names()
        if posixpath.splitext(name)[1].lower() in ENDINGS and not posixpath.basename(name).startswith((".", "~$"))
    )


def fit_files(source: Shelf, out: Shelf, limit_bytes: int, workers: Workers) -> Iterator[Outcome]:
    """Fit every file of a shelf, and tell of each as it is done; stopping is not asking for the next one.

    A pool that breaks because a worker died is replaced, and the files that were under way are begun again.
    """
    known = _known(out)
    waiting: list[tuple[str, int]] = []
    for name in files_in(source):
        outcome = _done_before(source, out, name, limit_bytes, known.get(name))
        if outcome is None:
            waiting.append((name, 0))
        else:
            yield outcome
    while waiting:
        with workers.new_pool() as pool:
            begun = {pool.submit(fit_file, source, out, name, limit_bytes): (name, tries) for name, tries in waiting}
            waiting = []
            batch = _Batch(source, out, limit_bytes, known, workers.died)
            try:
                yield from batch.as_they_end(begun, waiting)
            finally:
                for future in begun:
                    future.cancel()


@dataclass(frozen=True)
class _Batch:
    """What all files of a run have in common."""

    source: Shelf
    out: Shelf
    limit: int
    known: dict[str, _Known]
    died: tuple[type[BaseException], ...]

    def as_they_end(
        self, begun: dict[Future[Outcome], tuple[str, int]], again: list[tuple[str, int]]
    ) -> Iterator[Outcome]:
        """Each file's outcome; what has to be begun once more goes to `again`."""
        for future in as_completed(list(begun)):
            name, tries = begun.pop(future)
            try:
                outcome = future.result()
            except self.died:
                if tries + 1 < _MOST_TRIES:
                    again.append((name, tries + 1))
                    continue
                outcome = Outcome(name, State.REFUSED, 0, 0, "Its worker died each time. Fit it by itself to see why.")
            except OSError as error:
                outcome = Outcome(name, State.REFUSED, 0, 0, f"{error.filename}: {error.strerror or error}.")
            if outcome.state is State.WRITTEN:
                self.known[name] = _Known(_hash(self.source, name), self.limit, _hash(self.out, name))
                _remember(self.out, self.known)
            yield outcome


def _done_before(source: Shelf, out: Shelf, name: str, limit_bytes: int, known: _Known | None) -> Outcome | None:
    size = None if known is None else out.size(name)
    if known is None or size is None or known.limit != limit_bytes:
        return None
    data = source.read(name)
    if known.source != hashlib.sha256(data).hexdigest() or known.copy != _hash(out, name):
        return None
    return Outcome(name, State.DONE_BEFORE, len(data), size)


def _hash(shelf: Shelf, name: str) -> str:
    return hashlib.sha256(shelf.read(name)).hexdigest()


def _known(out: Shelf) -> dict[str, _Known]:
    """What the record says; one that can't be read says nothing."""
    with contextlib.suppress(OSError, ValueError, TypeError, AttributeError):
        return {name: _Known(**each) for name, each in json.loads(out.read(RECORD)).items()}
    return {}


def _remember(out: Shelf, known: Mapping[str, _Known]) -> None:
    text = json.dumps({name: asdict(each) for name, each in sorted(known.items())}, indent=1, ensure_ascii=False)
    out.write(RECORD, text.encode())
