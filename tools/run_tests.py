"""Run the tests side by side: one process a core, each with a browser of its own; the last lines say how many ran.

`python -m tools.run_tests [--fast] [--jobs N] [--slowest N] [NAME …]`. A piece of work is a test class. Browser tests begin
first, because they take longest; so all cores are done at about the same time.
"""

from __future__ import annotations

import argparse
import io
import multiprocessing
import os
import sys
import time
import traceback
import unittest
import warnings
from collections.abc import Iterable, Iterator
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from pathlib import Path

from tests.support.rounds import SHARE

ROOT = Path(__file__).resolve().parent.parent
_FIRST = ("tests.browser", "tests.reference", "tests.tijera.test_wheel", "tests.tijera.usecases")
"""What takes long, longest first; the rest follows."""
_SLOW = (
    "tests.browser",
    "tests.reference.test_readability",
    # They search for renditions of whole files with the encoders that are used in earnest.
    "tests.reference.test_loss_metric",
    "tests.tijera.core.budget.test_saving",
    "tests.tijera.core.budget.test_search",
    "tests.tijera.usecases.test_bench.Fitting",
    "tests.tijera.usecases.test_crops_made_real",
    "tests.tijera.usecases.test_fitting",
    "tests.tijera.usecases.test_slimming",
)
"""What is left out where it has to be fast."""


@dataclass(frozen=True)
class Outcome:
    """What became of a test class."""

    name: str
    ran: int
    failures: int
    errors: int
    skipped: tuple[str, ...]
    said: str
    seconds: tuple[tuple[str, float], ...]


class _Timed(unittest.TextTestResult):
    """Notes how long each test took."""

    def __init__(self, stream: io.StringIO) -> None:
        super().__init__(unittest.runner._WritelnDecorator(stream), descriptions=True, verbosity=1)
        self.seconds: list[tuple[str, float]] = []
        self._begun = 0.0

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802  (the name of unittest)
        self._begun = time.perf_counter()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802  (as above)
        self.seconds.append((test.id(), time.perf_counter() - self._begun))
        super().stopTest(test)


def main(arguments: Iterable[str]) -> int:
    """Run them; 1 where one failed."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("names", nargs="*", help="modules, classes or packages; default: all")
    parser.add_argument(
        "--fast",
        action="store_true",
        help="all but the browser, the recogniser and whole files made to fit; fewer tries by chance",
    )
    parser.add_argument("--jobs", type=int, default=os.cpu_count() or 1)
    parser.add_argument("--slowest", type=int, default=0, help="list so many of the slowest tests")
    given = parser.parse_args(list(arguments))
    sys.path.insert(0, str(ROOT))
    names = _in_order(_classes(given.names), fast=given.fast)
    begun = time.monotonic()
    outcomes = []
    # Processes that may have children of their own: some tests have pools.
    context = multiprocessing.get_context("spawn")
    with ProcessPoolExecutor(given.jobs, mp_context=context, initializer=_prepare, initargs=(given.fast,)) as pool:
        for future in as_completed([pool.submit(_run, name) for name in names]):
            outcome = future.result()
            outcomes.append(outcome)
            # At once: a run that is stopped has said what failed.
            sys.stdout.write(f"\n{outcome.said}\n" if outcome.failures or outcome.errors else ".")
            sys.stdout.flush()
    return _report(outcomes, time.monotonic() - begun, given.slowest)


def _prepare(fast: bool) -> None:  # noqa: FBT001  (passed on by the pool)
    """In every process: warnings are errors, as they are in a single run; tests by chance try less often where it is fast."""
    if fast:
        os.environ.setdefault(SHARE, "0.33")
    warnings.simplefilter("error")
    sys.path.insert(0, str(ROOT))


def _classes(names: list[str]) -> list[str]:
    """The test classes below some names, each by its full name."""
    loader = unittest.TestLoader()
    if names:
        suites: Iterable[unittest.TestSuite] = (_suite(loader, name) for name in names)
    else:
        suites = (loader.discover(str(ROOT / "tests"), top_level_dir=str(ROOT)),)
    found = dict.fromkeys(name for suite in suites for name in _names(suite))
    return list(found)


def _suite(loader: unittest.TestLoader, name: str) -> unittest.TestSuite:
    """What a name stands for; a package for all below it."""
    folder = ROOT / name.replace(".", "/")
    if folder.is_dir():
        return loader.discover(str(folder), top_level_dir=str(ROOT))
    return loader.loadTestsFromName(name)


def _names(suite: unittest.TestSuite) -> Iterator[str]:
    for each in suite:
        if isinstance(each, unittest.TestSuite):
            yield from _names(each)
        elif each.__class__.__name__ == "_FailedTest":
            # A module that can't be imported: running it by name says why.
            yield each.id().removeprefix("unittest.loader._FailedTest.")
        else:
            yield f"{each.__class__.__module__}.{each.__class__.__qualname__}"


def _in_order(names: list[str], *, fast: bool) -> list[str]:
    def weight(name: str) -> int:
        return next((at for at, prefix in enumerate(_FIRST) if name.startswith(prefix)), len(_FIRST))

    return sorted((each for each in names if not (fast and each.startswith(_SLOW))), key=weight)


def _run(name: str) -> Outcome:
    stream = io.StringIO()
    result = _Timed(stream)
    try:
        suite = unittest.defaultTestLoader.loadTestsFromName(name)
        suite.run(result)
        result.printErrors()
    except BaseException:
        return Outcome(name, 0, 0, 1, (), traceback.format_exc(), ())
    said = stream.getvalue() if result.failures or result.errors or result.unexpectedSuccesses else ""
    skipped = tuple(f"{test.id()}: {reason}" for test, reason in result.skipped)
    failures = len(result.failures) + len(result.unexpectedSuccesses)
    return Outcome(name, result.testsRun, failures, len(result.errors), skipped, said, tuple(result.seconds))


def _report(outcomes: list[Outcome], seconds: float, slowest: int) -> int:
    write = sys.stdout.write
    write("\n")
    for each in outcomes:
        for line in each.skipped:
            write(f"skipped: {line}\n")
    timed = sorted((pair for each in outcomes for pair in each.seconds), key=lambda pair: -pair[1])
    for test, took in timed[:slowest]:
        write(f"{took:7.2f} s  {test}\n")
    failures, errors = sum(each.failures for each in outcomes), sum(each.errors for each in outcomes)
    skipped = sum(len(each.skipped) for each in outcomes)
    write(f"\nRan {sum(each.ran for each in outcomes)} tests in {seconds:.0f}s\n\n")
    bad = [f"{word}={count}" for word, count in (("failures", failures), ("errors", errors)) if count]
    write(f"FAILED ({', '.join(bad)})\n" if bad else f"OK (skipped={skipped})\n")
    return 1 if bad else 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
