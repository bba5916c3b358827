"""What slimming a picture begins with: the bytes that the file was opened with first, cut to what is shown of them."""

from __future__ import annotations

import io
from collections.abc import Mapping
from dataclasses import dataclass

from PIL import Image

from tijera.core.budget.rendition import CUT_QUALITY, Rendition, Way
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.decode import MAX_PIXELS, decode_foreign
from tijera.core.imaging.encode import encode_jpeg, encode_png
from tijera.core.imaging.kinds import JPEG, PNG, by_ending, sniff
from tijera.core.imaging.picture import Picture
from tijera.core.packages.places.cropping import Croppings
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.renaming import ending_of, sibling, stem_of
from tijera.core.packages.places.reports import declared_density, pixel_size
from tijera.core.packages.places.spots import WHOLE, Crop
from tijera.core.packages.registry import format_of

_ORIENTATION = 0x0112
_USUAL_PPI = 96.0
_SAME_SHARE = 1e-4
"""Crops are written in thousandths of a percent, or in lengths of a tenth of a micrometre."""


def why_left_alone(data: bytes, member: str, *, by_name: bool = True) -> str:
    """Why a picture is not touched, in words; empty where it may be slimmed.

    Only PNG and JPEG of eight bits a channel, in the colours of a screen, that stand still and upright; `by_name` where
    the name's ending must say the kind.
    """
    kind = sniff(data)
    if kind not in (PNG, JPEG):
        return f"{kind.name} is left as it is" if kind else "no kind of picture that is slimmed"
    if by_name and not member.lower().endswith(kind.endings):
        return f"its name says another kind, it is {kind.name}"
    if kind is PNG and b"acTL" in data[:400]:
        return "it moves"
    if kind is PNG and data[24:25] == b"\x10":
        return "it has 16 bits a channel"
    try:
        with Image.open(io.BytesIO(data), formats=[kind.name]) as image:
            if image.width * image.height > MAX_PIXELS:
                return "it has too many pixels"
            if image.mode == "CMYK":
                return "it has the colours of print"
            if image.getexif().get(_ORIENTATION, 1) != 1:
                return "its camera says that it is turned"
            image.load()
    except (OSError, SyntaxError, ValueError, EOFError, IndexError, TypeError, KeyError):
        return "it is damaged"
    return ""


@dataclass(frozen=True)
class SourcePicture:
    """The best that there is of a picture, as far as it is shown."""

    first: Rendition
    """What lacks nothing of it."""
    encoded: bytes
    """What it is decoded from."""
    cut: Rect | None
    """The pixels of that which are shown; None for all."""
    share: float
    """The share of its width now that they are."""
    rest: Crop | None
    """What the document still has to hide of them; None where it says so already."""
    keeps_pixels: bool
    """Where it would be shown cropped in another way with fewer."""
    density_ppi: float | None

    @property
    def kinds(self) -> tuple[str, ...]:
        """The kinds that it may become, by their extensions: what it is, and a PNG a JPEG where that is better."""
        return ("jpeg",) if self.first.extension == "jpeg" else ("png", "jpeg")

    def load(self) -> Picture:
        """Its pixels."""
        return _pixels(self.encoded, self.cut)


class Sources:
    """Where each picture of a document begins; `as_opened` is the document before its pictures were slimmed, if they were."""

    def __init__(self, document: Document, as_opened: Document | None, held: Mapping[str, bytes]) -> None:
        self._document, self._held, self._as_opened = document, held, as_opened
        self._now = _croppings(document)
        self._before = Croppings({}, {}) if as_opened is None else _croppings(as_opened)

    def of(self, member: str, crops: tuple[Crop, ...]) -> SourcePicture:
        """Of one picture, which is shown with these crops now."""
        now, first = self._held[member], self._first_bytes(member)
        crop, before = self._now.crops.get(member), self._before.crops.get(self.first_name(member) or member)
        if first is not None and before is not None and crops != (before,):
            kept = self.cut_before(member, crops)
            if kept is not None:
                # The document says what is left to hide.
                density = self._density(first, crops)
                cut = _cut_to(first, kept, density)
                return SourcePicture(cut, first, kept, 1.0, None, keeps_pixels=False, density_ppi=density)
            first = None
        data = now if first is None else first
        density = self._density(data, crops)
        found = None if crop is None else _cut(data, crop, density)
        if crop is not None and found is not None:
            kept, rendition, share = found
            rest = crop.within(pixel_size(data) or rendition.size, kept)
            return SourcePicture(rendition, data, kept, share, rest, keeps_pixels=False, density_ppi=density)
        extension = "jpeg" if JPEG.is_in(data) else "png"
        rendition = Rendition(data, extension, pixel_size(data) or Size(1, 1), Way.AS_IT_CAME, 0.0)
        # The density of a JPEG is a whole number: not fine enough for a crop to hang on.
        keeps = member in self._now.held_by_size and extension == "jpeg"
        return SourcePicture(rendition, data, None, 1.0, None, keeps_pixels=keeps, density_ppi=density)

    def cut_before(self, member: str, crops: tuple[Crop, ...]) -> Rect | None:
        """Which pixels of a picture are left, where it was cut since the document was opened; None where it was not."""
        first, before = self._first_bytes(member), self._before.crops.get(self.first_name(member) or member)
        size = None if first is None else pixel_size(first)
        if before is None or size is None or len(crops) != 1:
            return None
        kept = before.kept(size)
        return kept if kept != Rect.whole(size) and _is_near(crops[0], before.within(size, kept)) else None

    def first_name(self, member: str) -> str | None:
        """The name that a picture had when the document was opened; None where it was not there."""
        if self._as_opened is None:
            return None
        names = self._as_opened.member_names
        return member if member in names else sibling(member, names)

    def name_for(self, member: str, extension: str) -> str | None:
        """The name of a picture where it becomes a kind; None where it can't become that."""
        form, kind = format_of(self._document), by_ending(extension)
        if not form.names_say_kinds:
            # Something else says it, and would have to change.
            return member if sniff(self._held[member]) is kind else None
        wanted = self.first_name(member)
        for name in (member, wanted or member):
            if by_ending(ending_of(name)) is kind:
                return name
        name = f"{stem_of(member)}.{extension}"
        return name if form.can_rename(self._document, member, name) else None

    def _first_bytes(self, member: str) -> bytes | None:
        """A picture's bytes before it was slimmed, where it is the same one still: not changed by others."""
        name = self.first_name(member)
        if self._as_opened is None or name is None:
            return None
        before = self._as_opened.read(name)
        is_same = name != member or sniff(before) is sniff(self._held[member])
        return before if is_same and not why_left_alone(before, name, by_name=False) else None

    def _density(self, data: bytes, crops: tuple[Crop, ...]) -> float | None:
        return declared_density(data) or (None if crops == (WHOLE,) else _USUAL_PPI)


def _croppings(document: Document) -> Croppings:
    return format_of(document).croppings(document)


def _is_near(one: Crop, other: Crop) -> bool:
    sides = ((one.left, other.left), (one.top, other.top), (one.right, other.right), (one.bottom, other.bottom))
    return all(abs(a - b) < _SAME_SHARE for a, b in sides)


def _pixels(data: bytes, cut: Rect | None) -> Picture:
    whole = decode_foreign(data).as_seen()
    return whole if cut is None else whole.cut(cut)


def _cut(data: bytes, crop: Crop, density_ppi: float | None) -> tuple[Rect, Rendition, float] | None:
    """A picture cut to what a crop shows of it, and the share of its width that this is; None where that makes it no lighter."""
    size = pixel_size(data)
    if size is None or (kept := crop.kept(size)) == Rect.whole(size):
        return None
    rendition = _cut_to(data, kept, density_ppi)
    return (kept, rendition, kept.width / size.width) if rendition.bytes < len(data) else None


def _cut_to(data: bytes, kept: Rect, density_ppi: float | None) -> Rendition:
    """A part of a picture, of the same kind: without loss, or at a quality where no eye sees it."""
    picture = _pixels(data, kept)
    if not JPEG.is_in(data):
        return Rendition(encode_png(picture, density_ppi=density_ppi), "png", picture.size, Way.AS_TAKEN, 0.0)
    cut = encode_jpeg(picture, CUT_QUALITY, full_colour=True, density_ppi=density_ppi)
    return Rendition(cut, "jpeg", picture.size, Way.JPEG, 0.0, CUT_QUALITY)
