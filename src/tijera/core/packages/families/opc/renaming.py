"""Pictures that become another kind get another name: whatever leads to them, and their type, follow (ECMA-376 Part 2)."""

from __future__ import annotations

from collections.abc import Mapping

from tijera.core.packages.containers.zipped import Package
from tijera.core.packages.families.opc.content_types import NAME as CONTENT_TYPES
from tijera.core.packages.families.opc.content_types import ContentTypes
from tijera.core.packages.families.opc.relationships import Relationships, belongs_to, is_rels_name
from tijera.core.packages.places.renaming import media_type_of


def parts_naming(package: Package, renamed: Mapping[str, str]) -> dict[str, bytes]:
    """The parts of relationships that lead to renamed pictures, and the content types where these lack one."""
    lead = {old.lower(): new for old, new in renamed.items()}
    changed: dict[str, bytes] = {}
    for name in (each.name for each in package.members if is_rels_name(each.name)):
        led = Relationships(package, belongs_to(name)).with_targets(lead)
        if led is not None:
            changed[name] = led
    types = ContentTypes(package).with_parts({new: media_type_of(new) for new in renamed.values()})
    return changed if types is None else {**changed, CONTENT_TYPES: types}
