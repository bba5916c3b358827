"""Finding the panes of a frame of 3840 × 2160, against decoding that frame."""

from __future__ import annotations

import numpy as np

from benchmarks.measure import Result, compare, plainly_decoded, ratio
from tijera.core.frames.panes import find_panes
from tijera.core.imaging.encode import encode_frame
from tijera.core.imaging.picture import Picture
from tijera.desk.desk import PracticeDesk


def large_frame() -> Picture:
    """The practice desk's monitors, laid together to 3840 × 2160 pixels without enlarging anything."""
    desk = PracticeDesk().grab().picture.pixels
    out = np.full((2_160, 3_840, 3), 95, dtype=np.uint8)
    out[:1_440] = desk[:, :3_840]
    out[1_440:, :1_920] = desk[360:1_080, 2_560:]
    out[1_440:, 1_920:] = desk[:720, :1_920]
    return Picture(out)


def run() -> Result:
    """Measure."""
    frame = large_frame()
    kept = encode_frame(frame)
    found = len(find_panes(frame))
    return ratio(
        "Panes of a 3840 × 2160 frame",
        3,
        *compare(lambda: find_panes(frame), lambda: plainly_decoded(kept), 5),
        f"{found} panes, against decoding the frame",
    )
