"""Making it fit: how long it takes in units of plain work, how exact the solver is beside its first step, what screens weigh."""

from __future__ import annotations

import io
import statistics
import time

import numpy as np
from PIL import Image

from benchmarks.measure import Result
from tests.support.sack import Sack
from tests.support.screens import SORTS, screen
from tests.tijera.core.budget.test_solver import curves
from tijera.core.budget import solver
from tijera.core.budget.ladder import Ladder
from tijera.core.budget.rendition import first_rendition, packed_tighter
from tijera.core.budget.search import Progress, Verdict, Wanted, find_fit
from tijera.core.imaging.decode import decode
from tijera.core.imaging.measure import Original
from tijera.core.imaging.palette import Histogram, in_few_colours
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.vips import to_vips
from tijera.core.units import Length
from tijera.desk.desk import PracticeDesk

_WIDTH = Length.from_mm(160)


def run() -> list[Result]:
    """Measure."""
    return [*_fits(), _solver(), _loss(), *_bytes()]


def _pictures() -> list[Picture]:
    """Windows and photographs of a megapixel and more, as somebody would send them."""
    desk = PracticeDesk()
    windows = [desk.window(name) for name in ("tide-board", "crew-roster", "engine-log")]
    chart = desk.window("harbour-chart")
    photographs = [Picture(np.ascontiguousarray(np.roll(chart.pixels, 97 * turn, axis=1))) for turn in range(3)]
    return [*windows, *photographs]


def _fits() -> list[Result]:
    pictures = _pictures()
    firsts = [first_rendition(picture) for picture in pictures]
    begun = time.perf_counter()
    for first in firsts:
        picture = decode(first.data)
        to_vips(picture.pixels).pngsave_buffer(palette=True, effort=1, compression=9, filter="none", keep="none")
    unit = time.perf_counter() - begun
    ladders = [
        Ladder(lambda first=first: decode(first.data), first, _WIDTH)  # type: ignore[misc]
        for first in firsts
    ]
    wanted = [Wanted(ladder) for ladder in ladders]
    limit = sum(first.bytes for first in firsts) // 2
    results, verdict = [], None
    for question, goal in (("A fit, polished", 12.0), ("A second limit", 0.1)):
        begun, steps = time.perf_counter(), 0
        for step in find_fit(wanted, limit, Sack()):
            steps += isinstance(step, Progress)
            verdict = step if isinstance(step, Verdict) else verdict
        taken = time.perf_counter() - begun
        assert verdict is not None
        details = (
            f"{len(pictures)} pictures, one core, {steps} steps, {verdict.written_bytes / limit:.2%} of the limit used; "
            f"a unit is one decode and one encode of 256 colours each: {unit * 1000:.0f} ms"
        )
        results.append(
            Result(question, f"{taken / unit:.2f} units", f"≤ {goal:g} units", taken / unit <= goal, details)
        )
        limit = limit * 19 // 20
    return results


def _solver() -> Result:
    whole, hulls = [], []
    for seed in range(40):
        ladders = curves(seed, 30, 60)
        least, most = (sum(of(option.bytes for option in ladder) for ladder in ladders) for of in (min, max))
        limit = int(least + (most - least) * (0.1 + 0.02 * seed))
        begun = time.perf_counter()
        found = [solver.ladder_of(each) for each in ladders]
        solver.along_hulls(found, limit - sum(int(each.bytes[0]) for each in found))
        hulls.append(time.perf_counter() - begun)
        begun = time.perf_counter()
        solver.choose(ladders, limit)
        whole.append(time.perf_counter() - begun)
    figure = float(np.quantile(whole, 0.95)) / statistics.median(hulls)
    details = f"30 × 60, exact: median {statistics.median(whole) * 1000:.0f} ms, hull step {statistics.median(hulls) * 1000:.0f} ms"
    return Result("The solver, 95th percentile to its hull step", f"{figure:.2f} ×", "≤ 5 ×", figure <= 5, details)


def _loss() -> Result:
    picture = PracticeDesk().window("crew-roster")
    original, megapixels = Original(picture), picture.size.width * picture.size.height / 1e6
    fewer = in_few_colours(Histogram.of(picture.pixels), 16)
    times = []
    for _ in range(20):
        begun = time.perf_counter()
        original.loss(fewer)
        times.append(time.perf_counter() - begun)
    taken = min(times) * 1_000 / megapixels
    return Result(
        "Loss of a rendition",
        f"{taken:.1f} ms/Mpx",
        "≤ 5 ms/Mpx",
        taken <= 5,
        "a window full of text, in 16 colours; the best of 20",
    )


def _bytes() -> list[Result]:
    lossless, lightest = [], []
    for name in SORTS:
        picture = screen(name)
        out = io.BytesIO()
        Image.fromarray(picture.pixels).save(out, "PNG", optimize=True)
        plain, first = len(out.getvalue()), first_rendition(picture)
        lossless.append(packed_tighter(first).bytes / plain)
        *_, verdict = find_fit([Wanted(Ladder(lambda picture=picture: picture, first, _WIDTH))], 0, Sack())  # type: ignore[misc]
        assert isinstance(verdict, Verdict)
        lightest.append(verdict.renditions[0].bytes / plain)
    results = []
    for question, shares, goal in (("without loss", lossless, 0.77), ("the lightest above the floor", lightest, 0.22)):
        mean = float(np.exp(np.mean(np.log(shares))))
        details = f"{len(shares)} made-up screens, geometric mean; worst {max(shares):.2f}"
        results.append(
            Result(
                f"Screens to Pillow's optimised PNG, {question}",
                f"{mean:.3f} ×",
                f"≤ {goal:g} ×",
                mean <= goal,
                details,
            )
        )
    return results
