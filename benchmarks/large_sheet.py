"""Placing on a sheet with 1 MB of zipped XML, against inflating, parsing and deflating that sheet.

Ours opens the whole workbook with its guards, places, checks and writes it. The sheet has no drawing yet, so that it
must be changed itself. Outside the measured region: making the workbook, encoding the picture.
"""

from __future__ import annotations

import zlib

import numpy as np
from lxml import etree

from benchmarks.measure import Result, compare, ratio
from tests.support.pictures import encoded, text_like
from tests.support.xlsx import Tab, Xlsx
from tijera.core.packages.containers.zipped import open_package
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.packages.registry import open_document, write
from tijera.core.units import Length

_ROWS, _COLUMNS = 12_000, 14
_SHEET = "xl/worksheets/sheet1.xml"


def _workbook() -> bytes:
    values = np.random.default_rng(3).integers(0, 100_000, (_ROWS, _COLUMNS))
    rows = "".join(
        f'<row r="{r + 1}">{"".join(f"<c r={chr(34)}{chr(65 + c)}{r + 1}{chr(34)}><v>{v}</v></c>" for c, v in enumerate(line))}</row>'
        for r, line in enumerate(values)
    )
    return Xlsx(
        [Tab("T", rows, after='<pageMargins left="1" right="1" top="1" bottom="1" header="0" footer="0"/>')]
    ).build()


def run() -> list[Result]:
    """Measure it."""
    data = _workbook()
    picture = PlacedPicture("T!C5", encoded(text_like(300, 200)), "png", Length.from_mm(60), Length.from_mm(40), "Tide")
    packed = open_package(data, "t.xlsx").member(_SHEET).packed_bytes

    def ours() -> None:
        write(open_document(data, "t.xlsx"), [picture])

    def control() -> None:
        xml = open_package(data, "t.xlsx").read(_SHEET)
        etree.fromstring(xml)
        zlib.compress(xml, 6)

    details = f"{packed / 1e6:.2f} MB zipped, {_ROWS * _COLUMNS} cells"
    return [ratio("Placing on a sheet of 1 MB zipped", 1.5, *compare(ours, control, 7), details)]
