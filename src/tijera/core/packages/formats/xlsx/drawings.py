"""The drawing part of a sheet: what stands on it and where (ECMA-376 Part 1 §20.5, SpreadsheetML drawings)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from tijera.core.packages.containers.xmlspan import Element, XmlPart, whole_number
from tijera.core.packages.families.opc.drawingml import crop_of
from tijera.core.packages.families.opc.relationships import Relationships
from tijera.core.packages.formats.xlsx.names import XlsxNames
from tijera.core.packages.places.grid import MOST_COLUMNS, MOST_ROWS, GridBox, Tracks
from tijera.core.packages.places.spots import WHOLE
from tijera.core.units import Length

_MOST_EXTENT = 10**12
ANCHORS = ("oneCellAnchor", "twoCellAnchor", "absoluteAnchor")


@dataclass(frozen=True)
class Drawing:
    """A drawing part with its relationships."""

    part: XmlPart
    relationships: Relationships

    def boxes(self, names: XlsxNames, columns: Tracks, rows: Tracks) -> Iterator[GridBox]:
        """What stands on the sheet, as far as its place is told."""
        for anchor in self.part.root:
            if anchor.tag not in [names.x(local) for local in ANCHORS]:
                continue
            place = _place(anchor, names, columns, rows)
            if place is not None:
                yield self._box(anchor, names, place)

    def _box(self, anchor: Element, names: XlsxNames, place: tuple[Length, Length, Length, Length]) -> GridBox:
        picture = anchor.find(names.x("pic"))
        if picture is not None:
            blip = picture.find(f"{names.x('blipFill')}/{{{names.a}}}blip")
            named = "" if blip is None else blip.get(f"{{{names.r}}}embed", "")
            found = self.relationships.get(named)
            properties = picture.find(f"{names.x('nvPicPr')}/{names.x('cNvPr')}")
            words = "" if properties is None else properties.get("descr", "")
            crop = crop_of(picture.find(f"{names.x('blipFill')}/{{{names.a}}}srcRect"))
            member = found.target if found is not None and not found.external else None
            return GridBox("picture", *place, member, crop, words)
        kind = "chart" if anchor.find(names.x("graphicFrame")) is not None else "shape"
        properties = next(anchor.iter(names.x("cNvPr")), None)
        words = "" if properties is None else properties.get("descr") or properties.get("name") or ""
        return GridBox(kind, *place, None, WHOLE, words)


def _place(
    anchor: Element, names: XlsxNames, columns: Tracks, rows: Tracks
) -> tuple[Length, Length, Length, Length] | None:
    """Left, top, width and height on the sheet."""
    start = _corner(anchor.find(names.x("from")), names, columns, rows)
    if start is None:
        position = anchor.find(names.x("pos"))
        if position is None:
            return None
        start = Fraction(_extent(position, "x")), Fraction(_extent(position, "y"))
    size = anchor.find(names.x("ext"))
    end = _corner(anchor.find(names.x("to")), names, columns, rows)
    if end is not None:
        width, height = end[0] - start[0], end[1] - start[1]
    elif size is not None:
        width, height = Fraction(_extent(size, "cx")), Fraction(_extent(size, "cy"))
    else:
        return None
    measures = (*start, max(width, Fraction(0)), max(height, Fraction(0)))
    left, top, wide, high = (Length.exactly(each) for each in measures)
    return left, top, wide, high


def _corner(node: Element | None, names: XlsxNames, columns: Tracks, rows: Tracks) -> tuple[Fraction, Fraction] | None:
    if node is None:
        return None
    column = whole_number(node.findtext(names.x("col")), 0, 0, MOST_COLUMNS - 1)
    row = whole_number(node.findtext(names.x("row")), 0, 0, MOST_ROWS - 1)
    x = min(Fraction(_offset(node.findtext(names.x("colOff")))), columns.size(column))
    y = min(Fraction(_offset(node.findtext(names.x("rowOff")))), rows.size(row))
    return columns.start(column) + x, rows.start(row) + y


def _offset(text: str | None) -> int:
    return whole_number(text, 0, 0, _MOST_EXTENT)


def _extent(node: Element, name: str) -> int:
    return whole_number(node.get(name), 0, 0, _MOST_EXTENT)
