"""A new, empty text document: A4, margins of 2.5 cm, with styles for headings and captions."""

from __future__ import annotations

from tijera.core.packages.families.opc.empty import empty_package
from tijera.core.packages.formats.docx.names import MAIN_TYPES, TRANSITIONAL

_FAMILY = "application/vnd.openxmlformats-officedocument.wordprocessingml"


def empty() -> bytes:
    """The document's bytes; the same every time."""
    w = f'xmlns:w="{TRANSITIONAL.w}"'
    document = (
        f'<w:document {w} xmlns:r="{TRANSITIONAL.r}"><w:body><w:p/><w:sectPr><w:pgSz w:w="11906" w:h="16838"/>'
        '<w:pgMar w:top="1417" w:right="1417" w:bottom="1417" w:left="1417" w:header="708" w:footer="708" w:gutter="0"/>'
        "</w:sectPr></w:body></w:document>"
    )
    styles = (
        f"<w:styles {w}><w:docDefaults><w:rPrDefault><w:rPr>"
        '<w:rFonts w:ascii="Calibri" w:hAnsi="Calibri" w:cs="Calibri"/><w:sz w:val="22"/></w:rPr></w:rPrDefault>'
        '<w:pPrDefault><w:pPr><w:spacing w:after="120"/></w:pPr></w:pPrDefault></w:docDefaults>'
        '<w:style w:type="paragraph" w:default="1" w:styleId="Normal"><w:name w:val="Normal"/></w:style>'
        f'{_heading(1, 32)}{_heading(2, 26)}<w:style w:type="paragraph" w:styleId="Caption"><w:name w:val="caption"/>'
        '<w:basedOn w:val="Normal"/><w:pPr><w:spacing w:before="60" w:after="200"/></w:pPr><w:rPr><w:i/><w:sz w:val="18"/>'
        "</w:rPr></w:style></w:styles>"
    )
    settings = f"<w:settings {w}><w:compat/></w:settings>"
    return empty_package(
        {
            "word/document.xml": (next(iter(MAIN_TYPES)), document),
            "word/styles.xml": (f"{_FAMILY}.styles+xml", styles),
            "word/settings.xml": (f"{_FAMILY}.settings+xml", settings),
        },
        {
            "": [("officeDocument", "word/document.xml")],
            "word/document.xml": [("styles", "styles.xml"), ("settings", "settings.xml")],
        },
    )


def _heading(level: int, half_points: int) -> str:
    return (
        f'<w:style w:type="paragraph" w:styleId="Heading{level}"><w:name w:val="heading {level}"/>'
        '<w:basedOn w:val="Normal"/><w:next w:val="Normal"/><w:pPr><w:keepNext/><w:spacing w:before="240"/>'
        f'<w:outlineLvl w:val="{level - 1}"/></w:pPr><w:rPr><w:b/><w:sz w:val="{half_points}"/></w:rPr></w:style>'
    )
