"""The main part of a package, and what is refused at the door, whatever kind of document it is."""

from __future__ import annotations

from collections.abc import Collection

from tijera.core.errors import NotADocument, PackageSigned, PartMalformed
from tijera.core.packages.containers.xmlspan import XmlPart, parse_safely
from tijera.core.packages.containers.zipped import Package
from tijera.core.packages.families.opc.content_types import NAME as CONTENT_TYPES
from tijera.core.packages.families.opc.content_types import ContentTypes
from tijera.core.packages.families.opc.relationships import Relationships


def main_part(package: Package) -> tuple[str, str | None]:
    """The name and content type of the main part. Raises `NotADocument` where there is none."""
    if CONTENT_TYPES not in package:
        raise NotADocument(why="it has neither a list of content types nor a media type")
    main = Relationships(package, "").first("officeDocument")
    if main is None or main.target not in package:
        raise NotADocument(why="it names no main part")
    return main.target, ContentTypes(package).of(main.target)


def of_kind(package: Package, types: Collection[str]) -> bool:
    """Whether a package says that its main part is of one of these types."""
    return CONTENT_TYPES in package and main_part(package)[1] in types


def refuse_signed(package: Package) -> None:
    """Raise `PackageSigned` where a change would break a signature and nobody accepted that."""
    if package.guards.refuse_signed and any(member.name.startswith("_xmlsignatures/") for member in package.members):
        raise PackageSigned


def related_part(package: Package, relationships: Relationships, kind: str) -> XmlPart | None:
    """The first part of a kind that a part refers to; None when it is not there."""
    relationship = relationships.first(kind)
    if relationship is None or relationship.target not in package:
        return None
    return XmlPart(relationship.target, package.read(relationship.target))


def check_other_parts(package: Package, read: Collection[str], needed: Collection[str]) -> None:
    """Refuse document types in any part, and parts that will be read later and can't be.

    A part that nobody reads here may be as odd as it likes; it is copied raw.
    """
    for member in package.members:
        if member.name in read or not member.name.lower().endswith((".xml", ".rels")):
            continue
        try:
            parse_safely(member.name, package.read(member.name))
        except PartMalformed:
            if member.name in needed:
                raise
