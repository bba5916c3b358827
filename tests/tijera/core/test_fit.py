"""Measures of a placement; the cases are shared with the front end."""

import json
import unittest
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from tijera.core.errors import WidthTooLarge
from tijera.core.fit import WidthRule, measure, natural_width
from tijera.core.geometry import Size
from tijera.core.units import Length

_CASES = json.loads((Path(__file__).parents[2] / "data/fit_cases.json").read_text())


class Measures(unittest.TestCase):
    """How large a clipping becomes."""

    def test_worked_cases(self) -> None:
        """Width, height, sharpness and what decided them."""
        for case in _CASES:
            with self.subTest(case["name"]):
                rule = Length(case["rule"]) if isinstance(case["rule"], int) else WidthRule(case["rule"])
                place = [Length(emu) for emu in case["place"]]
                found = measure(Size(*case["pixels"]), case["scale_factor"], place[0], place[1], rule)
                self.assertEqual((found.width.emu, found.height.emu), (case["width"], case["height"]))
                self.assertAlmostEqual(found.ppi, case["ppi"], places=2)
                self.assertEqual((found.enlarged, found.bound_by), (case["enlarged"], case["bound_by"]))

    def test_a_width_beyond_the_place_is_refused(self) -> None:
        """It would run into the margin."""
        with self.assertRaises(WidthTooLarge) as caught:
            measure(Size(300, 200), 1, Length.from_mm(60), Length.from_mm(200), Length.from_mm(61))
        self.assertIn("61.0 mm was asked for, the place has 60.0 mm", str(caught.exception))

    def test_exactly_the_width_of_the_place_is_given(self) -> None:
        """Nothing runs over: it is the widest that may be asked for, and one EMU more is refused."""
        place = Length.from_mm(60)
        self.assertEqual(measure(Size(300, 200), 1, place, Length.from_mm(200), place).width, place)
        with self.assertRaises(WidthTooLarge):
            measure(Size(300, 200), 1, place, Length.from_mm(200), Length(place.emu + 1))

    def test_a_clipping_as_wide_as_its_place_is_bound_by_it(self) -> None:
        """Here "natural" would promise that a wider place made it wider; both are true, and the place is what can be changed."""
        place = Length(300 * 9_525)
        self.assertEqual(measure(Size(300, 200), 1, place, Length.from_mm(200)).bound_by, "place")
        self.assertEqual(measure(Size(299, 200), 1, place, Length.from_mm(200)).bound_by, "natural")

    def test_a_picture_is_never_thinner_than_one_unit(self) -> None:
        """A third of an EMU high is none that a file could say; two thirds are one."""
        heights = [measure(Size(30_000, rows), 1, Length(10_000), Length(10_000)).height.emu for rows in (1, 2, 3, 6)]
        self.assertEqual(heights, [1, 1, 1, 2])

    def test_a_scale_factor_keeps_its_fraction(self) -> None:
        """150 pixels at 150 % are 100 CSS pixels, at 125 % 120 (CSS Values 3, 6.2: 96 to the inch, 9,525 EMU each)."""
        self.assertEqual(
            [natural_width(150, factor) for factor in (1, 1.25, 1.5)], [each * 9_525 for each in (150, 120, 100)]
        )

    @given(
        st.integers(1, 4_000), st.integers(1, 9_000), st.sampled_from([1, 1.25, 1.5, 2]),
        st.integers(360_000, 9_000_000), st.integers(360_000, 9_000_000),
    )  # fmt: skip
    def test_by_itself_it_is_never_enlarged_nor_runs_over(
        self, width: int, height: int, factor: float, place: int, page: int
    ) -> None:
        """Whatever the picture and the place; the ratio is kept to the rounding."""
        found = measure(Size(width, height), factor, Length(place), Length(page))
        self.assertFalse(found.enlarged)
        self.assertLessEqual(found.width.emu, place)
        self.assertLessEqual(found.height.emu, page)
        if found.width.emu > 1 and found.height.emu > 1:
            self.assertLessEqual(abs(found.height.emu * width - found.width.emu * height), width + height)
