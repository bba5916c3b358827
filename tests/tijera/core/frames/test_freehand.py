"""Freehand outlines."""

import unittest

import numpy as np

from tijera.core.errors import AreaEmpty
from tijera.core.frames.freehand import MOST_POINTS, Outline
from tijera.core.geometry import Rect, Size

_SIZE = Size(200, 120)


class Drawing(unittest.TestCase):
    """From the points of a pointer."""

    def test_points_are_kept_within_the_frame_and_thinned_out(self) -> None:
        """What a hand draws beyond the edge lies on the edge."""
        outline = Outline.drawn([(-5, 10), (-5.1, 10.1), (80, -3), (90, 60), (90.1, 60.1)], _SIZE)
        self.assertEqual(outline.points, ((0.0, 10), (80, 0.0), (90, 60)))
        self.assertEqual(str(outline.bounds), "90 × 60 at 0, 0")

    def test_a_line_that_goes_round_nothing_is_refused(self) -> None:
        """A point, two points, a line there and back."""
        for points in ([], [(5, 5)], [(5, 5), (60, 40)], [(5.0, 5.0), (60.0, 40.0), (5.0, 5.0)]):
            with self.subTest(points), self.assertRaises(AreaEmpty):
                Outline.drawn(list(points), _SIZE)

    def test_far_too_many_points_are_cut_off(self) -> None:
        """A pointer that was never lifted."""
        points = [(100 + 50 * np.cos(t / 50), 60 + 40 * np.sin(t / 50)) for t in range(60_000)]
        self.assertLessEqual(len(Outline.drawn(points, _SIZE).points), MOST_POINTS)


class Covering(unittest.TestCase):
    """How much of each pixel lies inside."""

    def test_whole_pixels_are_full_or_empty_and_half_ones_half(self) -> None:
        """A rectangle that ends in the middle of a column."""
        outline = Outline(((10, 20), (30.5, 20), (30.5, 40), (10, 40)))
        coverage = outline.coverage(Rect(5, 15, 30, 30))
        self.assertEqual((int(coverage[5, 5]), int(coverage[5, 4]), int(coverage[4, 5])), (255, 0, 0))
        self.assertLess(abs(int(coverage[10, 25]) - 128), 8)
        self.assertEqual(int(coverage[10, 26]), 0)

    def test_a_part_of_it_is_that_part_of_the_whole(self) -> None:
        """As a crop cuts it."""
        outline = Outline(((10, 20), (120, 4), (150, 90), (60, 110)))
        whole = outline.coverage(Rect.whole(_SIZE))
        part = outline.coverage(Rect(40, 30, 60, 50))
        self.assertTrue(np.array_equal(part, whole[30:80, 40:100]))
