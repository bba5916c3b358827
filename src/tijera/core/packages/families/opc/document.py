"""What the documents of Office Open XML have in common: a main part, and the parts that it refers to (ECMA-376-2)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Generic, Self, TypeVar

from tijera.core.errors import NotADocument
from tijera.core.packages.containers.xmlspan import Element, XmlPart
from tijera.core.packages.containers.zipped import Package, Packaged
from tijera.core.packages.families.opc.content_types import ContentTypes
from tijera.core.packages.families.opc.cropping import croppings
from tijera.core.packages.families.opc.package import main_part, refuse_signed, related_part
from tijera.core.packages.families.opc.relationships import Relationships, rels_name
from tijera.core.packages.families.opc.renaming import parts_naming
from tijera.core.packages.places.cropping import Croppings

N = TypeVar("N")


@dataclass(frozen=True, eq=False)
class OpcDocument(Packaged, Generic[N]):
    """An opened document. Nothing of it ever changes; writing makes a new package."""

    package: Package
    main: XmlPart
    names: N
    """The format's element names in the main part's namespace, strict or transitional."""
    relationships: Relationships
    types: ContentTypes

    @classmethod
    def of(cls, package: Package, names_of: Callable[[str], N | None]) -> Self:
        """Read the main part of a package that passed the guards. Raises subclasses of `InputRefused`."""
        refuse_signed(package)
        name, _ = main_part(package)
        main = XmlPart(name, package.read(name))
        names = names_of(main.root.tag)
        if names is None:
            raise NotADocument(why=f"its main part begins with {main.root.tag}")
        return cls(package, main, names, Relationships(package, main.name), ContentTypes(package))

    @cached_property
    def croppings(self) -> Croppings:
        """Its pictures whose crops can be made real."""
        return croppings(self.package)

    def can_rename(self, member: str, name: str) -> bool:
        """Whether a picture may get a name of another kind: nothing more is said of it than its ending says."""
        return (
            f"/{member}".lower() not in self.types.overrides
            and rels_name(member) not in self.package
            and name.lower() not in {each.lower() for each in self.member_names}
        )

    def _parts_naming(self, renamed: Mapping[str, str], _parts: Mapping[str, bytes]) -> dict[str, bytes]:
        return parts_naming(self.package, renamed)

    def _related(self, kind: str) -> Element | None:
        """The root of a part that the main part refers to; None when it is not there."""
        part = related_part(self.package, self.relationships, kind)
        return None if part is None else part.root
