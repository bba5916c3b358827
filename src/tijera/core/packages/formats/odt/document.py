"""An .odt file, opened: its content, its styles and pages, its outline."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from tijera.core.errors import NotADocument
from tijera.core.packages.containers.xmlspan import XmlPart
from tijera.core.packages.containers.zipped import Guards, Package, Packaged, open_package
from tijera.core.packages.families.odf.cropping import croppings
from tijera.core.packages.families.odf.manifest import Manifest
from tijera.core.packages.families.odf.names import q
from tijera.core.packages.families.odf.package import FAMILY, check_other_parts, of_kind, open_parts
from tijera.core.packages.families.odf.renaming import can_rename, parts_naming
from tijera.core.packages.families.odf.styles import OdfStyles
from tijera.core.packages.formats.odt.outline import read_outline
from tijera.core.packages.formats.odt.pages import Pages
from tijera.core.packages.places.cropping import Croppings
from tijera.core.packages.places.spots import Outlined, TextOutline

MEDIA_TYPE = f"{FAMILY}.text"


@dataclass(frozen=True, eq=False)
class OdtDocument(Outlined, Packaged):
    """An opened document. Nothing of it ever changes; `place.write` makes a new package."""

    package: Package
    media_type: str
    manifest: Manifest
    content: XmlPart
    common: XmlPart | None
    """The part with the common styles and the pages; a document may do without."""

    @cached_property
    def styles(self) -> OdfStyles:
        """Its styles."""
        return OdfStyles(self.content.root, None if self.common is None else self.common.root)

    @cached_property
    def croppings(self) -> Croppings:
        """Its pictures whose crops can be made real."""
        return croppings(self.package, self.content, self.common, self.styles)

    def can_rename(self, member: str, name: str) -> bool:
        """Whether a picture may get a name of another kind."""
        return can_rename(self.package, member, name)

    def _parts_naming(self, renamed: Mapping[str, str], parts: Mapping[str, bytes]) -> dict[str, bytes]:
        return parts_naming(self.package, renamed, parts)

    @cached_property
    def outline(self) -> TextOutline:
        """The text in its containers, and every spot."""
        pages = Pages(None if self.common is None else self.common.root)
        return read_outline(self.content.root, self.styles, pages, self.package)

    @property
    def ending(self) -> str:
        """The ending of its file's name: a template has another one."""
        return "ott" if self.media_type.endswith("-template") else "odt"


def open_odt(data: bytes, name: str = "document", guards: Guards | None = None) -> OdtDocument:
    """Open and check a document from outside. Raises subclasses of `InputRefused`."""
    return open_package_as_odt(open_package(data, name, guards))


def recognises(package: Package) -> bool:
    """Whether a package says that it is a text document."""
    return of_kind(package, "text")


def open_package_as_odt(package: Package) -> OdtDocument:
    """Read a package that passed the guards. Raises subclasses of `InputRefused`."""
    parts = open_parts(package)
    if parts.content.root.find(f"{q('office:body')}/{q('office:text')}") is None:
        raise NotADocument(why="its content holds no text")
    document = OdtDocument(package, parts.media_type, parts.manifest, parts.content, parts.common)
    # Begun here, so that a malformed part that it needs is refused at the door.
    _ = document.outline.body.blocks[:1]
    check_other_parts(package)
    return document
