"""The structural check that runs on every save: the sheets without what was put in are the original ones.

Rows and cells that were split are joined again, so that only what they say is compared.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from lxml import etree

from tijera.core.errors import PartMalformed, StructureBroken
from tijera.core.packages.odf.names import q
from tijera.core.packages.odf.shown import member_of
from tijera.core.packages.ods.tables import CELL, COVERED, ROW, ROW_HOLDERS
from tijera.core.packages.sameness import cut_out, same_tree
from tijera.core.packages.xmlspan import Element, XmlPart, whole_number

if TYPE_CHECKING:
    from tijera.core.packages.ods.document import OdsDocument

_PARENTS = (CELL, COVERED, q("table:shapes"))
_ROWS_REPEATED, _COLUMNS_REPEATED = q("table:number-rows-repeated"), q("table:number-columns-repeated")


@dataclass(frozen=True)
class Inserted:
    """What was put in: the names of frames and of styles, the members that are new, the row styles that stand in."""

    frames: frozenset[str]
    styles: frozenset[str]
    members: frozenset[str]
    row_styles: Mapping[str, str | None]


def check_content(document: OdsDocument, content: bytes, inserted: Inserted, touched: Sequence[int]) -> None:
    """Check a changed content part. Raises `StructureBroken`."""
    name = document.content.name
    try:
        root = XmlPart(name, content).root
    except PartMalformed as error:
        raise StructureBroken(part=name, why=error.detail) from error
    _take_out_frames(document, root, inserted, name)
    holder = root.find(q("office:automatic-styles"))
    for style in [each for each in holder if each.get(q("style:name")) in inserted.styles]:
        cut_out(style)
    if len(holder) == 0 and document.content.root.find(holder.tag) is None:
        cut_out(holder)
    original = XmlPart(name, document.content.data).root
    for before, after in zip(_tables(original), _tables(root), strict=True):
        shapes = after.find(q("table:shapes"))
        if shapes is not None and before.find(q("table:shapes")) is None and len(shapes) == 0:
            cut_out(shapes)
    for number in touched:
        before, after = list(_tables(original))[number], list(_tables(root))[number]
        _cut_out_same_rows(before, after)
        if _form(before, {}) != _form(after, inserted.row_styles):
            raise StructureBroken(part=name, why="more changed than was inserted")
        for table in (before, after):
            for child in _row_parts(table):
                table.remove(child)
    if not same_tree(original, root):
        raise StructureBroken(part=name, why="more changed than was inserted")


def _tables(root: Element) -> Iterator[Element]:
    return iter(root.findall(f"{q('office:body')}/{q('office:spreadsheet')}/{q('table:table')}"))


def _take_out_frames(document: OdsDocument, root: Element, inserted: Inserted, part: str) -> None:
    """Cut the new frames out, each of which must be there once and where a frame may stand."""
    found = [node for node in root.iter(q("draw:frame")) if node.get(q("draw:name")) in inserted.frames]
    if sorted(node.get(q("draw:name")) for node in found) != sorted(inserted.frames):
        raise StructureBroken(part=part, why="a picture did not arrive, or arrived twice")
    for node in found:
        if node.getparent().tag not in _PARENTS:
            raise StructureBroken(part=part, why=f"a picture would stand in {node.getparent().tag}")
        member = member_of(node.find(q("draw:image")))
        if member not in inserted.members and member not in document.package:
            raise StructureBroken(part=part, why="a picture leads nowhere")
        cut_out(node)


def _row_parts(table: Element) -> list[Element]:
    return [each for each in table if each.tag == ROW or each.tag in ROW_HOLDERS]


def _cut_out_same_rows(before: Element, after: Element) -> None:
    """Take out what both tables begin and end with, row for row: only what lies between need be read closely."""
    for backwards in (False, True):
        rows = [_row_parts(table) for table in (before, after)]
        for one, other in zip(*(reversed(each) if backwards else each for each in rows), strict=False):
            if etree.tostring(one, with_tail=False) != etree.tostring(other, with_tail=False):
                break
            before.remove(one)
            after.remove(other)


_Form = list[tuple[object, ...]]


def _form(holder: Element, row_styles: Mapping[str, str | None]) -> _Form:
    """What the rows of a table or group say: equal ones that follow each other joined; a table's empty end left out."""
    out: _Form = []
    for child in holder:
        if child.tag == ROW:
            _join(out, _row_form(child, row_styles), whole_number(child.get(_ROWS_REPEATED), 1, 1))
        elif child.tag in ROW_HOLDERS:
            out.append((child.tag, dict(child.attrib), _form(child, row_styles)))
    while holder.tag == q("table:table") and out and out[-1][0] == ROW and out[-1][1] == ({}, []):
        out.pop()
    return out


def _row_form(row: Element, row_styles: Mapping[str, str | None]) -> tuple[object, ...]:
    said = {name: value for name, value in row.attrib.items() if name != _ROWS_REPEATED}
    style = str(said.get(q("table:style-name"), ""))
    if style in row_styles:
        said.pop(q("table:style-name"))
        instead_of = row_styles[style]
        said |= {} if instead_of is None else {q("table:style-name"): instead_of}
    cells: _Form = []
    for cell in row.iterchildren("*"):
        if cell.tag in (CELL, COVERED):
            own = {name: value for name, value in cell.attrib.items() if name != _COLUMNS_REPEATED}
            inside = (
                (cell.text or "").strip(),
                *(etree.tostring(child, method="c14n", exclusive=True) for child in cell),
            )
            _join(cells, (cell.tag, own, inside), whole_number(cell.get(_COLUMNS_REPEATED), 1, 1))
        else:
            cells.append((etree.tostring(cell, method="c14n", exclusive=True),))
    while cells and cells[-1][:2] == (ROW, (CELL, {}, ("",))):
        cells.pop()
    return said, cells


def _join(out: _Form, said: tuple[object, ...], times: int) -> None:
    if out and out[-1][0] == ROW and out[-1][1] == said:
        out[-1] = (ROW, said, int(str(out[-1][2])) + times)
    else:
        out.append((ROW, said, times))
