"""Small .odt files for tests: just what a test needs, written by hand."""

from __future__ import annotations

import io
import zipfile
from dataclasses import dataclass, field

from tijera.core.packages.families.odf.names import declared

TYPE = "application/vnd.oasis.opendocument.text"
_ALL = declared("office", "style", "text", "table", "draw", "fo", "svg", "xlink")
A4_MARGINS_2CM = 'fo:page-width="21cm" fo:page-height="29.7cm" fo:margin="2cm"'


def page(
    properties: str = A4_MARGINS_2CM, columns: str = "", name: str = "Standard", more: str = ""
) -> tuple[str, str]:
    """A page layout and its master page."""
    layout = (
        f'<style:page-layout style:name="L{name}"><style:page-layout-properties {properties}>{columns}'
        f"</style:page-layout-properties>{more}</style:page-layout>"
    )
    return layout, f'<style:master-page style:name="{name}" style:page-layout-name="L{name}"/>'


def style(name: str, family: str, properties: str, more: str = "") -> str:
    """A style."""
    return f'<style:style style:name="{name}" style:family="{family}" {more}>{properties}</style:style>'


@dataclass
class Odt:
    """Parts of a document; `build` writes it."""

    body: str
    automatic: str | None = ""
    """None for content without a place for automatic styles."""
    common: str = ""
    pages: list[tuple[str, str]] = field(default_factory=lambda: [page()])
    mimetype: bytes | None = TYPE.encode()
    mimetype_first: bool = True
    entries: str = ""
    extra: dict[str, bytes] = field(default_factory=dict)
    prolog: str = '<?xml version="1.0" encoding="UTF-8"?>\n'

    def build(self) -> bytes:
        """The package's bytes."""
        automatic = (
            "" if self.automatic is None else f"<office:automatic-styles>{self.automatic}</office:automatic-styles>"
        )
        content = (
            f'{self.prolog}<office:document-content{_ALL} office:version="1.2">{automatic}'
            f"<office:body><office:text>{self.body}</office:text></office:body></office:document-content>"
        )
        styles = (
            f"<office:document-styles{_ALL}><office:styles>{self.common}</office:styles><office:automatic-styles>"
            f"{''.join(layout for layout, _ in self.pages)}</office:automatic-styles><office:master-styles>"
            f"{''.join(master for _, master in self.pages)}</office:master-styles></office:document-styles>"
        )
        listed = "".join(
            f'<manifest:file-entry manifest:full-path="{name}" manifest:media-type="text/xml"/>'
            for name in ("content.xml", "styles.xml")
        )
        manifest = (
            f'<manifest:manifest{declared("manifest")}><manifest:file-entry manifest:full-path="/" '
            f'manifest:media-type="{TYPE}"/>{listed}{self.entries}</manifest:manifest>'
        )
        parts = {
            "content.xml": content.encode(),
            "styles.xml": styles.encode(),
            "META-INF/manifest.xml": manifest.encode(),
        }
        parts |= self.extra
        if self.mimetype is not None:
            first = {"mimetype": self.mimetype}
            parts = first | parts if self.mimetype_first else parts | first
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as package:
            for name, data in parts.items():
                stored = name == "mimetype" and self.mimetype_first
                package.writestr(name, data, zipfile.ZIP_STORED if stored else zipfile.ZIP_DEFLATED)
        return out.getvalue()


def p(text: str = "", style_name: str = "") -> str:
    """A paragraph."""
    named = f' text:style-name="{style_name}"' if style_name else ""
    return f"<text:p{named}>{text}</text:p>"
