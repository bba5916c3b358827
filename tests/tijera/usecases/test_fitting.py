"""Make it fit, in a workshop: the bytes that there are are used, wherever the pictures go; the file's own pictures too."""

import io
from dataclasses import replace

import numpy as np
from PIL import Image

from tests.support.bench import BenchCase
from tests.support.pictures import encoded, photograph_like
from tijera.core.budget.say import Say, strongest
from tijera.core.errors import ChangedMeanwhile, LimitNotMet
from tijera.core.packages.formats.docx.document import open_docx
from tijera.core.packages.places.placed import Layout
from tijera.core.packages.places.spots import Stand
from tijera.core.packages.registry import new_document
from tijera.demo.handbook import make_handbook
from tijera.records import DestinationRecord
from tijera.usecases import destinations, placing, taking, weighing
from tijera.usecases.fitting import Fitted, make_it_fit, say_of


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


class OwnPictures(FittingCase):
    """What was in the file before."""

    def setUp(self) -> None:
        """The handbook, whose own three pictures are most of it."""
        super().setUp()
        self.handbook = self.placed(make_handbook(), "Crew handbook.docx", 1)

    def test_they_pay_only_when_asked(self) -> None:
        """The refusal says what they would give; asked, they pay, and one undo gives all of it back."""
        heavy = self.weight(self.handbook)
        before = self.workshop.store.find(DestinationRecord, self.handbook.id)
        with self.assertRaises(LimitNotMet) as caught:
            self.fit(self.handbook, 900_000)
        values = caught.exception.values
        self.assertTrue(values["with_own_fits"])
        self.assertLessEqual(int(str(values["with_own_bytes"])), 900_000)
        self.assertEqual(self.weight(self.handbook), heavy)
        fitted = self.fit(self.handbook, 900_000, with_own=True)
        self.assertEqual(self.weight(self.handbook), fitted.file_bytes)
        self.assertLessEqual(fitted.file_bytes, 900_000)
        self.assertGreater(fitted.file_bytes, 850_000)
        self.assertTrue(any(line.startswith("Quillhaven harbour from above: ") for line in fitted.given_up))
        after = self.workshop.store.find(DestinationRecord, self.handbook.id)
        self.assertEqual(after.first_blob, before.blob)
        was = {each.label: each.was_bytes for each in weighing.weigh(self.workshop, after).pictures if not each.own}
        self.assertEqual(was["Quillhaven harbour from above"], 732_366)
        self.workshop.store.undo()
        self.assertEqual(self.workshop.store.find(DestinationRecord, self.handbook.id), before)
        self.assertEqual(self.weight(self.handbook), heavy)

    def test_where_even_they_are_not_enough_that_is_said(self) -> None:
        """With the least that both could come to."""
        with self.assertRaises(LimitNotMet) as caught:
            self.fit(self.handbook, 50_000)
        values = caught.exception.values
        self.assertFalse(values["with_own_fits"])
        self.assertLess(int(str(values["with_own_bytes"])), int(str(values["least_bytes"])))

    def test_a_file_that_was_changed_meanwhile_is_not_written_over(self) -> None:
        """Its own pictures are others by now."""
        search = make_it_fit(self.workshop, self.handbook, 1_150_000, with_own=True)
        next(search)
        document = open_docx(make_handbook())
        other = document.with_pictures({"word/media/image3.jpeg": encoded(photograph_like(120, 80), "JPEG")})
        with self.workshop.store.change("Meanwhile") as change:
            before = replace(self.handbook, blob=self.workshop.store.blobs.put(other))
            change.update(self.workshop.store.find(DestinationRecord, self.handbook.id), before)
        with self.assertRaises(ChangedMeanwhile):
            list(search)
        self.assertEqual(self.workshop.store.find(DestinationRecord, self.handbook.id), before)
