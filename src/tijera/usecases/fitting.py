"""Make it fit: find renditions that bring the written file under its limit, apply them, say what was given up."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from tijera.core.budget.ladder import Rendition, Way
from tijera.core.budget.verdict import Candidate, Progress, Verdict, find_fit, limit_not_met
from tijera.core.errors import ChangedMeanwhile
from tijera.core.imaging.decode import decode
from tijera.core.units import Length
from tijera.records import DestinationRecord
from tijera.store.store import Change
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


def make_it_fit(workshop: Workshop, destination: DestinationRecord, limit_bytes: int) -> Iterator[Progress | Fitted]:
    """Search, apply in one change, and report. Nothing is applied when the limit can't be met.

    Raises `LimitNotMet`, which says by how much and which pictures stand in the way.
    """
    placed = standings(workshop, destination)
    groups = list(dict.fromkeys(each.shown for each in placed))
    of_group = [groups.index(each.shown) for each in placed]
    members = [
        [each for each, index in zip(placed, of_group, strict=True) if index == group] for group in range(len(groups))
    ]
    candidates = [
        Candidate(
            picture=workshop.pictures.finished(same[0].clipping, same[0].px_per_pt),
            first=workshop.pictures.first_rendition(same[0].clipping, same[0].px_per_pt),
            placed_width=Length(max(each.measures.width.emu for each in same)),
        )
        for same in members
    ]
    verdict: Verdict | None = None
    search = find_fit(
        candidates,
        limit_bytes,
        lambda chosen: write_with(workshop, destination, placed, [chosen[group] for group in of_group]),
    )
    for step in search:
        if isinstance(step, Progress):
            yield step
        else:
            verdict = step
    if verdict is None:
        return
    if not verdict.fits:
        raise limit_not_met(verdict, limit_bytes, _weights(workshop, destination, verdict, members))
    # Between two steps of the search the user may have gone on working; in the change itself nobody can.
    if [each.shown for each in standings(workshop, destination)] != [each.shown for each in placed]:
        raise ChangedMeanwhile(name=destination.name)
    with workshop.store.change("Make it fit") as change:
        if workshop.store.placements(destination.id) != [each.record for each in placed]:
            raise ChangedMeanwhile(name=destination.name)
        fitted = _apply(workshop, change, verdict, candidates, members, limit_bytes)
    yield fitted


def _apply(
    workshop: Workshop,
    change: Change,
    verdict: Verdict,
    candidates: list[Candidate],
    members: list[list[Standing]],
    limit_bytes: int,
) -> Fitted:
    """Save the chosen renditions, those that are the first one as none."""
    notes = []
    for candidate, rendition, same in zip(candidates, verdict.renditions, members, strict=True):
        is_first = rendition.data == candidate.first.data
        note = None if is_first else what_is_given_up(candidate, rendition, same[0])
        if note is not None:
            notes.append(f"{same[0].clipping.name}: {note}")
        blob = None if is_first else workshop.store.blobs.put(rendition.data)
        for each in same:
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


def what_is_given_up(candidate: Candidate, rendition: Rendition, at: Standing) -> str:
    """Say in words what a rendition lacks, with the real numbers."""
    if rendition.way is candidate.first.way and rendition.size == candidate.first.size and rendition.loss == 0:
        return "nothing lost, packed tighter"
    said = []
    if rendition.size != candidate.first.size:
        before, after = (size.width / at.measures.width.inches for size in (candidate.first.size, rendition.size))
        said.append(f"{before:.0f} → {after:.0f} ppi")
    if rendition.way is Way.COLOURS:
        colours = tuple(count_colours(data) for data in (candidate.first.data, rendition.data))
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
    workshop: Workshop, destination: DestinationRecord, verdict: Verdict, members: list[list[Standing]]
) -> list[tuple[str, int]]:
    """What every picture would weigh: others' as they are, clippings as light as they could be made."""
    others = [(each.label, each.report.bytes) for each in weigh(workshop, destination).pictures if not each.own]
    least = zip(members, verdict.renditions, strict=True)
    return [*others, *((same[0].clipping.name, rendition.bytes) for same, rendition in least)]
