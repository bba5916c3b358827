"""Make it fit, in a workshop: the bytes that there are are used, wherever the pictures go; the file's own pictures too."""

import io
from dataclasses import replace
from typing import Any, cast
from unittest import mock

import numpy as np
from PIL import Image

from tests.support.bench import BenchCase
from tests.support.pictured import pictured
from tests.support.pictures import encoded, photograph_like
from tijera.core.budget.say import Say, strongest
from tijera.core.budget.search import find_fit
from tijera.core.errors import ChangedMeanwhile, LimitNotMet, NotFound
from tijera.core.packages.formats.docx.document import open_docx
from tijera.core.packages.formats.eml.compose import Letter
from tijera.core.packages.places.placed import Layout
from tijera.core.packages.places.spots import Stand
from tijera.core.packages.registry import new_document, open_document, report_pictures
from tijera.demo.notice import make_notice
from tijera.records import DestinationRecord
from tijera.usecases import destinations, letters, limits, placing, taking, weighing
from tijera.usecases.fitting import Fitted, Proposed, keep_fitting, make_it_fit, propose, say_of
from tijera.usecases.helping import Help, HelpKind
from tijera.usecases.splitting import split


class FittingCase(BenchCase):
    """Photographs in a file."""

    def photograph(self, seed: int, width: int = 480, height: int = 320) -> str:
        """Brought in from elsewhere; the clipping's id."""
        pixels = np.roll(photograph_like(width, height).pixels, 37 * seed, axis=1)
        out = io.BytesIO()
        Image.fromarray(pixels).save(out, "PNG")
        return taking.bring_in(self.workshop, out.getvalue(), f"Photograph {seed}.png").id

    def placed(self, data: bytes, name: str, count: int, stand: Stand | None = None) -> DestinationRecord:
        """A file with so many photographs at its first place."""
        destination = self.open(data, name)
        spot = next(iter(destinations.document_of(self.workshop, destination).spots())).id
        for number in range(count):
            record = placing.place(self.workshop, destination.id, self.photograph(number), spot)
            if stand is not None:
                placing.adjust(self.workshop, record.id, layout=Layout(stand=stand))
        return destination

    def fit(self, destination: DestinationRecord, limit: int, *, with_own: bool = False) -> Fitted:
        """Make it fit, to the end."""
        *_, fitted = make_it_fit(self.workshop, destination, limit, with_own=with_own)
        assert isinstance(fitted, Fitted)
        return fitted

    def weight(self, destination: DestinationRecord) -> int:
        """What it would be written with now."""
        return weighing.weigh(self.workshop, self.workshop.store.find(DestinationRecord, destination.id)).file_bytes


def helps_of(error: LimitNotMet) -> list[Help]:
    """What a refusal says would help."""
    return [Help(**each) for each in cast("list[dict[str, Any]]", error.values["helps"])]


class Messages(FittingCase):
    """What base64 and a second copy add is reckoned, not taken as fixed: nothing is ruined for it."""

    def test_one_and_ten_pictures_use_what_there_is(self) -> None:
        """In the body, attached, both: nine tenths of the limit and more, where the first renditions were ten times as heavy."""
        name, data = new_document("eml")
        for count, stand, share in (
            (1, Stand.IN_BODY, 0.2),
            (1, Stand.BOTH, 0.15),
            (4, Stand.IN_BODY, 0.15),
            (3, Stand.ATTACHED, 0.1),
        ):
            destination = self.placed(data, name, count, stand)
            limit = int(self.weight(destination) * share)
            with self.subTest(stand, count=count):
                fitted = self.fit(destination, limit)
                self.assertEqual(self.weight(destination), fitted.file_bytes)
                self.assertLessEqual(fitted.file_bytes, limit)
                self.assertGreater(fitted.file_bytes, 0.9 * limit)


class Saying(FittingCase):
    """What the user says of a picture."""

    def test_what_is_kept_what_matters_and_what_may_suffer(self) -> None:
        """Kept: not a byte is given up, and what was is given back. It counts in all places of the picture, and is undone."""
        name, data = new_document("docx")
        destination = self.placed(data, name, 3)
        first, second, third = self.workshop.store.placements(destination.id)
        again = placing.place(self.workshop, destination.id, first.clipping, first.spot)
        heavy = self.weight(destination)
        limit = heavy * 55 // 100
        self.fit(destination, limit)
        say_of(self.workshop, again.id, Say.KEEP)
        kept = [each for each in self.workshop.store.placements(destination.id) if each.clipping == first.clipping]
        self.assertEqual([(each.say, each.rendition_blob) for each in kept], [("keep-as-it-is", None)] * 2)
        self.assertGreater(self.weight(destination), limit)
        say_of(self.workshop, second.id, Say.MORE)
        say_of(self.workshop, third.id, Say.LESS)
        self.fit(destination, limit)
        self.assertLessEqual(self.weight(destination), limit)
        after = {each.id: each for each in self.workshop.store.placements(destination.id)}
        self.assertIsNone(after[first.id].rendition_blob)
        sizes = [len(self.workshop.store.blobs.get(str(after[each.id].rendition_blob))) for each in (second, third)]
        self.assertGreater(sizes[0], sizes[1])
        for _ in range(4):
            self.workshop.store.undo()
        self.assertEqual({each.say for each in self.workshop.store.placements(destination.id)}, {"usual"})

    def test_the_most_demanding_place_counts(self) -> None:
        """Where different things are said of one picture."""
        orders = ((Say.LESS, Say.KEEP), (Say.USUAL, Say.MORE), (Say.LESS, Say.USUAL), ())
        self.assertEqual([strongest(each) for each in orders], [Say.KEEP, Say.MORE, Say.USUAL, Say.USUAL])


class Proposing(FittingCase):
    """What would be done, before it is."""

    def test_it_is_what_is_done_then_and_changes_nothing(self) -> None:
        """To the byte and the word, of the file's own pictures too."""
        message = self.placed(make_notice(), "Notice.eml", 1, Stand.IN_BODY)
        self._check(message, self.weight(message) // 2)
        self._check(self.placed(_log(), "Log.docx", 2), len(_log()))

    def test_what_was_proposed_is_not_searched_for_again(self) -> None:
        """Nor what was taken back; another limit, or another word of the user, asks for a search of its own."""
        destination = self.placed(_log(), "Log.docx", 2)
        heavy = self.weight(destination)
        limit = heavy // 2
        with mock.patch("tijera.usecases.fitting.find_fit", wraps=find_fit) as search:
            *_, proposed = propose(self.workshop, destination, limit)
            assert isinstance(proposed, Proposed)
            self.assertEqual(self.fit(destination, limit).file_bytes, proposed.file_bytes)
            self.assertEqual(self.weight(destination), proposed.file_bytes)
            self.workshop.store.undo()
            self.assertEqual(self.weight(destination), heavy)
            self.fit(destination, limit)
            self.assertEqual(search.call_count, 1)
            self.workshop.store.undo()
            self.fit(destination, limit + 1)
            self.assertEqual(search.call_count, 2)
            self.workshop.store.undo()
            say_of(self.workshop, self.workshop.store.placements(destination.id)[0].id, Say.LESS)
            self.fit(destination, limit)
            self.assertEqual(search.call_count, 3)

    def _check(self, destination: DestinationRecord, limit: int) -> None:
        heavy = self.weight(destination)
        *_, proposed = propose(self.workshop, destination, limit, with_own=True)
        assert isinstance(proposed, Proposed)
        self.assertEqual(self.weight(destination), heavy)
        fitted = self.fit(destination, limit, with_own=True)
        self.assertEqual(proposed.file_bytes, fitted.file_bytes)
        notes = [line.partition(": ")[2].partition(";")[0] for line in fitted.given_up]
        self.assertEqual([each.note for each in proposed.pictures if each.note], notes)
        after = weighing.weigh(self.workshop, self.workshop.store.find(DestinationRecord, destination.id)).pictures
        weights = {each.own[0].record.id if each.own else each.report.member: each.report.bytes for each in after}
        said = {each.member or each.placements[0]: each.bytes for each in proposed.pictures}
        self.assertEqual(said, {name: weights[name] for name in said})


class Helping(FittingCase):
    """What a refusal says would help: the weights are those that come of it."""

    def refused(self, destination: DestinationRecord, limit: int) -> dict[HelpKind, Help]:
        """The first help of each kind."""
        with self.assertRaises(LimitNotMet) as caught:
            self.fit(destination, limit)
        helps = helps_of(caught.exception)
        self.assertEqual(helps, sorted(helps, key=lambda each: (not each.fits, each.bytes)))
        return {each.kind: each for each in reversed(helps)}

    def test_leaving_one_out_and_falling_below_the_floor(self) -> None:
        """Of three photographs the first help to leave out is the heaviest; what may fall gives what was said."""
        destination = self.placed(new_document("docx")[1], "Report.docx", 3)
        helps = self.refused(destination, 8_000)
        self.assertNotIn(HelpKind.SPLIT, helps)
        out, fall = helps[HelpKind.LEAVE_OUT], helps[HelpKind.BELOW_FLOOR]
        say_of(self.workshop, fall.placements[0], Say.FALL)
        self.fit(destination, fall.bytes)
        self.assertLessEqual(self.weight(destination), fall.bytes)
        say_of(self.workshop, fall.placements[0], Say.USUAL)
        for each in out.placements:
            placing.take_out(self.workshop, each)
        self.assertLessEqual(self.fit(destination, out.bytes).file_bytes, out.bytes)
        with self.assertRaises(LimitNotMet):
            self.fit(destination, out.bytes - 400)

    def test_attaching_only_and_two_messages(self) -> None:
        """A message that carries its pictures twice, written here: each way comes to what was said."""
        destination = letters.new_message(self.workshop)
        letters.write_letter(self.workshop, destination.id, Letter(to="desk@quillhaven.example", subject="Tides"))
        for number in range(3):
            record = placing.place(self.workshop, destination.id, self.photograph(number), "h.0")
            placing.adjust(self.workshop, record.id, layout=Layout(stand=Stand.BOTH))
        destination = self.workshop.store.find(DestinationRecord, destination.id)
        helps = self.refused(destination, 20_000)
        attach, two = helps[HelpKind.ATTACH], helps[HelpKind.SPLIT]
        second = split(self.workshop, destination.id, two.placements)
        first = self.workshop.store.find(DestinationRecord, destination.id)
        weights = [self.fit(each, two.bytes + 60).file_bytes for each in (first, second)]
        self.assertLessEqual(max(weights), two.bytes + 60)
        subjects = [letter.subject for each in (first, second) if (letter := letters.letter_of(each))]
        self.assertEqual(subjects, ["Tides (1 of 2)", "Tides (2 of 2)"])
        self.assertEqual(len(self.workshop.store.placements(second.id)), len(two.placements))
        for _ in range(3):
            self.workshop.store.undo()
        self.assertEqual(len(self.workshop.store.placements(destination.id)), 3)
        self.assertIsNone(self.workshop.store.find_or_none(DestinationRecord, second.id))
        for each in attach.placements:
            placing.adjust(self.workshop, each, layout=Layout(stand=Stand.ATTACHED))
        destination = self.workshop.store.find(DestinationRecord, destination.id)
        self.assertLessEqual(self.fit(destination, attach.bytes).file_bytes, attach.bytes)

    def test_a_file_from_outside_is_not_split(self) -> None:
        """There is one of it only."""
        with self.assertRaises(NotFound):
            split(self.workshop, self.placed(new_document("docx")[1], "Report.docx", 1).id, [])


class Limits(FittingCase):
    """A limit is remembered for what it was set for, and kept until said otherwise."""

    def test_it_is_remembered_for_the_form_and_the_address(self) -> None:
        """The name in any case; of several addresses the least; forgotten when there is none any more. Never for new files."""
        form = self.open(_log(), "Claim.docx")
        limits.set_limit(self.workshop, form.id, 750_000)
        self.assertEqual(self.open(_log(), "CLAIM.docx", 2_000_000).limit_bytes, 750_000)
        limits.set_limit(self.workshop, form.id, None)
        self.assertIsNone(self.open(_log(), "Claim.docx").limit_bytes)
        name, data = new_document("docx")
        limits.set_limit(self.workshop, self.open(data, name).id, 1)
        self.assertIsNone(self.open(data, name).limit_bytes)
        for address, limit in (("desk@quillhaven.example", 500_000), ("office@quillhaven.example", 2_000_000)):
            message = letters.new_message(self.workshop)
            letters.write_letter(self.workshop, message.id, Letter(to=f"Somebody <{address}>"))
            limits.set_limit(self.workshop, message.id, limit)
        message = letters.new_message(self.workshop)
        both = Letter(to="office@quillhaven.example", cc="Desk@quillhaven.example")
        self.assertEqual(letters.write_letter(self.workshop, message.id, both).limit_bytes, 500_000)
        limits.set_limit(self.workshop, message.id, 9_000_000)
        typed = letters.write_letter(self.workshop, message.id, replace(both, cc=""))
        self.assertEqual(typed.limit_bytes, 9_000_000)

    def test_what_fits_is_kept_fitting_until_it_is_undone(self) -> None:
        """The file says so; so does one change."""
        destination = self.placed(new_document("docx")[1], "Report.docx", 1)
        self.fit(destination, self.weight(destination) // 2)
        self.assertTrue(self.workshop.store.find(DestinationRecord, destination.id).keeps_fitting)
        self.workshop.store.undo()
        self.assertFalse(self.workshop.store.find(DestinationRecord, destination.id).keeps_fitting)
        self.assertTrue(keep_fitting(self.workshop, destination.id, keeps=True).keeps_fitting)


def _log() -> bytes:
    """A document of somebody else, whose own three photographs are most of it."""
    sizes = ((420, 240), (330, 190), (280, 160))
    return pictured([(encoded(photograph_like(*size), "JPEG", quality=96), "jpeg") for size in sizes])


class OwnPictures(FittingCase):
    """What was in the file before."""

    def setUp(self) -> None:
        """With a clipping in it, which can't give as much as has to go."""
        super().setUp()
        self.own = len(_log())
        self.log = self.open(_log(), "Log.docx")
        placing.place(self.workshop, self.log.id, self.photograph(1, 240, 160), "b.1")
        self.limit = self.own * 7 // 10

    def test_they_pay_only_when_asked(self) -> None:
        """The refusal says what they would give; asked, they pay, and one undo gives all of it back."""
        heavy, before = self.weight(self.log), self.current()
        with self.assertRaises(LimitNotMet) as caught:
            self.fit(self.log, self.limit)
        own = next(each for each in helps_of(caught.exception) if each.kind == HelpKind.OWN_PICTURES)
        self.assertTrue(own.fits)
        self.assertLessEqual(own.bytes, self.limit)
        self.assertEqual(self.weight(self.log), heavy)
        fitted = self.fit(self.log, self.limit, with_own=True)
        self.assertEqual(self.weight(self.log), fitted.file_bytes)
        self.assertTrue(0.9 * self.limit < fitted.file_bytes <= self.limit)
        self.assertTrue(any(line.startswith("Log 1: ") for line in fitted.given_up))
        self.assertEqual(self.current().first_blob, before.blob)
        pictures = weighing.weigh(self.workshop, self.current()).pictures
        was = {each.label: each.was_bytes for each in pictures if not each.own}
        first = {each.description: each.bytes for each in report_pictures(open_document(_log()))}
        self.assertEqual(was["Log 1"], first["Log 1"])
        self.workshop.store.undo()
        self.assertEqual(self.current(), before)
        self.assertEqual(self.weight(self.log), heavy)

    def test_where_even_they_are_not_enough_that_is_said(self) -> None:
        """With the least that both could come to."""
        with self.assertRaises(LimitNotMet) as caught:
            self.fit(self.log, 5_000)
        own = next(each for each in helps_of(caught.exception) if each.kind == HelpKind.OWN_PICTURES)
        self.assertFalse(own.fits)
        self.assertLess(own.bytes, int(str(caught.exception.values["least_bytes"])))

    def test_what_was_slimmed_gets_back_what_it_may_weigh_again(self) -> None:
        """Each fit begins with the pictures as they were opened: a higher limit later gives back, down to the last byte."""
        whole = self.weight(self.log)
        first = self.fit(self.log, self.limit, with_own=True).file_bytes
        again = self.fit(self.current(), self.own, with_own=True)
        self.assertGreater(again.file_bytes, 0.9 * self.own)
        self.assertEqual(self.fit(self.current(), self.limit, with_own=True).file_bytes, first)
        self.assertEqual(self.fit(self.current(), whole, with_own=True).given_up, ())
        after = weighing.weigh(self.workshop, self.current()).pictures
        self.assertEqual([each.was_bytes for each in after], [None] * len(after))

    def current(self) -> DestinationRecord:
        """As it is now, but for when it was worked on last."""
        return replace(self.workshop.store.find(DestinationRecord, self.log.id), worked_at="")

    def test_a_file_without_clippings_is_made_to_fit_by_its_own(self) -> None:
        """Nothing else could pay."""
        heavy = self.open(_log(), "Heavy.docx")
        fitted = self.fit(heavy, self.limit)
        self.assertLessEqual(fitted.file_bytes, self.limit)
        self.assertTrue(fitted.given_up)

    def test_a_file_that_was_changed_meanwhile_is_not_written_over(self) -> None:
        """Its own pictures are others by now."""
        search = make_it_fit(self.workshop, self.log, self.limit, with_own=True)
        next(search)
        document = open_docx(_log())
        member = report_pictures(document)[0].member
        other = document.with_pictures({member: encoded(photograph_like(120, 80), "JPEG")}, {}, {})
        with self.workshop.store.change("Meanwhile") as change:
            before = replace(self.current(), blob=self.workshop.store.blobs.put(other))
            change.update(self.current(), before)
        with self.assertRaises(ChangedMeanwhile):
            list(search)
        self.assertEqual(self.current(), before)
