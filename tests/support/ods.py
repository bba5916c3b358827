"""Small .ods files for tests: just what a test needs, written by hand."""

from __future__ import annotations

import io
import zipfile
from dataclasses import dataclass, field

from tijera.core.packages.families.odf.names import declared

TYPE = "application/vnd.oasis.opendocument.spreadsheet"
_ALL = declared("office", "style", "text", "table", "draw", "fo", "svg", "xlink")


def cell(text: str, attributes: str = "") -> str:
    """A cell with a paragraph."""
    return f"<table:table-cell{attributes}><text:p>{text}</text:p></table:table-cell>"


def row(*texts: str, attributes: str = "") -> str:
    """A row of text cells."""
    return f"<table:table-row{attributes}>{''.join(cell(text) for text in texts)}</table:table-row>"


@dataclass
class Ods:
    """Parts of a spreadsheet; `build` writes it."""

    tables: dict[str, str] = field(default_factory=dict)
    """What stands in each table, by its name."""
    automatic: str = ""
    common: str = ""
    settings: str | None = None
    mimetype: bytes | None = TYPE.encode()
    extra: dict[str, bytes] = field(default_factory=dict)

    def build(self) -> bytes:
        """The package's bytes."""
        tables = "".join(
            f'<table:table table:name="{name}">{inside}</table:table>' for name, inside in self.tables.items()
        )
        content = (
            f'<?xml version="1.0" encoding="UTF-8"?>\n<office:document-content{_ALL} office:version="1.2">'
            f"<office:automatic-styles>{self.automatic}</office:automatic-styles><office:body><office:spreadsheet>"
            f"{tables}</office:spreadsheet></office:body></office:document-content>"
        )
        styles = f"<office:document-styles{_ALL}><office:styles>{self.common}</office:styles></office:document-styles>"
        manifest = (
            f'<manifest:manifest{declared("manifest")}><manifest:file-entry manifest:full-path="/" '
            f'manifest:media-type="{TYPE}"/><manifest:file-entry manifest:full-path="content.xml" '
            'manifest:media-type="text/xml"/></manifest:manifest>'
        )
        parts = {} if self.mimetype is None else {"mimetype": self.mimetype}
        parts |= {
            "content.xml": content.encode(),
            "styles.xml": styles.encode(),
            "META-INF/manifest.xml": manifest.encode(),
        }
        if self.settings is not None:
            parts["settings.xml"] = self.settings.encode()
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as package:
            for name, data in (parts | self.extra).items():
                package.writestr(name, data, zipfile.ZIP_STORED if name == "mimetype" else zipfile.ZIP_DEFLATED)
        return out.getvalue()
