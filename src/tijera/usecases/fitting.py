"""Make it fit: find renditions that bring the written file under its limit, apply them, say what was given up."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from tijera.core.budget.ladder import Ladder
from tijera.core.budget.rendition import Rendition, Way
from tijera.core.budget.search import Progress, Run, Verdict, Wanted, find_fit, one_by_one
from tijera.core.budget.unmet import limit_not_met
from tijera.core.errors import ChangedMeanwhile
from tijera.core.imaging.decode import decode
from tijera.core.packages.registry import copies_of, takes
from tijera.core.units import Length
from tijera.records import DestinationRecord
from tijera.store.store import Change
from tijera.usecases.letters import document_to_write
from tijera.usecases.placing import write_with
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


class _Destination:
    """A destination as what renditions are sent in."""

    def __init__(self, workshop: Workshop, destination: DestinationRecord) -> None:
        self.placed = standings(workshop, destination)
        self._workshop, self._record = workshop, destination
        self._document = document_to_write(workshop, destination, self.placed)
        self._copies: list[int] = []
        by_picture: dict[str, list[int]] = {}
        for number, each in enumerate(self.placed):
            by_picture.setdefault(each.shown, []).append(number)
        self.groups = [self._group(numbers) for numbers in by_picture.values()]

    def _group(self, numbers: list[int]) -> _Group:
        same = [self.placed[number] for number in numbers]
        width = Length(max(each.measures.width.emu for each in same))
        return _Group(same, numbers, self._workshop.pictures.ladder(same[0].clipping, same[0].px_per_pt, width))

    def written(self, renditions: Sequence[Rendition]) -> int:
        """Its length in bytes with a rendition for each group."""
        of_each = {
            number: rendition
            for group, rendition in zip(self.groups, renditions, strict=True)
            for number in group.numbers
        }
        chosen = [of_each[number] for number in range(len(self.placed))]
        written = write_with(self._workshop, self._record, self.placed, chosen)
        self._copies = self._copies or [copies_of(self._document, written, group.numbers) for group in self.groups]
        return len(written.data)

    def takes(self, index: int, picture_bytes: int) -> int:
        """What so many bytes of a group's picture take in it, in all their copies; written once before."""
        return self._copies[index] * takes(self._document, picture_bytes)


def make_it_fit(
    workshop: Workshop, destination: DestinationRecord, limit_bytes: int, run: Run = one_by_one
) -> Iterator[Progress | Fitted]:
    """Search, apply in one change, and report. Nothing is applied when the limit can't be met.

    Raises `LimitNotMet`, which says by how much and which pictures stand in the way.
    """
    goods = _Destination(workshop, destination)
    verdict: Verdict | None = None
    for step in find_fit([Wanted(group.ladder) for group in goods.groups], limit_bytes, goods, run):
        if isinstance(step, Progress):
            yield step
        else:
            verdict = step
    if verdict is None:
        return
    if not verdict.fits:
        raise limit_not_met(verdict, limit_bytes, _weights(workshop, destination, verdict, goods.groups))
    # Between two steps of the search the user may have gone on working; in the change itself nobody can.
    if [each.shown for each in standings(workshop, destination)] != [each.shown for each in goods.placed]:
        raise ChangedMeanwhile(name=destination.name)
    with workshop.store.change("Make it fit") as change:
        if workshop.store.placements(destination.id) != [each.record for each in goods.placed]:
            raise ChangedMeanwhile(name=destination.name)
        fitted = _apply(workshop, change, verdict, goods.groups, limit_bytes)
    yield fitted


def _apply(
    workshop: Workshop,
    change: Change,
    verdict: Verdict,
    groups: Sequence[_Group],
    limit_bytes: int,
) -> Fitted:
    """Save the chosen renditions, those that are the first one as none."""
    notes = []
    for group, rendition in zip(groups, verdict.renditions, strict=True):
        first = group.ladder.first
        is_first = rendition.data == first.data
        note = None if is_first else what_is_given_up(first, rendition, group.placed[0])
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
    return Fitted(verdict.written_bytes, limit_bytes, tuple(notes))


def what_is_given_up(first: Rendition, rendition: Rendition, at: Standing) -> str:
    """Say in words what a rendition lacks, with the real numbers."""
    if rendition.way is first.way and rendition.size == first.size and rendition.loss == 0:
        return "nothing lost, packed tighter"
    said = []
    if rendition.size != first.size:
        before, after = (size.width / at.measures.width.inches for size in (first.size, rendition.size))
        said.append(f"{before:.0f} → {after:.0f} ppi")
    if rendition.way is Way.COLOURS:
        colours = tuple(count_colours(data) for data in (first.data, rendition.data))
        said.append(f"{colours[0]:,} → {colours[1]:,} colours".replace(",", "\u2009"))
    elif rendition.way is Way.JPEG:
        said.append(f"JPEG at quality {rendition.quality}")
    return ", ".join(said)


def count_colours(data: bytes) -> int:
    """How many colours an encoded picture has."""
    pixels = decode(data).pixels.astype(np.uint32)
    packed = sum((pixels[:, :, band] << np.uint32(8 * band) for band in range(pixels.shape[2])), np.uint32(0))
    return int(np.unique(packed).size)


def _weights(
    workshop: Workshop, destination: DestinationRecord, verdict: Verdict, groups: Sequence[_Group]
) -> list[tuple[str, int]]:
    """What every picture would weigh: others' as they are, clippings as light as they could be made."""
    others = [(each.label, each.report.bytes) for each in weigh(workshop, destination).pictures if not each.own]
    least = zip(groups, verdict.renditions, strict=True)
    return [*others, *((group.placed[0].clipping.name, rendition.bytes) for group, rendition in least)]
