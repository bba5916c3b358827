"""Peak memory (Linux: VmHWM): idle + 100 MB + 3 × what is worked on at the most.

Worked on is a 50 MB file, which is opened, placed into and written; or a large picture, of which renditions are made, and its
bytes count in memory. Each runs in a process of its own, which reads its own peak; idle is the same process with everything imported. Renditions are
made as by the server, which tells the C library to give back what is free.
"""

from __future__ import annotations

import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

import numpy as np

from benchmarks.measure import Result
from benchmarks.place_large import files
from tests.support.pictures import photograph_like
from tijera.core.imaging.encode import encode_frame, encode_jpeg
from tijera.core.imaging.picture import Picture
from tijera.desk.desk import PracticeDesk

_CHILD = """
import re, sys
from pathlib import Path
from tests.support.pictures import encoded, text_like
from tijera.core.packages.registry import open_document, report_pictures, write
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.units import Length
picture = PlacedPicture(sys.argv[2], encoded(text_like(900, 560)), "png", Length.from_mm(150), Length.from_mm(90), "Tide")
peak = lambda: int(re.search(r"VmHWM:\\s+(\\d+)", Path("/proc/self/status").read_text())[1]) / 1024
idle = peak()
data = Path(sys.argv[1]).read_bytes()
written = write(open_document(data, sys.argv[1]), [picture]).data
report_pictures(open_document(written, sys.argv[1]))
print(idle, peak())
"""
_FITTING = """
import re, sys
from pathlib import Path
from tijera.core.budget.ladder import Ladder
from tijera.core.budget.rendition import first_rendition
from tijera.core.imaging.allocator import keep_small
from tijera.core.imaging.decode import decode
from tijera.core.units import Length
keep_small()
peak = lambda: int(re.search(r"VmHWM:\\s+(\\d+)", Path("/proc/self/status").read_text())[1]) / 1024
idle = peak()
data = Path(sys.argv[1]).read_bytes()
ladder = Ladder(lambda: decode(data), first_rendition(decode(data), data), Length.from_mm(160))
ladder.begin()
ladder.go_further()
ladder.pack(ladder.rungs()[-1])
print(idle, peak())
"""
_MORE_MB = 100


def run() -> list[Result]:
    """Measure each format, and each sort of picture."""
    return [
        *(_measure(extension, data, spot) for extension, data, spot in files()),
        *(_of_picture(sort, picture) for sort, picture in _pictures()),
    ]


def _pictures() -> Iterator[tuple[str, Picture]]:
    """A screen as wide as three monitors side by side, twice as high, and a photograph with grain."""
    screen = PracticeDesk().window("crew-roster").pixels
    yield "screen", Picture(np.ascontiguousarray(np.tile(screen, (6, 5, 1))[:4_000, :5_000]))
    yield "photograph", photograph_like(5_000, 4_000)


def _of_picture(sort: str, picture: Picture) -> Result:
    data = encode_jpeg(picture, 90) if picture.is_photograph else encode_frame(picture)
    idle, peak = _child(_FITTING, "in.png", data)
    pixels_mb = picture.pixels.nbytes / 2**20
    goal = idle + _MORE_MB + 3 * pixels_mb
    words = f"{picture.size.pixels / 1e6:.0f} megapixels, {pixels_mb:.0f} MB of them; all renditions down to the floor, and packed"
    return Result(f"Peak memory, fitting a {sort}", f"{peak:.0f} MB", f"≤ {goal:.0f} MB", peak <= goal, words)


def _child(program: str, name: str, data: bytes, *more: str) -> tuple[float, float]:
    """Peaks in MB of a process of its own, which is given the file: idle, and of the work."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / name
        path.write_bytes(data)
        child = [sys.executable, "-c", program, str(path), *more]
        said = subprocess.run(child, capture_output=True, text=True, check=True).stdout
    idle, peak = (float(each) for each in said.split())
    return idle, peak


def _measure(extension: str, data: bytes, spot: str) -> Result:
    idle, peak = _child(_CHILD, f"in.{extension}", data, spot)
    file_mb = len(data) / 2**20
    goal = idle + _MORE_MB + 3 * file_mb
    words = f"idle {idle:.0f} MB, file {file_mb:.0f} MB; opened, placed, written, opened again and weighed"
    return Result(f"Peak memory, 50 MB .{extension}", f"{peak:.0f} MB", f"≤ {goal:.0f} MB", peak <= goal, words)
