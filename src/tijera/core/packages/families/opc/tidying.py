"""Pictures that a package of Office Open XML keeps twice or for nothing (ECMA-376 Part 2: what nothing refers to is not used)."""

from __future__ import annotations

import posixpath

from tijera.core.errors import StructureBroken
from tijera.core.packages.containers.zipped import Package, open_package, write_package
from tijera.core.packages.families.opc.content_types import ContentTypes
from tijera.core.packages.families.opc.relationships import Relationships, belongs_to, is_rels_name, rels_name
from tijera.core.packages.places.reports import Tidied, twins_of


def tidied(package: Package) -> Tidied:
    """Each picture once, none that nothing refers to; all else is copied raw. Raises `StructureBroken` if the check fails."""
    before = _all_relationships(package)
    # Names of parts are the same in any case (ECMA-376 Part 2, 6.2.2.3).
    used = {each.target.lower() for part in before.values() for each in part.all if not each.external}
    pictures = _pictures(package)
    unused = tuple(name for name in pictures if name.lower() not in used)
    # A relationship is led to another name in its own folder, so that it can be written as it was.
    merged = {
        gone: kept
        for gone, kept in twins_of(package, (name for name in pictures if name.lower() in used)).items()
        if posixpath.dirname(gone) == posixpath.dirname(kept)
    }
    if not merged and not unused:
        return Tidied(package.data, {}, ())
    lead = {gone.lower(): kept for gone, kept in merged.items()}
    led = {each.name: each.with_targets(lead) for each in before.values()}
    changed = {name: data for name, data in led.items() if data is not None}
    data = write_package(package, changed, {}, removed=frozenset((*merged, *unused)))
    _check(package, data, before, merged, lead)
    return Tidied(data, merged, unused)


def _all_relationships(package: Package) -> dict[str, Relationships]:
    names = (member.name for member in package.members if is_rels_name(member.name))
    return {name: Relationships(package, belongs_to(name)) for name in names}


def _pictures(package: Package) -> list[str]:
    """Those of which nothing more is said than their bytes: no type of their own, no relationships of their own."""
    types = ContentTypes(package)
    return [
        each.name
        for each in package.members
        if (types.of(each.name) or "").startswith("image/")
        and f"/{each.name}".lower() not in types.overrides
        and rels_name(each.name) not in package
    ]


def _check(
    package: Package, data: bytes, before: dict[str, Relationships], merged: dict[str, str], lead: dict[str, str]
) -> None:
    """Whether every relationship leads to the bytes that it led to, and nothing else changed."""
    after = open_package(data, "tidied", package.guards)
    for name, relationships in before.items():
        now = Relationships(after, belongs_to(name))
        if [(each.id, each.type, each.external) for each in relationships.all] != [
            (each.id, each.type, each.external) for each in now.all
        ]:
            raise StructureBroken(part=name, why="a relationship changed")
        for old, new in zip(relationships.all, now.all, strict=True):
            if new.target != lead.get(old.target.lower(), old.target) and not old.external:
                raise StructureBroken(part=name, why="a relationship leads elsewhere")
    if not all(package.read(gone) == after.read(kept) for gone, kept in merged.items()):
        raise StructureBroken(part="tidied", why="a picture is another one")
