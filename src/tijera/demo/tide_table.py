"""A made-up workbook: the tide table and the crew roster of Quillhaven Ferries, with frozen heads and merged cells."""

from __future__ import annotations

from xml.sax.saxutils import escape

from tijera.core.packages.families.opc.empty import empty_package
from tijera.core.packages.formats.xlsx.names import MAIN_TYPES, TRANSITIONAL
from tijera.core.packages.places.grid import column_name

NAME = "Tide table.xlsx"
_FAMILY = "application/vnd.openxmlformats-officedocument.spreadsheetml"
_BOATS = ("Heron", "Teal", "Grey Wagtail", "Heron")
_NOTES = ("", "mail and parcels", "", "school crossing", "waits for the bus", "")
_CREW = ("Ada Fenwick", "Tom Quillan", "Marit Sand", "Jonah Reed", "Bea Holt")
_FIRST_DAY = 46_350
"""24 November 2026 in the 1900 date system."""


def make_tide_table() -> bytes:
    """The workbook's bytes; the same every time."""
    main = f'xmlns="{TRANSITIONAL.main}" xmlns:r="{TRANSITIONAL.r}"'
    workbook = (
        f'<workbook {main}><sheets><sheet name="Tides" sheetId="1" r:id="rId1"/>'
        '<sheet name="Crew roster" sheetId="2" r:id="rId2"/></sheets></workbook>'
    )
    styles = (
        f'<styleSheet {main}><fonts count="1"><font><sz val="11"/><name val="Calibri"/></font></fonts>'
        '<fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill>'
        '</fills><borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders>'
        '<cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs>'
        '<cellXfs count="4"><xf numFmtId="0" fontId="0" fillId="0" borderId="0" xfId="0"/>'
        '<xf numFmtId="14" fontId="0" fillId="0" borderId="0" xfId="0"/>'
        '<xf numFmtId="20" fontId="0" fillId="0" borderId="0" xfId="0"/>'
        '<xf numFmtId="2" fontId="0" fillId="0" borderId="0" xfId="0"/></cellXfs>'
        '<cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles></styleSheet>'
    )
    return empty_package(
        {
            "xl/workbook.xml": (next(iter(MAIN_TYPES)), workbook),
            "xl/worksheets/sheet1.xml": (f"{_FAMILY}.worksheet+xml", _tides(main)),
            "xl/worksheets/sheet2.xml": (f"{_FAMILY}.worksheet+xml", _roster(main)),
            "xl/styles.xml": (f"{_FAMILY}.styles+xml", styles),
        },
        {
            "": [("officeDocument", "xl/workbook.xml")],
            "xl/workbook.xml": [
                ("worksheet", "worksheets/sheet1.xml"),
                ("worksheet", "worksheets/sheet2.xml"),
                ("styles", "styles.xml"),
            ],
        },
    )


def _text(row: int, column: int, text: str) -> str:
    return f'<c r="{column_name(column)}{row}" t="inlineStr"><is><t>{escape(text)}</t></is></c>'


def _number(row: int, column: int, value: float, style: int) -> str:
    return f'<c r="{column_name(column)}{row}" s="{style}"><v>{value}</v></c>'


def _tides(main: str) -> str:
    heads = ("Day", "Boat", "High water", "Height, m", "Low water", "Height, m", "Note")
    rows = [
        f'<row r="1" ht="24" customHeight="1">{_text(1, 0, "Tides at Quillhaven, winter timetable")}</row>',
        f'<row r="2">{"".join(_text(2, column, head) for column, head in enumerate(heads))}</row>',
    ]
    for number in range(60):
        row = number + 3
        high, low = (0.21 + number * 0.0353) % 1, (0.47 + number * 0.0353) % 1
        cells = (
            _number(row, 0, _FIRST_DAY + number // 2, 1)
            + _text(row, 1, _BOATS[number % 4])
            + _number(row, 2, round(high, 5), 2)
            + _number(row, 3, 3.4 + (number % 7) * 0.17, 3)
            + _number(row, 4, round(low, 5), 2)
            + _number(row, 5, 0.6 + (number % 5) * 0.11, 3)
        )
        note = _NOTES[number % 6]
        rows.append(f'<row r="{row}">{cells}{_text(row, 6, note) if note else ""}</row>')
    return (
        f'<worksheet {main}><sheetViews><sheetView workbookViewId="0"><pane xSplit="1" ySplit="2" topLeftCell="B3" '
        'state="frozen"/></sheetView></sheetViews><sheetFormatPr defaultRowHeight="15"/><cols>'
        '<col min="1" max="1" width="12.7109375" customWidth="1"/><col min="2" max="2" width="16.7109375" customWidth="1"/>'
        '<col min="3" max="6" width="11.7109375" customWidth="1"/><col min="7" max="7" width="22.7109375" customWidth="1"/>'
        f'</cols><sheetData>{"".join(rows)}</sheetData><mergeCells count="1"><mergeCell ref="A1:G1"/></mergeCells>'
        '<pageMargins left="0.7" right="0.7" top="0.75" bottom="0.75" header="0.3" footer="0.3"/></worksheet>'
    )


def _roster(main: str) -> str:
    rows = [f'<row r="1">{_text(1, 0, "Week")}{"".join(_text(1, n + 1, name) for n, name in enumerate(_CREW))}</row>']
    for week in range(12):
        row = week + 2
        shifts = "".join(_text(row, n + 1, ("early", "late", "free")[(week + n) % 3]) for n in range(len(_CREW)))
        rows.append(
            f'<row r="{row}">{_text(row, 0, f"Week {48 + week}" if week < 5 else f"Week {week - 4}")}{shifts}</row>'
        )
    return (
        f'<worksheet {main}><cols><col min="2" max="6" width="14.7109375" customWidth="1"/></cols>'
        f"<sheetData>{''.join(rows)}</sheetData></worksheet>"
    )
