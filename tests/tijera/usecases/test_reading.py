"""Words that clippings show: found like a plain scan finds them, and never those that were hidden since."""

import random
import unittest
from collections.abc import Callable, Sequence

from tests.support.bench import BenchCase
from tests.support.rack import fill_rack
from tests.support.rounds import rounds
from tests.support.sheets import mark
from tijera.core.clippings import edits
from tijera.core.errors import RecogniserFailed
from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture
from tijera.core.packages.formats.eml.compose import Letter
from tijera.core.packages.registry import new_document
from tijera.core.recognition.words import Shown, Word
from tijera.usecases import letters, looking, placing, rack, trimming
from tijera.usecases.reading import found_on, read_next, unread

_SYLLABLES = ("tide", "crew", "Log", "ö", "12", "quay", "ß", "-", "É", "net", "%", "_", "'", '"', "ab")


class Scripted:
    """Reads what it was told; something may happen while it does."""

    def __init__(self, text: str = "", then: Callable[[], object] = lambda: None) -> None:
        self.text = text
        self._then = then
        self.read_px: list[tuple[int, int]] = []

    def read(self, picture: Picture, scale_factor: float) -> Sequence[Word]:
        """Each word 10 px behind the one before."""
        self.read_px.append((picture.size.width, picture.size.height))
        self._then()
        return [Word(text, Rect(10 * at, 0, 9, 9)) for at, text in enumerate(self.text.split())]


class ReadingCase(BenchCase):
    """Pictures and who reads them."""

    def read(self, text: str) -> None:
        """Read all that has yet to be read, as showing this."""
        recogniser = Scripted(text)
        while read_next(self.workshop, recogniser):
            pass

    def found(self, words: str) -> set[str]:
        """The ids that are found, on all pages."""
        page = looking.rack(self.workshop, words, 0, 10_000)
        self.assertEqual(page.found, len(page.slips))
        return {each.id for each in page.slips}


class Reading(ReadingCase):
    """One clipping after the other."""

    def test_the_newest_is_read_first_and_each_once(self) -> None:
        """As it leaves: cropped."""
        self.take(Rect(90, 130, 300, 200))
        newest = self.take(Rect(90, 130, 120, 60))
        recogniser = Scripted("low tide")
        self.assertEqual(unread(self.workshop), 2)
        self.assertTrue(read_next(self.workshop, recogniser))
        self.assertEqual(self.found("tide low"), {newest.id})
        self.assertTrue(read_next(self.workshop, recogniser))
        self.assertFalse(read_next(self.workshop, recogniser))
        self.assertEqual(recogniser.read_px, [(120, 60), (300, 200)])

    def test_boxes_are_those_of_the_words_that_are_looked_for(self) -> None:
        """On the picture of that size."""
        one = self.take(Rect(90, 130, 120, 60))
        self.read("Berth four, berth two")
        found = found_on(self.workshop, [one.id, "gone"], "BERTH")[one.id]
        self.assertEqual((found.size.width, found.boxes), (120, (Rect(0, 0, 9, 9), Rect(20, 0, 9, 9))))
        self.assertEqual((found_on(self.workshop, [one.id], "pier"), found_on(self.workshop, [one.id], " ")), ({}, {}))

    def test_a_recogniser_that_breaks_off_keeps_nothing_from_being_read(self) -> None:
        """The picture counts as showing no words."""

        def breaks() -> None:
            raise RecogniserFailed(why="it ended with 1")

        self.take()
        with self.assertLogs("tijera.usecases.reading", "WARNING"):
            self.assertTrue(read_next(self.workshop, Scripted("tide", breaks)))
        self.assertEqual(unread(self.workshop), 0)


class Hidden(ReadingCase):
    """What was hidden after it was read."""

    def setUp(self) -> None:
        """A clipping that was read."""
        super().setUp()
        self.one = self.take(Rect(90, 130, 300, 200))
        self.read("secretword")
        self.assertEqual(self.found("secretword"), {self.one.id})

    def black_out(self) -> None:
        """Hide something on it."""
        hide = lambda sheet, crop: (edits.add(sheet, [mark("black-out", (10, 10), (60, 50))]), crop)  # noqa: E731
        trimming.edit(self.workshop, self.one.id, None, "Mark", hide)

    def test_it_is_found_no_more_from_that_moment(self) -> None:
        """Blacked out, cropped away, undone and done again, before anybody has read it anew."""
        changes: list[Callable[[], object]] = [
            self.black_out,
            lambda: rack.crop(self.workshop, self.one.id, Rect(0, 0, 40, 40)),
            lambda: self.workshop.store.undo(self.one.id),
            lambda: self.workshop.store.redo(self.one.id),
            lambda: rack.remove(self.workshop, [self.one.id]),
            self.workshop.store.undo,
        ]
        for change in changes:
            change()
            self.assertEqual(
                (self.found("secretword"), found_on(self.workshop, [self.one.id], "secretword")), (set(), {})
            )
            self.read("secretword")
        self.read("")
        self.assertEqual(self.found("secretword"), {self.one.id})

    def test_what_changes_while_it_is_read_is_read_again(self) -> None:
        """Nothing is kept of what was seen before."""
        rack.crop(self.workshop, self.one.id, Rect(0, 0, 250, 150))
        self.assertTrue(read_next(self.workshop, Scripted("secretword", self.black_out)))
        self.assertEqual((self.found("secretword"), unread(self.workshop)), (set(), 1))

    def test_on_joined_ones_too(self) -> None:
        """And on those that joined ones are laid on; others stay found."""
        other = self.take(Rect(500, 130, 200, 100))
        joined = trimming.join(self.workshop, [self.one.id, other.id], stacked=True)
        twice = trimming.join(self.workshop, [joined.id, other.id], stacked=True)
        apart = self.take(Rect(500, 130, 90, 70))
        self.read("secretword")
        self.assertEqual(self.found("secretword"), {self.one.id, other.id, joined.id, twice.id, apart.id})
        self.black_out()
        self.assertEqual(self.found("secretword"), {other.id, apart.id})

    def test_a_new_name_or_a_pin_leaves_the_words(self) -> None:
        """Nothing is read anew for them."""
        rack.rename(self.workshop, self.one.id, "Another")
        rack.pin(self.workshop, self.one.id, pinned=True)
        self.assertEqual((self.found("secretword another"), unread(self.workshop)), ({self.one.id}, 0))


class Everywhere(ReadingCase):
    """Name, window, day, picture, place, recipient."""

    def test_it_is_found_by_where_it_stands_and_to_whom_that_goes(self) -> None:
        """As long as it does."""
        one, other = self.take(), self.take(Rect(90, 130, 300, 200))
        _, data = new_document("docx")
        paper = self.open(data, "Ropes and fenders.docx")
        begun = letters.new_message(self.workshop)
        letters.write_letter(self.workshop, begun.id, Letter(to="Mae <mae@quillhaven.example>", subject="100 % wrong"))
        spot = next(iter(self.workshop.document(paper.blob, paper.name).spots())).id
        placing.place(self.workshop, paper.id, one.id, spot)
        placed = placing.place(self.workshop, begun.id, other.id, "h.0")
        self.assertEqual(
            (self.found("fenders"), self.found("mae@ 100"), self.found("0 %")), ({one.id}, {other.id}, {other.id})
        )
        self.assertEqual(self.found("fenders mae"), set())
        placing.take_out(self.workshop, placed.id)
        self.assertEqual(self.found("mae@"), set())

    def test_as_a_plain_scan_finds_it(self) -> None:
        """Random words over a rack of 300, of all lengths, with signs that mean something to the index or to SQL."""
        chance = random.Random(412)
        fill_rack(self.workshop, 300)
        said: dict[str, str] = {}
        for record in self.workshop.store.clippings():
            text = " ".join("".join(chance.choices(_SYLLABLES, k=chance.randint(1, 3))) for _ in range(6))
            words = tuple(Word(each, Rect(0, 0, 9, 9)) for each in text.split())
            shown = Shown(record.crop.size, words)
            self.assertTrue(self.workshop.store.note_shown(record.id, shown, lambda _: True))
            said[record.id] = f"{record.name} {record.window} {record.found_as}\n{text}\n"
        _, data = new_document("docx")
        paper = self.open(data, "Net log.docx")
        spot = next(iter(self.workshop.document(paper.blob, paper.name).spots())).id
        for record in self.workshop.store.clippings()[:40]:
            placing.place(self.workshop, paper.id, record.id, spot)
            said[record.id] += "Net log.docx"
        for _ in range(rounds(400)):
            terms = ["".join(chance.choices(_SYLLABLES, k=chance.randint(1, 2))) for _ in range(chance.randint(1, 3))]
            # SQLite holds cases alike beyond ASCII in the index of groups only, for terms of three letters and more.
            plain = {each for each, text in said.items() if all(_is_in(term, text) for term in terms)}
            self.assertEqual(self.found(" ".join(terms)), plain, terms)


def _is_in(term: str, text: str) -> bool:
    if len(term) >= 3:
        return any(term.lower() in line.lower() for line in text.split("\n"))
    return _ascii_lower(term) in _ascii_lower(text)


def _ascii_lower(text: str) -> str:
    return "".join(sign.lower() if sign.isascii() else sign for sign in text)


if __name__ == "__main__":
    unittest.main()
