"""Long work in a bounded pool: it reports progress, can be stopped, and the rest stays usable."""

from __future__ import annotations

import logging
import secrets
import threading
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import Executor
from dataclasses import dataclass, field

from tijera.core.budget.search import Progress, Run, Task
from tijera.core.errors import NotFound, TijeraError

_MOST_REMEMBERED = 50


_LOG = logging.getLogger(__name__)


@dataclass
class Job:
    """One piece of long work and what it has said so far."""

    id: str
    events: list[Progress | object] = field(default_factory=list)
    error: TijeraError | None = None
    failed: bool = False
    """It ended by a fault of ours that has no words for the user."""
    is_over: bool = False
    rounds_off: bool = False
    stop_asked: threading.Event = field(default_factory=threading.Event)


def side_by_side(pool: Executor) -> Run:
    """Carry the parts of long work out in a pool of their own, so that they never wait for the work that waits for them.

    Where nobody asks for the next one any more, those that have not begun are dropped.
    """

    def run(tasks: Sequence[Task]) -> Iterator[None]:
        begun = [pool.submit(task) for task in tasks]
        try:
            for future in begun:
                yield future.result()
        finally:
            for future in begun:
                future.cancel()

    return run


class Jobs:
    """Starts, finds and stops jobs."""

    def __init__(self, pool: Executor) -> None:
        self._pool = pool
        self._jobs: dict[str, Job] = {}

    def start(self, work: Callable[[], Iterator[object]]) -> Job:
        """Run an iterator in the pool; what it yields becomes the job's events. Stopped, it ends where it is."""
        return self._begin(Job(secrets.token_hex(6)), work)

    def start_rounded_off(self, work: Callable[[str, Callable[[], bool]], Iterator[object]]) -> Job:
        """The same for work that keeps what it has: it gets the job's id, asks whether to stop, and rounds itself off."""
        job = Job(secrets.token_hex(6), rounds_off=True)
        return self._begin(job, lambda: work(job.id, job.stop_asked.is_set))

    def _begin(self, job: Job, work: Callable[[], Iterator[object]]) -> Job:
        self._jobs[job.id] = job
        while len(self._jobs) > _MOST_REMEMBERED:
            self._jobs.pop(next(iter(self._jobs)))
        self._pool.submit(self._run, job, work)
        return job

    def find(self, job_id: str) -> Job:
        """A job by its id; raise `NotFound`."""
        if job_id not in self._jobs:
            raise NotFound(what="job", key=job_id)
        return self._jobs[job_id]

    def stop(self, job_id: str) -> None:
        """Ask a job to stop; it does before its next step. Raises `NotFound`."""
        self.find(job_id).stop_asked.set()

    def close(self) -> None:
        """Stop everything and wait until it has."""
        for job in self._jobs.values():
            job.stop_asked.set()
        self._pool.shutdown()

    @staticmethod
    def _run(job: Job, work: Callable[[], Iterator[object]]) -> None:
        try:
            for event in work():
                job.events.append(event)
                if job.stop_asked.is_set() and not job.rounds_off:
                    break
        except TijeraError as error:
            job.error = error
        except Exception:
            # Nobody reads the pool's future: what went wrong is written down here, and shown by the job.
            _LOG.exception("job %s failed", job.id)
            job.failed = True
        finally:
            job.is_over = True
