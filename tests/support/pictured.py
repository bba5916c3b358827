"""Files that have pictures of their own, as somebody else might have put them there."""

from __future__ import annotations

from collections.abc import Sequence

from tests.support.docx import Docx, paragraph, section
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.packages.registry import new_document, open_document, write
from tijera.core.units import Length

_WIDTH, _HEIGHT = Length.from_mm(60), Length.from_mm(34)


def without_pictures(extension: str) -> bytes:
    """A file with a place or two and nothing else."""
    if extension == "docx":
        return Docx(paragraph("One") + paragraph("Two") + section()).build()
    return new_document(extension)[1]


def pictured(pictures: Sequence[tuple[bytes, str]], extension: str = "docx") -> bytes:
    """A file with encoded pictures in it, each with its extension; they are called "Log 1" and so on."""
    document = open_document(without_pictures(extension))
    spot = next(iter(document.spots())).id
    placed = [
        PlacedPicture(spot, held, ending, _WIDTH, _HEIGHT, f"Log {number}")
        for number, (held, ending) in enumerate(pictures, 1)
    ]
    return write(document, placed).data
