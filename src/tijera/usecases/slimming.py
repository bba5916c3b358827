"""Slimming a heavy file: its own pictures made as light as their places let them be, everything else copied raw."""

from __future__ import annotations

import io
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from PIL import Image

from tijera.core.budget.ladder import Ladder
from tijera.core.budget.rendition import Rendition, Way
from tijera.core.budget.search import Progress, Run, Wanted, find_fit, one_by_one, verdict_of
from tijera.core.budget.told import given_up
from tijera.core.budget.unmet import limit_not_met
from tijera.core.geometry import Size
from tijera.core.imaging.decode import MAX_PIXELS, decode
from tijera.core.imaging.kinds import JPEG, PNG, sniff
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.reports import PictureReport, Tidied, pixel_size
from tijera.core.packages.registry import breaks_seal, format_of, open_document, report_pictures, takes
from tijera.core.units import EMU_PER_INCH, Length, round_half_up

_ORIENTATION = 0x0112
_USUAL_PPI = 96.0


@dataclass(frozen=True)
class SlimmedPicture:
    """One picture of a file, before and after."""

    member: str
    before_bytes: int
    after_bytes: int
    note: str
    """What was given up, or why it was left alone; empty where nothing had to be done."""


@dataclass(frozen=True)
class Slimmed:
    """A file under its limit."""

    data: bytes
    before_bytes: int
    pictures: tuple[SlimmedPicture, ...]
    breaks_seal: bool = False
    """Whether a mail server's signature over it does not hold any more."""


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


def _ladder(report: PictureReport, pixels: Size, data: bytes) -> Ladder:
    """A picture's renditions from its bytes `data`, of the kind that it is: its name and type stay.

    `pixels` are those that it has now, `report` says how large it is shown.
    """
    extension = "jpeg" if JPEG.is_in(data) else "png"
    is_sized = report.ppi is not None and len(report.shown) == report.times_used
    ppi = report.ppi if is_sized and report.ppi else _USUAL_PPI
    width = Length(max(1, round_half_up(pixels.width / ppi * EMU_PER_INCH)))
    first = Rendition(data, extension, pixel_size(data) or pixels, Way.AS_IT_CAME, 0.0)
    return Ladder(lambda: decode(data).as_seen(), first, width, frozenset({extension}))


@dataclass(frozen=True)
class OwnPictures:
    """The pictures that a document has of its own: those that may be slimmed, and why others are left alone."""

    document: Document
    reports: tuple[PictureReport, ...]
    ladders: Mapping[str, Ladder]
    left_alone: Mapping[str, str]
    held: Mapping[str, bytes]
    """Each picture's bytes as they are now."""

    @classmethod
    def of(cls, document: Document, as_opened: Document | None = None) -> OwnPictures:
        """Look at each of them; of a document that was slimmed before `as_opened` has the pictures as they were."""
        reports = report_pictures(document)
        held = {report.member: document.read(report.member) for report in reports}
        form = format_of(document)
        alone = {
            member: why_left_alone(data, member, by_name=form.names_say_kinds)
            if form.can_replace(document, member)
            else "it travels in an unusual encoding"
            for member, data in held.items()
        }
        ladders = {
            report.member: _ladder(report, report.pixels, _first_bytes(report.member, held, as_opened))
            for report in reports
            if not alone[report.member] and report.pixels is not None
        }
        return cls(document, reports, ladders, alone, held)

    def copy(self, file: bytes, renditions: Sequence[Rendition]) -> bytes:
        """The document's file with the pictures that changed; its own bytes where none did."""
        changed = {
            member: rendition.data
            for member, rendition in zip(self.ladders, renditions, strict=True)
            if rendition.data != self.held[member]
        }
        replaced = format_of(self.document).with_pictures
        return replaced(self.document, changed) if changed and replaced is not None else file

    def outcomes(self, renditions: Sequence[Rendition]) -> tuple[SlimmedPicture, ...]:
        """What became of each picture."""
        after = dict(zip(self.ladders, renditions, strict=True))
        outcomes = []
        for each in self.reports:
            rendition = after.get(each.member)
            note = "" if rendition is None else given_up(self.ladders[each.member], rendition)
            weighs = takes(self.document, rendition.bytes) if rendition is not None and note else each.bytes
            outcomes.append(SlimmedPicture(each.member, each.bytes, weighs, note or self.left_alone[each.member]))
        return tuple(outcomes)


def _first_bytes(member: str, held: Mapping[str, bytes], as_opened: Document | None) -> bytes:
    """A picture's bytes before it was slimmed, where it is the same one still: of that kind, not changed by others."""
    now = held[member]
    if as_opened is None or member not in as_opened.member_names:
        return now
    before = as_opened.read(member)
    return before if sniff(before) is sniff(now) and not why_left_alone(before, member, by_name=False) else now


class _File:
    """A file as what renditions of its own pictures are sent in."""

    def __init__(self, own: OwnPictures, file: bytes) -> None:
        self._own, self._file = own, file

    def written(self, renditions: Sequence[Rendition]) -> int:
        """Its length in bytes."""
        return len(self._own.copy(self._file, renditions))

    def takes(self, _index: int, picture_bytes: int) -> int:
        """What so many bytes of a picture take in it."""
        return takes(self._own.document, picture_bytes)


def slim(data: bytes, name: str, limit_bytes: int, run: Run = one_by_one) -> Iterator[Progress | Slimmed]:
    """Bring a file under a limit by its own pictures; progress comes out, the result last.

    A file that is under the limit comes back byte for byte. Raises `InputRefused` and `LimitNotMet`.
    """
    document = open_document(data, name)
    if len(data) <= limit_bytes:
        own = OwnPictures.of(document)
        yield Slimmed(data, len(data), own.outcomes([each.first for each in own.ladders.values()]))
        return
    # What is there twice or for nothing goes first: that loses nothing at all.
    tidy = tidied(document, data)
    own = OwnPictures.of(document if tidy.data is data else open_document(tidy.data, name))
    search = find_fit([Wanted(each) for each in own.ladders.values()], limit_bytes, _File(own, tidy.data), run)
    verdict = yield from verdict_of(search)
    pictures = (*own.outcomes(verdict.renditions), *_gone(document, tidy))
    if not verdict.fits:
        raise limit_not_met(verdict, limit_bytes, [(each.member, each.after_bytes) for each in pictures])
    yield Slimmed(own.copy(tidy.data, verdict.renditions), len(data), pictures, breaks_seal(document))


def tidied(document: Document, file: bytes) -> Tidied:
    """A document's `file` with each picture once and none that is used nowhere; its own bytes where there is nothing to do."""
    tidy = format_of(document).tidy
    return Tidied(file, {}, ()) if tidy is None else tidy(document)


def _gone(document: Document, tidy: Tidied) -> Iterator[SlimmedPicture]:
    for gone, kept in tidy.merged.items():
        yield SlimmedPicture(gone, len(document.read(gone)), 0, f"the same as {kept}, kept once")
    for gone in tidy.unused:
        yield SlimmedPicture(gone, len(document.read(gone)), 0, "nothing showed it, taken out")
