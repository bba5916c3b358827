"""Rows and cells that stand for several are split before something is put into one of them.

All of it is done on text, so that what a row holds stays as it was written.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from tijera.core.packages.containers.xmlspan import Span, XmlPart
from tijera.core.packages.families.odf.names import NAMESPACES, declared
from tijera.core.packages.formats.ods.tables import Repeated, cells_of

_REPEAT = r"""\s+[\w.-]+:number-{what}-repeated\s*=\s*(?:"[^"]*"|'[^']*')"""
_REPEATS = {what: re.compile(_REPEAT.format(what=what)) for what in ("rows", "columns")}
_STYLE = re.compile(r"""\s+[\w.-]+:style-name\s*=\s*(?:"[^"]*"|'[^']*')""")
_NAME = re.compile(r"<([^\s/>]+)")
_DECLARED = declared("table")
_OWN_PREFIX = re.compile(rf"""\sxmlns:([\w.-]+)\s*=\s*["']{re.escape(NAMESPACES["table"])}["']""")
_SPARE = "tijera-table"
"""A prefix for a tag that means something else by ours."""


def repeated(tag: str, what: str, times: int) -> str:
    """An opening tag that says that it stands for so many; `what` is "rows" or "columns"."""
    plain = _REPEATS[what].sub("", tag)
    match = _NAME.match(plain)
    if times == 1 or match is None:
        return plain
    return _with_attribute(plain, match.end(), f"number-{what}-repeated", str(times))


def styled(tag: str, style: str) -> str:
    """An opening tag with another style."""
    plain = _STYLE.sub("", tag)
    match = _NAME.match(plain)
    at = match.end() if match else 0
    return _with_attribute(plain, at, "style-name", style)


def _with_attribute(tag: str, at: int, name: str, value: str) -> str:
    """A tag with an attribute of the table's namespace, which is declared once: one that was split before has it already."""
    own = _OWN_PREFIX.search(tag)
    prefix = own[1] if own else "table"
    declaration = "" if own else _DECLARED if "xmlns:table=" not in tag else f' xmlns:{_SPARE}="{NAMESPACES["table"]}"'
    if not own and "xmlns:table=" in tag:
        prefix = _SPARE
    return f'{tag[:at]}{declaration} {prefix}:{name}="{value}"{tag[at:]}'


def split_row(part: XmlPart, row: Repeated, put: Mapping[int, Mapping[int, str]], styles: Mapping[int, str]) -> str:
    """The text of a row that stands for several, with something put into cells of some of them.

    `put` gives by row and column what goes in first, `styles` the new style of some rows.
    """
    span = part.span(row.node)
    tag = part.text[span.start : span.open_end]
    rest = part.text[span.open_end : span.end]
    out, at = [], row.first
    for number in sorted(put):
        if number > at:
            out.append(repeated(tag, "rows", number - at) + rest)
        out.append(_row(part, row, span, put[number], styles.get(number)))
        at = number + 1
    if at <= row.last:
        out.append(repeated(tag, "rows", row.last - at + 1) + rest)
    return "".join(out)


def _row(part: XmlPart, row: Repeated, span: Span, put: Mapping[int, str], style: str | None) -> str:
    """One row with something put into some of its cells."""
    tag = repeated(part.text[span.start : span.open_end], "rows", 1)
    tag = tag if style is None else styled(tag, style)
    if span.is_empty_tag:
        match = _NAME.match(tag)
        name = match[1] if match else ""
        return f"{tag[:-2]}>{new_cells(put, 0)}</{name}>"
    out, at, end = [tag], span.open_end, 0
    for cell in cells_of(row.node):
        inside = part.span(cell.node)
        out.append(part.text[at : inside.start])
        wanted = [column for column in sorted(put) if cell.first <= column <= cell.last]
        out.append(_cell(part, cell, inside, wanted, put) if wanted else part.text[inside.start : inside.end])
        at, end = inside.end, cell.last + 1
    beyond = {column: xml for column, xml in put.items() if column >= end}
    out += [new_cells(beyond, end), part.text[at : span.end]]
    return "".join(out)


def _cell(part: XmlPart, cell: Repeated, span: Span, wanted: Sequence[int], put: Mapping[int, str]) -> str:
    tag = part.text[span.start : span.open_end]
    rest = part.text[span.open_end : span.end]
    out, at = [], cell.first
    for column in wanted:
        if column > at:
            out.append(repeated(tag, "columns", column - at) + rest)
        one = repeated(tag, "columns", 1)
        if span.is_empty_tag:
            match = _NAME.match(tag)
            out.append(f"{one[:-2]}>{put[column]}</{match[1] if match else ''}>")
        else:
            out.append(one + put[column] + rest)
        at = column + 1
    if at <= cell.last:
        out.append(repeated(tag, "columns", cell.last - at + 1) + rest)
    return "".join(out)


def new_cells(put: Mapping[int, str], at: int) -> str:
    """Cells behind those that a row has: empty ones up to each that something goes into."""
    out = []
    for column in sorted(put):
        if column > at:
            out.append(f'<table:table-cell{_DECLARED} table:number-columns-repeated="{column - at}"/>')
        out.append(f"<table:table-cell{_DECLARED}>{put[column]}</table:table-cell>")
        at = column + 1
    return "".join(out)


def new_rows(put: Mapping[int, Mapping[int, str]], styles: Mapping[int, str], at: int) -> str:
    """Rows behind those that a sheet has; one that only fills keeps a cell, as a row must."""
    out = []
    for number in sorted(put):
        if number > at:
            repeat = "" if number - at == 1 else f' table:number-rows-repeated="{number - at}"'
            out.append(f"<table:table-row{_DECLARED}{repeat}><table:table-cell/></table:table-row>")
        style = f' table:style-name="{styles[number]}"' if number in styles else ""
        out.append(f"<table:table-row{_DECLARED}{style}>{new_cells(put[number], 0)}</table:table-row>")
        at = number + 1
    return "".join(out)
