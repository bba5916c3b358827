"""When a search packs what it chose: it is the slow part, and does not pay everywhere."""

import unittest

from tests.support.pictures import photograph_like
from tests.support.sack import Sack
from tests.support.screens import screen
from tijera.core.budget.ladder import FIRST, Ladder, Recipe
from tijera.core.budget.rendition import Rendition, Way, first_rendition, packed_tighter
from tijera.core.budget.search import Verdict, Wanted, find_fit
from tijera.core.imaging.encode import encode_frame
from tijera.core.units import Length

_WIDTH = Length.from_mm(60)
_FEWER = Recipe(Way.COLOURS, 8)


class Photographs(unittest.TestCase):
    """A photograph that stays without loss, beside a screen that gave up colours."""

    def setUp(self) -> None:
        """The screen weighs little with eight colours, packed already; the photograph more than a byte a pixel."""
        photograph, page = photograph_like(200, 120), screen("at 200 %")
        heavy = Rendition(encode_frame(page), "png", page.size, Way.AS_TAKEN, 0.0)
        self.page = Ladder(lambda: page, heavy, _WIDTH)
        self.page.make(_FEWER)
        self.page.pack(_FEWER)
        self.photograph = Ladder(lambda: photograph, first_rendition(photograph), _WIDTH)
        both = (self.page.made[_FEWER], self.photograph.first)
        self.assertGreater(heavy.bytes - both[0].bytes, 0.2 * (heavy.bytes + both[1].bytes))
        self.weight = Sack().written(both)

    def found(self, limit: int) -> Verdict:
        """What is chosen under a limit, which is neither of both as they are."""
        *_, verdict = find_fit([Wanted(self.page), Wanted(self.photograph)], limit, Sack())
        assert isinstance(verdict, Verdict)
        self.assertTrue(verdict.fits)
        return verdict

    def test_it_is_left_alone_where_nothing_is_unused(self) -> None:
        """Next to nothing would come free."""
        verdict = self.found(self.weight)
        self.assertEqual(verdict.renditions[1], self.photograph.first)
        self.assertNotIn(FIRST, self.photograph.packed)

    def test_it_is_packed_where_something_is_unused(self) -> None:
        """A little more may make room for a better rendition of the screen."""
        self.found(self.weight + self.weight // 200)
        self.assertIn(FIRST, self.photograph.packed)
        self.assertLess(self.photograph.made[FIRST].bytes, self.photograph.first.bytes)

    def test_which_is_one_is_told_by_its_weight(self) -> None:
        """More than a byte a pixel, of which packing finds next to nothing; a screen is packed by a tenth and more."""
        self.assertTrue(self.photograph.first.is_noise)
        self.assertGreater(packed_tighter(self.photograph.first).bytes, 0.98 * self.photograph.first.bytes)
        self.assertFalse(self.page.first.is_noise)
        self.assertLess(packed_tighter(self.page.first).bytes, 0.9 * self.page.first.bytes)


class Fallen(unittest.TestCase):
    """A picture of which the user says that it may become unreadable."""

    def test_each_step_has_fewer_pixels_and_weighs_less(self) -> None:
        """Of a screen down to three tenths across, of a photograph down to forty pixels to the placed inch."""
        for picture, narrowest in (
            (screen("light"), round(0.3 * 430)),
            (photograph_like(900, 500), round(40 * _WIDTH.inches)),
        ):
            ladder = Ladder(lambda picture=picture: picture, first_rendition(picture), _WIDTH)  # type: ignore[misc]
            ladder.fall()
            fallen = [made for recipe, made in ladder.made.items() if recipe != FIRST]
            self.assertEqual(len(fallen), 3)
            by_weight = sorted(fallen, key=lambda made: made.bytes, reverse=True)
            self.assertEqual(fallen, by_weight)
            self.assertEqual(fallen[-1].size.width, narrowest)
            self.assertLess(fallen[1].size.width, fallen[0].size.width)
            self.assertFalse(fallen[-1].is_above_floor)
            self.assertNotIn(fallen[-1], [ladder.made[recipe] for recipe in ladder.rungs()])


if __name__ == "__main__":
    unittest.main()
