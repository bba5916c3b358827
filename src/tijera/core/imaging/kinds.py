"""The kinds of picture files: what each is called, its endings, its media type, and by what it is told."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class PictureKind:
    """One kind of picture file."""

    name: str
    """As people and Pillow call it."""
    endings: tuple[str, ...]
    """Of a file's name; the first is written, but in packages, which write out "jpeg"."""
    media_type: str
    """IANA's registry of media types, image."""
    begins: tuple[bytes, ...]
    """What its files begin with."""
    continues: tuple[int, bytes] | None = None
    """What must stand further in as well, and where."""

    @property
    def ending(self) -> str:
        """The ending that a file gets."""
        return self.endings[0]

    def is_in(self, data: bytes) -> bool:
        """Whether bytes begin as a file of this kind."""
        if not data.startswith(self.begins):
            return False
        if self.continues is None:
            return True
        at, rest = self.continues
        return data[at : at + len(rest)] == rest


PNG = PictureKind("PNG", ("png",), "image/png", (b"\x89PNG\r\n\x1a\n",))
JPEG = PictureKind("JPEG", ("jpg", "jpeg", "jpe"), "image/jpeg", (b"\xff\xd8\xff",))
BMP = PictureKind("BMP", ("bmp",), "image/bmp", (b"BM",))
WEBP = PictureKind("WEBP", ("webp",), "image/webp", (b"RIFF",), (8, b"WEBP"))
TIFF = PictureKind("TIFF", ("tif", "tiff"), "image/tiff", (b"II*\x00", b"MM\x00*"))
GIF = PictureKind("GIF", ("gif",), "image/gif", (b"GIF87a", b"GIF89a"))

KINDS = (PNG, JPEG, BMP, WEBP, TIFF, GIF)
"""Every kind that comes in."""


def sniff(data: bytes) -> PictureKind | None:
    """Tell the kind from the first bytes; None when it is none that is taken."""
    return next((kind for kind in KINDS if kind.is_in(data)), None)


def by_ending(ending: str) -> PictureKind | None:
    """The kind that an ending stands for, whatever its case; None for any other."""
    return next((kind for kind in KINDS if ending.lower() in kind.endings), None)


def _made_here(ending: str) -> PictureKind:
    kind = by_ending(ending)
    if kind is None:
        msg = f"no picture ends in {ending}"
        raise ValueError(msg)
    return kind


def media_type_of(ending: str) -> str:
    """The media type of a picture that was made here, by any of its endings."""
    return _made_here(ending).media_type


def ending_of(ending: str) -> str:
    """The usual ending of a picture that was made here, by any of its endings."""
    return _made_here(ending).ending
