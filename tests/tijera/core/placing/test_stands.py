"""How a clipping stands: worked by hand from the rules of measures, for the interface and the command line alike."""

from __future__ import annotations

import unittest
from fractions import Fraction

from tests.support.sheets import clipping_of, screen
from tijera.core.clippings.cutting import Clipping
from tijera.core.clippings.legend import LegendLine
from tijera.core.errors import NotFound, NotPossibleThere, WidthTooLarge
from tijera.core.fit import WidthRule
from tijera.core.packages.places.placed import Align, Layout
from tijera.core.packages.places.spots import Follows, Side, Spot, SpotKind, Stand
from tijera.core.placing.possible import check_possible
from tijera.core.placing.readability import Grade, grade_of
from tijera.core.placing.stands import Rule, Wish, stand_alike, stand_in
from tijera.core.units import Length

_COLUMN, _HEIGHT = Length.from_mm(165), Length.from_mm(247)


def _spot(*widths: Length, height: Length = _HEIGHT, free: Length | None = None, grows: Length | None = None, kind: SpotKind = SpotKind.BODY, stands: tuple[Stand, ...] = (Stand.LINES, Stand.WORD, Stand.TEXT_LEFT)) -> Spot:  # fmt: skip
    zero = Length(0)
    return Spot("s", kind, Follows.PARAGRAPH, "", widths or (_COLUMN,), height, 0, Side.AFTER, zero, zero, stands, free, grows)  # fmt: skip


def _clipping(width: int, height: int, scale_factor: float = 1.0) -> Clipping:
    return clipping_of(screen(width, height), scale_factor=scale_factor)


def _mm(clipping: Clipping, spot: Spot, rule: Rule = WidthRule.FIT, layout: Layout | None = None, legend: tuple[LegendLine, ...] = ()) -> tuple[float, float]:  # fmt: skip
    found = stand_in(clipping, spot, Wish(spot.width, rule, layout or Layout(), legend)).measures
    return round(found.width.mm, 1), round(found.height.mm, 1)


class Standing(unittest.TestCase):
    """Sizes in millimetres."""

    def test_natural_size_the_place_and_filling_it(self) -> None:
        """200 × 90 px are 52.9 × 23.8 mm at natural size; filled, 165 mm wide and 165 × 90 / 200 = 74.25 mm high."""
        self.assertEqual(_mm(_clipping(200, 90), _spot()), (52.9, 23.8))
        self.assertEqual(_mm(_clipping(200, 90), _spot(), WidthRule.FILL), (165.0, 74.2))
        self.assertEqual(_mm(_clipping(200, 90, 2.0), _spot()), (26.5, 11.9))
        self.assertEqual(_mm(_clipping(1_000, 450), _spot()), (165.0, 74.2))
        self.assertEqual(_mm(_clipping(200, 90), _spot(), Length.from_mm(80)), (80.0, 36.0))

    def test_words_below_take_of_the_height(self) -> None:
        """One line of 12.5 pt and 6 pt apart is 6.526 mm; 300 × 3000 px then stand 240.5 high and a tenth wide."""
        tall, caption = _clipping(300, 3_000), Layout(caption="Depth")
        self.assertEqual(_mm(tall, _spot()), (24.7, 247.0))
        self.assertEqual(_mm(tall, _spot(), layout=caption), (24.0, 240.5))
        legend = (LegendLine("1", "The bell"), LegendLine("2", "The rope"))
        self.assertEqual(_mm(tall, _spot(), layout=Layout(legend=True), legend=legend), (23.4, 233.9))
        self.assertEqual(_mm(tall, _spot(), layout=Layout(), legend=legend), (24.7, 247.0))
        endless = Layout(caption="word " * 2_000)
        self.assertEqual(_mm(tall, _spot(), layout=endless), (6.2, 61.8), "a quarter of the height stays")

    def test_beside_text_a_wide_one_leaves_room(self) -> None:
        """Half the column where it would take more than two thirds; what was typed or filled stays."""
        beside = Layout(stand=Stand.TEXT_LEFT)
        self.assertEqual(_mm(_clipping(1_000, 450), _spot(), layout=beside), (82.5, 37.1))
        self.assertEqual(_mm(_clipping(200, 90), _spot(), layout=beside), (52.9, 23.8))
        self.assertEqual(_mm(_clipping(1_000, 450), _spot(), WidthRule.FILL, beside), (165.0, 74.2))

    def test_columns_offers_and_growing_rows(self) -> None:
        """The narrowest column counts unless another is named; an offered width bounds nothing; a row may grow."""
        narrow, wide = Length.from_mm(52), Length.from_mm(99)
        two = _spot(wide, narrow)
        self.assertEqual(_mm(_clipping(1_000, 450), two), (52.0, 23.4))
        self.assertAlmostEqual(stand_in(_clipping(1_000, 450), two, Wish(wide)).measures.width.mm, 99, 2)
        with self.assertRaises(NotFound):
            stand_in(_clipping(10, 10), two, Wish(Length.from_mm(70)))
        with self.assertRaises(WidthTooLarge):
            stand_in(_clipping(10, 10), two, Wish(narrow, Length.from_mm(60)))
        cell = _spot(narrow, height=Length.from_mm(20), free=Length.from_mm(500), grows=Length.from_mm(140), kind=SpotKind.SHEET, stands=(Stand.HANGS,))  # fmt: skip
        self.assertEqual(_mm(_clipping(1_000, 450), cell), (44.4, 20.0))
        self.assertEqual(_mm(_clipping(1_000, 450), cell, layout=Layout(grows_row=True)), (264.6, 119.1))
        self.assertEqual(_mm(_clipping(1_000, 450), cell, WidthRule.FILL, Layout(grows_row=True)), (52.0, 23.4))

    def test_a_scale_that_is_kept_and_one_that_is_shared(self) -> None:
        """Half of natural size; and of a group the smallest scale that any of them needs."""
        self.assertEqual(_mm(_clipping(200, 90), _spot(), Fraction(1, 2)), (26.5, 11.9))
        self.assertEqual(_mm(_clipping(4_000, 90), _spot(), Fraction(1, 2)), (165.0, 3.7))
        large, small, spot = _clipping(1_247, 400), _clipping(200, 90), _spot()
        group = [(each, spot, Wish.plain(spot)) for each in (large, small)]
        found = stand_alike(small, spot, Wish.plain(spot), group).measures
        self.assertAlmostEqual(found.width.mm, 52.917 * 165 / (1_247 * 25.4 / 96), 2)


class Possible(unittest.TestCase):
    """What a place can't do is refused with its reason."""

    def test_wishes_and_places(self) -> None:
        """Each refused one, and beside it one that is possible."""
        body = _spot()
        sheet = _spot(kind=SpotKind.SHEET, stands=(Stand.HANGS, Stand.STAYS), grows=_COLUMN)
        files = _spot(kind=SpotKind.MESSAGE, stands=(Stand.ATTACHED,))
        refused = [
            (body, Layout(stand=Stand.HANGS), "“hangs” is not possible in a text document: it has lines, word"),
            (body, Layout(stand=Stand.WORD, caption="c"), "A caption is not possible like a word"),
            (body, Layout(caption_above=True), "there is no caption"),
            (body, Layout(stand=Stand.TEXT_LEFT, beside="b"), "on lines of its own only"),
            (body, Layout(grows_row=True), "no row that can grow"),
            (body, Layout(stand=Stand.WORD, align=Align.LEFT), "stands where it is put"),
            (sheet, Layout(caption="c"), "on a sheet"),
            (sheet, Layout(margin=Length(0)), "nothing runs round it"),
            (files, Layout(stand=Stand.IN_BODY), "among the attachments"),
            (files, Layout(caption="c"), "no words go with a picture"),
            (files, Layout(legend=True), "A legend is not possible"),
            (body, Layout(stand=Stand.WORD, legend=True), "A legend is not possible like a word"),
            (files, Layout(margin=Length(0)), "nothing runs round it"),
            (files, Layout(align=Align.LEFT), "stands where it is put"),
            (sheet, Layout(align=Align.LEFT), "stands where it is put"),
            (body, Layout(along_outline=True), "no text runs beside it"),
        ]
        for spot, layout, words in refused:
            with self.subTest(words), self.assertRaisesRegex(NotPossibleThere, words):
                check_possible(spot, layout)
        for spot, layout in (
            (body, Layout(caption="c", caption_above=True, beside="b", align=Align.LEFT, margin=Length(0))),
            (body, Layout(legend=True)),
            (body, Layout(stand=Stand.TEXT_LEFT, along_outline=True)),
            (sheet, Layout(stand=Stand.STAYS, grows_row=True)),
            (files, Layout()),
        ):
            check_possible(spot, layout)

    def test_grades(self) -> None:
        """The bounds themselves are on the better side for the floor, on the worse for small."""
        found = [grade_of(each) for each in (None, 4.49, 4.5, 6.0, 6.01)]
        self.assertEqual(found, [Grade.NONE, Grade.WEAK, Grade.SMALL, Grade.SMALL, Grade.FINE])
