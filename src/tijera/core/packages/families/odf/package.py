"""Opening a package of OpenDocument: what is refused at the door, whatever kind of document it is."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from tijera.core.errors import NotADocument, PackageEncrypted, PackageSigned, PartMalformed, PartMissing
from tijera.core.packages.containers.xmlspan import XmlPart, parse_safely
from tijera.core.packages.containers.zipped import Package
from tijera.core.packages.families.odf import manifest
from tijera.core.packages.families.odf.manifest import Manifest

FAMILY = "application/vnd.oasis.opendocument"
MIMETYPE, CONTENT, STYLES, SETTINGS = "mimetype", "content.xml", "styles.xml", "settings.xml"
_SIGNATURES = "META-INF/documentsignatures.xml"


@dataclass(frozen=True)
class Parts:
    """The parts that every document of the family has."""

    media_type: str
    manifest: Manifest
    content: XmlPart
    common: XmlPart | None
    """The part with the common styles and the pages; a document may do without."""


def stated_type(package: Package) -> str:
    """The media type that a package gives itself: by its `mimetype`, else by its manifest; empty for other packages.

    A missing or empty media type is no reason to refuse what the manifest tells.
    """
    stated: str = ""
    if MIMETYPE in package and package.member(MIMETYPE).size_bytes <= len(FAMILY) + 100:
        stated = package.read(MIMETYPE).decode("ascii", "replace").strip()
    if stated or manifest.NAME not in package:
        return stated
    return str(Manifest(package).types.get("/", ""))


def of_kind(package: Package, kind: str) -> bool:
    """Whether a package is a document of a kind ("text", "spreadsheet"), a template of one, or one for the web."""
    stated = stated_type(package)
    return any(stated == f"{FAMILY}.{kind}{variant}" for variant in ("", "-template", "-web"))


def open_parts(package: Package) -> Parts:
    """Check and read the parts. Raises subclasses of `InputRefused`."""
    if manifest.NAME not in package:
        raise PartMissing(part=manifest.NAME)
    listed = Manifest(package)
    if listed.is_encrypted:
        raise PackageEncrypted
    if _SIGNATURES in package and package.guards.refuse_signed:
        raise PackageSigned
    if CONTENT not in package:
        raise PartMissing(part=CONTENT)
    content = XmlPart(CONTENT, package.read(CONTENT))
    common = XmlPart(STYLES, package.read(STYLES)) if STYLES in package else None
    return Parts(stated_type(package), listed, content, common)


def refuse_other_kind(package: Package) -> None:
    """Raise `NotADocument` for a package of the family that no format of ours reads; nothing for others."""
    stated = stated_type(package)
    if stated.startswith(FAMILY) or manifest.NAME in package:
        raise NotADocument(why=f"it is of type {stated[:80] or 'unknown'}")


def check_other_parts(package: Package, read: Collection[str] = (CONTENT, manifest.NAME)) -> None:
    """Refuse document types in any part; one that nobody reads here may else be as odd as it likes: it is copied raw."""
    for member in package.members:
        if member.name in read or not member.name.lower().endswith(".xml"):
            continue
        try:
            parse_safely(member.name, package.read(member.name))
        except PartMalformed:
            if member.name == STYLES:
                raise
