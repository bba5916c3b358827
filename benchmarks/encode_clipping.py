"""From the kept frame to the placed bytes of a 1200 × 800 clipping, against one decode, resize and encode with Pillow.

The control does what one would write with the plain library: open the frame, cut, resize to the column at 220 ppi, save
as optimised PNG. Ours keeps native pixels and writes them without loss.
"""

from __future__ import annotations

import io

from PIL import Image

from benchmarks.measure import Result, compare, ratio
from tijera.core.budget.rendition import first_rendition
from tijera.core.clippings.cutting import Clipping, visible_pixels
from tijera.core.geometry import Rect
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_frame
from tijera.desk.desk import PracticeDesk

_AREA = Rect(90, 130, 1_200, 800)


def run() -> Result:
    """Measure."""
    grab = PracticeDesk().grab()
    frame, picture = grab.frame, grab.picture
    kept = encode_frame(picture)
    clipping = Clipping.uncropped(frame.size, _AREA, frame.scale_factor)

    def ours() -> int:
        return first_rendition(visible_pixels(clipping, decode(kept))).bytes

    def control() -> int:
        out = io.BytesIO()
        with Image.open(io.BytesIO(kept)) as image:
            cut = image.crop((_AREA.x, _AREA.y, _AREA.right, _AREA.bottom))
            cut.resize((680, 453), Image.Resampling.LANCZOS).save(out, "PNG", optimize=True)
        return len(out.getvalue())

    details = f"{ours() / 1000:.0f} kB at native pixels, the control {control() / 1000:.0f} kB at 680 × 453"
    return ratio("A clipping to its placed bytes", 3, *compare(ours, control, 9), details)
