"""The Crew handbook: a .docx as an office program would write it, made here so that it has every kind of place.

A title page in one column, sections in one, two equal and two unequal columns, a table with merged cells, a header, a
list, a content control, three pictures. The same bytes at every run.
"""

from __future__ import annotations

import io
import zipfile
from dataclasses import dataclass
from functools import cache
from xml.sax.saxutils import escape

from tijera.core.geometry import Size
from tijera.core.imaging.encode import encode_jpeg
from tijera.core.imaging.picture import Picture
from tijera.core.units import Length
from tijera.demo.prose import VESSELS, Chapter, chapters
from tijera.desk.harbour_chart import paint

NAME = "Crew handbook.docx"
PAGES = 14
_W = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"
_REL = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
_XML = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n'
_DATE = (2026, 3, 9, 8, 0, 0)
_COLUMN_MM, _PAGE_MM = 78.4, 165.0


@dataclass(frozen=True)
class _Photo:
    """A picture of the handbook: its member, what it shows and how wide it stands."""

    member: str
    size: Size
    seed: int
    quality: int
    shown_mm: float
    description: str


_PHOTOS = (
    _Photo("image1.jpeg", Size(2_000, 1_200), 7, 93, _PAGE_MM, "Quillhaven harbour from above"),
    _Photo("image2.jpeg", Size(1_200, 875), 21, 91, _COLUMN_MM, "The outer quay at low water"),
    _Photo("image3.jpeg", Size(1_100, 812), 43, 90, _COLUMN_MM, "The passage to the lighthouse"),
)


@cache
def make_handbook() -> bytes:
    """Write the handbook; once per process, since it is the same every time."""
    parts: dict[str, bytes] = {
        "[Content_Types].xml": _content_types().encode(),
        "_rels/.rels": _package_relationships().encode(),
        "word/document.xml": _document().encode(),
        "word/_rels/document.xml.rels": _relationships().encode(),
        "word/styles.xml": _styles().encode(),
        "word/numbering.xml": _numbering().encode(),
        "word/settings.xml": f'{_XML}<w:settings xmlns:w="{_W}"><w:defaultTabStop w:val="709"/></w:settings>'.encode(),
        "word/header1.xml": (
            f'{_XML}<w:hdr xmlns:w="{_W}"><w:p><w:pPr><w:pStyle w:val="Header"/></w:pPr>'
            "<w:r><w:t>Quillhaven Ferries · Crew handbook · eleventh edition</w:t></w:r></w:p></w:hdr>"
        ).encode(),
        "docProps/app.xml": (
            f'{_XML}<Properties xmlns="http://schemas.openxmlformats.org/officeDocument/2006/extended-properties">'
            f"<Pages>{PAGES}</Pages></Properties>"
        ).encode(),
    }
    for photo in _PHOTOS:
        picture = Picture(paint(photo.size.width, photo.size.height, photo.seed))
        parts[f"word/media/{photo.member}"] = encode_jpeg(picture, photo.quality)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as package:
        for name, content in parts.items():
            info = zipfile.ZipInfo(name, _DATE)
            stored = name.endswith(".jpeg")
            info.compress_type = zipfile.ZIP_STORED if stored else zipfile.ZIP_DEFLATED
            package.writestr(info, content)
    return out.getvalue()


def _paragraph(text: str, style: str = "", extra: str = "") -> str:
    """A paragraph; `extra` goes into its properties behind the style."""
    name = f'<w:pStyle w:val="{style}"/>' if style else ""
    properties = f"<w:pPr>{name}{extra}</w:pPr>" if name or extra else ""
    run = f'<w:r><w:t xml:space="preserve">{escape(text)}</w:t></w:r>' if text else ""
    return f"<w:p>{properties}{run}</w:p>"


def _section(columns: str, kind: str = "continuous") -> str:
    """Section properties: A4, margins of 22.5 mm left and right; 4 450 twips make a column of 78.5 mm."""
    return (
        f'<w:sectPr><w:headerReference w:type="default" r:id="rId4"/><w:type w:val="{kind}"/>'
        '<w:pgSz w:w="11906" w:h="16838"/>'
        '<w:pgMar w:top="1418" w:right="1276" w:bottom="1418" w:left="1276" w:header="709" w:footer="709" w:gutter="0"/>'
        f"{columns}</w:sectPr>"
    )


_ONE = '<w:cols w:space="708"/>'
_TWO = '<w:cols w:num="2" w:space="454"/>'
_UNEQUAL = '<w:cols w:num="2" w:equalWidth="0"><w:col w:w="5900" w:space="454"/><w:col w:w="3000"/></w:cols>'


def _picture(photo: _Photo, number: int) -> str:
    width = Length.from_mm(photo.shown_mm)
    height = width.emu * photo.size.height // photo.size.width
    size = f'cx="{width.emu}" cy="{height}"'
    named = f'id="{number}" name="Picture {number}" descr="{escape(photo.description)}"'
    return (
        '<w:p><w:pPr><w:spacing w:before="120" w:after="120"/></w:pPr><w:r><w:drawing>'
        f'<wp:inline distT="0" distB="0" distL="0" distR="0"><wp:extent {size}/><wp:docPr {named}/>'
        '<a:graphic xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main">'
        '<a:graphicData uri="http://schemas.openxmlformats.org/drawingml/2006/picture">'
        '<pic:pic xmlns:pic="http://schemas.openxmlformats.org/drawingml/2006/picture">'
        f"<pic:nvPicPr><pic:cNvPr {named}/><pic:cNvPicPr/></pic:nvPicPr>"
        f'<pic:blipFill><a:blip r:embed="rIdP{number}"/><a:stretch><a:fillRect/></a:stretch></pic:blipFill>'
        f'<pic:spPr><a:xfrm><a:off x="0" y="0"/><a:ext {size}/></a:xfrm>'
        '<a:prstGeom prst="rect"><a:avLst/></a:prstGeom></pic:spPr></pic:pic></a:graphicData></a:graphic>'
        "</wp:inline></w:drawing></w:r></w:p>"
    )


def _document() -> str:
    first, second, third, fourth, fifth, sixth = chapters()
    body = [
        _paragraph("Crew handbook", "Title"),
        _paragraph("For everyone who handles a rope, a gangway, an engine or a log of Quillhaven Ferries."),
        _picture(_PHOTOS[0], 1),
        _paragraph("Eleventh edition, March", extra=_section(_ONE, "nextPage")),
        _paragraph("How to read this book", "Heading1"),
        _paragraph("Rules stand in the order in which a day brings them. Three things come before all of them:"),
        *(_paragraph(text, "ListBullet") for text in _FIRST_THINGS),
        _note("Whoever finds a mistake writes it on the sheet in the mess, with a date and a name."),
        _paragraph("The rules on calling a vessel in follow on this page.", extra=_section(_ONE, "nextPage")),
        *_chapter(4, first),
        _picture(_PHOTOS[1], 2),
        *_chapter(5, second),
        _paragraph("The next two chapters have a wide and a narrow column.", extra=_section(_TWO)),
        *_chapter(6, third),
        *_chapter(7, fourth),
        _paragraph("", extra=_section(_UNEQUAL, "nextPage")),
        *_chapter(8, fifth),
        _picture(_PHOTOS[2], 3),
        *_chapter(9, sixth),
        _paragraph("", extra=_section(_TWO, "nextPage")),
        _paragraph("10 Berths, vessels and codes", "Heading1"),
        _paragraph("Depths are those of the lowest tide of the year; the remark counts more than the figure."),
        _table(),
        _paragraph("Codes of the log stand in the mess, beside the kettle. This table is revised every March."),
        _section(_ONE, "nextPage"),
    ]
    return (
        f'{_XML}<w:document xmlns:w="{_W}" xmlns:r="{_REL}" '
        'xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing">'
        f"<w:body>{''.join(body)}</w:body></w:document>"
    )


_FIRST_THINGS = (
    "Nobody stands between a bollard and a rope under load.",
    "What was not written into the log did not happen.",
    "Whoever is unsure asks on channel 12, and gets an answer, not a sigh.",
)


def _chapter(number: int, chapter: Chapter) -> list[str]:
    out = [_paragraph(f"{number} {chapter.title}", "Heading1")]
    for index, (heading, paragraphs) in enumerate(chapter.parts, 1):
        out.append(_paragraph(f"{number}.{index} {heading}", "Heading2"))
        out += [_paragraph(text) for text in paragraphs]
    return out


def _note(text: str) -> str:
    """A content control round an indented paragraph."""
    inside = _paragraph(text, extra='<w:ind w:left="567" w:right="567"/>')
    return f'<w:sdt><w:sdtPr><w:alias w:val="Note"/></w:sdtPr><w:sdtContent>{inside}</w:sdtContent></w:sdt>'


def _table() -> str:
    """Berths and vessels; cells merged across and down."""
    grid = "".join(f'<w:gridCol w:w="{width}"/>' for width in (1_500, 2_600, 1_700, 3_554))
    head = _row(
        _cell(1_500, "Berth"), _cell(4_300, "Vessel and lowest water", span=2), _cell(3_554, "Remark, with a picture where it helps")
    )  # fmt: skip
    rows = [head]
    remarks = (
        "Keep clear of the crane",
        "Two ropes forward",
        "Mail goes first",
        "Below 1.0 m the vessel waits outside",
        "",
    )
    for number, (vessel, remark) in enumerate(zip(VESSELS, remarks, strict=True)):
        merge = {0: "restart", 1: "continue"}.get(number, "")
        berth = "Q1 and Q2" if number == 0 else ("" if number == 1 else f"Q{number + 1}")
        water = f"{1.4 + number * 0.3:.1f} m"
        rows.append(
            _row(_cell(1_500, berth, merge=merge), _cell(2_600, vessel), _cell(1_700, water), _cell(3_554, remark))
        )
    return (
        '<w:tbl><w:tblPr><w:tblStyle w:val="TableGrid"/><w:tblW w:w="9354" w:type="dxa"/></w:tblPr>'
        f"<w:tblGrid>{grid}</w:tblGrid>{''.join(rows)}</w:tbl>"
    )


def _row(*cells: str) -> str:
    return f"<w:tr>{''.join(cells)}</w:tr>"


def _cell(width: int, text: str, *, span: int = 1, merge: str = "") -> str:
    spanned = f'<w:gridSpan w:val="{span}"/>' if span > 1 else ""
    merged = f'<w:vMerge w:val="{merge}"/>' if merge else ""
    return f'<w:tc><w:tcPr><w:tcW w:w="{width}" w:type="dxa"/>{spanned}{merged}</w:tcPr>{_paragraph(text)}</w:tc>'


def _content_types() -> str:
    main = "application/vnd.openxmlformats-officedocument.wordprocessingml"
    overrides = "".join(
        f'<Override PartName="/word/{part}.xml" ContentType="{main}.{kind}+xml"/>'
        for part, kind in (
            ("document", "document.main"),
            ("styles", "styles"),
            ("numbering", "numbering"),
            ("settings", "settings"),
            ("header1", "header"),
        )
    )
    return (
        f'{_XML}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">'
        '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
        '<Default Extension="xml" ContentType="application/xml"/>'
        f'<Default Extension="jpeg" ContentType="image/jpeg"/>{overrides}'
        '<Override PartName="/docProps/app.xml" '
        'ContentType="application/vnd.openxmlformats-officedocument.extended-properties+xml"/></Types>'
    )


def _package_relationships() -> str:
    return _relationship_part(
        ("rId1", f"{_REL}/officeDocument", "word/document.xml"),
        ("rId2", f"{_REL}/extended-properties", "docProps/app.xml"),
    )


def _relationships() -> str:
    return _relationship_part(
        ("rId1", f"{_REL}/styles", "styles.xml"),
        ("rId2", f"{_REL}/numbering", "numbering.xml"),
        ("rId3", f"{_REL}/settings", "settings.xml"),
        ("rId4", f"{_REL}/header", "header1.xml"),
        *((f"rIdP{number}", f"{_REL}/image", f"media/{photo.member}") for number, photo in enumerate(_PHOTOS, 1)),
    )


def _relationship_part(*relationships: tuple[str, str, str]) -> str:
    inside = "".join(f'<Relationship Id="{i}" Type="{t}" Target="{to}"/>' for i, t, to in relationships)
    return f'{_XML}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">{inside}</Relationships>'


def _styles() -> str:
    def paragraph_style(id_: str, name: str, properties: str, run: str = "", based_on: str = "Normal") -> str:
        return (
            f'<w:style w:type="paragraph" w:styleId="{id_}"><w:name w:val="{name}"/><w:basedOn w:val="{based_on}"/>'
            f"<w:pPr>{properties}</w:pPr><w:rPr>{run}</w:rPr></w:style>"
        )

    return (
        f'{_XML}<w:styles xmlns:w="{_W}"><w:docDefaults><w:rPrDefault><w:rPr>'
        '<w:rFonts w:ascii="Georgia" w:hAnsi="Georgia"/><w:sz w:val="21"/><w:lang w:val="en-GB"/></w:rPr></w:rPrDefault>'
        '<w:pPrDefault><w:pPr><w:spacing w:after="120" w:line="276" w:lineRule="auto"/></w:pPr></w:pPrDefault>'
        '</w:docDefaults><w:style w:type="paragraph" w:default="1" w:styleId="Normal"><w:name w:val="Normal"/></w:style>'
        '<w:style w:type="table" w:default="1" w:styleId="TableNormal"><w:name w:val="Normal Table"/><w:tblPr>'
        '<w:tblCellMar><w:left w:w="108" w:type="dxa"/><w:right w:w="108" w:type="dxa"/></w:tblCellMar></w:tblPr></w:style>'
        '<w:style w:type="table" w:styleId="TableGrid"><w:name w:val="Table Grid"/><w:basedOn w:val="TableNormal"/>'
        "<w:tblPr><w:tblBorders>"
        + "".join(f'<w:{side} w:val="single" w:sz="4"/>' for side in ("top", "left", "bottom", "right", "insideH", "insideV"))
        + "</w:tblBorders></w:tblPr></w:style>"
        + paragraph_style("Title", "Title", '<w:spacing w:before="2400" w:after="240"/>', '<w:b/><w:sz w:val="56"/>')
        + paragraph_style("Heading1", "heading 1", '<w:keepNext/><w:spacing w:before="360"/><w:outlineLvl w:val="0"/>',
                          '<w:b/><w:sz w:val="30"/>')
        + paragraph_style("Heading2", "heading 2", '<w:keepNext/><w:spacing w:before="240"/><w:outlineLvl w:val="1"/>',
                          '<w:b/><w:sz w:val="24"/>')
        + paragraph_style("Header", "header", "", '<w:sz w:val="17"/>')
        + paragraph_style("ListBullet", "List Bullet", '<w:numPr><w:numId w:val="1"/></w:numPr>')
        + "</w:styles>"
    )  # fmt: skip


def _numbering() -> str:
    return (
        f'{_XML}<w:numbering xmlns:w="{_W}"><w:abstractNum w:abstractNumId="0"><w:lvl w:ilvl="0"><w:start w:val="1"/>'
        '<w:numFmt w:val="bullet"/><w:lvlText w:val="•"/><w:pPr><w:ind w:left="397" w:hanging="397"/></w:pPr></w:lvl>'
        '</w:abstractNum><w:num w:numId="1"><w:abstractNumId w:val="0"/></w:num></w:numbering>'
    )
