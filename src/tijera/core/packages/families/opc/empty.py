"""What every new package of the Open Packaging Conventions begins with."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from tijera.core.packages.containers.zipped import new_package
from tijera.core.packages.families.opc import content_types, relationships

HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n'


def empty_package(parts: Mapping[str, tuple[str, str]], related: Mapping[str, Sequence[tuple[str, str]]]) -> bytes:
    """A package of parts (name to type and XML); `related` gives each part's relationships, kind and target.

    The package's own stand under the empty name.
    """
    overrides = "".join(f'<Override PartName="/{name}" ContentType="{type_}"/>' for name, (type_, _) in parts.items())
    members = {
        content_types.NAME: (
            f'{HEAD}<Types xmlns="{content_types.NAMESPACE}"><Default Extension="rels" '
            f'ContentType="{content_types.RELATIONSHIPS_TYPE}"/><Default Extension="xml" ContentType="application/xml"/>'
            f"{overrides}</Types>"
        )
    }
    for part, targets in related.items():
        inside = "".join(
            f'<Relationship Id="rId{number}" Type="{relationships.TRANSITIONAL}/{kind}" Target="{target}"/>'
            for number, (kind, target) in enumerate(targets, 1)
        )
        name = relationships.rels_name(part)
        members[name] = f'{HEAD}<Relationships xmlns="{relationships.NAMESPACE}">{inside}</Relationships>'
    members |= {name: HEAD + xml for name, (_, xml) in parts.items()}
    return new_package({name: text.encode() for name, text in members.items()})
