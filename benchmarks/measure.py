"""Timing: ours and the control in turns, so that both see the same machine; what counts is the median of their ratios."""

from __future__ import annotations

import gc
import io
import resource
import time
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image


@dataclass(frozen=True)
class Result:
    """What one question found."""

    question: str
    figure: str
    goal: str
    met: bool | None
    """None where no goal was set."""
    details: str


def compare(ours: Callable[[], object], control: Callable[[], object], runs: int) -> tuple[float, float]:
    """Seconds of ours and of the control, of the pair of runs whose ratio is the median; one unmeasured run of each comes first.

    Pairs, because a machine that others use too changes its speed from one second to the next: what ran side by side had the
    same one.
    """
    ours()
    control()
    # As the application does once it has started (`serving.py`): what is there by now is not looked through for garbage.
    gc.collect()
    gc.freeze()
    return middle([(_seconds(ours), _seconds(control)) for _ in range(runs)])


def middle(pairs: list[tuple[float, float]]) -> tuple[float, float]:
    """The pair whose ratio is the median of all."""
    return sorted(pairs, key=lambda pair: pair[0] / pair[1])[len(pairs) // 2]


def _seconds(work: Callable[[], object]) -> float:
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def ratio(question: str, goal: float | None, ours: float, control: float, details: str) -> Result:
    """A result from two times. Without a goal it is told, and neither met nor missed."""
    found = ours / control
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    words = f"{details}: {ours * 1000:.0f} ms to {control * 1000:.0f} ms, peak memory of the run {memory:.0f} MB"
    if goal is None:
        return Result(question, f"{found:.2f} ×", "none", None, words)
    return Result(question, f"{found:.2f} ×", f"≤ {goal:g} ×", found <= goal, words)


def plainly_decoded(data: bytes) -> NDArray[np.uint8]:
    """A picture decoded as anybody would, by the library alone: a control that ours, getting faster, does not move."""
    with Image.open(io.BytesIO(data)) as image:
        return np.array(image.convert("RGB"))
