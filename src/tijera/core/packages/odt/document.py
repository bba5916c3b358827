"""An .odt file, opened: its content, its styles and pages, its outline."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from tijera.core.errors import NotADocument, PackageEncrypted, PackageSigned, PartMalformed, PartMissing, SpotUnknown
from tijera.core.packages.odt import manifest
from tijera.core.packages.odt.manifest import Manifest
from tijera.core.packages.odt.names import q
from tijera.core.packages.odt.outline import read_outline
from tijera.core.packages.odt.pages import Pages
from tijera.core.packages.odt.styles import Styles
from tijera.core.packages.spots import Outline, Section, Spot
from tijera.core.packages.xmlspan import XmlPart, parse_safely
from tijera.core.packages.zipped import Guards, Package, open_package

MEDIA_TYPE = "application/vnd.oasis.opendocument.text"
_FAMILY = "application/vnd.oasis.opendocument"
_TEXTS = (MEDIA_TYPE, f"{MEDIA_TYPE}-template", f"{MEDIA_TYPE}-web")
MIMETYPE, CONTENT, STYLES = "mimetype", "content.xml", "styles.xml"
_SIGNATURES = "META-INF/documentsignatures.xml"


@dataclass(frozen=True, eq=False)
class OdtDocument:
    """An opened document. Nothing of it ever changes; `place.write` makes a new package."""

    package: Package
    media_type: str
    manifest: Manifest
    content: XmlPart
    common: XmlPart | None
    """The part with the common styles and the pages; a document may do without."""

    @cached_property
    def styles(self) -> Styles:
        """Its styles."""
        return Styles(self.content.root, None if self.common is None else self.common.root)

    @cached_property
    def _read(self) -> tuple[Outline, tuple[Section, ...]]:
        pages = Pages(None if self.common is None else self.common.root)
        return read_outline(self.content, self.styles, pages, self.package)

    @property
    def outline(self) -> Outline:
        """The text in its containers, and every spot."""
        return self._read[0]

    @property
    def sections(self) -> tuple[Section, ...]:
        """The lanes that the text goes through."""
        return self._read[1]

    def spot(self, spot_id: str) -> Spot:
        """Find a spot; raise `SpotUnknown`."""
        spot = self.outline.spots.get(spot_id)
        if spot is None:
            raise SpotUnknown(spot=spot_id)
        return spot


def open_odt(data: bytes, name: str = "document", guards: Guards | None = None) -> OdtDocument:
    """Open and check a document from outside. Raises subclasses of `InputRefused`."""
    return open_package_as_odt(open_package(data, name, guards))


def recognises(package: Package) -> bool:
    """Whether a package says that it is of this family, by its media type or by its manifest."""
    return _stated_type(package).startswith(_FAMILY) or manifest.NAME in package


def _stated_type(package: Package) -> str:
    if MIMETYPE not in package or package.member(MIMETYPE).size_bytes > len(_FAMILY) + 100:
        return ""
    return package.read(MIMETYPE).decode("ascii", "replace").strip()


def open_package_as_odt(package: Package) -> OdtDocument:
    """Read a package that passed the guards. Raises subclasses of `InputRefused`."""
    if manifest.NAME not in package:
        raise PartMissing(part=manifest.NAME)
    listed = Manifest(package)
    if listed.is_encrypted:
        raise PackageEncrypted
    if _SIGNATURES in package:
        raise PackageSigned
    # A missing or empty media type is no reason to refuse what the manifest tells.
    media_type = _stated_type(package) or listed.types.get("/", "")
    if media_type not in _TEXTS:
        raise NotADocument(why=f"it is of type {media_type[:80] or 'unknown'}")
    if CONTENT not in package:
        raise PartMissing(part=CONTENT)
    content = XmlPart(CONTENT, package.read(CONTENT))
    if content.root.find(f"{q('office:body')}/{q('office:text')}") is None:
        raise NotADocument(why="its content holds no text")
    common = XmlPart(STYLES, package.read(STYLES)) if STYLES in package else None
    document = OdtDocument(package, media_type, listed, content, common)
    # Read once here, so that a malformed part is refused at the door.
    _ = document.outline
    _check_other_parts(package)
    return document


def _check_other_parts(package: Package) -> None:
    """Refuse document types in any part; one that nobody reads here may else be as odd as it likes: it is copied raw."""
    for member in package.members:
        if member.name in (CONTENT, manifest.NAME) or not member.name.lower().endswith(".xml"):
            continue
        try:
            parse_safely(member.name, package.read(member.name))
        except PartMalformed:
            if member.name == STYLES:
                raise
