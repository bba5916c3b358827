"""Run the tests side by side: one process a core, each with a browser of its own; the last lines say how many ran.

`python -m tools.run_tests [--fast] [--jobs N] [--slowest N] [NAME …]`. A piece of work is a test class. Browser tests begin
first, because they take longest; so all cores are done at about the same time.
"""

from __future__ import annotations

import argparse
import ast
import importlib
import io
import multiprocessing
import os
import sys
import time
import traceback
import unittest
import warnings
from collections.abc import Iterable
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
    "tests.reference.test_recognised_words",
    # They search for renditions of whole files with the encoders that are used in earnest.
    "tests.reference.test_loss_metric",
    "tests.tijera.core.budget.test_saving",
    "tests.tijera.core.budget.test_search",
    "tests.tijera.usecases.test_bench.Fitting",
    "tests.tijera.usecases.test_crops_made_real",
    "tests.tijera.usecases.test_fitting",
    "tests.tijera.usecases.test_linked_instead",
    "tests.tijera.usecases.test_slimming",
    # They start the application as a program of its own, again and again.
    "tests.tijera.test_decoders.Elsewhere",
    "tests.tijera.test_ownership.Served",
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
        help="all but the browser, the recogniser, whole files made to fit, programs; fewer tries by chance",
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
    """The classes below some names that may have tests, each by its full name; what is imported is left to the processes."""
    if not names:
        return [each for file in sorted((ROOT / "tests").rglob("test_*.py")) for each in _written_in(file)]
    found: list[str] = []
    for name in names:
        place = ROOT / name.replace(".", "/")
        if place.is_dir():
            found += [each for file in sorted(place.rglob("test_*.py")) for each in _written_in(file)]
        elif place.with_suffix(".py").is_file():
            found += _written_in(place.with_suffix(".py"))
        else:
            found.append(name)
    return list(dict.fromkeys(found))


def _written_in(file: Path) -> list[str]:
    """The classes of a module, as its text has them; the module itself where it has none, so that it is found at least."""
    module = ".".join(file.relative_to(ROOT).with_suffix("").parts)
    classes = [each.name for each in ast.parse(file.read_bytes()).body if isinstance(each, ast.ClassDef)]
    return [f"{module}.{name}" for name in classes] or [module]


def _in_order(names: list[str], *, fast: bool) -> list[str]:
    def weight(name: str) -> int:
        return next((at for at, prefix in enumerate(_FIRST) if name.startswith(prefix)), len(_FIRST))

    return sorted((each for each in names if not (fast and each.startswith(_SLOW))), key=weight)


def _run(name: str) -> Outcome:
    stream = io.StringIO()
    result = _Timed(stream)
    try:
        _suite(name).run(result)
        result.printErrors()
    except BaseException:
        return Outcome(name, 0, 0, 1, (), traceback.format_exc(), ())
    said = stream.getvalue() if result.failures or result.errors or result.unexpectedSuccesses else ""
    skipped = tuple(f"{test.id()}: {reason}" for test, reason in result.skipped)
    failures = len(result.failures) + len(result.unexpectedSuccesses)
    return Outcome(name, result.testsRun, failures, len(result.errors), skipped, said, tuple(result.seconds))


def _suite(name: str) -> unittest.TestSuite:
    """The tests of a class, a module or a single one; none where a class is a helper of the tests."""
    module, _, last = name.rpartition(".")
    held = (
        getattr(importlib.import_module(module), last, None)
        if (ROOT / f"{module.replace('.', '/')}.py").is_file()
        else None
    )
    if isinstance(held, type) and not issubclass(held, unittest.TestCase):
        return unittest.TestSuite()
    return unittest.defaultTestLoader.loadTestsFromName(name)


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
