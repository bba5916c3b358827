"""A destination as what renditions are sent in: what it weighs with each of them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from tijera.core.budget.ladder import Ladder
from tijera.core.budget.rendition import Rendition
from tijera.core.budget.say import Say, strongest
from tijera.core.budget.search import Wanted
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.reports import Tidied
from tijera.core.packages.registry import copies_of, open_document, takes
from tijera.core.units import Length
from tijera.records import DestinationRecord
from tijera.usecases.letters import document_to_write
from tijera.usecases.placing import write_with
from tijera.usecases.recent import Recent
from tijera.usecases.slimming import OwnPictures, tidied
from tijera.usecases.standings import Standing, standings
from tijera.usecases.workshop import Workshop


@dataclass(eq=False)
class PictureGroup:
    """Placements that show the same picture: they carry the same rendition."""

    placed: list[Standing]
    numbers: list[int]
    """Their places among all that is placed."""
    ladder: Ladder

    @property
    def wanted(self) -> Wanted:
        """As the user says."""
        say = strongest(Say(each.record.say) for each in self.placed)
        return Wanted(self.ladder, say.matters, is_kept=say is Say.KEEP, may_fall=say is Say.FALL)


class DestinationGoods:
    """A destination as what renditions are sent in: of its clippings first, then of its own pictures where they are asked for."""

    def __init__(self, workshop: Workshop, destination: DestinationRecord, *, with_own: bool) -> None:
        self.placed = standings(workshop, destination)
        self._workshop, self._record = workshop, destination
        self._document = document_to_write(workshop, destination, self.placed)
        self._copies: list[int] = []
        self._slimmed: Recent[Document] = Recent(2)
        by_picture: dict[str, list[int]] = {}
        for number, each in enumerate(self.placed):
            by_picture.setdefault(each.shown, []).append(number)
        self.groups = [self._group(numbers) for numbers in by_picture.values()]
        self._file = workshop.store.blobs.get(destination.blob)
        self.tidy = Tidied(self._file, {}, ())
        self.own: OwnPictures | None = None
        # Where there is nothing else, its own pictures are what has to pay.
        if with_own or not self.placed:
            self.tidy = tidied(self._document, self._file)
            if self.tidy.data is not self._file:
                self._document = self._opened(self.tidy.data)
            self.own = OwnPictures.of(self._document, self._as_opened())

    def _as_opened(self) -> Document | None:
        """The file as it was first opened, where its own pictures were made lighter since."""
        record = self._record
        if record.first_blob is None or record.letter is not None:
            return None
        return self._workshop.document(record.first_blob, record.name, signed=record.unsigned)

    def _group(self, numbers: list[int]) -> PictureGroup:
        same = [self.placed[number] for number in numbers]
        width = Length(max(each.measures.width.emu for each in same))
        return PictureGroup(same, numbers, self._workshop.pictures.ladder(same[0].clipping, same[0].px_per_pt, width))

    @property
    def is_letter(self) -> bool:
        """Whether it is written here, so that there could be two of it."""
        return self._record.letter is not None

    @property
    def wanted(self) -> list[Wanted]:
        """All that may be given another rendition."""
        own = self.own.all_ladders if self.own else ()
        return [*(group.wanted for group in self.groups), *(Wanted(ladder) for ladder in own)]

    def slimmed(self, renditions: Sequence[Rendition]) -> bytes | None:
        """The file with its own pictures as chosen; None where none of them changed."""
        if self.own is None:
            return None
        copy = self.own.copy(self.tidy.data, renditions[len(self.groups) :])
        return None if copy is self._file else copy

    def written(self, renditions: Sequence[Rendition]) -> int:
        """Its length in bytes with a rendition for each group, and for each of its own pictures."""
        chosen, document = self._chosen(renditions), self._with_its_own(renditions)
        written = write_with(document, self.placed, chosen)
        self._copies = self._copies or [copies_of(document, written, group.numbers) for group in self.groups]
        return len(written.data)

    def written_otherwise(self, renditions: Sequence[Rendition], change: Callable[[Standing], Standing | None]) -> int:
        """Its length where something was placed otherwise, or not at all (None)."""
        changed = [
            (after, rendition)
            for each, rendition in zip(self.placed, self._chosen(renditions), strict=True)
            if (after := change(each)) is not None
        ]
        document = self._with_its_own(renditions)
        return len(write_with(document, [each for each, _ in changed], [each for _, each in changed]).data)

    def as_sent(self, picture_bytes: int) -> int:
        """What so many bytes of a picture take in it once: the weight that a report of it gives."""
        return takes(self._document, picture_bytes)

    def _chosen(self, renditions: Sequence[Rendition]) -> list[Rendition]:
        """The rendition of each placement."""
        of_each = {
            number: rendition
            for group, rendition in zip(self.groups, renditions, strict=False)
            for number in group.numbers
        }
        return [of_each[number] for number in range(len(self.placed))]

    def _with_its_own(self, renditions: Sequence[Rendition]) -> Document:
        slimmed = self.slimmed(renditions)
        return self._document if slimmed is None else self._opened(slimmed)

    def _opened(self, slimmed: bytes) -> Document:
        name, signed = self._record.name, self._record.unsigned
        return self._slimmed.get(
            slimmed, lambda: open_document(slimmed, name, self._workshop.guards_for(signed=signed))
        )

    def takes(self, index: int, picture_bytes: int) -> int:
        """What so many bytes of a picture take in it, in all their copies; written once before."""
        if index >= len(self.groups):
            return takes(self._document, picture_bytes)
        return self._copies[index] * takes(self._document, picture_bytes)
