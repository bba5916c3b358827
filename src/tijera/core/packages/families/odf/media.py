"""The members that pictures go by in a package of OpenDocument."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import count

from tijera.core.imaging.kinds import ending_of
from tijera.core.packages.containers.zipped import Package
from tijera.core.packages.families.odf.manifest import Manifest
from tijera.core.packages.places.placed import PlacedPicture

_FOLDER = "Pictures"


def media_members(
    package: Package, listed: Manifest, pictures: Sequence[PlacedPicture]
) -> tuple[list[str], dict[str, bytes]]:
    """The member that each picture goes by, and those that are new; the same bytes are kept once."""
    taken = {member.name.lower() for member in package.members}
    added: dict[str, bytes] = {}
    members: list[str] = []
    for picture in pictures:
        same = next((name for name, data in added.items() if data == picture.data), None)
        same = same or next(
            (
                member.name
                for member in package.members
                if member.size_bytes == len(picture.data)
                and listed.types.get(member.name) == picture.media_type
                and package.read(member.name) == picture.data
            ),
            None,
        )
        if same is None:
            ending = ending_of(picture.extension)
            same = next(name for n in count(1) if (name := f"{_FOLDER}/image{n}.{ending}").lower() not in taken)
            added[same] = picture.data
            taken.add(same.lower())
        members.append(same)
    return members, added


def media_types(members: Sequence[str], pictures: Sequence[PlacedPicture]) -> dict[str, str]:
    """The media type of each member, as a manifest or a list of content types gives it."""
    return {member: picture.media_type for member, picture in zip(members, pictures, strict=True)}
