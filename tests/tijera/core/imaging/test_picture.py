"""Pictures in memory, and telling screens from photographs."""

import unittest

import numpy as np

from tests.support.pictures import photograph_like, text_like
from tests.support.screens import screen
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_jpeg
from tijera.core.imaging.lettering import text_lines
from tijera.core.imaging.measure import Original
from tijera.core.imaging.palette import Histogram, in_few_colours
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.resize import resize, shrink_to_fit
from tijera.desk.desk import PracticeDesk


class Shape(unittest.TestCase):
    """What a picture may be."""

    def test_other_shapes_and_types_are_refused(self) -> None:
        """Grey, two bands, floating point, nothing."""
        for shape, kind in (((4, 5), np.uint8), ((4, 5, 2), np.uint8), ((4, 5, 3), np.float32), ((0, 5, 3), np.uint8)):
            with self.subTest(shape), self.assertRaises(ValueError):
                Picture(np.zeros(shape, dtype=kind))

    def test_a_cut_must_lie_inside(self) -> None:
        """Slicing would give less in silence."""
        self.assertEqual(text_like(40, 30).cut(Rect(5, 6, 20, 10)).size, Size(20, 10))
        with self.assertRaises(ValueError):
            text_like(40, 30).cut(Rect(30, 6, 11, 10))


class Kind(unittest.TestCase):
    """By how many pixels equal their neighbours."""

    def test_windows_with_text_are_screens_and_the_chart_is_a_photograph(self) -> None:
        """Every window of the practice desk."""
        desk = PracticeDesk()
        found = {window.id: desk.window(window.id).is_photograph for window in desk.look().windows}
        self.assertEqual({id_ for id_, is_photograph in found.items() if is_photograph}, {"harbour-chart"})

    def test_a_picture_one_pixel_wide_is_no_photograph(self) -> None:
        """It has no neighbours."""
        self.assertFalse(photograph_like(1, 20).is_photograph)


class Sizes(unittest.TestCase):
    """Scaling."""

    def test_shrinking_keeps_the_ratio_and_never_enlarges(self) -> None:
        """The same object where it fits already."""
        picture = text_like(120, 70)
        self.assertEqual(shrink_to_fit(picture, Size(60, 60)).size, Size(60, 35))
        self.assertIs(shrink_to_fit(picture, Size(500, 500)), picture)

    def test_odd_sizes_come_out_exactly(self) -> None:
        """A library that rounds by itself would be one pixel off now and then."""
        picture = photograph_like(101, 67)
        for size in (Size(33, 50), Size(1, 1), Size(100, 66), Size(7, 60)):
            with self.subTest(size):
                self.assertEqual(resize(picture, size).size, size)


class Loss(unittest.TestCase):
    """What the measure says of plain cases."""

    def test_a_blank_picture_can_not_lose_anything(self) -> None:
        """There is nothing to read on it."""
        blank = Picture(np.full((30, 40, 3), 240, dtype=np.uint8))
        self.assertEqual(Original(blank).loss(text_like(40, 30)).text, 0.0)
        self.assertEqual(Original(blank).loss(blank).total, 0.0)

    def test_half_the_size_loses_more_than_nine_tenths(self) -> None:
        """For text; and no loss is no loss."""
        picture = PracticeDesk().window("crew-roster")
        original = Original(picture)
        size = picture.size
        half, most = (resize(picture, Size(int(size.width * f), int(size.height * f))) for f in (0.5, 0.9))
        self.assertGreater(original.loss(half).text, original.loss(most).text)
        self.assertGreater(original.loss(most).text, 0.0)
        self.assertAlmostEqual(original.loss(picture).total, 0.0, places=6)

    def test_a_photograph_on_a_screen_is_looked_at_as_one(self) -> None:
        """Blurred, it has lost its edges, though every word and the mean of every block is there; text by itself has none."""
        picture = screen("beside a photograph")
        middle = picture.size.width // 2
        at = Rect(middle, 0, picture.size.width - middle, picture.size.height)
        photograph = picture.cut(at)
        self.assertTrue(photograph.is_photograph)
        blurred = picture.pixels.copy()
        soft = resize(resize(photograph, photograph.size.scaled(0.15)), photograph.size)
        blurred[at.y : at.bottom, at.x : at.right] = soft.pixels
        loss = Original(picture).loss(Picture(blurred))
        self.assertLess(loss.text, 0.02)
        self.assertGreater(loss.edges, 0.1)
        window = PracticeDesk().window("crew-roster")
        self.assertEqual(Original(window).loss(decode(encode_jpeg(window, 20))).edges, 0.0)

    def test_a_palette_loses_what_its_pixels_lose(self) -> None:
        """To the last digit: what is looked up by colour is what is looked at by pixel, also through transparency."""
        window = PracticeDesk().window("crew-roster")
        cover = np.where(window.pixels[:, :, 0] < 128, 255, 90).astype(np.uint8)
        for picture in (window, Picture(np.dstack((window.pixels, cover)))):
            with self.subTest(alpha=picture.has_alpha):
                original, fewer = Original(picture), in_few_colours(Histogram.of(picture.pixels), 6)
                self.assertEqual(original.loss(fewer), original.loss(fewer.spread()))
                self.assertGreater(original.loss(fewer).total, 0)

    def test_the_worst_line_counts_and_not_the_mean(self) -> None:
        """One pale line of many that is washed out is seen; so is a corner that changes its colour."""
        picture = PracticeDesk().window("crew-roster")
        original = Original(picture)
        washed = picture.pixels.copy()
        box = text_lines(picture)[0].box
        rows = slice(max(box.y - 3, 0), box.bottom + 3)
        washed[rows] = np.median(washed[rows], axis=1, keepdims=True).astype(np.uint8)
        self.assertGreater(original.loss(Picture(washed)).text, 0.04)
        tinted = picture.pixels.copy()
        tinted[-120:, -160:] = tinted[-120:, -160:] // 2 + 100
        self.assertGreater(original.loss(Picture(tinted)).area, 0.1)
        self.assertLess(original.loss(picture).area, 1e-6)
