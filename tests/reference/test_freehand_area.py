"""Freehand outlines against a general geometry library (shapely, which stands on GEOS)."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Polygon, box

from tests.support.rounds import rounds
from tijera.core.frames.freehand import Outline
from tijera.core.geometry import Rect


def _star(seed: int, corners: int) -> list[tuple[float, float]]:
    """A closed line that does not cross itself: corners at growing angles, at any distance."""
    random = np.random.default_rng(seed)
    angles = np.sort(random.uniform(0, 2 * np.pi, corners))
    reach = random.uniform(20, 90, corners)
    return [(100 + float(r * np.cos(a)), 110 + float(r * np.sin(a))) for a, r in zip(angles, reach, strict=True)]


class Area(unittest.TestCase):
    """What lies inside."""

    @settings(max_examples=rounds(60))
    @given(seed=st.integers(0, 2**31), corners=st.integers(5, 40))
    def test_area_bounds_and_covered_pixels_agree(self, seed: int, corners: int) -> None:
        """The area to the last digit; the covered pixels to the rounding of their 256 steps."""
        points = _star(seed, corners)
        outline, polygon = Outline(tuple(points)), Polygon(points)
        if not polygon.is_valid:
            return
        self.assertAlmostEqual(outline.area, polygon.area, places=6)
        left, top, right, bottom = polygon.bounds
        bounds = outline.bounds
        self.assertTrue(bounds.x <= left < bounds.x + 1 and bounds.right - 1 < right <= bounds.right)
        self.assertTrue(bounds.y <= top < bounds.y + 1 and bounds.bottom - 1 < bottom <= bounds.bottom)
        covered = float(outline.coverage(bounds).sum()) / 255
        # The rasteriser rounds each pixel on the line; the error grows with the length of the line.
        self.assertLess(abs(covered - polygon.area), 0.04 * polygon.length + 2)

    def test_single_pixels_are_covered_as_the_library_cuts_them(self) -> None:
        """Pixel by pixel along one outline."""
        points = _star(4, 14)
        polygon, bounds = Polygon(points), Outline(tuple(points)).bounds
        coverage = Outline(tuple(points)).coverage(bounds)
        worst = 0.0
        for y in range(0, bounds.height, 3):
            for x in range(0, bounds.width, 3):
                pixel = box(bounds.x + x, bounds.y + y, bounds.x + x + 1, bounds.y + y + 1)
                worst = max(worst, abs(polygon.intersection(pixel).area - coverage[y, x] / 255))
        self.assertLess(worst, 0.13)

    def test_a_rectangle_is_exact(self) -> None:
        """Along whole pixels."""
        outline = Outline(((10, 20), (50, 20), (50, 45), (10, 45)))
        self.assertEqual(outline.area, box(10, 20, 50, 45).area)
        self.assertTrue((outline.coverage(Rect(10, 20, 40, 25)) == 255).all())
