"""Writing a copy of a 50 MB .docx with one new picture, and weighing it once more, against copying the file (`cp`) in the same run.

The document was opened and checked before, as on the bench; the copy is written to disk in both. Weighing is what follows each
change: the copy that was just written is opened and each picture reported.
"""

from __future__ import annotations

import shutil
import tempfile
from pathlib import Path

from benchmarks.measure import Result, compare, ratio
from benchmarks.place_large import files
from tests.support.pictures import encoded, text_like
from tijera.core.packages.containers.zipped import Guards
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.packages.registry import open_document, report_pictures, write
from tijera.core.units import Length

_ROUNDS = 9


def run() -> list[Result]:
    """Measure."""
    _, data, spot = files()[0]
    document = open_document(data)
    picture = PlacedPicture(spot, encoded(text_like(900, 560)), "png", Length.from_mm(150), Length.from_mm(90), "Tide")
    with tempfile.TemporaryDirectory() as folder:
        source, copy, target = (Path(folder) / name for name in ("in.docx", "copy.docx", "out.docx"))
        source.write_bytes(data)
        written = write(document, [picture]).data
        writing = compare(
            lambda: target.write_bytes(write(document, [picture]).data), lambda: shutil.copyfile(source, copy), _ROUNDS
        )
        weighing = compare(
            lambda: report_pictures(open_document(written, "out.docx", Guards(is_own=True))),
            lambda: shutil.copyfile(source, copy),
            _ROUNDS,
        )
    details = f"a file of {len(data) / 1e6:.1f} MB"
    return [
        ratio("Writing a 50 MB copy, to cp", 1.6, *writing, details),
        ratio("Weighing it once more, to cp", 0.2, *weighing, details),
    ]
