"""Long pages: where a strip belongs, and what is refused."""

import unittest

import numpy as np

from tests.support.pages import Window, drawn_whole, page_of, strip_of
from tijera.core.errors import StripAmbiguous, StripApart, StripSize
from tijera.core.frames.longpage import stitcher as stitching
from tijera.core.frames.longpage.stitcher import Joined, Stitcher
from tijera.core.imaging.picture import Picture, Pixels

_WINDOW = Window(width=400, height=300, head=40, foot=24)


class StitchCase(unittest.TestCase):
    """Strips of one page."""

    def setUp(self) -> None:
        """A page of text, and nothing joined yet."""
        self.random = np.random.default_rng(11)
        self.stitcher = Stitcher()

    def page(self, *parts: tuple[str, int]) -> Pixels:
        """A page of parts."""
        return page_of(self.random, _WINDOW.width, list(parts))

    def add(
        self, page: Pixels, at: int, window: Window = _WINDOW, expected: int | None = None, number: int = 1
    ) -> Joined:
        """Join what the window shows there."""
        return self.stitcher.add(strip_of(page, window, at, self.random, number), expected)


class Joining(StitchCase):
    """Strips that fit."""

    def test_head_and_foot_stand_once(self) -> None:
        """The whole equals the page drawn whole."""
        page = self.page(("text", 900))
        outcomes = [self.add(page, at) for at in (0, 120, 260, 420, 560, 664)]
        self.assertEqual(outcomes, [Joined.FIRST, *[Joined.NEW] * 5])
        self.assertTrue(np.array_equal(self.stitcher.picture().pixels, drawn_whole(page, _WINDOW)))

    def test_a_strip_that_shows_nothing_new_changes_nothing(self) -> None:
        """The same once more, or scrolled back."""
        page = self.page(("text", 900))
        for at in (0, 120, 240):
            self.add(page, at)
        height = self.stitcher.height
        self.assertEqual([self.add(page, 240), self.add(page, 150)], [Joined.SAME, Joined.SAME])
        self.assertEqual(self.stitcher.height, height)
        self.assertEqual(self.add(page, 330), Joined.NEW)
        self.assertTrue(np.array_equal(self.stitcher.picture().pixels[40:-24], page[: 330 + _WINDOW.body]))

    def test_a_caret_that_blinks_and_a_clock_in_the_head_do_not_part_it(self) -> None:
        """They stand as one of the strips had them."""
        window = Window(400, 300, 40, 24, clock=True, caret=(150, 190))
        page = self.page(("text", 700))
        for number, at in enumerate((0, 90, 170, 250)):
            self.add(page, at, window, number=number)
        apart = (self.stitcher.picture().pixels[40:-24] != page[: 250 + window.body]).any(axis=2)
        rows, columns = np.nonzero(apart)
        self.assertTrue(
            rows.size == 0 or (rows.min() >= 190 and rows.max() < 206 and 150 <= columns.min() <= columns.max() < 152)
        )

    def test_a_scroll_bar_that_moves_is_left_out_with_its_track(self) -> None:
        """Not a column of the page is lost beside it."""
        window = Window(400, 300, 40, 24, bar=14)
        page = self.page(("text", 900))
        for at in (0, 130, 260):
            self.add(page, at, window)
        found = self.stitcher.picture()
        self.assertEqual(found.size.width, 400 - 14)
        self.assertTrue(np.array_equal(found.pixels[40:-24], page[: 260 + window.body, :386]))

    def test_a_label_at_the_edge_of_a_head_or_foot_is_no_scroll_bar(self) -> None:
        """Wide or narrow, left or right, the head plain or not: every column of the page stays."""
        cases = [
            (width, label, plain)
            for width in (364, 700, 1_152)
            for label in ("foot left", "foot right", "head left", "head right")
            for plain in (False, True)
        ]
        for width, label, plain in cases:
            with self.subTest(width=width, label=label, plain=plain):
                self.stitcher = Stitcher()
                window = Window(width, 300, 26, 26, label=label, plain=plain)
                # Line numbers at the left edge, ink at the right one.
                page = page_of(self.random, width, [("text", 900)])
                page[::14, 2:6], page[5::14, width - 6 : width - 2] = 90, 90
                for number, at in enumerate((0, 130, 250, 390, 500)):
                    self.add(
                        page, at, window, expected=None if number == 0 else at - (0, 130, 250, 390, 500)[number - 1]
                    )
                found = self.stitcher.picture().pixels
                self.assertEqual(found.shape[1], width)
                self.assertTrue(np.array_equal(found, drawn_whole(page[: 500 + window.body], window)))

    def test_a_scroll_bar_over_ink_of_the_page_stays(self) -> None:
        """Nothing of the page is lost for it."""
        window = Window(400, 300, 40, 24)
        page = self.page(("text", 900))
        page[::14, 388:398] = 60
        for number, at in enumerate((0, 130, 260)):
            strip = strip_of(page, window, at, self.random, number).pixels
            strip[60 + at // 4 : 130 + at // 4, 390:397] = 150
            self.stitcher.add(Picture(strip))
        self.assertEqual(self.stitcher.picture().size.width, 400)

    def test_a_scroll_bar_with_buttons_below_a_head_goes_and_one_below_an_icon_stays(self) -> None:
        """The head's icon would go with it."""
        for icon, width in ((False, 386), (True, 400)):
            with self.subTest(icon=icon):
                self.stitcher = Stitcher()
                window = Window(400, 300, 40, 24, bar=14)
                page = self.page(("text", 900))
                for number, at in enumerate((0, 130, 260)):
                    strip = strip_of(page, window, at, self.random, number).pixels
                    if icon:
                        strip[4:34, 388:398] = 20
                    else:
                        body = strip[40:276, 386:].copy()
                        strip[40:276, 386:] = 235
                        strip[52:264, 386:] = body[:212]
                        strip[40:52, 386:], strip[264:276, 386:] = 200, 200
                    self.stitcher.add(Picture(strip))
                self.assertEqual(self.stitcher.picture().size.width, width)

    def test_a_wide_status_line_that_changes_parts_nothing(self) -> None:
        """It stands once, as the last strip had it."""
        for status in (0.3, 0.5, 1.0):
            for known in (True, False):
                with self.subTest(status=status, known=known):
                    self.stitcher = Stitcher()
                    window = Window(400, 300, 40, 24, status=status)
                    page = self.page(("text", 900))
                    outcomes, last = [], 0
                    for at in (0, 130, 250, 390):
                        outcomes.append(self.add(page, at, window, expected=at - last if known and at else None))
                        last = at
                    self.assertEqual(outcomes, [Joined.FIRST, *[Joined.NEW] * 3])
                    found = self.stitcher.picture().pixels
                    self.assertTrue(np.array_equal(found[40:-24], page[: 390 + window.body]))

    def test_a_wide_status_line_that_changes_by_itself_is_nothing_new(self) -> None:
        """The page has not moved."""
        window = Window(400, 300, 40, 24, status=0.9)
        page = self.page(("text", 900))
        self.assertEqual([self.add(page, 50, window) for _ in range(3)], [Joined.FIRST, Joined.SAME, Joined.SAME])

    def test_noise_of_a_video_is_borne(self) -> None:
        """Within what 4:2:0 video does to greys; exact rows are not asked for then."""
        self.stitcher = Stitcher(exact=False)
        page = self.page(("text", 900))
        for at in (0, 140, 270, 400):
            strip = strip_of(page, _WINDOW, at, self.random, 1).pixels.astype(np.int16)
            noisy = np.clip(strip + self.random.integers(-1, 2, strip.shape), 0, 255).astype(np.uint8)
            self.assertIn(self.stitcher.add(Picture(noisy)), (Joined.FIRST, Joined.NEW))
        apart = np.abs(self.stitcher.picture().pixels[40:-24].astype(int) - page[: 400 + _WINDOW.body])
        self.assertLessEqual(int(apart.max()), 1)

    def test_the_thumbnail_shows_all_of_it(self) -> None:
        """Every n-th row across the seams."""
        page = self.page(("text", 900))
        for at in (0, 130, 260, 390):
            self.add(page, at)
        small = self.stitcher.thumbnail(200)
        step = -(-self.stitcher.height // 200)
        self.assertTrue(np.array_equal(small.pixels, self.stitcher.picture().pixels[::step, ::step]))

    def test_a_thumbnail_is_no_wider_than_asked_for(self) -> None:
        """One strip of a wide, low window."""
        self.add(self.page(("text", 300)), 0, Window(400, 100, 0, 0))
        size = self.stitcher.thumbnail(150).size
        self.assertEqual((size.width, size.height), (134, 34))

    def test_a_source_may_be_off_by_three_rows_and_no_more(self) -> None:
        """It counts in CSS pixels, which a screen scaled by 150 % rounds; beyond that it is another place."""
        page = self.page(("text", 900))
        for off in (-3, 3):
            self.stitcher = Stitcher()
            self.add(page, 0)
            with self.subTest(off):
                self.assertEqual(self.add(page, 200, expected=200 + off), Joined.NEW)
                self.assertEqual(self.stitcher.height, _WINDOW.height + 200)
        for off in (-4, 4):
            self.stitcher = Stitcher()
            self.add(page, 0)
            with self.subTest(off), self.assertRaises(StripApart):
                self.add(page, 200, expected=200 + off)

    def test_eight_rows_in_common_are_enough_where_the_distance_is_known(self) -> None:
        """And seven are not."""
        window = Window(400, 100, 0, 0)
        page = self.page(("noise", 300))
        self.add(page, 0, window)
        with self.assertRaises(StripApart):
            self.add(page, 93, window, expected=93)
        self.assertEqual(self.add(page, 92, window, expected=92), Joined.NEW)
        self.assertTrue(np.array_equal(self.stitcher.picture().pixels, page[:192]))


class Refusing(StitchCase):
    """Nothing is ever glued on with a guess."""

    def test_too_far_is_said_and_going_back_goes_on(self) -> None:
        """What was joined stays meanwhile."""
        page = self.page(("text", 1_200))
        self.add(page, 0)
        with self.assertRaises(StripApart) as caught:
            self.add(page, 400)
        self.assertIn("Go back a little", caught.exception.remedy)
        self.assertEqual(self.stitcher.height, 300)
        self.assertEqual(self.add(page, 150), Joined.NEW)

    def test_rows_that_repeat_are_refused_where_nobody_knows_the_distance(self) -> None:
        """With the distance they are joined."""
        page = self.page(("repeats", 900))
        self.add(page, 0)
        with self.assertRaises(StripAmbiguous):
            self.add(page, 100)
        self.assertEqual(self.add(page, 100, expected=101), Joined.NEW)
        self.assertTrue(np.array_equal(self.stitcher.picture().pixels[40:-24], page[: 100 + _WINDOW.body]))

    def test_rows_that_repeat_within_what_a_source_may_be_off_are_refused(self) -> None:
        """Stripes two rows apart: with the distance there are still several places."""
        page = self.page(("text", 900))
        page[:] = np.tile(self.random.integers(0, 256, (2, 1, 3), dtype=np.uint8), (450, _WINDOW.width, 1))
        page[:, ::3] = 255
        self.add(page, 0)
        with self.assertRaises(StripAmbiguous) as caught:
            self.add(page, 100, expected=100)
        self.assertIn("repeats itself after 2 rows", str(caught.exception))

    def test_noise_of_a_video_is_no_detail(self) -> None:
        """A page of two kinds of rows stays one of two kinds, however its noise makes them differ: nothing proves a place."""
        self.stitcher = Stitcher(exact=False)
        page = np.full((900, _WINDOW.width, 3), 250, dtype=np.uint8)
        page[300:310, 60:300] = 30
        window = Window(400, 300, 0, 0)
        for number, at in enumerate((0, 120)):
            strip = strip_of(page, window, at, self.random, number).pixels.astype(np.int16)
            noisy = Picture(np.clip(strip + self.random.integers(-1, 2, strip.shape), 0, 255).astype(np.uint8))
            if number == 0:
                self.stitcher.add(noisy)
            else:
                with self.assertRaises(StripApart):
                    self.stitcher.add(noisy)

    def test_a_block_that_comes_twice_with_small_changes_is_refused(self) -> None:
        """Two forms of one kind below each other: only one place explains all, and more than half speaks for another."""
        page = self.page(("text", 900))
        at = 118
        page[at + 59 : at + 118] = page[at : at + 59]
        page[at + 69 : at + 80] = page[400:411]
        self.add(page, 0)
        with self.assertRaises(StripAmbiguous):
            self.add(page, at)
        self.assertEqual(self.add(page, at, expected=at), Joined.NEW)

    def test_a_blank_overlap_says_nothing(self) -> None:
        """Even with the distance."""
        page = self.page(("text", 100), ("blank", 500), ("text", 300))
        self.add(page, 0)
        with self.assertRaises(StripAmbiguous) as caught:
            self.add(page, 180, expected=180)
        self.assertIn("blank", caught.exception.detail)

    def test_another_size_is_refused(self) -> None:
        """With both sizes."""
        page = self.page(("text", 900))
        self.add(page, 0)
        with self.assertRaisesRegex(StripSize, "400 × 300 px, this one is 400 × 280"):
            self.add(page, 100, Window(400, 280, 40, 24))

    def test_a_page_that_never_ends_is_left_off(self) -> None:
        """At the greatest height, which is kept."""
        before = stitching.MOST_HEIGHT_PX
        self.addCleanup(setattr, stitching, "MOST_HEIGHT_PX", before)
        stitching.MOST_HEIGHT_PX = 500
        page = self.page(("text", 1_500))
        outcomes = [self.add(page, at, expected=at and 120) for at in (0, 120, 240, 360)]
        self.assertEqual(outcomes, [Joined.FIRST, Joined.NEW, Joined.FULL, Joined.FULL])
        self.assertEqual(self.stitcher.picture().size.height, 500)
        self.assertEqual(before, 30_000)

    def test_a_page_that_grows_while_it_scrolls_is_joined_to_its_new_end(self) -> None:
        """New rows come at its end; what is there already does not move."""
        page = self.page(("text", 500))
        grown = np.concatenate((page, self.page(("text", 300))))
        for at, now in ((0, page), (150, page), (264, grown), (420, grown), (564, grown)):
            self.add(now, at)
        self.assertTrue(np.array_equal(self.stitcher.picture().pixels[40:-24], grown))
