"""Found again: every file that was worked on, what happened, where a clipping stands now."""

from __future__ import annotations

from dataclasses import dataclass

from tijera.core.packages.places.spots import Spot
from tijera.records import ClippingRecord, DestinationRecord, Happening, PlacementRecord
from tijera.store.happenings import Wanted
from tijera.usecases.destinations import document_of
from tijera.usecases.letters import called, letter_of
from tijera.usecases.naming import find_terms, found_as
from tijera.usecases.workshop import Workshop


@dataclass(frozen=True)
class Work:
    """A file that was worked on, as it was left."""

    file: DestinationRecord
    name: str
    ending: str
    recipients: str
    """Whom a message goes to; empty for all else."""
    clippings: tuple[ClippingRecord, ...]
    """What stands in it, each once, in order."""
    last: Happening | None
    """What left of it last, or waits to."""


def works(workshop: Workshop, words: str, first: int, most: int) -> list[Work]:
    """A page of the files that were worked on, the last first: those that have all words in name, recipients, day or clippings."""
    if not words.strip():
        return [_work(workshop, each) for each in workshop.store.worked_on(first, most)]
    terms = [term.casefold() for term in find_terms(workshop, words)]
    found = [each for each in workshop.store.worked_on() if _has(workshop, each, terms)]
    return [_work(workshop, each) for each in found[first : first + most]]


def _has(workshop: Workshop, file: DestinationRecord, terms: list[str]) -> bool:
    letter = letter_of(file)
    said = f"{letter.to} {letter.cc} {letter.subject}" if letter else ""
    shown = " ".join(each.name for each in _clippings(workshop, file))
    days = f"{found_as(workshop, file.worked_at)} {found_as(workshop, file.opened_at)}"
    words = f"{file.name} {said} {shown} {days}".casefold()
    return all(term in words for term in terms)


def _clippings(workshop: Workshop, file: DestinationRecord) -> list[ClippingRecord]:
    ids = dict.fromkeys(each.clipping for each in workshop.store.placements(file.id))
    found = (workshop.store.find_or_none(ClippingRecord, each) for each in ids)
    return [each for each in found if each is not None]


def _work(workshop: Workshop, file: DestinationRecord) -> Work:
    letter = letter_of(file)
    left = workshop.store.happenings(Wanted(destination=file.id), 20)
    return Work(
        file,
        called(file),
        file.name.rpartition(".")[2].lower(),
        f"{letter.to}, {letter.cc}".strip(", ") if letter else "",
        tuple(_clippings(workshop, file)),
        next((each for each in left if each.kind != "changed"), None),
    )


def happenings(
    workshop: Workshop,
    words: str = "",
    *,
    before: str = "",
    clipping: str | None = None,
    destination: str | None = None,
    most: int = 100,
) -> list[Happening]:
    """What happened, the last first, from before a moment on: in all, to a clipping, or to a file."""
    terms = tuple(find_terms(workshop, words))
    return workshop.store.happenings(Wanted(before, clipping, destination, terms), most)


@dataclass(frozen=True)
class Stands:
    """A place in which a clipping stands now."""

    file: DestinationRecord
    name: str
    placement: PlacementRecord
    spot: Spot


def places_of(workshop: Workshop, clipping_id: str) -> list[Stands]:
    """Where a clipping stands now, file by file. Raises `NotFound`."""
    workshop.store.find(ClippingRecord, clipping_id)
    out = []
    for placed in workshop.store.placements_of(clipping_id):
        file = workshop.store.find(DestinationRecord, placed.destination)
        out.append(Stands(file, called(file), placed, document_of(workshop, file).spot(placed.spot)))
    return out
