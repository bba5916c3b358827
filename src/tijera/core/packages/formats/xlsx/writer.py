"""Placing pictures on sheets: an anchor of its own for each, in the sheet's drawing part, which is made where none is.

Sources: ECMA-376 Part 1 §18.3.1.99 (worksheet: the order of its children), §20.5.2 (anchors). Numbers from memory.
"""

from __future__ import annotations

import posixpath
import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from fractions import Fraction

from tijera.core.errors import StructureBroken
from tijera.core.packages.containers.xmlspan import Element, Splice, XmlPart, attributes, hollowed, whole_number
from tijera.core.packages.families.opc.media import media_members, relate
from tijera.core.packages.families.opc.relationships import Relationships, rels_name
from tijera.core.packages.families.opc.writing import write_parts
from tijera.core.packages.formats.xlsx.document import XlsxDocument
from tijera.core.packages.formats.xlsx.names import DRAWING_TYPE, MC, XlsxNames
from tijera.core.packages.formats.xlsx.save_check import check_drawing, check_sheet
from tijera.core.packages.formats.xlsx.tracks import row_number
from tijera.core.packages.formats.xlsx.worksheet import Worksheet
from tijera.core.packages.places.grid import CellRange, find_spot
from tijera.core.packages.places.placed import PlacedPicture, Written
from tijera.core.packages.places.spots import Stand
from tijera.core.units import EMU_PER_POINT

_AFTER_DRAWING = (
    "legacyDrawing",
    "legacyDrawingHF",
    "drawingHF",
    "picture",
    "oleObjects",
    "controls",
    "webPublishItems",
    "tableParts",
    "extLst",
)
"""Children of a worksheet that stand behind its drawing."""
_MOST_ID = 2**31 - 1_000


@dataclass(frozen=True)
class _Placed:
    """A picture with the cells that it goes to."""

    picture: PlacedPicture
    cells: CellRange
    stand: Stand
    member: str


@dataclass
class _Parts:
    """What will be written: parts that change and parts that are new."""

    changed: dict[str, bytes] = field(default_factory=dict)
    added: dict[str, bytes] = field(default_factory=dict)
    types: dict[str, str] = field(default_factory=dict)


def write(document: XlsxDocument, pictures: Sequence[PlacedPicture]) -> Written:
    """Write a copy of the workbook with the pictures in their places.

    A pure function; with no picture the original's bytes come back. Raises `SpotUnknown`, or `StructureBroken` when the
    structural check fails.
    """
    if not pictures:
        return Written(document.package.data, ())
    folder = posixpath.join(posixpath.dirname(document.main.name), "media")
    members, media = media_members(document.package, document.types, folder, pictures)
    by_sheet: dict[int, list[_Placed]] = {}
    for picture, member in zip(pictures, members, strict=True):
        number, cells, spot = find_spot(document.grids, picture.spot)
        by_sheet.setdefault(number, []).append(_Placed(picture, cells, picture.stand_at(spot), member))
    parts = _Parts(added=dict(media))
    parts.types |= {member: each.media_type for member, each in zip(members, pictures, strict=True)}
    for number, placed in sorted(by_sheet.items()):
        _on_sheet(document, document.sheets[number], placed, parts)
    data = write_parts(document.package, document.types, parts.changed, parts.added, parts.types)
    return Written(data, tuple(members))


def _on_sheet(document: XlsxDocument, sheet: Worksheet, placed: Sequence[_Placed], parts: _Parts) -> None:
    """Put what goes on one sheet into its parts."""
    heights = sheet.grid.grown((each.cells, each.picture.height) for each in placed if each.picture.layout.grows_row)
    drawing = sheet.drawing
    sheet_parts: list[tuple[str, str, str]] = []
    if drawing is None:
        known = sheet.drawing_relationship
        name = known.target if known is not None else _free_drawing(document, parts)
        empty = f'<xdr:wsDr xmlns:xdr="{document.names.xdr}" xmlns:a="{document.names.a}"/>'
        part = XmlPart(name, f'<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n{empty}'.encode())
        relationships = Relationships(document.package, name)
        parts.types[name] = DRAWING_TYPE
        if known is None:
            # A drawing that the sheet names and nothing leads to gets what it names.
            is_free = bool(sheet.drawing_id) and sheet.relationships.get(str(sheet.drawing_id)) is None
            id_ = str(sheet.drawing_id) if is_free else sheet.relationships.free_ids(1)[0]
            sheet_parts = [(id_, f"{document.names.relationships}/drawing", name)]
    else:
        part, relationships = drawing.part, drawing.relationships
    ids, new = relate(relationships, [each.member for each in placed], f"{document.names.relationships}/image")
    if new:
        _put(parts, rels_name(part.name), relationships.with_added(new), exists=relationships.exists)
    first = _highest_id(part.root, document.names) + 1
    anchors = [
        _anchor(document.names, sheet, each, ids[each.member], first + number, heights)
        for number, each in enumerate(placed)
    ]
    written = part.spliced([part.append_to_root("".join(anchors))])
    check_drawing(part, written, range(first, first + len(placed)), document.names)
    _put(parts, part.name, written, exists=drawing is not None)
    if sheet_parts:
        listed = sheet.relationships.with_added(sheet_parts)
        _put(parts, sheet.relationships.name, listed, exists=sheet.relationships.exists)
    fresh = [id_ for id_, _, _ in sheet_parts if id_ != sheet.drawing_id]
    if fresh or heights:
        drawing_id = fresh[0] if fresh else None
        parts.changed[sheet.member] = _changed_sheet(document, sheet, drawing_id, heights)


def _put(parts: _Parts, name: str, data: bytes, *, exists: bool) -> None:
    (parts.changed if exists else parts.added)[name] = data


def _free_drawing(document: XlsxDocument, parts: _Parts) -> str:
    folder = posixpath.join(posixpath.dirname(document.main.name), "drawings")
    taken = {member.name.lower() for member in document.package.members} | {name.lower() for name in parts.added}
    number = 1
    while f"{folder}/drawing{number}.xml".lower() in taken:
        number += 1
    return f"{folder}/drawing{number}.xml"


def _highest_id(root: Element, names: XlsxNames) -> int:
    """The highest id of any shape in a drawing; ids beyond reason are passed over."""
    return max((whole_number(node.get("id"), 0, most=_MOST_ID) for node in root.iter(names.x("cNvPr"))), default=0)


def _anchor(
    names: XlsxNames,
    sheet: Worksheet,
    placed: _Placed,
    relationship_id: str,
    shape_id: int,
    heights: dict[int, Fraction],
) -> str:
    """The anchor that holds one picture. It declares its own prefixes, whatever the part calls its namespaces."""
    size = attributes(cx=placed.picture.width.emu, cy=placed.picture.height.emu)
    if placed.stand is Stand.STAYS:
        x, y = (each.emu for each in sheet.grid.corner(placed.cells, heights))
        kind, where = "absoluteAnchor", f"<xdr:pos{attributes(x=x, y=y)}/><xdr:ext{size}/>"
    elif placed.stand is Stand.STRETCHES:
        column, x_in, row, y_in = sheet.grid.end(placed.cells, placed.picture.width, placed.picture.height, heights)
        kind = "twoCellAnchor"
        where = _corner("from", placed.cells.left, 0, placed.cells.top, 0) + _corner(
            "to", column, x_in.emu, row, y_in.emu
        )
    else:
        kind = "oneCellAnchor"
        where = _corner("from", placed.cells.left, 0, placed.cells.top, 0) + f"<xdr:ext{size}/>"
    sizes = ' editAs="twoCell"' if kind == "twoCellAnchor" else ""
    named = attributes(id=shape_id, name=f"Picture {shape_id}", descr=placed.picture.description)
    return (
        f'<xdr:{kind} xmlns:xdr="{names.xdr}"{sizes}>{where}'
        f'<xdr:pic><xdr:nvPicPr><xdr:cNvPr{named}/><xdr:cNvPicPr><a:picLocks xmlns:a="{names.a}" noChangeAspect="1"/>'
        f'</xdr:cNvPicPr></xdr:nvPicPr><xdr:blipFill><a:blip xmlns:a="{names.a}" xmlns:r="{names.r}"'
        f' r:embed="{relationship_id}"/><a:stretch xmlns:a="{names.a}"><a:fillRect/></a:stretch></xdr:blipFill>'
        f'<xdr:spPr><a:xfrm xmlns:a="{names.a}"><a:off x="0" y="0"/><a:ext{size}/></a:xfrm>'
        f'<a:prstGeom xmlns:a="{names.a}" prst="rect"><a:avLst/></a:prstGeom></xdr:spPr></xdr:pic>'
        f"<xdr:clientData/></xdr:{kind}>"
    )


def _corner(name: str, column: int, column_offset: int, row: int, row_offset: int) -> str:
    return (
        f"<xdr:{name}><xdr:col>{column}</xdr:col><xdr:colOff>{column_offset}</xdr:colOff>"
        f"<xdr:row>{row}</xdr:row><xdr:rowOff>{row_offset}</xdr:rowOff></xdr:{name}>"
    )


def _changed_sheet(
    document: XlsxDocument, sheet: Worksheet, drawing_id: str | None, heights: dict[int, Fraction]
) -> bytes:
    """The sheet's part with its drawing named and rows grown."""
    names = document.names
    whole = XmlPart(sheet.member, document.package.read(sheet.member))
    splices: list[Splice] = []
    if heights:
        splices += _grow_rows(whole, names, heights)
        hollow = None
        part = whole
    else:
        seen = hollowed(whole, "sheetData", sheet.child_tags)
        hollow = seen if seen.length else None
        part = seen.part
    if drawing_id is not None:
        xml = f'<drawing xmlns="{names.main}" xmlns:r="{names.r}" r:id="{drawing_id}"/>'
        behind = next((child for child in part.root if _stands_behind(child, names)), None)
        at = (
            part.append_to_root(xml)
            if behind is None
            else Splice(part.span(behind).start, part.span(behind).start, xml)
        )
        splices.append(at)
    written = whole.spliced(splices) if hollow is None else hollow.spliced(splices)
    check_sheet(whole, hollow, written, names, drawing_id, heights)
    return written


def _stands_behind(child: Element, names: XlsxNames) -> bool:
    """Whether a child of the worksheet must stand behind its drawing; choices of them may be wrapped."""
    later = {names.q(local) for local in _AFTER_DRAWING}
    wrapped = child.tag == f"{{{MC}}}AlternateContent" and any(node.tag in later for node in child.iter("*"))
    return child.tag in later or wrapped


_OWN_HEIGHT = re.compile(r"""\s(?:ht|customHeight)\s*=\s*(?:"[^"]*"|'[^']*')""")


def _grow_rows(part: XmlPart, names: XlsxNames, heights: dict[int, Fraction]) -> list[Splice]:
    """Give rows their height; a row that is not there yet is put between its neighbours."""
    data = part.root.find(names.q("sheetData"))
    if data is None:
        raise StructureBroken(part=part.name, why="the sheet has no place for rows")
    rows: dict[int, Element] = {}
    at = -1
    for node in data.iterfind(names.q("row")):
        at = row_number(node, at)
        rows.setdefault(at, node)
    splices, appended = [], ""
    for number, height in sorted(heights.items()):
        own = f' ht="{float(height / EMU_PER_POINT):.4f}" customHeight="1"'
        known = rows.get(number)
        if known is not None:
            span = part.span(known)
            tag = _OWN_HEIGHT.sub("", part.text[span.start : span.open_end])
            end = "/>" if tag.endswith("/>") else ">"
            splices.append(Splice(span.start, span.open_end, f"{tag[: -len(end)].rstrip()}{own}{end}"))
            continue
        xml = f'<row xmlns="{names.main}" r="{number + 1}"{own}/>'
        behind = next((part.span(each).start for index, each in sorted(rows.items()) if index > number), None)
        if behind is None:
            appended += xml
        else:
            splices.append(Splice(behind, behind, xml))
    if appended:
        splices.append(part.append_to(data, appended))
    return splices
