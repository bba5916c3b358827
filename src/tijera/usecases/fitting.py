"""Make it fit: find renditions that bring the written file under its limit, apply them, say what was given up."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from tijera.core.budget.ladder import Ladder
from tijera.core.budget.rendition import Rendition
from tijera.core.budget.say import Say, strongest
from tijera.core.budget.search import Progress, Run, Verdict, Wanted, find_fit, one_by_one, verdict_of
from tijera.core.budget.told import given_up
from tijera.core.budget.unmet import limit_not_met
from tijera.core.errors import ChangedMeanwhile
from tijera.core.packages.places.format import Document
from tijera.core.packages.registry import copies_of, open_document, takes
from tijera.core.units import Length
from tijera.records import DestinationRecord, PlacementRecord
from tijera.store.store import Change
from tijera.usecases.letters import document_to_write
from tijera.usecases.placing import write_with
from tijera.usecases.recent import Recent
from tijera.usecases.slimming import OwnPictures
from tijera.usecases.standings import Standing, standings
from tijera.usecases.weighing import weigh
from tijera.usecases.workshop import Workshop


@dataclass(frozen=True)
class Fitted:
    """What *Make it fit* did."""

    file_bytes: int
    limit_bytes: int
    given_up: tuple[str, ...]
    """A line for each clipping that changed; empty when the file was under its limit already."""


@dataclass(eq=False)
class _Group:
    """Placements that show the same picture: they carry the same rendition."""

    placed: list[Standing]
    numbers: list[int]
    """Their places among all that is placed."""
    ladder: Ladder

    @property
    def wanted(self) -> Wanted:
        """As the user says."""
        say = strongest(Say(each.record.say) for each in self.placed)
        return Wanted(self.ladder, say.matters, is_kept=say is Say.KEEP)


class _Destination:
    """A destination as what renditions are sent in: of its clippings first, then of its own pictures where they are asked for."""

    def __init__(self, workshop: Workshop, destination: DestinationRecord, *, with_own: bool) -> None:
        self.placed = standings(workshop, destination)
        self._workshop, self._record = workshop, destination
        self._document = document_to_write(workshop, destination, self.placed)
        self._copies: list[int] = []
        by_picture: dict[str, list[int]] = {}
        for number, each in enumerate(self.placed):
            by_picture.setdefault(each.shown, []).append(number)
        self.groups = [self._group(numbers) for numbers in by_picture.values()]
        self.own = OwnPictures.of(self._document) if with_own else None
        self._slimmed: Recent[Document] = Recent(2)

    def _group(self, numbers: list[int]) -> _Group:
        same = [self.placed[number] for number in numbers]
        width = Length(max(each.measures.width.emu for each in same))
        return _Group(same, numbers, self._workshop.pictures.ladder(same[0].clipping, same[0].px_per_pt, width))

    @property
    def wanted(self) -> list[Wanted]:
        """All that may be given another rendition."""
        own = self.own.ladders.values() if self.own else ()
        return [*(group.wanted for group in self.groups), *(Wanted(ladder) for ladder in own)]

    def slimmed(self, renditions: Sequence[Rendition]) -> bytes | None:
        """The file with its own pictures as chosen; None where none of them changed."""
        if self.own is None:
            return None
        file = self._workshop.store.blobs.get(self._record.blob)
        copy = self.own.copy(file, renditions[len(self.groups) :])
        return None if copy is file else copy

    def written(self, renditions: Sequence[Rendition]) -> int:
        """Its length in bytes with a rendition for each group, and for each of its own pictures."""
        of_each = {
            number: rendition
            for group, rendition in zip(self.groups, renditions, strict=False)
            for number in group.numbers
        }
        chosen = [of_each[number] for number in range(len(self.placed))]
        slimmed = self.slimmed(renditions)
        document = self._document if slimmed is None else self._opened(slimmed)
        written = write_with(document, self.placed, chosen)
        self._copies = self._copies or [copies_of(document, written, group.numbers) for group in self.groups]
        return len(written.data)

    def _opened(self, slimmed: bytes) -> Document:
        name, signed = self._record.name, self._record.unsigned
        return self._slimmed.get(
            slimmed, lambda: open_document(slimmed, name, self._workshop.guards_for(signed=signed))
        )

    def takes(self, index: int, picture_bytes: int) -> int:
        """What so many bytes of a picture take in it, in all their copies; written once before."""
        if index >= len(self.groups):
            return picture_bytes
        return self._copies[index] * takes(self._document, picture_bytes)


def make_it_fit(
    workshop: Workshop,
    destination: DestinationRecord,
    limit_bytes: int,
    run: Run = one_by_one,
    *,
    with_own: bool = False,
) -> Iterator[Progress | Fitted]:
    """Search, apply in one change, and report. Nothing is applied when the limit can't be met.

    The clippings pay; with `with_own` the file's own pictures too. Raises `LimitNotMet`, which says by how much, which
    pictures stand in the way, and what the file's own pictures would give where they were not asked.
    """
    goods = _Destination(workshop, destination, with_own=with_own)
    verdict = yield from verdict_of(find_fit(goods.wanted, limit_bytes, goods, run))
    if not verdict.fits:
        extra: dict[str, object] = {}
        if not with_own:
            both = _Destination(workshop, destination, with_own=True)
            if both.own is not None and both.own.ladders:
                other = yield from verdict_of(find_fit(both.wanted, limit_bytes, both, run))
                extra = {"with_own_bytes": other.written_bytes, "with_own_fits": other.fits}
        raise limit_not_met(verdict, limit_bytes, _weights(workshop, destination, verdict, goods), **extra)
    # Between two steps of the search the user may have gone on working; in the change itself nobody can.
    if [each.shown for each in standings(workshop, destination)] != [each.shown for each in goods.placed]:
        raise ChangedMeanwhile(name=destination.name)
    with workshop.store.change("Make it fit") as change:
        current = workshop.store.find(DestinationRecord, destination.id)
        is_same = workshop.store.placements(destination.id) == [each.record for each in goods.placed]
        if current.blob != destination.blob or not is_same:
            raise ChangedMeanwhile(name=destination.name)
        fitted = _apply(workshop, change, verdict, goods, limit_bytes)
        slimmed = goods.slimmed(verdict.renditions)
        if slimmed is not None:
            kept = workshop.store.blobs.put(slimmed)
            change.update(current, replace(current, blob=kept, first_blob=current.first_blob or current.blob))
    yield fitted


def _apply(
    workshop: Workshop,
    change: Change,
    verdict: Verdict,
    goods: _Destination,
    limit_bytes: int,
) -> Fitted:
    """Save the chosen renditions, those that are the first one as none."""
    notes = []
    for group, rendition in zip(goods.groups, verdict.renditions, strict=False):
        note = given_up(group.ladder, rendition) or None
        is_first = note is None
        if note is not None:
            notes.append(f"{group.placed[0].clipping.name}: {note}")
        blob = None if is_first else workshop.store.blobs.put(rendition.data)
        for each in group.placed:
            change.update(
                each.record,
                replace(
                    each.record,
                    rendition_blob=blob,
                    rendition_extension=None if is_first else rendition.extension,
                    rendition_width_px=None if is_first else rendition.size.width,
                    rendition_of=None if is_first else each.shown,
                    rendition_note=note,
                ),
            )
    if goods.own is not None:
        names = {
            report.member: report.description[:60] or report.member.rsplit("/", 1)[-1] for report in goods.own.reports
        }
        outcomes = goods.own.outcomes(verdict.renditions[len(goods.groups) :])
        notes += [f"{names[each.member]}: {each.note}" for each in outcomes if each.after_bytes != each.before_bytes]
    return Fitted(verdict.written_bytes, limit_bytes, tuple(notes))


def _weights(
    workshop: Workshop, destination: DestinationRecord, verdict: Verdict, goods: _Destination
) -> list[tuple[str, int]]:
    """What every picture would weigh: others' as they are, clippings as light as they could be made."""
    least_of = (
        {}
        if goods.own is None
        else {each.member: each.after_bytes for each in goods.own.outcomes(verdict.renditions[len(goods.groups) :])}
    )
    others = [
        (each.label, least_of.get(each.report.member, each.report.bytes))
        for each in weigh(workshop, destination).pictures
        if not each.own
    ]
    least = zip(goods.groups, verdict.renditions, strict=False)
    return [*others, *((group.placed[0].clipping.name, rendition.bytes) for group, rendition in least)]


_SAID = {Say.USUAL: "Say nothing of", Say.KEEP: "Keep as it is:", Say.MORE: "Matters more:", Say.LESS: "May suffer:"}


def say_of(workshop: Workshop, placement_id: str, say: Say) -> None:
    """Say of a placed picture what counts where its file has to become lighter: of it in all its places there.

    One that is to be kept as it is gets back what it gave up. Raises `NotFound`.
    """
    record = workshop.store.find(PlacementRecord, placement_id)
    destination = workshop.store.find(DestinationRecord, record.destination)
    placed = standings(workshop, destination)
    shown = next(each.shown for each in placed if each.record.id == placement_id)
    same = [each for each in placed if each.shown == shown]
    with workshop.store.change(f"{_SAID[say]} {same[0].clipping.name}") as change:
        for each in same:
            after = replace(each.record, say=say.value)
            if say is Say.KEEP:
                after = replace(
                    after,
                    rendition_blob=None,
                    rendition_extension=None,
                    rendition_width_px=None,
                    rendition_of=None,
                    rendition_note=None,
                )
            change.update(each.record, after)
