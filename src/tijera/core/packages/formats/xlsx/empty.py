"""A new, empty workbook with one sheet."""

from __future__ import annotations

from tijera.core.packages.families.opc.empty import empty_package
from tijera.core.packages.formats.xlsx.names import MAIN_TYPES, TRANSITIONAL

_FAMILY = "application/vnd.openxmlformats-officedocument.spreadsheetml"


def empty() -> bytes:
    """The workbook's bytes; the same every time."""
    main = f'xmlns="{TRANSITIONAL.main}"'
    workbook = (
        f'<workbook {main} xmlns:r="{TRANSITIONAL.r}"><sheets><sheet name="Sheet 1" sheetId="1" r:id="rId1"/></sheets>'
        "</workbook>"
    )
    sheet = (
        f'<worksheet {main}><sheetFormatPr defaultRowHeight="15"/><sheetData/>'
        '<pageMargins left="0.7" right="0.7" top="0.75" bottom="0.75" header="0.3" footer="0.3"/></worksheet>'
    )
    styles = (
        f'<styleSheet {main}><fonts count="1"><font><sz val="11"/><name val="Calibri"/></font></fonts>'
        '<fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill>'
        '</fills><borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders>'
        '<cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs>'
        '<cellXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0" xfId="0"/></cellXfs>'
        '<cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles></styleSheet>'
    )
    return empty_package(
        {
            "xl/workbook.xml": (next(iter(MAIN_TYPES)), workbook),
            "xl/worksheets/sheet1.xml": (f"{_FAMILY}.worksheet+xml", sheet),
            "xl/styles.xml": (f"{_FAMILY}.styles+xml", styles),
        },
        {
            "": [("officeDocument", "xl/workbook.xml")],
            "xl/workbook.xml": [("worksheet", "worksheets/sheet1.xml"), ("styles", "styles.xml")],
        },
    )
