"""The tests' own checker of a package of the Open Packaging Conventions: written from the standard, sharing nothing with
the code under test.

Source: ECMA-376 Part 2 (part names §6.2.2, relationships §6.5, content types §7.2.3, mapping to ZIP §7.3) and Part 1
(allowed parents of w:p); clauses from memory.
"""

from __future__ import annotations

import io
import posixpath
import re
import xml.etree.ElementTree as ET
import zipfile
from collections import Counter
from collections.abc import Iterator
from urllib.parse import unquote

_TYPES_PART = "[Content_Types].xml"
_RELS = "{http://schemas.openxmlformats.org/package/2006/relationships}Relationship"
_RELS_TYPE = "application/vnd.openxmlformats-package.relationships+xml"
_TYPES = "{http://schemas.openxmlformats.org/package/2006/content-types}"
_REFERENCES = re.compile(
    r"\{(?:http://schemas\.openxmlformats\.org/officeDocument/2006/relationships"
    r"|http://purl\.oclc\.org/ooxml/officeDocument/relationships)\}(?:id|embed|link|pict|dm|lo|qs|cs)"
)
_ID = re.compile(r"[A-Za-z_][\w.\-]*")
_MAY_HOLD_PARAGRAPHS = {
    "body",
    "tc",
    "sdtContent",
    "customXml",
    "txbxContent",
    "hdr",
    "ftr",
    "comment",
    "footnote",
    "endnote",
}
_MAGIC = {"image/png": b"\x89PNG", "image/jpeg": b"\xff\xd8\xff"}


def complaints(data: bytes) -> list[str]:
    """Everything about the package that the standard does not allow; an empty list when it is sound."""
    with zipfile.ZipFile(io.BytesIO(data)) as package:
        if (bad := package.testzip()) is not None:
            return [f"checksum of {bad}"]
        names = [name for name in package.namelist() if not name.endswith("/")]
        parts = {name: package.read(name) for name in names}
    said = list(_names(names)) + list(_content_types(parts)) + list(_relationships(parts))
    if "word/document.xml" in parts:
        said += _document(parts["word/document.xml"])
    return said


def _names(names: list[str]) -> Iterator[str]:
    """Part names are unique without regard to case, have no empty or dotted ends, and none leads through another."""
    folded = Counter(name.lower() for name in names)
    yield from (f"twice: {name}" for name, count in folded.items() if count > 1)
    for name in names:
        segments = name.split("/")
        if any(not segment or segment.endswith(".") for segment in segments) or "\\" in name:
            yield f"no part name: {name}"
        for depth in range(1, len(segments)):
            if (above := "/".join(segments[:depth]).lower()) in folded:
                yield f"{name} stands below the part {above}"


def _content_types(parts: dict[str, bytes]) -> Iterator[str]:
    """Every part has one type, that of a relationships part is fixed, and pictures are what they are called."""
    root = ET.fromstring(parts[_TYPES_PART])
    defaults = [node.get("Extension", "").lower() for node in root.iter(f"{_TYPES}Default")]
    overrides = [node.get("PartName", "").lower() for node in root.iter(f"{_TYPES}Override")]
    yield from (f"type given twice: {key}" for key, count in Counter(defaults + overrides).items() if count > 1)
    types = {node.get("Extension", "").lower(): node.get("ContentType", "") for node in root.iter(f"{_TYPES}Default")}
    by_part = {node.get("PartName", "").lower(): node.get("ContentType", "") for node in root.iter(f"{_TYPES}Override")}
    for name, content in parts.items():
        if name == _TYPES_PART:
            continue
        last = posixpath.basename(name)
        extension = last.rsplit(".", 1)[-1].lower() if "." in last else None
        declared = by_part.get(f"/{name}".lower()) or types.get(extension or "/")
        if not declared:
            yield f"no type: {name}"
        elif declared in _MAGIC and not content.startswith(_MAGIC[declared]):
            yield f"{name} is not {declared}"
        elif (declared == _RELS_TYPE) != _is_relationships(name):
            yield f"{name} has the type {declared}"


def _is_relationships(name: str) -> bool:
    return name.endswith(".rels") and posixpath.basename(posixpath.dirname(name)) == "_rels"


def _relationships(parts: dict[str, bytes]) -> Iterator[str]:
    """Each belongs to a part that is there, has an id of its own, and leads to a part; what is referred to is declared."""
    known: dict[str, set[str | None]] = {}
    by_name = {name.lower() for name in parts}
    for name, content in parts.items():
        if not _is_relationships(name):
            continue
        folder, last = posixpath.dirname(posixpath.dirname(name)), posixpath.basename(name).removesuffix(".rels")
        source = posixpath.join(folder, last) if last else ""
        nodes = list(ET.fromstring(content).iter(_RELS))
        known[source.lower()] = {node.get("Id") for node in nodes}
        if source and source.lower() not in by_name:
            yield f"{name} belongs to no part"
        if _is_relationships(source):
            yield f"{name}: relationships of relationships"
        for key, count in Counter(node.get("Id", "") for node in nodes).items():
            if count > 1 or not _ID.fullmatch(key):
                yield f"{name}: id {key!r} {count} times"
        for node in nodes:
            yield from _target(name, node, folder, source, by_name)
    for name, content in parts.items():
        if name.endswith(".xml") and name != _TYPES_PART:
            yield from _references(name, content, known.get(name.lower(), set()))


def _target(name: str, node: ET.Element, folder: str, source: str, by_name: set[str]) -> Iterator[str]:
    """Where one relationship leads."""
    target = node.get("Target")
    if not node.get("Type") or target is None:
        yield f"{name}: {node.get('Id')} has no type or no target"
    elif node.get("TargetMode") != "External":
        path = unquote(target.split("#")[0])
        reached = posixpath.normpath(posixpath.join("/", folder, path)).lstrip("/") if path else source
        if reached.lower() not in by_name:
            yield f"{name}: {node.get('Id')} leads to {reached}, which is not there"


def _references(name: str, content: bytes, declared: set[str | None]) -> Iterator[str]:
    """Relationship ids in a part that its relationships do not have."""
    try:
        root = ET.fromstring(content)
    except ET.ParseError:
        return
    used = {value for node in root.iter() for key, value in node.attrib.items() if _REFERENCES.fullmatch(key)}
    yield from (f"relationship {key} is used in {name} and not declared" for key in sorted(used - declared) if key)


def _document(content: bytes) -> list[str]:
    root = ET.fromstring(content)
    parents = {child: parent for parent in root.iter() for child in parent}
    said = []
    for node in root.iter():
        if _local(node) == "p" and "wordprocessingml" in node.tag:
            holder = _local(parents[node])
            if holder not in _MAY_HOLD_PARAGRAPHS:
                said.append(f"a paragraph stands in {holder}")
        if _local(node) == "tc" and _local(node[-1]) not in ("p", "sdt"):
            said.append("a cell does not end in a paragraph")
    ids = Counter(node.get("id") for node in root.iter() if _local(node) == "docPr")
    said += [f"drawing id {key} twice" for key, count in ids.items() if count > 1]
    body = root[0]
    if len(body) and _local(body[-1]) != "sectPr":
        said.append("the body does not end in its section's properties")
    for paragraph in (node for node in root.iter() if _local(node) == "pPr"):
        order = [_PPR.index(name) for child in paragraph if (name := _local(child)) in _PPR]
        if order != sorted(order):
            said.append("paragraph properties stand in the wrong order")
    return said


_PPR = ["pStyle", "keepNext", "keepLines", "numPr", "spacing", "ind", "contextualSpacing", "jc", "outlineLvl", "rPr", "sectPr", "pPrChange"]  # fmt: skip


def _local(node: ET.Element) -> str:
    return node.tag.rsplit("}", 1)[-1]
