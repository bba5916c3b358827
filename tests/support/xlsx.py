"""Small .xlsx files for tests: just what a test needs, written by hand."""

from __future__ import annotations

import io
import zipfile
from dataclasses import dataclass, field
from xml.sax.saxutils import escape

from tijera.core.packages.families.opc import relationships
from tijera.core.packages.formats.xlsx.names import DRAWING_TYPE, TRANSITIONAL, XlsxNames

SHEET_TYPE = "application/vnd.openxmlformats-officedocument.spreadsheetml"


@dataclass
class Tab:
    """A sheet. `rows` are the XML inside `sheetData`; `before` and `after` stand round it."""

    name: str = "Timetable"
    rows: str = ""
    before: str = ""
    after: str = ""
    relationships: tuple[tuple[str, str, str], ...] = ()
    """(id, kind, target)"""
    state: str = ""


def cells(*rows: tuple[str, ...]) -> str:
    """Rows of inline text."""
    out = ""
    for number, row in enumerate(rows, 1):
        inside = "".join(
            f'<c r="{chr(65 + at)}{number}" t="inlineStr"><is><t>{escape(text)}</t></is></c>'
            for at, text in enumerate(row)
            if text
        )
        out += f'<row r="{number}">{inside}</row>'
    return out


def relationships_part(names: XlsxNames, entries: tuple[tuple[str, str, str], ...]) -> str:
    """A part of relationships."""
    inside = "".join(
        f'<Relationship Id="{id_}" Type="{names.relationships}/{kind}" Target="{target}"/>'
        for id_, kind, target in entries
    )
    return f'<Relationships xmlns="{relationships.NAMESPACE}">{inside}</Relationships>'


@dataclass
class Xlsx:
    """Parts of a workbook; `build` writes it."""

    tabs: list[Tab] = field(default_factory=lambda: [Tab()])
    names: XlsxNames = TRANSITIONAL
    styles: str | None = None
    strings: tuple[str, ...] | None = None
    extra: dict[str, bytes] = field(default_factory=dict)
    types: str = ""
    overrides_only: bool = False
    """The content types have no defaults, as some writers leave them out."""
    main_type: str = f"{SHEET_TYPE}.sheet.main+xml"

    def build(self) -> bytes:
        """The package's bytes."""
        names, main = self.names, f'xmlns="{self.names.main}" xmlns:r="{self.names.r}"'
        listed = "".join(
            f'<sheet name="{tab.name}" sheetId="{n}"{tab.state} r:id="rId{n}"/>' for n, tab in enumerate(self.tabs, 1)
        )
        entries = tuple((f"rId{n}", "worksheet", f"worksheets/sheet{n}.xml") for n in range(1, len(self.tabs) + 1))
        parts: dict[str, bytes] = {}
        if self.styles is not None:
            entries = (*entries, ("rIdS", "styles", "styles.xml"))
            parts["xl/styles.xml"] = f"<styleSheet {main}>{self.styles}</styleSheet>".encode()
        if self.strings is not None:
            entries = (*entries, ("rIdT", "sharedStrings", "sharedStrings.xml"))
            inside = "".join(f"<si><t>{escape(each)}</t></si>" for each in self.strings)
            parts["xl/sharedStrings.xml"] = f"<sst {main}>{inside}</sst>".encode()
        for number, tab in enumerate(self.tabs, 1):
            sheet = f"<worksheet {main}>{tab.before}<sheetData>{tab.rows}</sheetData>{tab.after}</worksheet>"
            parts[f"xl/worksheets/sheet{number}.xml"] = sheet.encode()
            if tab.relationships:
                name = f"xl/worksheets/_rels/sheet{number}.xml.rels"
                parts[name] = relationships_part(names, tab.relationships).encode()
        sheets = "".join(
            f'<Override PartName="/xl/worksheets/sheet{n}.xml" ContentType="{SHEET_TYPE}.worksheet+xml"/>'
            for n in range(1, len(self.tabs) + 1)
        )
        drawings = "".join(
            f'<Override PartName="/{name}" ContentType="{DRAWING_TYPE}"/>'
            for name in self.extra
            if name.startswith("xl/drawings/drawing")
        )
        first = {
            "[Content_Types].xml": (
                '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">'
                '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
                '<Default Extension="xml" ContentType="application/xml"/>'
                f'<Override PartName="/xl/workbook.xml" ContentType="{self.main_type}"/>{sheets}{drawings}{self.types}</Types>'
            ).encode(),
            "_rels/.rels": relationships_part(names, (("rId1", "officeDocument", "xl/workbook.xml"),)).encode(),
            "xl/workbook.xml": f"<workbook {main}><sheets>{listed}</sheets></workbook>".encode(),
            "xl/_rels/workbook.xml.rels": relationships_part(names, entries).encode(),
        }
        every = first | parts | self.extra
        if self.overrides_only:
            every["[Content_Types].xml"] = _overrides(every, self.main_type)
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as package:
            for name, data in every.items():
                package.writestr(name, data)
        return out.getvalue()


def _overrides(parts: dict[str, bytes], main_type: str) -> bytes:
    """Content types that name every part by itself."""
    types = {"xl/workbook.xml": main_type}
    for name in parts:
        if name.endswith(".rels"):
            types[name] = "application/vnd.openxmlformats-package.relationships+xml"
        elif name.startswith("xl/worksheets/"):
            types[name] = f"{SHEET_TYPE}.worksheet+xml"
    inside = "".join(f'<Override PartName="/{name}" ContentType="{type_}"/>' for name, type_ in types.items())
    return f'<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">{inside}</Types>'.encode()
