"""Two messages instead of one, where one would be too heavy."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from tijera.core.errors import NotFound
from tijera.core.packages.formats.eml.compose import compose
from tijera.records import DestinationRecord
from tijera.store.letters import letter_as_json
from tijera.usecases.letters import letter_of
from tijera.usecases.workshop import Workshop


def split(workshop: Workshop, destination_id: str, placements: Sequence[str]) -> DestinationRecord:
    """Move some placements of a new message to a second one that says the same; their subjects say which is which.

    One change, which one undo takes back. Returns the second message. Raises `NotFound`.
    """
    first = workshop.store.find(DestinationRecord, destination_id)
    letter = letter_of(first)
    if letter is None:
        raise NotFound(what="new message", key=first.name)
    numbered = [replace(letter, subject=f"{letter.subject} ({number} of 2)".strip()) for number in (1, 2)]
    blobs = [workshop.store.blobs.put(compose(each)) for each in numbered]
    second = replace(
        first, id=workshop.new_id(), blob=blobs[1], letter=letter_as_json(numbered[1]), opened_at=workshop.now()
    )
    with workshop.store.change("Make two messages of it") as change:
        change.update(first, replace(first, blob=blobs[0], letter=letter_as_json(numbered[0])))
        change.save(second)
        for placed in workshop.store.placements(destination_id):
            if placed.id in placements:
                change.update(placed, replace(placed, destination=second.id))
    return second
