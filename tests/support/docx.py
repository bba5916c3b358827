"""Small .docx files for tests: just what a test needs, written by hand."""

from __future__ import annotations

import io
import zipfile
from dataclasses import dataclass, field

TRANSITIONAL = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"
STRICT = "http://purl.oclc.org/ooxml/wordprocessingml/main"
_REL = {
    TRANSITIONAL: "http://schemas.openxmlformats.org/officeDocument/2006/relationships",
    STRICT: "http://purl.oclc.org/ooxml/officeDocument/relationships",
}
_TYPE = "application/vnd.openxmlformats-officedocument.wordprocessingml"
MC = "http://schemas.openxmlformats.org/markup-compatibility/2006"

A4_MARGINS_1417 = (
    '<w:pgSz w:w="11906" w:h="16838"/>'
    '<w:pgMar w:top="1417" w:right="1417" w:bottom="1417" w:left="1417" w:header="708" w:footer="708" w:gutter="0"/>'
)


@dataclass
class Docx:
    """Parts of a document; `build` writes it."""

    body: str
    styles: str = ""
    numbering: str = ""
    settings: str = ""
    namespace: str = TRANSITIONAL
    absolute_targets: bool = False
    extra: dict[str, bytes] = field(default_factory=dict)
    relationships: str = ""
    types: str = ""
    prefix: str = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n'

    def build(self) -> bytes:
        """The package's bytes."""
        rel, folder = _REL[self.namespace], "/word/" if self.absolute_targets else ""
        related = "".join(
            f'<Relationship Id="rId{number}" Type="{rel}/{kind}" Target="{folder}{kind}.xml"/>'
            for number, kind in enumerate(("styles", "numbering", "settings"), 1)
            if getattr(self, kind)
        )
        parts: dict[str, bytes] = {
            "[Content_Types].xml": (
                f'{self.prefix}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">'
                '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
                f'<Default Extension="xml" ContentType="application/xml"/>{self.types}'
                f'<Override PartName="/word/document.xml" ContentType="{_TYPE}.document.main+xml"/></Types>'
            ).encode(),
            "_rels/.rels": _rels(f'<Relationship Id="r1" Type="{rel}/officeDocument" Target="word/document.xml"/>'),
            "word/document.xml": self._document().encode(),
            "word/_rels/document.xml.rels": _rels(related + self.relationships),
        }
        for kind, root in (("styles", "styles"), ("numbering", "numbering"), ("settings", "settings")):
            if inside := getattr(self, kind):
                parts[f"word/{kind}.xml"] = f'<w:{root} xmlns:w="{self.namespace}">{inside}</w:{root}>'.encode()
        return zipped(parts | self.extra)

    def _document(self) -> str:
        wp = "http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing"
        return (
            f'{self.prefix}<w:document xmlns:w="{self.namespace}" xmlns:r="{_REL[self.namespace]}" '
            f'xmlns:mc="{MC}" xmlns:wp="{wp}"><w:body>{self.body}</w:body></w:document>'
        )


def _rels(inside: str) -> bytes:
    namespace = "http://schemas.openxmlformats.org/package/2006/relationships"
    return f'<Relationships xmlns="{namespace}">{inside}</Relationships>'.encode()


def zipped(parts: dict[str, bytes], method: int = zipfile.ZIP_DEFLATED) -> bytes:
    """A zip of these members in this order."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", method) as package:
        for name, content in parts.items():
            package.writestr(zipfile.ZipInfo(name, (2026, 3, 9, 8, 0, 0)), content, method)
    return out.getvalue()


def members(data: bytes) -> dict[str, bytes]:
    """Every member's content, read by the standard library."""
    with zipfile.ZipFile(io.BytesIO(data)) as package:
        return {name: package.read(name) for name in package.namelist()}


def paragraph(text: str = "", properties: str = "") -> str:
    """A paragraph."""
    run = f"<w:r><w:t>{text}</w:t></w:r>" if text else ""
    return f"<w:p>{f'<w:pPr>{properties}</w:pPr>' if properties else ''}{run}</w:p>"


def section(inside: str = A4_MARGINS_1417) -> str:
    """Section properties."""
    return f"<w:sectPr>{inside}</w:sectPr>"


def table(*rows: str, properties: str = "", grid: tuple[int, ...] = ()) -> str:
    """A table."""
    columns = "".join(f'<w:gridCol w:w="{width}"/>' for width in grid)
    return f"<w:tbl><w:tblPr>{properties}</w:tblPr><w:tblGrid>{columns}</w:tblGrid>{''.join(rows)}</w:tbl>"


def row(*cells: str, properties: str = "") -> str:
    """A row."""
    return f"<w:tr>{f'<w:trPr>{properties}</w:trPr>' if properties else ''}{''.join(cells)}</w:tr>"


def cell(content: str, properties: str = "") -> str:
    """A cell."""
    return f"<w:tc><w:tcPr>{properties}</w:tcPr>{content}</w:tc>"
