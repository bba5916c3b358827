"""Twenty marks of all kinds on a screen of 1600 × 1000, against decoding and encoding that picture once."""

from __future__ import annotations

from benchmarks.measure import Result, compare, ratio
from tests.support.sheets import Given, clipping_of, mark
from tijera.core.clippings.composing import compose
from tijera.core.clippings.sheet import Sheet
from tijera.core.geometry import Rect
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_frame, encode_png
from tijera.core.marks.mark import Mark
from tijera.desk.desk import PracticeDesk


def run() -> Result:
    """Measure."""
    picture = PracticeDesk().grab().picture.cut(Rect(60, 60, 1_600, 1_000))
    kept = encode_frame(picture)
    clipping = clipping_of(picture.pixels, sheet=Sheet(marks=twenty()), scale_factor=1.5)
    sources = Given(picture)

    def ours() -> object:
        return compose(clipping, sources, 2.0)

    def control() -> int:
        return len(encode_png(decode(kept)))

    return ratio("Drawing 20 marks on 1600 × 1000", 1.5, *compare(ours, control, 9), "one decode and one encode")


def twenty() -> tuple[Mark, ...]:
    """Two of everything, and eight pennants."""
    wave = tuple((200.0 + i, 700 + 60 * ((i // 40) % 2)) for i in range(0, 800, 4))
    two = [
        mark("arrow", (100, 100), (500, 300)),
        mark("arrow", (700, 100), (1_100, 300), line="bent", head="filled"),
        mark("line", (100, 400), (600, 380), angle=True, length=True),
        mark("text", (900, 500), text="Low water at berth Q4"),
        mark("text", (300, 820), text="Correct the hours", ground="none", size_pt=14.0),
        mark("ring", (200, 200), (900, 600)),
        mark("ring", (950, 620), (1_300, 900), shape="ellipse", dash="dashed"),
        mark("tint", (100, 500), (800, 500)),
        mark("callout", (400, 300), (700, 450), text="The watch reads this"),
        mark("black-out", (1_200, 100), (1_500, 160)),
        mark("pen", *wave),
        mark("pen", *((x, y + 120) for x, y in wave), weight_pt=4.0),
    ]
    row = [mark("pennant", (150 + 160 * n, 950)) for n in range(8)]
    return tuple(Mark(str(n), each.kind, each.points, each.options) for n, each in enumerate([*two, *row]))
