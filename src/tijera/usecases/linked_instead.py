"""Pictures of a message that leave as links instead: a line with the address stands where they were sent."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from tijera.core.errors import LinksOff, NotAMessage
from tijera.core.packages.formats.eml.compose import compose
from tijera.records import DestinationRecord, LinkRecord, PlacementRecord
from tijera.store.letters import letter_as_json
from tijera.usecases.letters import letter_of
from tijera.usecases.linking import Links, LinkWish
from tijera.usecases.placing import write_copy
from tijera.usecases.weighing import weigh
from tijera.usecases.workshop import Workshop


def link_instead(
    workshop: Workshop, links: Links, destination_id: str, placements: Sequence[str] = ()
) -> list[LinkRecord]:
    """Take pictures out of a new message and name a link to each below its text, as one change.

    Those of the placements named; where none is, the heaviest one after the other until the message is under its limit.
    Links have no password and no end, and can be withdrawn. Raises `LinksOff`, `NotAMessage`, `NotFound`.
    """
    if links.setup() is None:
        raise LinksOff
    destination = workshop.store.find(DestinationRecord, destination_id)
    if letter_of(destination) is None:
        raise NotAMessage(name=destination.name)
    made: list[LinkRecord] = []
    with workshop.store.change("Send as a link") as change:
        for clipping, placed in _heaviest(workshop, destination, placements):
            if not placements and _fits(workshop, destination):
                break
            link = links.make(clipping, LinkWish(), remember=False)
            made.append(link)
            for each in placed:
                change.remove(each)
            destination = change.update(
                destination, _told(workshop, destination, f"{link.name}: {links.address_of(link)}")
            )
    return made


def _heaviest(
    workshop: Workshop, destination: DestinationRecord, placements: Sequence[str]
) -> list[tuple[str, list[PlacementRecord]]]:
    """Clippings with their placements there, the heaviest first; those of the placements named, where some are."""
    groups: dict[str, tuple[int, list[PlacementRecord]]] = {}
    for picture in weigh(workshop, destination).pictures:
        for own in picture.own:
            if placements and own.record.id not in placements:
                continue
            weight, placed = groups.get(own.clipping.id, (0, []))
            groups[own.clipping.id] = (weight + picture.report.record_bytes, [*placed, own.record])
    by_weight = sorted(groups.items(), key=lambda each: -each[1][0])
    return [(clipping, placed) for clipping, (_, placed) in by_weight]


def _fits(workshop: Workshop, destination: DestinationRecord) -> bool:
    limit = destination.limit_bytes
    return limit is None or len(write_copy(workshop, destination).written.data) <= limit


def _told(workshop: Workshop, destination: DestinationRecord, line: str) -> DestinationRecord:
    """A message that says one line more, as its last paragraph."""
    letter = letter_of(destination)
    if letter is None:
        return destination
    told = replace(letter, text=f"{letter.text.rstrip()}\n\n{line}".lstrip())
    return replace(destination, blob=workshop.store.blobs.put(compose(told)), letter=letter_as_json(told))
