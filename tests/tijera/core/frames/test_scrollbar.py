"""Scroll bars: found to the column where they are plain, and never where there is ink."""

import unittest

import numpy as np
from numpy.typing import NDArray

from tijera.core.frames.longpage.scrollbar import _Thumbs, bar_columns

_HEIGHT, _COLUMNS = 60, 24
_PAGE, _TRACK, _THUMB = 255, 232, 120
Strips = list[NDArray[np.uint8]]


def _strips(thumb: tuple[int, int], track_from: int | None, *, ink_to: int = 0, step: int = 6) -> Strips:
    """The outer columns of four strips: page with moving ink up to `ink_to`, a track from `track_from` (None: of the page's
    colour), a thumb over `thumb` columns that goes down by `step` rows a strip.
    """
    page = np.random.default_rng(5).integers(0, 200, (_HEIGHT * 2, ink_to, 1), dtype=np.uint8)
    strips = []
    for number in range(4):
        strip = np.full((_HEIGHT, _COLUMNS, 3), _PAGE, np.uint8)
        strip[:, :ink_to] = page[number * 10 : number * 10 + _HEIGHT]
        if track_from is not None:
            strip[:, track_from:] = _TRACK
        top = 4 + step * number
        strip[top : top + 12, thumb[0] : thumb[1]] = _THUMB
        strips.append(strip)
    return strips


class Moving(unittest.TestCase):
    """Rows in which something stands: whether it goes as the thumb of a scroll bar does."""

    def test_one_that_became_shorter_on_its_way_up_is_a_thumb(self) -> None:
        """Where it stood still or went down and became shorter, it is none: the page grew, and its thumb goes up then."""
        self.assertTrue(_Thumbs((20, 10, 15), (120, 60, 65)).go_down)
        self.assertFalse(_Thumbs((20, 20, 25), (120, 70, 75)).go_down)
        self.assertFalse(_Thumbs((20, 10, 5), (120, 110, 105)).go_down)
        self.assertFalse(_Thumbs((20, 20, 20), (60, 60, 60)).go_down)


class Bars(unittest.TestCase):
    """How many outer columns are cut off."""

    def test_a_track_ends_where_its_colour_does(self) -> None:
        """Wherever the thumb lies on it, as wide as the track or a single column of it."""
        for track_from in (8, 12, 17):
            for thumb in ((track_from, 24), (track_from + 2, 22), (track_from + 3, track_from + 4)):
                for ink_to in (0, 5, track_from):
                    with self.subTest(track_from=track_from, thumb=thumb, ink_to=ink_to):
                        found = bar_columns(_strips(thumb, track_from, ink_to=ink_to), exact=True)
                        self.assertEqual(found, _COLUMNS - track_from)

    def test_on_a_track_of_the_pages_colour_the_thumb_lies_in_the_middle(self) -> None:
        """As far in as there is track at the outer side; nothing is flat all the way to the page there."""
        for thumb, columns in (((14, 20), 14), ((12, 23), 13), ((10, 24), 14)):
            with self.subTest(thumb=thumb):
                self.assertEqual(bar_columns(_strips(thumb, None), exact=True), columns)

    def test_ink_beside_the_thumb_anywhere_between_its_ends_keeps_every_column(self) -> None:
        """In the first and in the last row that the thumb ever covers too: what shows there is the page's."""
        first, last = 4, 4 + 6 * 3 + 12 - 1
        for row in (first, first + 9, last - 1, last):
            strips = _strips((14, 20), 12)
            for strip in strips:
                strip[row, 22] = 0
            with self.subTest(row=row):
                self.assertEqual(bar_columns(strips, exact=True), 0)

    def test_what_does_not_go_down_is_no_thumb(self) -> None:
        """Up, or not at all, or a single strip."""
        self.assertEqual(bar_columns(_strips((14, 20), 12)[::-1], exact=True), 0)
        self.assertEqual(bar_columns(_strips((14, 20), 12, step=0), exact=True), 0)
        self.assertEqual(bar_columns(_strips((14, 20), 12)[:1], exact=True), 0)

    def test_noise_of_a_video_is_no_ink(self) -> None:
        """A few steps of lightness everywhere; looked at exactly they are ink."""
        strips = [
            np.clip(strip + np.random.default_rng(number).integers(-3, 4, strip.shape), 0, 255).astype(np.uint8)
            for number, strip in enumerate(_strips((14, 20), 12))
        ]
        self.assertGreaterEqual(bar_columns(strips, exact=False), 6)
        self.assertEqual(bar_columns(strips, exact=True), 0)


if __name__ == "__main__":
    unittest.main()
