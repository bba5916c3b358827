"""Making it fit: how long it takes in units of plain work, how exact the solver is beside its first step, what screens weigh."""

from __future__ import annotations

import io
import math
import statistics
import time
from collections.abc import Sequence

import numpy as np
from PIL import Image

from benchmarks.measure import Result
from tests.support.sack import Sack
from tests.support.screens import SORTS, screen
from tests.tijera.core.budget.test_solver import curves
from tijera.core.budget import solver
from tijera.core.budget.ladder import Ladder
from tijera.core.budget.rendition import Rendition, first_rendition, packed_tighter
from tijera.core.budget.search import Verdict, Wanted, find_fit
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
    """Thirty windows and photographs, 50 MB of them, as somebody would send them."""
    desk = PracticeDesk()
    windows = [desk.window(name).pixels for name in ("tide-board", "crew-roster", "engine-log")]
    chart = desk.window("harbour-chart").pixels
    tall = np.concatenate((chart, chart[::-1], chart[:350]))
    shown = [np.roll(windows[number % 3], 13 * number, axis=0) for number in range(15)]
    shown += [np.roll(tall, 97 * number, axis=1) for number in range(15)]
    return [Picture(np.ascontiguousarray(pixels)) for pixels in shown]


class _Timed(Sack):
    """Notes when it was first written within a limit."""

    def __init__(self, limit: int) -> None:
        super().__init__()
        self._limit = limit
        self.fitted_at: float | None = None

    def written(self, renditions: Sequence[Rendition]) -> int:
        """Its length."""
        length = super().written(renditions)
        if self.fitted_at is None and length <= self._limit:
            self.fitted_at = time.perf_counter()
        return length


def _fits() -> list[Result]:
    firsts = [first_rendition(picture) for picture in _pictures()]
    begun = time.perf_counter()
    for first in firsts:
        picture = decode(first.data)
        to_vips(picture.pixels).pngsave_buffer(palette=True, effort=1, compression=9, filter="none", keep="none")
    unit = time.perf_counter() - begun
    wanted = [
        Wanted(Ladder(lambda first=first: decode(first.data), first, _WIDTH))  # type: ignore[misc]
        for first in firsts
    ]
    now = sum(first.bytes for first in firsts)

    def result(question: str, goal: float, taken: float, verdict: Verdict, limit: int) -> Result:
        details = (
            f"{len(firsts)} pictures of {now / 1e6:.0f} MB under {limit / 1e6:.1f}, one core, "
            f"{verdict.written_bytes / limit:.2%} of the limit used, loss {sum(each.loss for each in verdict.renditions):.3f}; "
            f"a unit is one decode and one encode of 256 colours each: {unit * 1000:.0f} ms"
        )
        return Result(question, f"{taken / unit:.2f} units", f"≤ {goal:g} units", taken / unit <= goal, details)

    results: list[Result] = []
    for share, goal in ((0.5, 12.0), (0.475, 0.1), (0.3, 0.1), (0.6, 0.1)):
        limit = int(now * share)
        goods, begun = _Timed(limit), time.perf_counter()
        *_, verdict = find_fit(wanted, limit, goods)
        taken = time.perf_counter() - begun
        assert isinstance(verdict, Verdict)
        if not results:
            assert goods.fitted_at is not None
            results.append(result("The first valid fit", 6.0, goods.fitted_at - begun, verdict, limit))
        question = "A fit, polished" if len(results) == 1 else f"Then another limit, {share:.3g} of all, polished"
        results.append(result(question, goal, taken, verdict, limit))
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
    """Over the windows of the practice desk and the screens that its correlation with what is read was found on."""
    desk = PracticeDesk()
    windows = [desk.window(each.id) for each in desk.grab().frame.windows]
    pictures = [*windows, *map(screen, SORTS)]
    asked = [(Original(each), in_few_colours(Histogram.of(each.pixels), 16)) for each in pictures]
    best = [math.inf] * len(pictures)
    for _ in range(20):
        for at, (original, fewer) in enumerate(asked):
            begun = time.perf_counter()
            original.loss(fewer)
            best[at] = min(best[at], time.perf_counter() - begun)

    def ms_per_megapixel(some: slice) -> float:
        return 1_000 * sum(best[some]) / sum(each.size.pixels / 1e6 for each in pictures[some])

    taken = ms_per_megapixel(slice(None))
    details = (
        f"{len(pictures)} screens in 16 colours, all together, each the best of 20; {ms_per_megapixel(slice(len(windows))):.1f} on windows, "
        f"{ms_per_megapixel(slice(len(windows), None)):.1f} on small ones of nothing but text"
    )
    return Result("Loss of a rendition", f"{taken:.1f} ms/Mpx", "≤ 5 ms/Mpx", taken <= 5, details)


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
