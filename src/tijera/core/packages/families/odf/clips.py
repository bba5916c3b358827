"""How much of a picture its frame's style hides (ODF 1.2 Part 1 §20.167 fo:clip; number from memory)."""

from __future__ import annotations

import re
from collections.abc import Callable
from fractions import Fraction
from functools import cache

from tijera.core.packages.containers.xmlspan import Element
from tijera.core.packages.families.odf.names import length, q
from tijera.core.packages.families.odf.styles import OdfStyles
from tijera.core.packages.places.reports import natural_size
from tijera.core.packages.places.spots import WHOLE, Crop

_RECTANGLE = re.compile(r"rect\(([^)]*)\)")
_SIDES = 4


class Clips:
    """The crops of frames. What is hidden at each side is a length of the picture at its natural size."""

    def __init__(self, styles: OdfStyles, read: Callable[[str], bytes]) -> None:
        self._styles = styles
        self._size = cache(lambda member: natural_size(read(member)))

    def of(self, frame: Element, member: str) -> Crop:
        """How a frame crops the picture in it; whole where its style says nothing or nothing that can be read."""
        hidden = self._hidden(frame.get(q("draw:style-name")))
        size = self._size(member) if hidden else None
        if not hidden or size is None:
            return WHOLE
        top, right, bottom, left = hidden
        width, height = Fraction(size[0].emu), Fraction(size[1].emu)
        shares = (left / width, top / height, right / width, bottom / height)
        return Crop(*(min(max(float(each), 0.0), 1.0) for each in shares))

    def _hidden(self, name: str | None) -> tuple[Fraction, ...] | None:
        """Top, right, bottom and left, in EMU; None where nothing is hidden."""
        for style in self._styles.chain("graphic", name):
            properties = style.find(q("style:graphic-properties"))
            text = None if properties is None else properties.get(q("fo:clip"))
            if text is None:
                continue
            match = _RECTANGLE.fullmatch(text.strip())
            parts = re.split(r"[,\s]+", match[1].strip()) if match else []
            sides = tuple(length(part) or Fraction(0) for part in parts)
            return sides if len(sides) == _SIDES and any(sides) else None
        return None
