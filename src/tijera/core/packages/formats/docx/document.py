"""A .docx file, opened: its main part, its styles and sections, its outline."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from tijera.core.errors import PartMissing
from tijera.core.packages.containers.elements import parent_tag
from tijera.core.packages.containers.xmlspan import Element, parse_safely
from tijera.core.packages.containers.zipped import Guards, Package, open_package
from tijera.core.packages.families.opc.document import OpcDocument
from tijera.core.packages.families.opc.package import check_other_parts, main_part, of_kind
from tijera.core.packages.formats.docx.names import MAIN_TYPES, DocxNames, names_of
from tijera.core.packages.formats.docx.outline import read_outline
from tijera.core.packages.formats.docx.sections import read_section
from tijera.core.packages.formats.docx.shown import read_paragraph
from tijera.core.packages.formats.docx.styles import DocxStyles
from tijera.core.packages.places.spots import Outlined, Section, TextOutline

_MOST_RUNNING = 400
STORIES = ("header", "footer", "footnotes", "endnotes", "comments")
"""Relationships to parts that hold text of their own, beside the main part."""


@dataclass(frozen=True, eq=False)
class DocxDocument(Outlined, OpcDocument[DocxNames]):
    """An opened document. Nothing of it ever changes; `place.write` makes a new package."""

    @cached_property
    def styles(self) -> DocxStyles:
        """Styles and numbering."""
        return DocxStyles(self.names, self._related("styles"), self._related("numbering"))

    @cached_property
    def sections(self) -> tuple[Section, ...]:
        """The sections in order."""
        q = self.names.q
        settings = self._related("settings")
        flag = None if settings is None else settings.find(q("gutterAtTop"))
        at_top = flag is not None and flag.get(q("val"), "1") not in ("0", "false", "off")
        nodes = [node for node in self.main.root.iter(q("sectPr")) if parent_tag(node) in (q("pPr"), q("body"))]
        last_in_body = bool(nodes) and parent_tag(nodes[-1]) == q("body")
        found = [read_section(node, self.names, gutter_at_top=at_top) for node in nodes]
        if not last_in_body:
            found.append(read_section(None, self.names, gutter_at_top=at_top))
        return tuple(self._with_running_text([*nodes, *([] if last_in_body else [None])], found))

    def _with_running_text(self, nodes: Sequence[Element | None], sections: Sequence[Section]) -> Iterator[Section]:
        """Sections with the text of their headers and footers; one that names none has that of the one before it."""
        running = {"header": "", "footer": ""}
        for node, section in zip(nodes, sections, strict=True):
            for kind in running:
                for reference in () if node is None else node.iterfind(self.names.q(f"{kind}Reference")):
                    if reference.get(self.names.q("type"), "default") == "default":
                        running[kind] = self._story(reference.get(f"{{{self.names.r}}}id", ""))
            yield replace(section, header=running["header"], footer=running["footer"])

    def _story(self, relationship_id: str) -> str:
        """The text of a header or footer, in lines; empty where it can't be read."""
        found = self.relationships.get(relationship_id)
        if found is None or found.external or found.target not in self.package:
            return ""
        root = parse_safely(found.target, self.package.read(found.target))
        lines = (read_paragraph(node, self.names).text for node in root.iter(self.names.q("p")))
        return "\n".join(line for line in lines if line)[:_MOST_RUNNING]

    @cached_property
    def outline(self) -> TextOutline:
        """The text in its containers, and every spot."""
        return read_outline(self.main.root, self.names, self.styles, self.sections, self.relationships)

    @property
    def ending(self) -> str:
        """The ending of its file's name, by what its main part is."""
        return MAIN_TYPES.get(str(main_part(self.package)[1]), "docx")


def open_docx(data: bytes, name: str = "document", guards: Guards | None = None) -> DocxDocument:
    """Open and check a document from outside. Raises subclasses of `InputRefused`."""
    return open_package_as_docx(open_package(data, name, guards))


def recognises(package: Package) -> bool:
    """Whether a package says that its main part is of this kind."""
    return of_kind(package, MAIN_TYPES)


def open_package_as_docx(package: Package) -> DocxDocument:
    """Read a package that passed the guards. Raises subclasses of `InputRefused`."""
    document = DocxDocument.of(package, names_of)
    if document.main.root.find(document.names.q("body")) is None:
        raise PartMissing(part="body")
    # Begun here, so that a malformed part that it needs is refused at the door.
    _ = document.outline.body.blocks[:1]
    stories = {
        relationship.target
        for relationship in document.relationships.all
        if not relationship.external and any(relationship.is_kind(kind) for kind in STORIES)
    }
    check_other_parts(package, (document.main.name,), stories)
    return document
