"""Sizes and rectangles."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tijera.core.geometry import Rect, Size

_RECTS = st.builds(Rect, st.integers(-50, 50), st.integers(-50, 50), st.integers(1, 60), st.integers(1, 40))


class Invariants(unittest.TestCase):
    """Nothing is empty."""

    def test_empty_sizes_and_rectangles_can_not_be_made(self) -> None:
        """Every later division would have to ask."""
        for make in (lambda: Size(0, 5), lambda: Size(5, -1), lambda: Rect(1, 2, 0, 3), lambda: Rect(1, 2, 3, -4)):
            with self.assertRaises(ValueError):
                make()

    def test_they_read_as_people_write_them(self) -> None:
        """Messages are made of them."""
        self.assertEqual((str(Size(30, 20)), str(Rect(1, 2, 30, 20))), ("30 × 20", "30 × 20 at 1, 2"))


class Relations(unittest.TestCase):
    """Within, overlapping, moved."""

    def test_the_far_edges_do_not_belong_to_it(self) -> None:
        """A rectangle as large as the picture lies within it; one pixel further it does not."""
        self.assertTrue(Rect.whole(Size(30, 20)).lies_within(Size(30, 20)))
        self.assertFalse(Rect(1, 0, 30, 20).lies_within(Size(30, 20)))
        self.assertFalse(Rect(-1, 0, 3, 2).lies_within(Size(30, 20)))

    @given(_RECTS, _RECTS)
    def test_overlap_counts_shared_pixels(self, one: Rect, other: Rect) -> None:
        """Compared with counting them."""

        def pixels(rect: Rect) -> set[tuple[int, int]]:
            return {(x, y) for x in range(rect.x, rect.right) for y in range(rect.y, rect.bottom)}

        self.assertEqual(one.overlap(other), len(pixels(one) & pixels(other)))
        self.assertEqual(one.overlap(other), other.overlap(one))

    @given(_RECTS, st.integers(-9, 9), st.integers(-9, 9))
    def test_moving_there_and_back_is_nothing(self, rect: Rect, dx: int, dy: int) -> None:
        """And the size stays."""
        moved = rect.shifted(dx, dy)
        self.assertEqual((moved.shifted(-dx, -dy), moved.size), (rect, rect.size))
