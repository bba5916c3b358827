"""From letting go to the slip on the rack: cutting, keeping, the rack's row and its thumbnail.

The control is encoding that picture once, as it is written into a document.
"""

from __future__ import annotations

import itertools
import tempfile
from pathlib import Path

from benchmarks.measure import Result, compare, ratio
from tijera.core.geometry import Rect
from tijera.core.imaging.encode import encode_png
from tijera.desk.desk import PracticeDesk
from tijera.store.store import Store
from tijera.usecases import rack, taking
from tijera.usecases.workshop import Workshop

_AREA = Rect(90, 130, 1_200, 800)


def run() -> Result:
    """Measure."""
    with tempfile.TemporaryDirectory() as folder:
        count = itertools.count()

        def now() -> str:
            return f"2026-03-12T12:00:00.{next(count):06}+00:00"

        store = Store(Path(folder), now)
        workshop = Workshop(store, {"desk": PracticeDesk()}, now)
        frame = taking.freeze(workshop, "desk")
        picture = workshop.frame_pixels(frame).cut(_AREA)

        def ours() -> int:
            record = taking.take(workshop, frame.id, taking.Cut(taking.CutKind.REGION, _AREA))
            return len(store.slips()) + len(rack.thumbnail(workshop, record.id))

        result = ratio(
            "From release to the slip on the rack", 2, *compare(ours, lambda: encode_png(picture), 9), "1200 × 800 px"
        )
        store.close()
        return result
