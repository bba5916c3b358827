"""An .odt file, opened: its content, its styles and pages, its outline."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from tijera.core.errors import NotADocument
from tijera.core.packages.containers.zipped import Guards, Package, open_package
from tijera.core.packages.families.odf.document import OdfDocument
from tijera.core.packages.families.odf.names import q
from tijera.core.packages.families.odf.package import FAMILY, check_other_parts, of_kind, open_parts
from tijera.core.packages.formats.odt.outline import read_outline
from tijera.core.packages.formats.odt.pages import Pages
from tijera.core.packages.places.spots import Outlined, TextOutline

MEDIA_TYPE = f"{FAMILY}.text"


@dataclass(frozen=True, eq=False)
class OdtDocument(Outlined, OdfDocument):
    """An opened document. Nothing of it ever changes; `place.write` makes a new package."""

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
