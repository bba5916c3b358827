"""What the documents of OpenDocument have in common: content, styles, a manifest (ODF 1.2 Part 1 §2 and Part 3)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from tijera.core.packages.containers.xmlspan import XmlPart
from tijera.core.packages.containers.zipped import Package, Packaged
from tijera.core.packages.families.odf.cropping import croppings
from tijera.core.packages.families.odf.manifest import Manifest
from tijera.core.packages.families.odf.renaming import can_rename, parts_naming
from tijera.core.packages.families.odf.styles import OdfStyles
from tijera.core.packages.places.cropping import Croppings


@dataclass(frozen=True, eq=False)
class OdfDocument(Packaged):
    """An opened document. Nothing of it ever changes; writing makes a new package."""

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
