"""The tests' own checker of a .docx package: written from the standard, sharing nothing with the code under test.

Source: ECMA-376 Part 2 (OPC: content types, relationships) and Part 1 (allowed parents of w:p); clauses from memory.
"""

from __future__ import annotations

import io
import posixpath
import xml.etree.ElementTree as ET
import zipfile
from collections import Counter

_RELS = "{http://schemas.openxmlformats.org/package/2006/relationships}Relationship"
_TYPES = "{http://schemas.openxmlformats.org/package/2006/content-types}"
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
        names = package.namelist()
        parts = {name: package.read(name) for name in names}
    said = [f"twice: {name}" for name, count in Counter(name.lower() for name in names).items() if count > 1]
    return said + _content_types(parts) + _relationships(parts) + _document(parts["word/document.xml"])


def _content_types(parts: dict[str, bytes]) -> list[str]:
    root = ET.fromstring(parts["[Content_Types].xml"])
    defaults = [node.get("Extension", "").lower() for node in root.iter(f"{_TYPES}Default")]
    overrides = [node.get("PartName", "").lower() for node in root.iter(f"{_TYPES}Override")]
    said = [f"type given twice: {key}" for key, count in Counter(defaults + overrides).items() if count > 1]
    types = {node.get("Extension", "").lower(): node.get("ContentType", "") for node in root.iter(f"{_TYPES}Default")}
    by_part = {node.get("PartName", "").lower(): node.get("ContentType", "") for node in root.iter(f"{_TYPES}Override")}
    for name, content in parts.items():
        if name == "[Content_Types].xml":
            continue
        declared = by_part.get(f"/{name}".lower()) or types.get(name.rsplit(".", 1)[-1].lower())
        if declared is None:
            said.append(f"no type: {name}")
        elif declared in _MAGIC and not content.startswith(_MAGIC[declared]):
            said.append(f"{name} is not {declared}")
    return said


def _relationships(parts: dict[str, bytes]) -> list[str]:
    said = []
    for name, content in parts.items():
        if not name.endswith(".rels"):
            continue
        folder = posixpath.dirname(posixpath.dirname(name))
        nodes = list(ET.fromstring(content).iter(_RELS))
        said += [
            f"{name}: id {key} twice" for key, count in Counter(node.get("Id") for node in nodes).items() if count > 1
        ]
        for node in nodes:
            if node.get("TargetMode") == "External":
                continue
            target = posixpath.normpath(posixpath.join("/", folder, node.get("Target", ""))).lstrip("/")
            if target not in parts:
                said.append(f"{name}: {node.get('Id')} leads to {target}, which is not there")
    used = {value for node in ET.fromstring(parts["word/document.xml"]).iter() for key, value in node.attrib.items() if key.endswith("}embed")}  # fmt: skip
    known = {node.get("Id") for node in ET.fromstring(parts["word/_rels/document.xml.rels"]).iter(_RELS)}
    return said + [f"relationship {key} is used and not declared" for key in used - known]


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
