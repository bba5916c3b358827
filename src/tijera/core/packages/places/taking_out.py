"""Pictures taken out of a document: as they are stored, or as they are shown there.

A name follows what the content is, not what the member is called.
"""

from __future__ import annotations

import posixpath
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass

from tijera.core.errors import PictureRefused
from tijera.core.imaging.decode import decode_foreign
from tijera.core.imaging.encode import encode_like
from tijera.core.imaging.kinds import sniff
from tijera.core.packages.places.reports import PictureReport
from tijera.core.packages.places.spots import WHOLE, Crop


@dataclass(frozen=True)
class PictureFile:
    """A picture as a file of its own."""

    name: str
    data: bytes
    member: str
    """Where it came from."""


def stored_name(member: str, data: bytes) -> str:
    """The member's own name with the ending of what it holds; its own ending where that is not known."""
    stem, ending = posixpath.splitext(posixpath.basename(member))
    kind = sniff(data)
    return f"{stem or 'picture'}.{kind.ending}" if kind else f"{stem or 'picture'}{ending}"


def pictures_of(
    read: Callable[[str], bytes], reports: Iterable[PictureReport], *, as_shown: bool
) -> Iterator[PictureFile]:
    """Every picture of a document as files with names of their own; one that is cropped in two ways is two as shown."""
    taken: set[str] = set()
    for report in reports:
        stored = read(report.member)
        for crop in report.crops if as_shown else (WHOLE,):
            data = _as_shown(stored, report.member, crop)
            name = _free(stored_name(report.member, data), taken)
            taken.add(name.lower())
            yield PictureFile(name, data, report.member)


def _as_shown(stored: bytes, member: str, crop: Crop) -> bytes:
    """What is visible, encoded in its own way; the stored bytes where nothing is hidden or nothing can be decoded."""
    if crop == WHOLE:
        return stored
    try:
        picture = decode_foreign(stored, member)
    except PictureRefused:
        return stored
    cut = picture.cut(crop.rectangle(picture.size))
    return encode_like(sniff(stored), cut)


def _free(name: str, taken: set[str]) -> str:
    stem, ending = posixpath.splitext(name)
    number, free = 2, name
    while free.lower() in taken:
        free, number = f"{stem} {number}{ending}", number + 1
    return free
