"""Taking nine clippings anew and putting them in place, against taking nine."""

from __future__ import annotations

import tempfile
from pathlib import Path

from benchmarks.measure import Result, compare, ratio
from tijera.core.geometry import Rect
from tijera.core.packages.registry import new_document
from tijera.desk.desk import PracticeDesk
from tijera.store.store import Store
from tijera.usecases import destinations, placing, retaking, taking
from tijera.usecases.workshop import Workshop

_COUNT = 9
_NOW = "2026-03-12T12:00:00.000000+00:00"


def run() -> Result:
    """Measure."""
    with tempfile.TemporaryDirectory() as folder:
        store = Store(Path(folder), lambda: _NOW)
        desk = PracticeDesk()
        workshop = Workshop(store, {"desk": desk}, lambda: _NOW)

        def take() -> list[str]:
            desk.scroll("fare-notice", 3)
            frame = taking.freeze(workshop, "desk")
            areas = [Rect(90 + 40 * number, 130, 700, 420) for number in range(_COUNT)]
            cuts = [taking.Cut(taking.CutKind.REGION, area) for area in areas]
            taken = [taking.take(workshop, frame.id, cut) for cut in cuts]
            for each in taken:
                workshop.pictures.finished(each)
            return [each.id for each in taken]

        _, data = new_document("docx")
        file = destinations.open_destination(workshop, data, "Rules.docx")
        spot = next(iter(destinations.document_of(workshop, file).spots())).id
        for clipping in take():
            placing.place(workshop, file.id, clipping, spot)
        looks = retaking.Looks()

        def anew() -> int:
            desk.scroll("fare-notice", 3)
            *_, found = retaking.look_at_all(workshop, looks, file.id)
            assert isinstance(found, retaking.LookedAt)
            return len(retaking.accept(workshop, looks, found.looks))

        result = ratio("Take nine clippings anew", 1.5, *compare(anew, take, 7), f"{anew()} of {_COUNT}")
        store.close()
        return result
