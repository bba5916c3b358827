"""The structural check that runs on every save: the sheets without what was put in are the original ones.

Rows and cells that were split are joined again, so that only what they say is compared.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from copy import deepcopy
from dataclasses import dataclass
from itertools import takewhile
from typing import TYPE_CHECKING

from lxml import etree

from tijera.core.errors import PartMalformed, StructureBroken
from tijera.core.packages.containers.elements import parent_tag, required
from tijera.core.packages.containers.tree_comparison import cut_out, same_tree
from tijera.core.packages.containers.xmlspan import Element, XmlPart, whole_number
from tijera.core.packages.families.odf.names import q
from tijera.core.packages.families.odf.shown import member_of
from tijera.core.packages.formats.ods.tables import CELL, COVERED, ROW, ROW_HOLDERS

if TYPE_CHECKING:
    from tijera.core.packages.formats.ods.document import OdsDocument

_PARENTS = (CELL, COVERED, q("table:shapes"))
_ENDS_NAME = (b" ", b"/", b">")
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
    holder = required(root, q("office:automatic-styles"))
    for style in [each for each in holder if each.get(q("style:name")) in inserted.styles]:
        cut_out(style)
    if len(holder) == 0 and document.content.root.find(holder.tag) is None:
        cut_out(holder)
    original = deepcopy(document.content.root)
    for before, after in zip(_tables(original), _tables(root), strict=True):
        shapes = after.find(q("table:shapes"))
        if shapes is not None and before.find(q("table:shapes")) is None and len(shapes) == 0:
            cut_out(shapes)
    for number in touched:
        before, after = list(_tables(original))[number], list(_tables(root))[number]
        rows_before, rows_after = _different_rows(before, after)
        if _table_form(rows_before, {}) != _table_form(rows_after, inserted.row_styles):
            raise StructureBroken(part=name, why="more changed than was inserted")
        for table in (before, after):
            etree.strip_elements(table, ROW, *ROW_HOLDERS)
    if not same_tree(original, root):
        raise StructureBroken(part=name, why="more changed than was inserted")


def _tables(root: Element) -> Iterator[Element]:
    return iter(root.findall(f"{q('office:body')}/{q('office:spreadsheet')}/{q('table:table')}"))


def _take_out_frames(document: OdsDocument, root: Element, inserted: Inserted, part: str) -> None:
    """Cut the new frames out, each of which must be there once and where a frame may stand."""
    found = [node for node in root.iter(q("draw:frame")) if node.get(q("draw:name")) in inserted.frames]
    if sorted(node.get(q("draw:name"), "") for node in found) != sorted(inserted.frames):
        raise StructureBroken(part=part, why="a picture did not arrive, or arrived twice")
    for node in found:
        if parent_tag(node) not in _PARENTS:
            raise StructureBroken(part=part, why=f"a picture would stand in {parent_tag(node)}")
        member = member_of(required(node, q("draw:image")))
        if member not in inserted.members and member not in document.package:
            raise StructureBroken(part=part, why="a picture leads nowhere")
        cut_out(node)


def _row_parts(table: Element) -> list[Element]:
    return [each for each in table if each.tag == ROW or each.tag in ROW_HOLDERS]


def _different_rows(before: Element, after: Element) -> tuple[list[Element], list[Element]]:
    """The rows of two tables without those that both begin and end with: only what lies between is read closely."""
    ours, theirs = _row_parts(before), _row_parts(after)
    texts = _row_texts(before, ours), _row_texts(after, theirs)
    head = _count_same(*texts)
    tail = min(_count_same(*(each[::-1] for each in texts)), min(len(ours), len(theirs)) - head)
    return ours[head : len(ours) - tail], theirs[head : len(theirs) - tail]


def _row_texts(table: Element, rows: Sequence[Element]) -> list[bytes]:
    """The rows of a table as they are written: of most at one go, where groups or tables in cells stand one by one."""
    name = ROW.rsplit("}", 1)[-1]
    tag = f"<{table.prefix}:{name}" if table.prefix else f"<{name}"
    _, *texts = etree.tostring(table, with_tail=False).split(tag.encode())
    if len(texts) == len(rows) and all(text[:1] in _ENDS_NAME for text in texts):
        return texts
    return [etree.tostring(each, with_tail=False) for each in rows]


def _count_same(ours: Sequence[bytes], theirs: Sequence[bytes]) -> int:
    return sum(1 for _ in takewhile(lambda pair: pair[0] == pair[1], zip(ours, theirs, strict=False)))


_Form = list[tuple[object, ...]]


def _table_form(rows: Iterable[Element], row_styles: Mapping[str, str | None]) -> _Form:
    """What the rows of a table say; its empty end is left out."""
    out = _form(rows, row_styles)
    while out and out[-1][0] == ROW and out[-1][1] == ({}, []):
        out.pop()
    return out


def _form(rows: Iterable[Element], row_styles: Mapping[str, str | None]) -> _Form:
    """What the rows of a table or group say: equal ones that follow each other joined."""
    out: _Form = []
    for child in rows:
        if child.tag == ROW:
            _join(out, _row_form(child, row_styles), whole_number(child.get(_ROWS_REPEATED), 1, 1))
        elif child.tag in ROW_HOLDERS:
            out.append((child.tag, dict(child.attrib.items()), _form(child, row_styles)))
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
                *map(_said, cell),
            )
            _join(cells, (cell.tag, own, inside), whole_number(cell.get(_COLUMNS_REPEATED), 1, 1))
        else:
            cells.append((_said(cell),))
    while cells and cells[-1][:2] == (ROW, (CELL, {}, ("",))):
        cells.pop()
    return said, cells


def _said(node: Element) -> bytes:
    """An element in canonical form; as it is where a namespace of it has none."""
    try:
        return bytes(etree.tostring(node, method="c14n", exclusive=True))
    except etree.C14NError:
        return bytes(etree.tostring(node))


def _join(out: _Form, said: tuple[object, ...], times: int) -> None:
    if out and out[-1][0] == ROW and out[-1][1] == said:
        out[-1] = (ROW, said, int(str(out[-1][2])) + times)
    else:
        out.append((ROW, said, times))
