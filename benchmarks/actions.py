"""How many actions nine tasks take: the journeys of the browser tests, counted from a log of their real input."""

from __future__ import annotations

import unittest

from benchmarks.measure import Result
from tests.browser.test_actions import TASKS, Actions


def run() -> list[Result]:
    """Do every task once; one that did not come to its end is told as such."""
    unittest.TextTestRunner(verbosity=0).run(unittest.defaultTestLoader.loadTestsFromTestCase(Actions))
    results = []
    for task, (words, before, wanted) in TASKS.items():
        done = Actions.found.get(task)
        figure = "not done" if done is None else str(len(done))
        met = done is not None and len(done) <= wanted
        details = f"{before} before; " + " · ".join(each.split()[0] for each in done or ())
        results.append(Result(f"Actions: {task} {words}", figure, f"≤ {wanted}", met, details))
    return results
