"""Joining a strip of 1600 × 1000 to a long page, against decoding it: with a known distance and, worse, without one."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from benchmarks.measure import Result, compare, plainly_decoded, ratio
from tests.support.pages import Window, page_of, strip_of
from tijera.core.frames.longpage.stitcher import Stitcher
from tijera.core.imaging.encode import encode_frame

_WINDOW = Window(1_600, 1_000, 60, 30, clock=True, bar=15)
_STEP = 550


def run() -> Result:
    """Measure."""
    random = np.random.default_rng(3)
    page = page_of(random, _WINDOW.width, [("text", 6_000)])
    strips = [strip_of(page, _WINDOW, at, random, 1) for at in range(0, 5_000, _STEP)]
    kept = encode_frame(strips[1])

    def join(expected: int | None) -> None:
        stitcher = Stitcher()
        for upper, lower in pairwise(strips):
            # Each pair anew, so that what is measured is one join and nothing that was worked out before.
            stitcher = Stitcher()
            stitcher.add(upper)
            stitcher.add(lower, expected)

    pairs = len(strips) - 1
    known, control = compare(lambda: join(_STEP), lambda: [plainly_decoded(kept) for _ in range(pairs)], 5)
    unknown, _ = compare(lambda: join(None), lambda: plainly_decoded(kept), 3)
    details = f"per strip, of {pairs}; without a known distance {unknown / control:.2f} ×"
    return ratio("Joining a strip of a long page", 1.5, known / pairs, control / pairs, details)
