"""Slimming a heavy file: its own pictures made as light as their places let them be, everything else copied raw."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field

from tijera.core.budget.ladder import Ladder
from tijera.core.budget.rendition import Rendition
from tijera.core.budget.search import Progress, Run, Wanted, find_fit, one_by_one, verdict_of
from tijera.core.budget.told import given_up
from tijera.core.budget.unmet import limit_not_met
from tijera.core.geometry import Size
from tijera.core.packages.attached import attached_documents
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.reports import WITHIN, PictureReport, Tidied
from tijera.core.packages.places.spots import Crop
from tijera.core.packages.registry import breaks_seal, format_of, open_document, report_pictures, takes
from tijera.core.units import EMU_PER_INCH, Length, round_half_up
from tijera.usecases.sources import SourcePicture, Sources, why_left_alone

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


@dataclass(frozen=True)
class OwnPictures:
    """The pictures that a document has of its own: those that may be slimmed, and why others are left alone."""

    document: Document
    reports: tuple[PictureReport, ...]
    ladders: Mapping[str, Ladder]
    left_alone: Mapping[str, str]
    held: Mapping[str, bytes]
    """Each picture's bytes as they are now."""
    rests: Mapping[str, Crop]
    """Of pictures that are cut to what is shown of them: what the document still has to hide then."""
    names: Mapping[tuple[str, str], str]
    """The name of each picture where it becomes a kind that has this extension."""
    attached: Mapping[str, OwnPictures] = field(default_factory=dict)
    """The documents that are attached to it, by their members."""

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
        sources = Sources(document, as_opened, held)
        ladders, rests, names = {}, {}, {}
        for report in reports:
            if alone[report.member] or report.pixels is None:
                continue
            source = sources.of(report.member, report.crops)
            kinds = {kind: name for kind in source.kinds if (name := sources.name_for(report.member, kind)) is not None}
            names.update({(report.member, kind): name for kind, name in kinds.items()})
            ladders[report.member] = _ladder(
                report,
                report.pixels,
                source,
                frozenset(kinds) or source.kinds[:1],
                shows_pixels=form.shows_pixels(document, report.member),
            )
            if source.rest is not None:
                rests[report.member] = source.rest
        before = {} if as_opened is None else dict(attached_documents(as_opened))
        attached = {member: cls.of(inner, before.get(member)) for member, inner in attached_documents(document)}
        return cls(document, reports, ladders, alone, held, rests, names, attached)

    @property
    def all_ladders(self) -> list[Ladder]:
        """Of its own pictures first, then of those in the documents that are attached to it."""
        return [*self.ladders.values(), *(each for own in self.attached.values() for each in own.all_ladders)]

    @property
    def all_members(self) -> list[str]:
        """The pictures that those belong to; in an attached document by its name, too."""
        inner = (f"{member}{WITHIN}{each}" for member, own in self.attached.items() for each in own.all_members)
        return [*self.ladders, *inner]

    def _shared_out(self, renditions: Sequence[Rendition]) -> Iterator[tuple[str, OwnPictures, Sequence[Rendition]]]:
        """What of the renditions belongs to each attached document."""
        at = len(self.ladders)
        for member, own in self.attached.items():
            count = len(own.all_ladders)
            yield member, own, renditions[at : at + count]
            at += count

    def copy(self, file: bytes, renditions: Sequence[Rendition]) -> bytes:
        """The document's file with the pictures that changed; its own bytes where none did."""
        changed = {
            member: rendition
            for member, rendition in zip(self.ladders, renditions, strict=False)
            if rendition.data != self.held[member]
        }
        whole = {
            member: data
            for member, own, chosen in self._shared_out(renditions)
            if (data := own.copy(before := self.document.read(member), chosen)) != before
        }
        form = format_of(self.document)
        if not (changed or whole) or form.with_pictures is None:
            return file
        rests = {member: self.rests[member] for member in changed if member in self.rests}
        parts = form.croppings(self.document).parts(rests) if rests else {}
        named = {member: self.names.get((member, each.extension), member) for member, each in changed.items()}
        renamed = {member: name for member, name in named.items() if name != member}
        return form.with_pictures(
            self.document, {**{member: each.data for member, each in changed.items()}, **whole}, parts, renamed
        )

    def outcomes(self, renditions: Sequence[Rendition]) -> tuple[SlimmedPicture, ...]:
        """What became of each picture."""
        own_renditions = dict(zip(self.ladders, renditions, strict=False))
        outcomes = []
        for each in self.reports:
            rendition = own_renditions.get(each.member)
            note = "" if rendition is None else given_up(self.ladders[each.member], rendition)
            if each.member in self.rests:
                note = "; ".join(part for part in (_CUT, note) if part)
            weighs = takes(self.document, rendition.bytes) if rendition is not None and note else each.bytes
            outcomes.append(SlimmedPicture(each.member, each.bytes, weighs, note or self.left_alone[each.member]))
        for member, own, chosen in self._shared_out(renditions):
            for inner in own.outcomes(chosen):
                before, after = (takes(self.document, count) for count in (inner.before_bytes, inner.after_bytes))
                outcomes.append(SlimmedPicture(f"{member}{WITHIN}{inner.member}", before, after, inner.note))
        return tuple(outcomes)

    @property
    def labels(self) -> dict[str, str]:
        """What people call each picture: by its description, else by its name; in an attached document by that, too."""
        labels = {each.member: each.label for each in self.reports}
        for member, own in self.attached.items():
            labels.update(
                {f"{member}{WITHIN}{inner}": f"{member}{WITHIN}{label}" for inner, label in own.labels.items()}
            )
        return labels

    def as_they_are(self) -> tuple[SlimmedPicture, ...]:
        """The same where nothing has to be done."""
        return tuple(
            SlimmedPicture(each.member, each.bytes, each.bytes, self.left_alone[each.member]) for each in self.reports
        )


_CUT = "cut to what is shown of it"


def _ladder(
    report: PictureReport, pixels: Size, source: SourcePicture, kinds: Iterable[str], *, shows_pixels: bool
) -> Ladder:
    """A picture's renditions, of the `kinds` that it may become.

    `pixels` are those that it has now, `report` says how large it is shown.
    """
    is_sized = report.ppi is not None and len(report.shown) == report.times_used
    ppi = report.ppi if is_sized and report.ppi else _USUAL_PPI
    return Ladder(
        source.load,
        source.first,
        Length(max(1, round_half_up(pixels.width * source.share / ppi * EMU_PER_INCH))),
        frozenset(kinds),
        keeps_pixels=source.keeps_pixels or shows_pixels,
        density_ppi=source.density_ppi,
    )


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
        yield Slimmed(data, len(data), own.as_they_are())
        return
    # What is there twice or for nothing goes first: that loses nothing at all.
    tidy = tidied(document, data)
    own = OwnPictures.of(document if tidy.data is data else open_document(tidy.data, name))
    search = find_fit([Wanted(each) for each in own.all_ladders], limit_bytes, _File(own, tidy.data), run)
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
