"""What a package's pictures are and weigh, whatever its format: the heaviest first."""

from __future__ import annotations

import contextlib
import hashlib
import io
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from PIL import Image

from tijera.core.geometry import Size
from tijera.core.packages.containers.zipped import Member, Package
from tijera.core.packages.places.spots import WHOLE, Crop
from tijera.core.units import EMU_PER_INCH, Length

WITHIN = " \u203a "
"""Stands between the name of an attached document and that of a picture in it."""


@dataclass(frozen=True)
class Showing:
    """One use of a picture: how large it is shown there; zero where its size is not given."""

    width: Length
    height: Length
    crop: Crop = WHOLE
    description: str = ""


@dataclass(frozen=True)
class PictureReport:
    """One picture of a package."""

    member: str
    pixels: Size | None
    """None for drawings without pixels, and where they can't be read."""
    shown: tuple[tuple[Length, Length], ...]
    """Width and height of every use whose size is known."""
    ppi: float | None
    """Pixels per inch at the largest size that it is shown at; None when unknown."""
    bytes: int
    """Its own bytes as packed."""
    record_bytes: int
    """What it takes in the package: its bytes with both of its zip headers."""
    times_used: int
    description: str
    """The alternative text of its first use that has one."""
    crops: tuple[Crop, ...] = (WHOLE,)
    """How it is cropped where it is shown, each way once."""
    within: str = ""
    """The attached document that it is in; empty for a picture of the file itself."""

    @property
    def label(self) -> str:
        """What people call it: its description as far as there is room, else its name; in an attached document by that, too."""
        name = self.description[:60] or self.member.rsplit("/", 1)[-1]
        return f"{self.within}{WITHIN}{name}" if self.within else name

    @property
    def hidden_share(self) -> float:
        """The share of its area that is hidden wherever most of it is shown, 0 to 1."""
        return 1 - max(crop.visible_width * crop.visible_height for crop in self.crops)


@dataclass(frozen=True)
class Tidied:
    """A package in which each picture is kept once and none that is used nowhere."""

    data: bytes
    merged: Mapping[str, str]
    """Members that are gone, and the one with the same bytes that is shown instead."""
    unused: tuple[str, ...]
    """Members that are gone, which nothing referred to."""


def twins_of(package: Package, members: Iterable[str]) -> dict[str, str]:
    """Members with the bytes and the ending of an earlier one, and that one."""
    first: dict[tuple[str, str], str] = {}
    twins = {}
    for name in members:
        key = (name.rsplit(".", 1)[-1].lower(), hashlib.sha256(package.read(name)).hexdigest())
        kept = first.setdefault(key, name)
        if kept != name:
            twins[name] = kept
    return twins


def reports_of(package: Package, uses: Mapping[str, Sequence[Showing]]) -> tuple[PictureReport, ...]:
    """A report of each member that is there, from all uses of it."""
    reports = [_report(package, member, used) for member, used in uses.items() if member in package]
    return tuple(sorted(reports, key=lambda report: (-report.bytes, report.member)))


def _report(package: Package, name: str, uses: Sequence[Showing]) -> PictureReport:
    member = package.member(name)
    pixels = _pixels_of(package, member)
    sized = [use for use in uses if use.width.emu > 0 and use.height.emu > 0]
    ppi = None
    if pixels is not None and sized:
        ppi = min(pixels.width * use.crop.visible_width / use.width.inches for use in sized)
    return PictureReport(
        member=name,
        pixels=pixels,
        shown=tuple((use.width, use.height) for use in sized),
        ppi=ppi,
        bytes=member.packed_bytes,
        record_bytes=member.end - member.start + len(member.central),
        times_used=len(uses),
        description=next((use.description for use in uses if use.description), ""),
        crops=tuple(dict.fromkeys(use.crop for use in uses)) or (WHOLE,),
    )


_SIZES: dict[tuple[int, int, bytes], Size | None] = {}
"""Of members that were looked at, by sum, length and head: a package is weighed again after every change."""
_MOST_SIZES = 20_000


def _pixels_of(package: Package, member: Member) -> Size | None:
    """Its head is enough for nearly all; in a few a long profile or a preview stands before the size."""
    head = package.head(member.name, _HEAD_BYTES)
    key = (member.crc, member.size_bytes, hashlib.sha256(head).digest())
    with contextlib.suppress(KeyError):
        return _SIZES[key]
    found = pixel_size(head)
    if found is None and member.size_bytes > len(head):
        found = pixel_size(package.read(member.name))
    if len(_SIZES) >= _MOST_SIZES:
        _SIZES.clear()
    _SIZES[key] = found
    return found


_OF_PIXELS = ("PNG", "JPEG", "GIF", "BMP", "DIB", "TIFF", "WEBP", "JPEG2000", "PCX", "TGA", "ICO")
"""Kinds that documents show and that consist of pixels: a drawing (EMF, WMF, EPS) has none, and so no sharpness."""


def pixel_size(data: bytes) -> Size | None:
    """Read a picture's size from its header, without decoding it; None for what is no picture made of pixels."""
    with (
        contextlib.suppress(OSError, SyntaxError, ValueError, EOFError),
        Image.open(io.BytesIO(data), formats=_OF_PIXELS) as image,
    ):
        return Size(*image.size)
    return None


_HEAD_BYTES = 8 * 1024
_USUAL_DPI = 96


def declared_density(data: bytes) -> float | None:
    """The pixels per inch across that a picture's head gives; None where it gives none."""
    with contextlib.suppress(OSError, SyntaxError, ValueError, EOFError), Image.open(io.BytesIO(data)) as image:
        across = float((image.info.get("dpi") or (0, 0))[0])
        return across if across > 1 else None
    return None


def natural_size(data: bytes) -> tuple[Length, Length] | None:
    """How large a picture is by its own pixels and density, 96 to the inch where it gives none; None where unreadable."""
    with (
        contextlib.suppress(OSError, SyntaxError, ValueError, EOFError, ZeroDivisionError),
        Image.open(io.BytesIO(data)) as image,
    ):
        dpi = image.info.get("dpi") or (_USUAL_DPI, _USUAL_DPI)
        across, down = (float(each) if float(each) > 1 else _USUAL_DPI for each in dpi)
        return Length.exactly(int(image.width / across * EMU_PER_INCH)), Length.exactly(
            int(image.height / down * EMU_PER_INCH)
        )
    return None
