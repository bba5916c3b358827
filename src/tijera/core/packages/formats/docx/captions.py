"""The captions of a document: SEQ fields (ECMA-376 Part 1 §17.16.5.56; number from memory), simple and complex."""

from __future__ import annotations

import re
from collections.abc import Iterator

from tijera.core.packages.containers.xmlspan import Element
from tijera.core.packages.formats.docx.document import DocxDocument
from tijera.core.packages.places.caption_numbers import Counted, Series
from tijera.core.packages.places.spots import Side, Spot

_SEQ = re.compile(r"\s*SEQ\s+(\"[^\"]+\"|[^\s\\]+)(.*)", re.IGNORECASE | re.DOTALL)
_RESET = re.compile(r"\\r\s*(\d{1,6})", re.IGNORECASE)
_REPEAT = re.compile(r"\\c\b", re.IGNORECASE)
_MOST_LABEL = 40


def read_captions(document: DocxDocument) -> list[Counted]:
    """Every number of a caption, in document order, as the fields count; results that are shown may be stale."""
    values: dict[str, int] = {}
    found = []
    for node, order, code in _fields(document):
        match = _SEQ.match(code)
        if match is None:
            continue
        name, switches = match[1].strip('"'), match[2]
        reset = _RESET.search(switches)
        value = values.get(name, 0) + (0 if _REPEAT.search(switches) else 1)
        values[name] = int(reset[1]) if reset else value
        before, after = _round(node, document)
        found.append(Counted(order, name, values[name], before, after))
    return found


def _fields(document: DocxDocument) -> Iterator[tuple[Element, int, str]]:
    """Each field's element (where it begins), its place in document order, and its code."""
    q = document.names.q
    simple, mark, code_tag = q("fldSimple"), q("fldChar"), q("instrText")
    open_fields: list[tuple[Element, int, list[str]]] = []
    for order, node in enumerate(document.main.elements):
        if node.tag == simple:
            yield node, order, node.get(q("instr"), "")
        elif node.tag == code_tag and open_fields:
            open_fields[-1][2].append(node.text or "")
        elif node.tag == mark:
            kind = node.get(q("fldCharType"))
            if kind == "begin":
                open_fields.append((node, order, []))
            elif kind == "end" and open_fields:
                begin, at, parts = open_fields.pop()
                yield begin, at, "".join(parts)


def _round(node: Element, document: DocxDocument) -> tuple[str, str]:
    """The words of the paragraph before a field, and the sign behind its result."""
    q = document.names.q
    paragraph = next(node.iterancestors(q("p")), None)
    if paragraph is None:
        return "", ""
    order = document.main.order
    inside = order[node]
    texts = [(order[each], each) for each in paragraph.iter(q("t"))]
    before = "".join(each.text or "" for at, each in texts if at < inside)[-_MOST_LABEL:]
    if node.tag == q("fldSimple"):
        own = {order[each] for each in node.iter("*")}
        after = "".join(each.text or "" for at, each in texts if at > inside and at not in own)
    else:
        after = "".join(each.text or "" for at, each in texts if at > inside).lstrip("0123456789")
    return before, after.lstrip()[:1]


def order_of(document: DocxDocument, spot: Spot) -> int:
    """The place in document order that what is put at a spot has: all elements below it stand before."""
    if spot.side is Side.BEFORE:
        return document.main.place(spot.element)
    return document.main.place(spot.element) + sum(1 for _ in spot.element.iter("*"))


def field(names_w: str, series: Series, number: int) -> str:
    """The runs of a number that counts by itself and is brought up to date when the document is opened."""
    identifier = f'"{series.name}"' if " " in series.name else series.name
    return (
        f'<w:fldSimple xmlns:w="{names_w}" w:instr=" SEQ {identifier} \\* ARABIC " w:dirty="true">'
        f"<w:r><w:rPr><w:noProof/></w:rPr><w:t>{number}</w:t></w:r></w:fldSimple>"
    )
