"""Relationships of a part (ECMA-376 Part 2, Relationships): ids, targets relative and absolute."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Mapping
from dataclasses import dataclass
from urllib.parse import quote, unquote
from xml.sax.saxutils import escape

from tijera.core.errors import PartMalformed
from tijera.core.packages.containers.xmlspan import Splice, XmlPart, attributes
from tijera.core.packages.containers.zipped import PartSource

NAMESPACE = "http://schemas.openxmlformats.org/package/2006/relationships"
_EMPTY = f'<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<Relationships xmlns="{NAMESPACE}"/>'
TRANSITIONAL = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
_TARGET = re.compile(r"""\sTarget\s*=\s*(["'])(.*?)\1""", re.DOTALL)
STRICT = "http://purl.oclc.org/ooxml/officeDocument/relationships"


@dataclass(frozen=True)
class Relationship:
    """One relationship; `target` is a member's name, or an address when `external`."""

    id: str
    type: str
    target: str
    external: bool

    def is_kind(self, kind: str) -> bool:
        """Whether its type is that of the office relationships, transitional or strict."""
        return self.type in (f"{TRANSITIONAL}/{kind}", f"{STRICT}/{kind}")


def rels_name(part: str) -> str:
    """The name of the part that holds a part's relationships; the package's own for an empty name."""
    folder, name = posixpath.split(part)
    return posixpath.join(folder, "_rels", f"{name}.rels")


def is_rels_name(name: str) -> bool:
    """Whether a part's name is that of a part of relationships."""
    return name.endswith(".rels") and posixpath.basename(posixpath.dirname(name)) == "_rels"


def belongs_to(name: str) -> str:
    """The part whose relationships a part of relationships holds; empty for the package's own."""
    folder = posixpath.dirname(posixpath.dirname(name))
    return posixpath.join(folder, posixpath.basename(name).removesuffix(".rels"))


def resolve(part: str, target: str) -> str:
    """The member that a target names, seen from a part."""
    path = unquote(target.split("#", maxsplit=1)[0])
    return posixpath.normpath(posixpath.join("/", posixpath.dirname(part), path)).lstrip("/")


class Relationships:
    """The relationships of one part, which can be read and added to."""

    def __init__(self, package: PartSource, part: str) -> None:
        self.part = part
        self.name = rels_name(part)
        self.exists = self.name in package
        self._xml = XmlPart(self.name, package.read(self.name) if self.exists else _EMPTY.encode())
        if self._xml.root.tag != f"{{{NAMESPACE}}}Relationships":
            raise PartMalformed(part=self.name, why="it holds no relationships")
        self.all = tuple(
            Relationship(
                id=node.get("Id", ""),
                type=node.get("Type", ""),
                target=node.get("Target", "")
                if node.get("TargetMode") == "External"
                else resolve(part, node.get("Target", "")),
                external=node.get("TargetMode") == "External",
            )
            for node in self._xml.root.iter(f"{{{NAMESPACE}}}Relationship")
        )
        self._by_id = {relationship.id: relationship for relationship in self.all}

    def get(self, relationship_id: str) -> Relationship | None:
        """Find one by its id."""
        return self._by_id.get(relationship_id)

    def first(self, kind: str) -> Relationship | None:
        """The first internal one of a kind such as "styles"."""
        return next((each for each in self.all if each.is_kind(kind) and not each.external), None)

    def free_ids(self, count: int) -> list[str]:
        """Ids that this part does not use yet; ids compare without regard to case in some readers."""
        taken = {relationship.id.lower() for relationship in self.all}
        ids: list[str] = []
        number = 1
        while len(ids) < count:
            if f"rid{number}" not in taken:
                ids.append(f"rId{number}")
            number += 1
        return ids

    def with_targets(self, targets: Mapping[str, str]) -> bytes | None:
        """The part with relationships to some members leading to others of the same folder; None where none does.

        `targets` has the names in small letters: names of parts are the same in any case.
        """
        splices = []
        for node, relationship in zip(self._xml.root.iter(f"{{{NAMESPACE}}}Relationship"), self.all, strict=True):
            wanted = None if relationship.external else targets.get(relationship.target.lower())
            if wanted is None:
                continue
            span = self._xml.span(node)
            tag = self._xml.text[span.start : span.open_end]
            written = _TARGET.search(tag)
            if written is None:
                raise PartMalformed(part=self.name, why="a relationship leads nowhere")
            # However the folder is written, by the part's place or from the root: it is the same one.
            folder, slash, _ = written[2].rpartition("/")
            name = posixpath.basename(wanted)
            start = span.start + written.start(2)
            splices.append(Splice(start, start + len(written[2]), f"{folder}{slash}{escape(quote(name))}"))
        return self._xml.spliced(splices) if splices else None

    def with_added(self, added: list[tuple[str, str, str]]) -> bytes:
        """The part with (id, type, member name) added, targets written relative to the source part."""
        folder = posixpath.dirname(self.part) or "."
        xml = "".join(
            f'<Relationship xmlns="{NAMESPACE}"'
            + attributes(Id=id_, Type=type_, Target=posixpath.relpath(member, folder))
            + "/>"
            for id_, type_, member in added
        )
        splice: Splice = self._xml.append_to_root(xml)
        return self._xml.spliced([splice])
