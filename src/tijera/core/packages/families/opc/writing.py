"""Writing a package of the Open Packaging Conventions: every part that comes in has a type and a name of its own.

Source: ECMA-376 Part 2 (part names are unique without regard to case; every part has a content type; the targets of
internal relationships are parts); clauses from memory.
"""

from __future__ import annotations

from collections.abc import Mapping

from tijera.core.errors import PartMalformed, StructureBroken
from tijera.core.packages.containers.zipped import Package, write_package
from tijera.core.packages.families.opc.content_types import NAME as CONTENT_TYPES
from tijera.core.packages.families.opc.content_types import RELATIONSHIPS_TYPE, ContentTypes
from tijera.core.packages.families.opc.relationships import Relationships, belongs_to, is_rels_name


def write_parts(
    package: Package,
    declared: ContentTypes,
    changed: Mapping[str, bytes],
    added: Mapping[str, bytes],
    types: Mapping[str, str],
) -> bytes:
    """Write the package with some parts replaced and some added; `types` gives the type of every added part.

    Parts of relationships are typed here. Raises `StructureBroken` where the result would not be a package.
    """
    wanted = {**types, **{name: RELATIONSHIPS_TYPE for name in added if is_rels_name(name)}}
    listed = declared.with_parts(wanted)
    changed = dict(changed) if listed is None else {**changed, CONTENT_TYPES: listed}
    _check(package, changed, added, wanted)
    return write_package(package, changed, added)


def _check(
    package: Package, changed: Mapping[str, bytes], added: Mapping[str, bytes], wanted: Mapping[str, str]
) -> None:
    after = _After(package, changed, added)
    try:
        types = ContentTypes(after)
        relationships = [Relationships(after, belongs_to(name)) for name in (*changed, *added) if is_rels_name(name)]
    except PartMalformed as error:
        raise StructureBroken(part=CONTENT_TYPES, why=error.detail) from error
    taken = {member.name.lower() for member in package.members}
    for name in added:
        if name.lower() in taken:
            raise StructureBroken(part=name, why="another part has this name, but for its case")
        taken.add(name.lower())
        if not types.of(name) or types.of(name) != wanted.get(name):
            raise StructureBroken(part=name, why="it would have no content type, or a wrong one")
    for each in relationships:
        before = {known.id for known in Relationships(package, each.part).all} if each.name in package else frozenset()
        for relationship in each.all:
            is_new = relationship.id not in before
            if is_new and not relationship.external and relationship.target.lower() not in taken:
                raise StructureBroken(part=each.name, why=f"{relationship.id} leads to a part that is not there")


class _After:
    """The package as it will be: what is read of it."""

    def __init__(self, package: Package, changed: Mapping[str, bytes], added: Mapping[str, bytes]) -> None:
        self._package = package
        self._new = {**changed, **added}

    def __contains__(self, name: str) -> bool:
        return name in self._new or name in self._package

    def read(self, name: str) -> bytes:
        return self._new[name] if name in self._new else self._package.read(name)
