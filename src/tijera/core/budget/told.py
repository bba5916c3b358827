"""What a rendition lacks, in words, with the real numbers."""

from __future__ import annotations

import numpy as np

from tijera.core.budget.ladder import Ladder
from tijera.core.budget.rendition import Rendition, Way
from tijera.core.imaging.decode import decode
from tijera.core.imaging.lettering import smallest_text

_THIN_SPACE = "\u2009"


def given_up(ladder: Ladder, rendition: Rendition) -> str:
    """Of a picture's rendition, beside the one that lacks nothing; empty where it is that one."""
    first = ladder.first
    if rendition.data == first.data:
        return ""
    said = []
    if rendition.size != first.size:
        before, after = (size.width / ladder.placed_width.inches for size in (first.size, rendition.size))
        said.append(f"{after:.0f} of {before:.0f} ppi")
        text = smallest_text(ladder.load())
        if text is not None:
            smaller = text.em_px * rendition.size.width / first.size.width
            said.append(f"smallest text {smaller:.0f} of {text.em_px:.0f} px")
    if rendition.way is Way.COLOURS:
        counts = (count_colours(data) for data in (rendition.data, first.data))
        said.append(" of ".join(f"{count:,}".replace(",", _THIN_SPACE) for count in counts) + " colours")
    elif rendition.way is Way.JPEG:
        said.append(f"JPEG at quality {rendition.quality}")
    return ", ".join(said) or "nothing lost, packed tighter"


def count_colours(data: bytes) -> int:
    """How many colours an encoded picture has."""
    pixels = decode(data).pixels.astype(np.uint32)
    packed = sum((pixels[:, :, band] << np.uint32(8 * band) for band in range(pixels.shape[2])), np.uint32(0))
    return int(np.unique(packed).size)
