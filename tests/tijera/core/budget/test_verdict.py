"""Ladder and verdict: colours first, pixels last, and only what the limit asks for."""

import unittest
from collections.abc import Sequence

from tests.support.pictures import encoded, photograph_like, text_like
from tijera.core.budget.ladder import Rendition, Way, climb_down, first_rendition, packed_tighter, worth_keeping
from tijera.core.budget.verdict import Candidate, Progress, Verdict, find_fit
from tijera.core.geometry import Size
from tijera.core.imaging.encode import pack_tighter
from tijera.core.units import Length

_REST = 5_000
_WIDTH = Length.from_mm(60)


def _write(renditions: Sequence[Rendition]) -> int:
    return _REST + sum(rendition.bytes for rendition in renditions)


def _verdict(candidates: list[Candidate], limit: int) -> tuple[Verdict, int]:
    steps = list(find_fit(candidates, limit, _write))
    verdict = steps[-1]
    assert isinstance(verdict, Verdict)
    return verdict, sum(isinstance(step, Progress) for step in steps)


class Ladder(unittest.TestCase):
    """The renditions of one picture."""

    def test_a_screen_gives_up_colours_at_native_pixels_first(self) -> None:
        """The first rungs have every pixel."""
        picture = text_like(400, 240)
        rungs = worth_keeping([first_rendition(picture), *climb_down(picture, _WIDTH)])
        self.assertEqual(rungs[0].way, Way.AS_TAKEN)
        self.assertTrue(all(rung.size == picture.size for rung in rungs[1:3]))
        self.assertEqual([rung.bytes for rung in rungs], sorted((rung.bytes for rung in rungs), reverse=True))
        self.assertEqual([rung.loss for rung in rungs], sorted(rung.loss for rung in rungs))

    def test_no_rung_of_a_screen_loses_its_words(self) -> None:
        """Nine tenths of the ink stay on every one: below that the words themselves go (measured with a recogniser)."""
        rungs = list(climb_down(text_like(400, 240), _WIDTH))
        self.assertGreater(len(rungs), 2)
        self.assertLessEqual(max(rung.loss for rung in rungs), 0.10)

    def test_what_is_beaten_in_both_is_left_out(self) -> None:
        """Heavier and worse than the one before it, though better than the lightest."""
        made = [
            Rendition(bytes(size), "png", Size(1, 1), Way.AS_TAKEN, loss)
            for size, loss in ((10, 0.3), (20, 0.1), (30, 0.2), (40, 0.0))
        ]
        self.assertEqual([each.bytes for each in worth_keeping(made)], [40, 20, 10])

    def test_a_photograph_becomes_jpeg_and_never_larger_than_it_was(self) -> None:
        """And is not brought below what the floor allows."""
        picture = photograph_like(900, 500)
        rungs = list(climb_down(picture, _WIDTH))
        self.assertTrue(all(rung.way is Way.JPEG and rung.size.width <= 900 for rung in rungs))
        self.assertGreater(min(rung.size.width for rung in rungs), 900 // 4)

    def test_an_uncut_jpeg_keeps_its_own_bytes(self) -> None:
        """Decoding and encoding again would cost quality for nothing."""
        from tijera.core.imaging.decode import decode

        source = encoded(photograph_like(300, 170), "JPEG", quality=80)
        first = first_rendition(decode(source), source)
        self.assertEqual((first.way, first.loss), (Way.AS_IT_CAME, 0.0))
        self.assertLessEqual(first.bytes, len(source))


class Finding(unittest.TestCase):
    """Under the limit with the least loss."""

    def setUp(self) -> None:
        """A screen and a photograph."""
        pictures = (text_like(400, 240), photograph_like(400, 230))
        self.candidates = [Candidate(picture, first_rendition(picture), _WIDTH) for picture in pictures]
        self.now = _write([candidate.first for candidate in self.candidates])

    def test_under_the_limit_nothing_changes(self) -> None:
        """Not even a search is made."""
        verdict, steps = _verdict(self.candidates, self.now)
        self.assertEqual(([r.data for r in verdict.renditions], steps), ([c.first.data for c in self.candidates], 0))

    def test_one_byte_over_is_met(self) -> None:
        """With a result that was written, not estimated."""
        verdict, steps = _verdict(self.candidates, self.now - 1)
        self.assertTrue(verdict.fits)
        self.assertEqual(verdict.written_bytes, _write(verdict.renditions))
        self.assertLess(verdict.written_bytes, self.now)
        self.assertGreater(steps, 0)

    def test_what_is_packed_tighter_suffices_where_it_can(self) -> None:
        """The same pixels, all of them, where their tighter packing is under the limit."""
        tight = [packed_tighter(each.first) for each in self.candidates]
        self.assertLess(tight[0].bytes, self.candidates[0].first.bytes)
        verdict, _ = _verdict(self.candidates, _write(tight))
        self.assertEqual([each.data for each in verdict.renditions], [each.data for each in tight])
        self.assertTrue(all(each.loss == 0 for each in verdict.renditions))

    def test_what_the_package_itself_takes_is_found_out_by_writing(self) -> None:
        """A file that grows with another ending: the first choice is over, the next one is not, and not the lightest."""

        def grows(renditions: Sequence[Rendition]) -> int:
            return _write(renditions) + 900 * sum(
                each.data != first.first.data for each, first in zip(renditions, self.candidates, strict=True)
            )

        limit = self.now * 2 // 3
        *_, verdict = find_fit(self.candidates, limit, grows)
        assert isinstance(verdict, Verdict)
        self.assertTrue(verdict.fits)
        self.assertLessEqual(grows(verdict.renditions), limit)
        self.assertGreater(grows(verdict.renditions), limit * 0.6)

    def test_what_was_chosen_is_packed_as_tightly_as_can_be(self) -> None:
        """Where a screen gave up colours, packing it once more saves nothing."""
        alone = self.candidates[:1]
        verdict, _ = _verdict(alone, _REST + packed_tighter(alone[0].first).bytes * 3 // 4)
        (only,) = verdict.renditions
        self.assertEqual((verdict.fits, only.extension), (True, "png"))
        self.assertNotEqual(only.way, Way.AS_TAKEN)
        self.assertEqual(len(pack_tighter(only.data)), only.bytes)

    def test_progress_never_goes_back_nor_beyond_its_end(self) -> None:
        """Each step further than the one before or the same, the last one before the end."""
        steps = [each for each in find_fit(self.candidates, self.now // 2, _write) if isinstance(each, Progress)]
        done = [each.done for each in steps]
        self.assertEqual(done, sorted(done))
        self.assertTrue(all(0 <= each.done < each.of for each in steps))
        self.assertEqual(done[-1], steps[-1].of - 1)

    def test_the_photograph_pays_before_the_text(self) -> None:
        """Half the bytes gone, every word kept."""
        verdict, _ = _verdict(self.candidates, self.now // 2)
        self.assertTrue(verdict.fits)
        screen, photograph = verdict.renditions
        self.assertEqual(screen.size, self.candidates[0].picture.size)
        self.assertLess(screen.loss, 0.02)
        self.assertIs(photograph.way, Way.JPEG)

    def test_what_can_not_be_met_is_said_with_the_least_that_can_be(self) -> None:
        """The floor is not broken to get there."""
        verdict, _ = _verdict(self.candidates, _REST + 10)
        self.assertFalse(verdict.fits)
        self.assertEqual(verdict.written_bytes, _write(verdict.renditions))
        self.assertTrue(all(rendition.loss < 0.25 for rendition in verdict.renditions))
