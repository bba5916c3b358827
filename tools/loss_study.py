"""How well the loss of a rendition follows what a recogniser still reads: `make loss-study` (no part of the tests).

Made-up screens with known words, each encoded in seventeen ways. For every one the loss of its text and the share of the
words that are read in the original and still here, where it stands by itself; rank correlations (Spearman) over all, over those at native size, and
within each screen. The recogniser's answers are kept, so that a changed measure is looked at in seconds.

`python -m tools.loss_study [--each] [--jobs N]`
"""

from __future__ import annotations

import argparse
import io
import os
import statistics
import sys
from collections.abc import Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass

from PIL import Image
from scipy.stats import spearmanr

from tests.support.recogniser import readable, recall
from tests.support.screens import SORTS, screen, text_box
from tijera.core.geometry import Size
from tijera.core.imaging.decode import decode
from tijera.core.imaging.measure import Original
from tijera.core.imaging.palette import Histogram, in_few_colours
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.resize import resize
from tijera.core.units import round_half_up

_COLOURS = (2, 3, 4)
_QUALITIES = (3, 5, 8, 10, 15, 20, 30)
_SHARES = (0.25, 0.3, 0.35, 0.4, 0.5, 0.6, 0.7)
"""Where words begin to go: of those that keep all of them no measure can tell an order."""


@dataclass(frozen=True)
class Seen:
    """One encoding of a screen."""

    screen: str
    way: str
    is_native: bool
    loss: float
    read: float
    """The share of the original's words."""


def _encodings(picture: Picture) -> Iterator[tuple[str, bool, Picture]]:
    histogram = Histogram.of(picture.pixels)
    for count in _COLOURS:
        yield f"{count} colours", True, in_few_colours(histogram, count).spread()
    for quality in _QUALITIES:
        out = io.BytesIO()
        Image.fromarray(picture.pixels).save(out, "JPEG", quality=quality)
        yield f"JPEG at {quality}", True, decode(out.getvalue())
    for share in _SHARES:
        fewer = Size(*(round_half_up(side * share) for side in (picture.size.width, picture.size.height)))
        yield f"{share:.0%} of the pixels across", False, resize(picture, fewer)


def look_at(name: str) -> list[Seen]:
    """All encodings of a screen."""
    picture, box = screen(name), text_box(name)
    original, known = Original(picture), readable(picture, box)
    return [
        Seen(name, way, is_native, original.loss(encoded).text, recall(known, encoded, picture.size, box))
        for way, is_native, encoded in _encodings(picture)
    ]


def correlation(seen: Sequence[Seen]) -> float:
    """Spearman's, of what is lost with what is read no more; nan where one of both never changes."""
    return float(spearmanr([each.loss for each in seen], [1 - each.read for each in seen]).statistic)


def ceiling(seen: Sequence[Seen]) -> float:
    """The most that a rank correlation can be where so many are alike: what a measure reaches that orders all others right."""
    order = sorted(seen, key=lambda each: (-each.read, each.loss))
    return float(spearmanr(range(len(order)), [1 - each.read for each in order]).statistic)


def main(arguments: Sequence[str]) -> int:
    """Print what was found."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--each", action="store_true", help="every encoding, too")
    parser.add_argument("--jobs", type=int, default=os.cpu_count() or 1)
    given = parser.parse_args(arguments)
    with ProcessPoolExecutor(given.jobs) as pool:
        by_screen = list(pool.map(look_at, SORTS))
    seen = [each for some in by_screen for each in some]
    write = sys.stdout.write
    for each in sorted(seen, key=lambda each: each.loss) if given.each else ():
        write(f"{each.loss:6.3f}  {each.read:5.2f}  {each.way:28} {each.screen}\n")
    within = [correlation(some) for some in by_screen if len({each.read for each in some}) > 1]
    write(
        f"{len(seen)} encodings of {len(by_screen)} screens, {sum(each.read >= 0.98 for each in seen)} keep 0.98 of the words\n"
    )
    native = [each for each in seen if each.is_native]
    write(f"rank correlation: all {correlation(seen):.3f} (at most {ceiling(seen):.3f})")
    write(f", at native size {correlation(native):.3f} (at most {ceiling(native):.3f})")
    write(f", within a screen {statistics.median(within):.3f} (median of {len(within)})\n")
    for least, most in ((0, 0.04), (0.04, 0.07), (0.07, 0.1), (0.1, 0.15), (0.15, 0.2), (0.2, 0.3), (0.3, 2)):
        among = [each.read for each in seen if least <= each.loss < most]
        if among:
            write(
                f"loss {least:.2f} to {most:.2f}: {len(among):3} encodings, words read {statistics.mean(among):.3f} on the mean"
            )
            write(f", {min(among):.2f} at least\n")
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
