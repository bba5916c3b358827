"""Make it fit: find renditions that bring the written file under its limit, apply them, say what was given up."""

from __future__ import annotations

from collections.abc import Generator, Iterator
from dataclasses import asdict, dataclass, replace

from tijera.core.budget.say import Say
from tijera.core.budget.search import Progress, Run, Verdict, find_fit, one_by_one, verdict_of
from tijera.core.budget.told import given_up
from tijera.core.budget.unmet import limit_not_met
from tijera.core.errors import ChangedMeanwhile
from tijera.core.units import format_bytes
from tijera.records import DestinationRecord, PlacementRecord
from tijera.store.change import Change
from tijera.usecases.changing import change_one
from tijera.usecases.goods import DestinationGoods
from tijera.usecases.helping import Help, HelpKind, what_helps
from tijera.usecases.linking import links_are_on
from tijera.usecases.standings import standings
from tijera.usecases.weighing import weigh
from tijera.usecases.workshop import Workshop


@dataclass(frozen=True)
class Fitted:
    """What *Make it fit* did."""

    file_bytes: int
    limit_bytes: int
    given_up: tuple[str, ...]
    """A line for each clipping that changed; empty when the file was under its limit already."""


@dataclass(frozen=True)
class ProposedPicture:
    """What would become of one picture."""

    placements: tuple[str, ...]
    """Where it stands; empty for one of the file's own."""
    member: str | None
    """Of the file, for one of its own."""
    bytes: int
    note: str
    """What it would give up; empty for nothing."""


@dataclass(frozen=True)
class Proposed:
    """What *Make it fit* would do."""

    file_bytes: int
    limit_bytes: int
    pictures: tuple[ProposedPicture, ...]


def make_it_fit(
    workshop: Workshop,
    destination: DestinationRecord,
    limit_bytes: int,
    run: Run = one_by_one,
    *,
    with_own: bool = False,
) -> Iterator[Progress | Fitted]:
    """Search, apply in one change, and report. Nothing is applied when the limit can't be met.

    The clippings pay; with `with_own` the file's own pictures too. From then on the file is kept under its limit, until
    that is said otherwise or this is undone. Raises `LimitNotMet`, which says by how much, which pictures stand in the
    way, and what would help.
    """
    goods, verdict = yield from _searched(workshop, destination, limit_bytes, run, with_own=with_own)
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
        after = replace(current, keeps_fitting=True)
        if slimmed is not None:
            kept = workshop.store.blobs.put(slimmed)
            after = replace(after, blob=kept, first_blob=current.first_blob or current.blob)
        change.update(current, after)
    yield fitted


def propose(
    workshop: Workshop,
    destination: DestinationRecord,
    limit_bytes: int,
    run: Run = one_by_one,
    *,
    with_own: bool = False,
) -> Iterator[Progress | Proposed]:
    """Search as *Make it fit* does, and say what it would do; nothing changes. Raises `LimitNotMet`."""
    goods, verdict = yield from _searched(workshop, destination, limit_bytes, run, with_own=with_own)
    pictures = [
        ProposedPicture(
            tuple(each.record.id for each in group.placed),
            None,
            goods.as_sent(rendition.bytes),
            given_up(group.ladder, rendition),
        )
        for group, rendition in zip(goods.groups, verdict.renditions, strict=False)
    ]
    if goods.own is not None:
        outcomes = goods.own.outcomes(verdict.renditions[len(goods.groups) :])
        pictures += [ProposedPicture((), each.member, each.after_bytes, each.note) for each in outcomes]
    yield Proposed(verdict.written_bytes, limit_bytes, tuple(pictures))


def _searched(
    workshop: Workshop, destination: DestinationRecord, limit_bytes: int, run: Run, *, with_own: bool
) -> Generator[Progress, None, tuple[DestinationGoods, Verdict]]:
    """What is sent, and renditions with which it fits."""
    goods = DestinationGoods(workshop, destination, with_own=with_own)
    asked = (repr(destination), limit_bytes, with_own, *((repr(each.record), each.shown) for each in goods.placed))
    known = workshop.verdicts.known(asked)
    verdict = known or (yield from verdict_of(find_fit(goods.wanted, limit_bytes, goods, run)))
    if verdict.fits:
        workshop.verdicts.get(asked, lambda: verdict)
        return goods, verdict
    helps = [] if goods.own is not None else [*(yield from _own_pictures(workshop, destination, limit_bytes, run))]
    helps += what_helps(goods, verdict, limit_bytes, with_links=links_are_on(workshop))
    raise limit_not_met(
        verdict, limit_bytes, _weights(workshop, destination, verdict, goods), helps=[asdict(each) for each in helps]
    )


def _own_pictures(
    workshop: Workshop, destination: DestinationRecord, limit_bytes: int, run: Run
) -> Generator[Progress, None, list[Help]]:
    """What the file's own pictures would give, where it has any that may be slimmed, twice or for nothing."""
    both = DestinationGoods(workshop, destination, with_own=True)
    if both.own is None or not (both.own.all_ladders or both.tidy.merged or both.tidy.unused):
        return []
    verdict = yield from verdict_of(find_fit(both.wanted, limit_bytes, both, run))
    return [Help(HelpKind.OWN_PICTURES, verdict.written_bytes, verdict.fits)]


def keep_fitting(workshop: Workshop, destination_id: str, *, keeps: bool) -> DestinationRecord:
    """Say whether clippings that are placed later are made to fit at once. Raises `NotFound`."""
    return change_one(
        workshop,
        DestinationRecord,
        destination_id,
        lambda _, __: "Keep it under its limit" if keeps else "Don't keep it under its limit",
        lambda before: replace(before, keeps_fitting=keeps),
    )


def _apply(
    workshop: Workshop,
    change: Change,
    verdict: Verdict,
    goods: DestinationGoods,
    limit_bytes: int,
) -> Fitted:
    """Save the chosen renditions, those that are the first one as none."""
    notes = []
    for group, rendition, lacks in zip(goods.groups, verdict.renditions, verdict.lacking, strict=False):
        note = given_up(group.ladder, rendition) or None
        is_first = note is None
        if note is not None:
            notes.append(f"{group.placed[0].clipping.name}: {note}{_next_step(lacks)}")
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
    if goods.tidy.merged:
        notes.append(f"{len(goods.tidy.merged)} of the file's own pictures were there twice, kept once now")
    if goods.tidy.unused:
        notes.append(f"{len(goods.tidy.unused)} of the file's own pictures were shown nowhere, taken out")
    if goods.own is not None:
        names = goods.own.labels
        lacking = dict(zip(goods.own.all_members, verdict.lacking[len(goods.groups) :], strict=False))
        outcomes = goods.own.outcomes(verdict.renditions[len(goods.groups) :])
        notes += [
            f"{names.get(each.member, each.member)}: {each.note}{_next_step(lacking.get(each.member))}"
            for each in outcomes
            if each.after_bytes != each.before_bytes
        ]
    return Fitted(verdict.written_bytes, limit_bytes, tuple(notes))


def _next_step(lacks: int | None) -> str:
    """How far out of reach the next better rendition is; nothing where there is none."""
    return "" if lacks is None or lacks <= 0 else f"; one step better is {format_bytes(lacks)} too much"


def _weights(
    workshop: Workshop, destination: DestinationRecord, verdict: Verdict, goods: DestinationGoods
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
    return [*others, *((group.placed[0].clipping.name, goods.as_sent(rendition.bytes)) for group, rendition in least)]


_SAID = {
    Say.USUAL: "Say nothing of",
    Say.KEEP: "Keep as it is:",
    Say.MORE: "Matters more:",
    Say.LESS: "May suffer:",
    Say.FALL: "May become unreadable:",
}


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
