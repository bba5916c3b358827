"""How wide columns and how high rows are (ECMA-376 Part 1 §18.3.1.13 col, §18.3.1.81 sheetFormatPr, §18.3.1.73 row)."""

from __future__ import annotations

import math
from fractions import Fraction

from tijera.core.packages.containers.xmlspan import Element, whole_number
from tijera.core.packages.formats.xlsx.names import XlsxNames
from tijera.core.packages.places.grid import MOST_COLUMNS, MOST_ROWS, Run, Tracks, tracks
from tijera.core.units import EMU_PER_PIXEL, EMU_PER_POINT, PIXELS_PER_INCH, POINTS_PER_INCH

USUAL_DIGIT_PX = 7
"""Of the usual font, at 96 dots per inch: the standard's own example."""
_DIGIT_PER_EM = {
    "calibri": 0.507,
    "arial": 0.556,
    "helvetica": 0.556,
    "liberation sans": 0.556,
    "times new roman": 0.5,
    "cambria": 0.554,
    "verdana": 0.636,
    "tahoma": 0.546,
    "courier new": 0.6,
}
"""How wide a digit is, per em: the fonts' own advance widths (from memory)."""
_USUAL_PER_EM = 0.53
_USUAL_ROW_PT = 15.0
_USUAL_CHARACTERS = 8
_PADDING_PX = 5
"""Two pixels at each side and one for the line of the grid (§18.3.1.81)."""
_STEP_PX = 8
_MOST_WIDTH = 255.0
_MOST_HEIGHT_PT = 409.5


def digit_px(font: str, size_pt: float) -> int:
    """The width of the widest digit of the workbook's usual font, in whole pixels."""
    em_px = size_pt * PIXELS_PER_INCH / POINTS_PER_INCH
    return max(int(em_px * _DIGIT_PER_EM.get(font.lower(), _USUAL_PER_EM)), 1)


def width_of_characters(characters: float, digit: int) -> float:
    """The `width` of a column that holds so many characters (§18.3.1.13, its first formula)."""
    return math.trunc((characters * digit + _PADDING_PX) / digit * 256) / 256


def pixels_of_width(width: float, digit: int) -> int:
    """How many pixels a column of this `width` has (§18.3.1.13, its second formula)."""
    return math.trunc((256 * width + math.trunc(128 / digit)) / 256 * digit)


def usual_column_px(layout: Element | None, digit: int) -> int:
    """How many pixels a column has that gives no width: as the sheet says, else from its number of characters."""
    given = _number(None if layout is None else layout.get("defaultColWidth"))
    if given is not None and 0 <= given <= _MOST_WIDTH:
        return pixels_of_width(given, digit)
    characters = whole_number(None if layout is None else layout.get("baseColWidth"), _USUAL_CHARACTERS, 0, 255)
    return math.ceil((characters * digit + _PADDING_PX) / _STEP_PX) * _STEP_PX


def read_columns(root: Element, names: XlsxNames, digit: int) -> Tracks:
    """The columns of a sheet."""
    usual = Fraction(usual_column_px(root.find(names.q("sheetFormatPr")), digit) * EMU_PER_PIXEL)
    runs = []
    for node in root.iterfind(f"{names.q('cols')}/{names.q('col')}"):
        first = whole_number(node.get("min"), 0, 1, MOST_COLUMNS)
        last = min(whole_number(node.get("max"), first, 1), MOST_COLUMNS)
        width = _number(node.get("width"))
        if not first or last < first:
            continue
        size = usual
        if is_on(node.get("hidden")):
            size = Fraction(0)
        elif width is not None and 0 <= width <= _MOST_WIDTH:
            size = Fraction(pixels_of_width(width, digit) * EMU_PER_PIXEL)
        runs.append(Run(first - 1, last - 1, size))
    return tracks(usual, runs)


def read_rows(root: Element, names: XlsxNames) -> Tracks:
    """The rows of a sheet."""
    layout = root.find(names.q("sheetFormatPr"))
    height = _number(None if layout is None else layout.get("defaultRowHeight"))
    usual = _points(_USUAL_ROW_PT if height is None or not 0 < height <= _MOST_HEIGHT_PT else height)
    if layout is not None and is_on(layout.get("zeroHeight")):
        usual = Fraction(0)
    runs, at = [], -1
    for node in root.iterfind(f"{names.q('sheetData')}/{names.q('row')}"):
        at = row_number(node, at)
        own = _number(node.get("ht"))
        if is_on(node.get("hidden")):
            runs.append(Run(at, at, Fraction(0)))
        elif own is not None and 0 <= own <= _MOST_HEIGHT_PT:
            runs.append(Run(at, at, _points(own)))
    return tracks(usual, runs)


def row_number(row: Element, before: int) -> int:
    """Which row an element is, counted from 0: as it says, else the one after the row before it (§18.3.1.73)."""
    return whole_number(row.get("r"), before + 2, 1, MOST_ROWS) - 1


def is_on(text: str | None) -> bool:
    """Read an `xsd:boolean`."""
    return text in ("1", "true", "on")


def _points(value: float) -> Fraction:
    return Fraction(str(value)) * EMU_PER_POINT


def _number(text: str | None) -> float | None:
    try:
        value = float(text) if text and len(text) <= 40 else None
    except ValueError:
        return None
    return value if value is not None and math.isfinite(value) else None
