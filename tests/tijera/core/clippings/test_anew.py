"""What is said of a picture that was taken anew: how much of it differs, and round which marks."""

import unittest

import numpy as np

from tests.support.sheets import mark, screen
from tijera.core.clippings.anew import marks_apart, share_apart
from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture


def _changed(area: Rect) -> Picture:
    """The test screen, 120 × 80, with other colours in an area."""
    pixels = screen()
    pixels[area.y : area.bottom, area.x : area.right] ^= 0x55
    return Picture(pixels)


class Apart(unittest.TestCase):
    """By pixels."""

    def setUp(self) -> None:
        """Marks in two corners and in the middle; one of them high, one wide."""
        self.old = Picture(screen())
        self.marks = [
            mark("ring", (94, 8), (112, 14), id_="right"),
            mark("ring", (8, 58), (12, 74), id_="below"),
            mark("pennant", (60, 40), id_="middle"),
        ]

    def test_only_the_mark_round_which_something_changed_is_named(self) -> None:
        """Whichever it is, and wherever beside it within a dozen pixels."""
        for area, name in (
            (Rect(92, 4, 20, 14), "right"),
            (Rect(104, 17, 16, 9), "right"),
            (Rect(4, 54, 12, 24), "below"),
            (Rect(14, 60, 9, 18), "below"),
            (Rect(56, 34, 10, 10), "middle"),
        ):
            self.assertEqual(marks_apart(self.marks, self.old, _changed(area)), (name,), area)

    def test_what_changed_far_from_all_marks_concerns_none(self) -> None:
        """A corner without one; and nothing at all."""
        self.assertEqual(marks_apart(self.marks, self.old, _changed(Rect(100, 60, 20, 20))), ())
        self.assertEqual(marks_apart(self.marks, self.old, self.old), ())

    def test_another_size_concerns_all(self) -> None:
        """Nothing can be compared."""
        cut = Picture(np.ascontiguousarray(screen()[:-1]))
        self.assertEqual(marks_apart(self.marks, self.old, cut), ("right", "below", "middle"))
        self.assertEqual(share_apart(self.old, cut), 1.0)

    def test_the_share_is_of_all_pixels(self) -> None:
        """A tenth of them differ by far, or by too little to be seen."""
        tenth = _changed(Rect(0, 0, 120, 8))
        self.assertAlmostEqual(share_apart(self.old, tenth), 0.1, places=9)
        self.assertEqual(share_apart(self.old, Picture(screen() - 2)), 0.0)


if __name__ == "__main__":
    unittest.main()
