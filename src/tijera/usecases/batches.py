"""Many files brought under a limit, side by side: a worker that dies loses none, and a second run skips what is done."""

from __future__ import annotations

import contextlib
import hashlib
import json
from collections.abc import Callable, Iterator, Mapping
from concurrent.futures import FIRST_COMPLETED, Executor, Future, wait
from concurrent.futures.process import BrokenProcessPool
from dataclasses import asdict, dataclass
from enum import StrEnum
from pathlib import Path

from tijera.core.errors import LimitNotMet, TijeraError
from tijera.usecases.slimming import Slimmed, slim
from tijera.usecases.whole import write_whole

RECORD = ".tijera-fit.json"
"""In the folder of the copies: what was made of which bytes, under which limit."""
ENDINGS = frozenset(
    {".docx", ".docm", ".dotx", ".dotm", ".odt", ".ott", ".xlsx", ".xlsm", ".xltx", ".xltm", ".ods", ".ots", ".eml"}
)
_MOST_TRIES = 3
"""So often a file is begun whose worker died; a file that kills its worker each time is told and left."""


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


def fit_file(source: Path, copy: Path, name: str, limit_bytes: int) -> Outcome:
    """Bring one file under a limit and write the copy. Raises `OSError` only; refusals are told."""
    data = source.read_bytes()
    try:
        *_, last = slim(data, source.name, limit_bytes)
    except LimitNotMet as error:
        least = int(str(error.values["least_bytes"]))
        return Outcome(name, State.OVER, len(data), least, f"{error.detail} {error.remedy}")
    except TijeraError as error:
        return Outcome(name, State.REFUSED, len(data), 0, f"{error.detail} {error.remedy}")
    assert isinstance(last, Slimmed)
    copy.parent.mkdir(parents=True, exist_ok=True)
    write_whole(copy, last.data)
    return Outcome(name, State.WRITTEN, len(data), len(last.data))


def files_in(folder: Path) -> list[str]:
    """The files below a folder that can be fitted, as paths with slashes, in the order of their names."""
    found = (path for path in folder.rglob("*") if path.suffix.lower() in ENDINGS and path.is_file())
    return sorted(path.relative_to(folder).as_posix() for path in found if not path.name.startswith((".", "~$")))


def fit_folder(source: Path, out: Path, limit_bytes: int, new_pool: Callable[[], Executor]) -> Iterator[Outcome]:
    """Fit every file of a folder, and tell of each as it is done; stopping is not asking for the next one.

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
        with new_pool() as pool:
            begun = {
                pool.submit(fit_file, source / name, out / name, name, limit_bytes): (name, tries)
                for name, tries in waiting
            }
            waiting = []
            try:
                yield from _as_they_end(begun, waiting, source, out, limit_bytes, known)
            finally:
                pool.shutdown(wait=False, cancel_futures=True)


def _as_they_end(
    begun: dict[Future[Outcome], tuple[str, int]],
    again: list[tuple[str, int]],
    source: Path,
    out: Path,
    limit_bytes: int,
    known: dict[str, _Known],
) -> Iterator[Outcome]:
    while begun:
        ended, _ = wait(begun, return_when=FIRST_COMPLETED)
        for future in ended:
            name, tries = begun.pop(future)
            try:
                outcome = future.result()
            except BrokenProcessPool:
                if tries + 1 < _MOST_TRIES:
                    again.append((name, tries + 1))
                    continue
                outcome = Outcome(name, State.REFUSED, 0, 0, "Its worker died each time. Fit it by itself to see why.")
            except OSError as error:
                outcome = Outcome(name, State.REFUSED, 0, 0, f"{error.filename}: {error.strerror or error}.")
            if outcome.state is State.WRITTEN:
                known[name] = _Known(_hash(source / name), limit_bytes, _hash(out / name))
                _remember(out, known)
            yield outcome


def _done_before(source: Path, out: Path, name: str, limit_bytes: int, known: _Known | None) -> Outcome | None:
    if known is None or known.limit != limit_bytes or not (out / name).is_file():
        return None
    if known.source != _hash(source / name) or known.copy != _hash(out / name):
        return None
    return Outcome(name, State.DONE_BEFORE, (source / name).stat().st_size, (out / name).stat().st_size)


def _hash(path: Path) -> str:
    return hashlib.sha256(path.read_bytes()).hexdigest()


def _known(out: Path) -> dict[str, _Known]:
    """What the record says; one that can't be read says nothing."""
    with contextlib.suppress(OSError, ValueError, TypeError, AttributeError):
        return {name: _Known(**each) for name, each in json.loads((out / RECORD).read_text(encoding="utf-8")).items()}
    return {}


def _remember(out: Path, known: Mapping[str, _Known]) -> None:
    text = json.dumps({name: asdict(each) for name, each in sorted(known.items())}, indent=1, ensure_ascii=False)
    write_whole(out / RECORD, text.encode())
