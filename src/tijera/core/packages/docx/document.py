"""A .docx file, opened: its main part, its styles and sections, its outline."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from tijera.core.errors import NotADocument, PackageSigned, PartMalformed, PartMissing, SpotUnknown
from tijera.core.packages.docx.names import MAIN_TYPES, Names, names_of
from tijera.core.packages.docx.outline import read_outline
from tijera.core.packages.docx.sections import read_section
from tijera.core.packages.docx.styles import Styles
from tijera.core.packages.opc.content_types import NAME as CONTENT_TYPES
from tijera.core.packages.opc.content_types import ContentTypes
from tijera.core.packages.opc.relationships import Relationships
from tijera.core.packages.spots import Outline, Section, Spot
from tijera.core.packages.xmlspan import Element, XmlPart, parse_safely
from tijera.core.packages.zipped import Guards, Package, open_package

STORIES = ("header", "footer", "footnotes", "endnotes", "comments")
"""Relationships to parts that hold text of their own, beside the main part."""


@dataclass(frozen=True, eq=False)
class DocxDocument:
    """An opened document. Nothing of it ever changes; `place.write` makes a new package."""

    package: Package
    main: XmlPart
    names: Names
    relationships: Relationships
    types: ContentTypes

    @cached_property
    def styles(self) -> Styles:
        """Styles and numbering."""
        return Styles(self.names, self._related("styles"), self._related("numbering"))

    @cached_property
    def sections(self) -> tuple[Section, ...]:
        """The sections in order."""
        q = self.names.q
        settings = self._related("settings")
        flag = None if settings is None else settings.find(q("gutterAtTop"))
        at_top = flag is not None and flag.get(q("val"), "1") not in ("0", "false", "off")
        nodes = [node for node in self.main.root.iter(q("sectPr")) if node.getparent().tag in (q("pPr"), q("body"))]
        last_in_body = bool(nodes) and nodes[-1].getparent().tag == q("body")
        found = [read_section(node, self.names, gutter_at_top=at_top) for node in nodes]
        return tuple(found if last_in_body else [*found, read_section(None, self.names, gutter_at_top=at_top)])

    @cached_property
    def outline(self) -> Outline:
        """The text in its containers, and every spot."""
        return read_outline(self.main, self.names, self.styles, self.sections, self.relationships)

    def spot(self, spot_id: str) -> Spot:
        """Find a spot; raise `SpotUnknown`."""
        spot = self.outline.spots.get(spot_id)
        if spot is None:
            raise SpotUnknown(spot=spot_id)
        return spot

    def _related(self, kind: str) -> Element | None:
        """The root of a part that the main part refers to; None when it is not there."""
        relationship = self.relationships.first(kind)
        if relationship is None or relationship.target not in self.package:
            return None
        return XmlPart(relationship.target, self.package.read(relationship.target)).root


def open_docx(data: bytes, name: str = "document", guards: Guards | None = None) -> DocxDocument:
    """Open and check a document from outside. Raises subclasses of `InputRefused`."""
    return open_package_as_docx(open_package(data, name, guards))


def recognises(package: Package) -> bool:
    """Whether a package says that it is of this family."""
    return CONTENT_TYPES in package


def open_package_as_docx(package: Package) -> DocxDocument:
    """Read a package that passed the guards. Raises subclasses of `InputRefused`."""
    if any(member.name.startswith("_xmlsignatures/") for member in package.members):
        raise PackageSigned
    if CONTENT_TYPES not in package:
        raise NotADocument(why="it has no list of content types")
    types = ContentTypes(package)
    main_relationship = Relationships(package, "").first("officeDocument")
    if main_relationship is None or main_relationship.target not in package:
        raise NotADocument(why="it names no main part")
    if types.of(main_relationship.target) not in MAIN_TYPES:
        raise NotADocument(why=f"its main part is of type {types.of(main_relationship.target)}")
    main = XmlPart(main_relationship.target, package.read(main_relationship.target))
    names = names_of(main.root.tag)
    if names is None:
        raise NotADocument(why=f"its main part begins with {main.root.tag}")
    if main.root.find(names.q("body")) is None:
        raise PartMissing(part="body")
    document = DocxDocument(package, main, names, Relationships(package, main.name), types)
    # Read once here, so that a malformed part is refused at the door.
    _ = document.outline
    _check_other_parts(document)
    return document


def _check_other_parts(document: DocxDocument) -> None:
    """Refuse document types in any part, and stories that can't be read: weighing will read them later.

    A part that nobody reads here may be as odd as it likes; it is copied raw.
    """
    stories = {
        relationship.target
        for relationship in document.relationships.all
        if not relationship.external and any(relationship.is_kind(kind) for kind in STORIES)
    }
    for member in document.package.members:
        if member.name == document.main.name or not member.name.lower().endswith((".xml", ".rels")):
            continue
        try:
            parse_safely(member.name, document.package.read(member.name))
        except PartMalformed:
            if member.name in stories:
                raise
