"""The members that pictures go by in a package of the Open Packaging Conventions, and how a part refers to them."""

from __future__ import annotations

from collections.abc import Sequence

from tijera.core.imaging.kinds import JPEG, PNG
from tijera.core.packages.containers.zipped import Package
from tijera.core.packages.families.opc.content_types import ContentTypes
from tijera.core.packages.families.opc.relationships import Relationships
from tijera.core.packages.places.placed import PlacedPicture

_ENDINGS = PNG.endings + JPEG.endings
"""A number is taken where any picture has it, whatever its ending."""


def media_members(
    package: Package, types: ContentTypes, folder: str, pictures: Sequence[PlacedPicture]
) -> tuple[list[str], dict[str, bytes]]:
    """The member that each picture goes by, and those that are new; the same bytes are kept once."""
    taken = {member.name.lower() for member in package.members}
    added: dict[str, bytes] = {}
    members: list[str] = []
    number = 1
    for picture in pictures:
        same = next((name for name, data in added.items() if data == picture.data), None)
        same = same or _same_member(package, picture.data, types, picture.media_type)
        if same is None:
            while any(f"{folder}/image{number}.{ending}".lower() in taken for ending in _ENDINGS):
                number += 1
            same = f"{folder}/image{number}.{picture.extension}"
            added[same] = picture.data
            taken.add(same.lower())
        members.append(same)
    return members, added


def _same_member(package: Package, data: bytes, types: ContentTypes, content_type: str) -> str | None:
    """A member with the very same bytes and the right type."""
    for member in package.members:
        alike = member.size_bytes == len(data) and types.of(member.name) == content_type
        if alike and package.read(member.name) == data:
            return member.name
    return None


def relate(
    relationships: Relationships, members: Sequence[str], image_type: str
) -> tuple[dict[str, str], list[tuple[str, str, str]]]:
    """The relationship id of each member, and the relationships that are new: (id, type, member)."""
    ids: dict[str, str] = {}
    for relationship in relationships.all:
        if relationship.is_kind("image") and not relationship.external:
            ids.setdefault(relationship.target, relationship.id)
    missing = [member for member in dict.fromkeys(members) if member not in ids]
    new = list(zip(missing, relationships.free_ids(len(missing)), strict=True))
    ids.update(new)
    return ids, [(id_, image_type, member) for member, id_ in new]
