"""Several at once: nobody's change is lost, nothing is accepted that is not there afterwards."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from functools import partial
from threading import Barrier

from tests.support.bench import BenchCase
from tests.support.docx import Docx, paragraph, section
from tests.support.rounds import rounds
from tests.support.sheets import mark
from tijera.core.clippings import edits
from tijera.core.clippings.sheet import Sheet
from tijera.core.errors import ChangedElsewhere, Superseded, TijeraError
from tijera.core.geometry import Rect
from tijera.core.packages.places.placed import Align
from tijera.records import ClippingRecord, DestinationRecord, PlacementRecord
from tijera.usecases import destinations, limits, placing, rack, taking, trimming

_PAPER = Docx(paragraph("Ropes are laid out") + paragraph("Nobody stands between") + section()).build()


def at_once(*works: Callable[[], object]) -> list[object]:
    """Begin all of them in the same moment; what each gives, or the error that it raises."""
    barrier = Barrier(len(works))

    def begin(work: Callable[[], object]) -> object:
        barrier.wait()
        try:
            return work()
        except TijeraError as error:
            return error

    with ThreadPoolExecutor(len(works)) as pool:
        return list(pool.map(begin, works))


class AtOnce(BenchCase):
    """Threads, as requests come in."""

    def test_rename_and_crop_and_pointer_are_all_there(self) -> None:
        """Sixty times over: each changes fields of its own."""
        for number in range(rounds(60)):
            record = self.take(Rect(90, 130, 300, 200))
            crop = Rect(number, 3, 100, 80)
            at_once(
                partial(rack.rename, self.workshop, record.id, f"Tide {number}"),
                partial(rack.crop, self.workshop, record.id, crop),
            )
            after = self.workshop.store.find(ClippingRecord, record.id)
            self.assertEqual((after.name, after.crop), (f"Tide {number}", crop))

    def test_of_fifty_edits_on_one_version_one_is_accepted_and_that_one_is_there(self) -> None:
        """The others are told that somebody was quicker."""
        record = self.take()
        version = self.workshop.pictures.version_of(record)

        def add(number: int) -> Callable[[], object]:
            def with_it(sheet: Sheet, crop: Rect) -> tuple[Sheet, Rect]:
                return edits.add(sheet, [mark("ring", (10, 10), (60, 50 + number), id_=f"m{number}")]), crop

            return lambda: trimming.edit(self.workshop, record.id, version, "Mark", with_it)

        answers = at_once(*(add(number) for number in range(50)))
        accepted = [each for each in answers if isinstance(each, ClippingRecord)]
        self.assertEqual(len(accepted), 1)
        self.assertTrue(all(isinstance(each, ChangedElsewhere | ClippingRecord) for each in answers))
        kept = self.workshop.store.find(ClippingRecord, record.id)
        self.assertEqual(kept.sheet, accepted[0].sheet)
        self.assertEqual(len(self.workshop.pictures.sheet(kept).marks), 1)

    def test_edits_that_name_no_version_are_all_made(self) -> None:
        """One after the other, each on what the one before made."""
        record = self.take()

        def add(number: int) -> Callable[[], object]:
            def with_it(sheet: Sheet, crop: Rect) -> tuple[Sheet, Rect]:
                return edits.add(sheet, [mark("ring", (10, 10), (60, 50 + number), id_=f"m{number}")]), crop

            return lambda: trimming.edit(self.workshop, record.id, None, "Mark", with_it)

        answers = at_once(*(add(number) for number in range(12)))
        self.assertEqual([each for each in answers if isinstance(each, TijeraError)], [])
        kept = self.workshop.pictures.sheet(self.workshop.store.find(ClippingRecord, record.id))
        self.assertEqual({each.id for each in kept.marks}, {f"m{number}" for number in range(12)})

    def test_names_ranks_and_places_are_given_once(self) -> None:
        """Ten takes at once have ten names and ten ranks; ten placings of one clipping make one placement."""
        frame = taking.freeze(self.workshop, "desk")
        cut = taking.Cut(taking.CutKind.REGION, Rect(90, 130, 300, 200))
        taken = at_once(*(lambda: taking.take(self.workshop, frame.id, cut) for _ in range(10)))
        records = [each for each in taken if isinstance(each, ClippingRecord)]
        self.assertEqual((len({each.name for each in records}), len({each.rank for each in records})), (10, 10))
        same = at_once(*(lambda: taking.take(self.workshop, frame.id, cut, as_id="abcdef012345") for _ in range(6)))
        self.assertEqual({getattr(each, "id", None) for each in same}, {"abcdef012345"})
        self.assertEqual(self.workshop.store.count_clippings(), 11)
        to = self.open(_PAPER)
        once = at_once(
            *(lambda: placing.place(self.workshop, to.id, records[0].id, "b.1", once=True) for _ in range(10))
        )
        self.assertEqual(len({getattr(each, "id", None) for each in once}), 1)
        at_once(*(partial(placing.place, self.workshop, to.id, each.id, "b.2") for each in records))
        ranks = [each.rank for each in self.workshop.store.placements(to.id)]
        self.assertEqual((len(ranks), len(set(ranks))), (11, 11))

    def test_words_sides_and_limits_do_not_put_each_other_back(self) -> None:
        """Two fields of one layout, the words, the limit and the chosen place."""
        to = self.open(_PAPER)
        placed = placing.place(self.workshop, to.id, self.take().id, "b.1")
        for number in range(25):
            align = (Align.LEFT, Align.RIGHT)[number % 2]
            adjust = partial(placing.adjust, self.workshop, placed.id)
            at_once(
                partial(adjust, layout=partial(replace, caption=f"c{number}")),
                partial(adjust, layout=partial(replace, align=align)),
                partial(adjust, description=f"d{number}"),
                partial(limits.set_limit, self.workshop, to.id, 1_000_000 + number),
                partial(destinations.choose_spot, self.workshop, to.id, f"b.{number % 3}"),
            )
            after = self.workshop.store.find(PlacementRecord, placed.id)
            file = self.workshop.store.find(DestinationRecord, to.id)
            self.assertEqual(
                (after.layout.caption, after.layout.align, after.description), (f"c{number}", align, f"d{number}")
            )
            self.assertEqual((file.limit_bytes, file.spot), (1_000_000 + number, f"b.{number % 3}"))

    def test_a_record_that_is_not_what_was_read_is_refused_by_the_store(self) -> None:
        """Only where the very fields changed; undo of such a change puts back nothing else."""
        record = self.take()
        with self.workshop.store.change("Rename") as change:
            change.update(record, replace(record, name="One"))
        with self.assertRaises(Superseded), self.workshop.store.change("Rename") as change:
            change.update(record, replace(record, name="Two"))
        with self.workshop.store.change("Consent") as change:
            merged = change.update(record, replace(record, consent=True))
        self.assertEqual((merged.name, merged.consent), ("One", True))
        self.workshop.store.undo()
        now = self.workshop.store.find(ClippingRecord, record.id)
        self.assertEqual((now.name, now.consent), ("One", False))


class Clock(BenchCase):
    """A clock that is set back."""

    def test_what_came_last_hangs_first(self) -> None:
        """Whatever day it claims to be."""
        first = self.take()
        self.workshop.now = lambda: "2019-01-01T00:00:00.000000"
        second = self.take()
        self.assertEqual([each.id for each in self.workshop.store.slips()], [second.id, first.id])
        newest = self.workshop.store.newest_clipping()
        self.assertEqual(newest and newest.id, second.id)
        self.assertEqual([each.id for each in self.workshop.store.slips((), 1, 5)], [first.id])
        self.assertEqual(self.workshop.store.count_slips(["tide"]), 2)
