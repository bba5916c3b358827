"""The drawing that holds a picture: like a word, or anchored with text beside, round or over it.

Sources: ECMA-376 Part 1 §20.4.2.3 (anchor), §20.4.2.8 (inline), §20.4.2.15 to 20 (wrapping), §20.2.2.5 (pic); numbers
from memory.
"""

from __future__ import annotations

from tijera.core.packages.containers.xmlspan import attributes
from tijera.core.packages.formats.docx.names import DocxNames
from tijera.core.packages.places.placed import Align, PlacedPicture
from tijera.core.packages.places.spots import Stand
from tijera.core.units import round_half_up

_POLYGON_UNITS = 21_600
"""The width and height of a picture in the units of its wrapping polygon (§20.4.2.16; from memory)."""
_MOST_CORNERS = 400


def run(names: DocxNames, picture: PlacedPicture, relationship_id: str, drawing_id: int) -> str:
    """A run with the picture like a word."""
    size = attributes(cx=picture.width.emu, cy=picture.height.emu)
    return _run(
        names,
        f'<wp:inline xmlns:wp="{names.wp}" distT="0" distB="0" distL="0" distR="0">'
        f'<wp:extent{size}/><wp:effectExtent l="0" t="0" r="0" b="0"/>'
        f"{_graphic(names, picture, relationship_id, drawing_id)}</wp:inline>",
    )


def anchored_run(
    names: DocxNames, picture: PlacedPicture, stand: Stand, margin: int, relationship_id: str, drawing_id: int
) -> str:
    """A run with the picture anchored to its paragraph: text beside it, or over it where it stands under the text."""
    size = attributes(cx=picture.width.emu, cy=picture.height.emu)
    clear = f' distT="{margin}" distB="{margin}" distL="{margin}" distR="{margin}"'
    behind = 1 if stand is Stand.UNDER else 0
    return _run(
        names,
        f'<wp:anchor xmlns:wp="{names.wp}"{clear} simplePos="0" relativeHeight="{251_658_240 + drawing_id}"'
        f' behindDoc="{behind}" locked="0" layoutInCell="1" allowOverlap="{behind}"><wp:simplePos x="0" y="0"/>'
        f'<wp:positionH relativeFrom="column"><wp:align>{_side(picture, stand)}</wp:align></wp:positionH>'
        f'<wp:positionV relativeFrom="paragraph"><wp:posOffset>0</wp:posOffset></wp:positionV>'
        f'<wp:extent{size}/><wp:effectExtent l="0" t="0" r="0" b="0"/>{_wrapping(picture, stand)}'
        f"{_graphic(names, picture, relationship_id, drawing_id)}</wp:anchor>",
    )


def _run(names: DocxNames, inside: str) -> str:
    return f'<w:r xmlns:w="{names.w}"><w:rPr><w:noProof/></w:rPr><w:drawing>{inside}</w:drawing></w:r>'


def _side(picture: PlacedPicture, stand: Stand) -> str:
    if stand is Stand.TEXT_LEFT:
        return "right"
    if stand is Stand.TEXT_RIGHT:
        return "left"
    return {Align.LEFT: "left", Align.CENTRE: "center", Align.RIGHT: "right"}[picture.layout.align]


def _wrapping(picture: PlacedPicture, stand: Stand) -> str:
    if stand is Stand.UNDER:
        return "<wp:wrapNone/>"
    if not (picture.layout.along_outline and picture.outline):
        return '<wp:wrapSquare wrapText="bothSides"/>'
    step = -(-len(picture.outline) // _MOST_CORNERS)
    corners = [
        (round_half_up(min(max(x, 0.0), 1.0) * _POLYGON_UNITS), round_half_up(min(max(y, 0.0), 1.0) * _POLYGON_UNITS))
        for x, y in picture.outline[::step]
    ]
    first, *rest = corners
    lines = "".join(f'<wp:lineTo x="{x}" y="{y}"/>' for x, y in (*rest, first))
    return (
        f'<wp:wrapTight wrapText="bothSides"><wp:wrapPolygon edited="1"><wp:start x="{first[0]}" y="{first[1]}"/>'
        f"{lines}</wp:wrapPolygon></wp:wrapTight>"
    )


def _graphic(names: DocxNames, picture: PlacedPicture, relationship_id: str, drawing_id: int) -> str:
    size = attributes(cx=picture.width.emu, cy=picture.height.emu)
    named = attributes(id=drawing_id, name=f"Picture {drawing_id}", descr=picture.description)
    return (
        f"<wp:docPr{named}/>"
        f'<wp:cNvGraphicFramePr><a:graphicFrameLocks xmlns:a="{names.a}" noChangeAspect="1"/></wp:cNvGraphicFramePr>'
        f'<a:graphic xmlns:a="{names.a}"><a:graphicData uri="{names.pic}">'
        f'<pic:pic xmlns:pic="{names.pic}"><pic:nvPicPr><pic:cNvPr{named}/><pic:cNvPicPr/></pic:nvPicPr>'
        f'<pic:blipFill><a:blip xmlns:r="{names.r}" r:embed="{relationship_id}"/>'
        "<a:stretch><a:fillRect/></a:stretch></pic:blipFill>"
        f'<pic:spPr><a:xfrm><a:off x="0" y="0"/><a:ext{size}/></a:xfrm>'
        '<a:prstGeom prst="rect"><a:avLst/></a:prstGeom></pic:spPr></pic:pic>'
        "</a:graphicData></a:graphic>"
    )
