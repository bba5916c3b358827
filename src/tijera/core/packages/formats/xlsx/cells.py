"""What the cells of a sheet show: text, and numbers as their format writes them, near enough for a proof.

Sources: ECMA-376 Part 1 §18.3.1.4 (c), §18.8.30 (numFmt and the built-in ones), §18.17.4.1 (the 1900 date system).
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

from tijera.core.packages.containers.elements import parent_tag
from tijera.core.packages.containers.xmlspan import Element, whole_number
from tijera.core.packages.formats.xlsx.names import XlsxNames
from tijera.core.packages.formats.xlsx.tracks import row_number
from tijera.core.packages.places.grid import MOST_COLUMNS, GridCell, column_index
from tijera.core.units import round_half_up

_LETTERS = re.compile(r"[A-Za-z]{1,3}")
_BUILT_IN = {1: "0", 2: "0.00", 3: "#,##0", 4: "#,##0.00", 9: "0%", 10: "0.00%"}
_BUILT_IN |= dict.fromkeys((14, 15, 16, 17), "yyyy-mm-dd")
_BUILT_IN |= dict.fromkeys((18, 19, 20, 21, 45, 46, 47), "h:mm")
_BUILT_IN[22] = "yyyy-mm-dd h:mm"
_QUOTED = re.compile(r'"[^"]*"|\\.|\[[^\]]*\]|_.|\*.')
_DAYS_TO_1900, _DAYS_TO_1904 = 25_569, 24_107
"""From day 0 of the two date systems to 1 January 1970."""
_MINUTES_A_DAY = 1_440
_MOST_TEXT = 2_000
_MOST_DAYS = 3_000_000


@dataclass(frozen=True)
class CellStyles:
    """The number formats of cell styles, and the date system that numbers count in."""

    formats: tuple[str, ...]
    is_1904: bool

    def shown(self, text: str, style: int) -> str:
        """A number as it is shown."""
        try:
            value = float(text)
        except ValueError:
            return text
        code = self.formats[style] if style < len(self.formats) else ""
        return _formatted(value, _reading(code), _DAYS_TO_1904 if self.is_1904 else _DAYS_TO_1900)


def read_styles(root: Element | None, names: XlsxNames, *, is_1904: bool) -> CellStyles:
    """Read the number formats of a part of styles."""
    if root is None:
        return CellStyles((), is_1904)
    q = names.q
    own = {whole_number(node.get("numFmtId"), -1): node.get("formatCode", "") for node in root.iter(q("numFmt"))}
    ids = [whole_number(node.get("numFmtId"), 0) for node in root.iterfind(f"{q('cellXfs')}/{q('xf')}")]
    return CellStyles(tuple(own.get(each) or _BUILT_IN.get(each, "") for each in ids), is_1904)


def read_strings(root: Element | None, names: XlsxNames) -> tuple[str, ...]:
    """The table of shared strings, without their phonetic runs."""
    return () if root is None else tuple(_rich_text(node, names) for node in root.iterfind(names.q("si")))


def _rich_text(node: Element, names: XlsxNames) -> str:
    q = names.q
    runs = (each for each in node.iter(q("t")) if parent_tag(each) != q("rPh"))
    return "".join(each.text or "" for each in runs)[:_MOST_TEXT]


def read_cells(root: Element, names: XlsxNames, strings: Sequence[str], styles: CellStyles) -> Iterator[GridCell]:
    """The cells of a sheet that show something."""
    row_tag, cell_tag, row_at = names.q("row"), names.q("c"), -1
    data = root.find(names.q("sheetData"))
    for row in () if data is None else data.iterchildren(row_tag):
        row_at, column = row_number(row, row_at), -1
        for cell in row.iterchildren(cell_tag):
            column = _column(cell.get("r", ""), column)
            text, is_number = _shown(cell, names, strings, styles)
            if text and column < MOST_COLUMNS:
                yield GridCell(row_at, column, text, is_number)


def _column(reference: str, before: int) -> int:
    found = _column_named(reference.rstrip("0123456789"))
    return before + 1 if found is None else found


@lru_cache(maxsize=1_000)
def _column_named(letters: str) -> int | None:
    return column_index(letters) if _LETTERS.fullmatch(letters) else None


def _shown(cell: Element, names: XlsxNames, strings: Sequence[str], styles: CellStyles) -> tuple[str, bool]:
    q, kind = names.q, cell.get("t", "n")
    if kind == "inlineStr":
        node = cell.find(q("is"))
        return ("" if node is None else _rich_text(node, names)), False
    value = next((node.text or "" for node in cell.iterchildren(q("v"))), "")
    if kind == "s":
        index = whole_number(value.strip(), -1)
        return (strings[index] if 0 <= index < len(strings) else ""), False
    if kind == "b":
        return ("TRUE" if value.strip() == "1" else "FALSE"), False
    if kind == "n" and value:
        return styles.shown(value.strip(), whole_number(cell.get("s"), 0)), True
    return value[:_MOST_TEXT], False


class _NumberFormat(NamedTuple):
    """What a format's code says, as far as a proof needs it."""

    has_day: bool
    has_time: bool
    decimals: int | None
    """None where the number is written as it is."""
    in_percent: bool
    by_thousands: bool


@lru_cache(maxsize=1_000)
def _reading(code: str) -> _NumberFormat:
    plain = _QUOTED.sub("", code.split(";", maxsplit=1)[0]).lower()
    has_day, has_time = bool(re.search(r"[yd]", plain)), bool(re.search(r"[hs]", plain))
    is_month = plain.strip("m/-. ") == "" and "m" in plain
    places = len(match[1]) if (match := re.search(r"0\.(0+)", plain)) else 0
    in_percent = "%" in plain
    is_plain = not in_percent and ("0" not in plain or "e" in plain)
    return _NumberFormat(
        has_day or (is_month and not has_time), has_time, None if is_plain else places, in_percent, "," in plain
    )


def _formatted(value: float, code: _NumberFormat, days_to_epoch: int) -> str:
    if (code.has_day or code.has_time) and abs(value) < _MOST_DAYS:
        return _moment(value, days_to_epoch, has_day=code.has_day, has_time=code.has_time)
    if code.decimals is None:
        return f"{value:.10g}"
    if code.in_percent:
        return f"{value * 100:.{code.decimals}f}%"
    written = f"{value:,.{code.decimals}f}" if code.by_thousands else f"{value:.{code.decimals}f}"
    return written.replace(",", "\u2009")


def _moment(value: float, days_to_epoch: int, *, has_day: bool, has_time: bool) -> str:
    """A day and time as ISO 8601 writes them."""
    minutes = round_half_up((value % 1) * _MINUTES_A_DAY)
    day = int(value // 1) + minutes // _MINUTES_A_DAY
    time = f"{minutes % _MINUTES_A_DAY // 60:02}:{minutes % 60:02}"
    if not has_day:
        return time
    # The 1900 system has a 29 February 1900 that never was: days before it stand one later.
    if days_to_epoch == _DAYS_TO_1900 and day < 60:
        day += 1
    return f"{_civil(day - days_to_epoch)} {time}" if has_time else _civil(day - days_to_epoch)


def _civil(days: int) -> str:
    """The day that lies so many days after 1 January 1970, in the Gregorian calendar."""
    era, day_of_era = divmod(days + 719_468, 146_097)
    year_of_era = (day_of_era - day_of_era // 1_460 + day_of_era // 36_524 - day_of_era // 146_096) // 365
    day_of_year = day_of_era - (365 * year_of_era + year_of_era // 4 - year_of_era // 100)
    month_from_march = (5 * day_of_year + 2) // 153
    month = month_from_march + 3 if month_from_march < 10 else month_from_march - 9
    year = year_of_era + era * 400 + (month <= 2)
    return f"{year:04}-{month:02}-{day_of_year - (153 * month_from_march + 2) // 5 + 1:02}"
