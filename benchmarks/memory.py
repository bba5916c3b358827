"""Peak memory (Linux: VmHWM) of opening, placing into and writing a 50 MB file: idle + 100 MB + 3 × the file at the most.

Each format runs in a process of its own, which reads its own peak; idle is the same process with everything imported.
"""

from __future__ import annotations

import subprocess
import sys
import tempfile
from pathlib import Path

from benchmarks.measure import Result
from benchmarks.place_large import files

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
_MORE_MB = 100


def run() -> list[Result]:
    """Measure each format."""
    return [_measure(extension, data, spot) for extension, data, spot in files()]


def _measure(extension: str, data: bytes, spot: str) -> Result:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"in.{extension}"
        path.write_bytes(data)
        child = [sys.executable, "-c", _CHILD, str(path), spot]
        said = subprocess.run(child, capture_output=True, text=True, check=True).stdout
    idle, peak = (float(each) for each in said.split())
    file_mb = len(data) / 2**20
    goal = idle + _MORE_MB + 3 * file_mb
    words = f"idle {idle:.0f} MB, file {file_mb:.0f} MB; opened, placed, written, opened again and weighed"
    return Result(f"Peak memory, 50 MB .{extension}", f"{peak:.0f} MB", f"≤ {goal:.0f} MB", peak <= goal, words)
