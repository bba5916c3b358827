"""Who does the work of a batch: processes of this computer, or those of a cluster (the `cluster` extra)."""

from __future__ import annotations

import multiprocessing
from collections.abc import Iterator
from concurrent.futures import Executor, ProcessPoolExecutor
from contextlib import contextmanager

from tijera.core.errors import ClusterUnreachable, ExtraMissing
from tijera.usecases.batches import Workers

_ANSWER_WITHIN_SECONDS = 5


def processes(jobs: int) -> Workers:
    """Processes of this computer, begun afresh: one that is forked beside threads of a library may hang."""
    context = multiprocessing.get_context("spawn")
    return Workers(lambda: ProcessPoolExecutor(jobs, mp_context=context))


def cluster(address: str) -> Workers:
    """The workers of a Dask scheduler, such as `tcp://10.0.0.5:8786`; they have Tijera installed, and see the same files.

    A task whose worker died is given to another one by the scheduler, a few times. Raises `ExtraMissing`.
    """
    try:
        from distributed import Client
        from distributed.scheduler import KilledWorker
    except ImportError as error:
        raise ExtraMissing(what="a cluster", extra="cluster") from error

    @contextmanager
    def pool() -> Iterator[Executor]:
        try:
            client = Client(address, timeout=_ANSWER_WITHIN_SECONDS, set_as_default=False)
        except (OSError, ValueError) as error:
            raise ClusterUnreachable(address=address) from error
        with client:
            # Not pure: a file that changed is another task, though its name is the same.
            executor: Executor = client.get_executor(pure=False)
            yield executor

    return Workers(pool, (KilledWorker,))
