"""Lengths in whole EMU and sizes in bytes, with the words that people type for them.

Sources: ECMA-376 Part 1 §20.1.2.1 (EMU; clause number from memory), CSS Values and Units Level 3 §6.2 (px),
IEC 80000-13 (kB and MB are powers of ten, KiB and MiB powers of two).
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from fractions import Fraction

from tijera.core.errors import LengthUnreadable, LimitUnreadable

EMU_PER_INCH = 914_400
EMU_PER_CM = 360_000
EMU_PER_MM = 36_000
EMU_PER_POINT = 12_700
EMU_PER_PICA = 12 * EMU_PER_POINT
EMU_PER_TWIP = 635
EMU_PER_PIXEL = 9_525
PIXELS_PER_INCH = 96
POINTS_PER_INCH = 72

_EMU_BY_UNIT = {
    "mm": EMU_PER_MM,
    "cm": EMU_PER_CM,
    "in": EMU_PER_INCH,
    "pt": EMU_PER_POINT,
    "pc": EMU_PER_PICA,
    "pi": EMU_PER_PICA,
    "px": EMU_PER_PIXEL,
    "emu": 1,
}
_BYTES_BY_UNIT = {"B": 1, "KB": 10**3, "MB": 10**6, "GB": 10**9, "KIB": 2**10, "MIB": 2**20, "GIB": 2**30}
_LENGTH = re.compile(r"\s*(-?[0-9]{1,12}(?:\.[0-9]{1,12})?)\s*([a-z]{1,3})\s*", re.IGNORECASE)
_BARE = re.compile(r"\s*-?[0-9]{1,12}(?:\.[0-9]{1,12})?\s*")
_BYTES = re.compile(r"\s*([0-9]{1,15}(?:[.,][0-9]{1,9})?)\s*([kmg]?i?b)\s*", re.IGNORECASE)
_MOST_EMU = 10**12
"""28 km: whatever is longer was not meant, and would not fit where lengths are kept."""
_MOST_LIMIT = 10**15


def round_half_up(value: Fraction | float) -> int:
    """Round to the nearest whole number, halves upward: the one rounding rule, applied once, at the edge.

    Halves go up (not to even), so that a picture never comes out narrower than another of the same measure.
    """
    return math.floor(Fraction(value) + Fraction(1, 2))


@dataclass(frozen=True, order=True)
class Length:
    """A length in whole English Metric Units (914 400 to the inch)."""

    emu: int

    @classmethod
    def exactly(cls, value: Fraction | int) -> Length:
        """Round a number of EMU, whole or not, to a length."""
        return cls(round_half_up(value))

    @classmethod
    def from_mm(cls, millimetres: float | Fraction) -> Length:
        """Make a length from millimetres."""
        return cls.exactly(Fraction(str(millimetres)) * EMU_PER_MM)

    @classmethod
    def from_twips(cls, twips: Fraction | int) -> Length:
        """Make a length from twentieths of a point."""
        return cls.exactly(Fraction(twips) * EMU_PER_TWIP)

    @classmethod
    def from_pixels(cls, pixels: Fraction | int) -> Length:
        """Make a length from CSS pixels (1/96 inch)."""
        return cls.exactly(Fraction(pixels) * EMU_PER_PIXEL)

    @classmethod
    def parse(cls, text: str) -> Length:
        """Read "60mm", "2.5 in", "12,5 cm" or "170pt"; raise `LengthUnreadable` for anything else or nothing positive."""
        match = _LENGTH.fullmatch(text.replace(",", "."))
        unit = _EMU_BY_UNIT.get(match[2].lower()) if match else None
        if match is None or unit is None:
            raise LengthUnreadable(text=text)
        length = cls.exactly(Fraction(match[1]) * unit)
        if not 0 < length.emu <= _MOST_EMU:
            raise LengthUnreadable(text=text)
        return length

    @property
    def mm(self) -> float:
        """The length in millimetres."""
        return self.emu / EMU_PER_MM

    @property
    def inches(self) -> float:
        """The length in inches."""
        return self.emu / EMU_PER_INCH

    @property
    def pixels(self) -> int:
        """The length in whole CSS pixels, cut down as a browser lays it out."""
        return self.emu // EMU_PER_PIXEL

    def __add__(self, other: Length) -> Length:
        """Add two lengths."""
        return Length(self.emu + other.emu)

    def __sub__(self, other: Length) -> Length:
        """Take one length from another; the result may be negative."""
        return Length(self.emu - other.emu)


def ooxml_measure(text: str) -> Fraction:
    """Read an OOXML measure as EMU: whole twips, or a number with its unit as strict files write it.

    Source: ECMA-376 Part 1 §22.9.2.14 ST_TwipsMeasure and §22.9.2.15 ST_UniversalMeasure (numbers from memory).
    Raises `LengthUnreadable`.
    """
    match = _LENGTH.fullmatch(text)
    if match:
        unit = _EMU_BY_UNIT.get(match[2].lower())
        measure = None if unit is None else Fraction(match[1]) * unit
    else:
        measure = Fraction(text.strip()) * EMU_PER_TWIP if _BARE.fullmatch(text) else None
    if measure is None or abs(measure) > _MOST_EMU:
        raise LengthUnreadable(text=text[:40])
    return measure


def parse_limit(text: str) -> int:
    """Read a limit such as "2 MB", "500 kB" or "10 MiB" as bytes; raise `LimitUnreadable`."""
    match = _BYTES.fullmatch(text)
    if match is None:
        raise LimitUnreadable(text=text)
    size = round_half_up(Fraction(match[1].replace(",", ".")) * _BYTES_BY_UNIT[match[2].upper()])
    if not 0 < size <= _MOST_LIMIT:
        raise LimitUnreadable(text=text)
    return size


def format_bytes(size: int) -> str:
    """Write a number of bytes for people: "31 kB", "1.49 MB"; powers of ten."""
    if abs(size) < 1_000:
        return f"{size} B"
    if abs(size) < 999_500:
        return f"{size / 1_000:.0f} kB"
    return f"{size / 1_000_000:.2f} MB"
