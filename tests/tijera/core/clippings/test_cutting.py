"""Clippings: what is hidden can't come out."""

import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.support.pictures import photograph_like, text_like
from tijera.core.clippings.cutting import Clipping, PointerLayer, filled_in, visible_pixels
from tijera.core.clippings.sheet import Sheet
from tijera.core.errors import AreaOutside, CropOutside
from tijera.core.frames.freehand import Outline
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.encode import encode_jpeg, encode_png
from tijera.core.imaging.picture import Picture
from tijera.core.marks.mark import Mark

_FRAME = Size(90, 60)


class Invariants(unittest.TestCase):
    """An area lies on its frame, a crop on its area."""

    def test_an_area_outside_is_refused(self) -> None:
        """Also by a single pixel."""
        with self.assertRaises(AreaOutside):
            Clipping.uncropped(_FRAME, Rect(40, 10, 51, 20), 1.5)

    def test_a_crop_outside_is_refused(self) -> None:
        """The crop counts in the area's own pixels."""
        clipping = Clipping.uncropped(_FRAME, Rect(30, 20, 40, 30), 1.5)
        self.assertEqual(clipping.cropped(Rect(5, 6, 20, 10)).visible, Rect(35, 26, 20, 10))
        with self.assertRaises(CropOutside):
            clipping.cropped(Rect(25, 0, 16, 10))


class Hiding(unittest.TestCase):
    """Hidden pixels influence no byte that leaves."""

    @given(st.integers(0, 2**32 - 1))
    def test_other_hidden_pixels_give_the_same_bytes(self, seed: int) -> None:
        """Every encoding, for a screen and for a photograph."""
        clipping = Clipping.uncropped(_FRAME, Rect(10, 8, 60, 40), 1.5).cropped(Rect(7, 5, 41, 23))
        visible = clipping.visible
        for frame in (text_like(90, 60), photograph_like(90, 60)):
            changed = np.random.default_rng(seed).integers(0, 256, frame.pixels.shape, dtype=np.uint8)
            rows, columns = slice(visible.y, visible.bottom), slice(visible.x, visible.right)
            changed[rows, columns] = frame.pixels[rows, columns]
            for encode in (encode_png, lambda picture: encode_jpeg(picture, 90)):
                before = encode(visible_pixels(clipping, frame))
                self.assertEqual(before, encode(visible_pixels(clipping, Picture(changed))))

    def test_a_pixel_that_a_black_out_touches_is_gone(self) -> None:
        """Whole, however little of it is covered: what is left of a letter's edge can be read."""
        out = Mark("b", "black-out", ((10.9, 8.9), (20.1, 15.1)), {})
        clipping = replace(Clipping.uncropped(_FRAME, Rect.whole(_FRAME), 1), sheet=Sheet((out,)))
        seen = visible_pixels(clipping, Picture(np.full((60, 90, 3), 200, np.uint8))).pixels
        rows, columns = np.nonzero((seen == 0).all(axis=2))
        self.assertEqual((rows.min(), rows.max(), columns.min(), columns.max()), (8, 15, 10, 20))

    def test_what_is_filled_in_takes_the_nearest_side_that_there_is(self) -> None:
        """At the upper and the left edge there is nothing beyond: not the pixels of the far side."""
        pixels = np.zeros((20, 30, 3), np.uint8)
        pixels[:, :15], pixels[:, 15:], pixels[-1], pixels[:, -1] = 50, 90, 250, 250
        corner = ((0, 0), (4, 0), (4, 4), (0, 4))
        filled = filled_in(Picture(pixels), (corner,), (0.0, 0.0)).pixels
        self.assertTrue((filled[:4, :4] == 50).all())
        plain = np.full((20, 30, 3), 70, np.uint8)
        plain[0], plain[:, 0] = 250, 250
        corner = ((26, 16), (30, 16), (30, 20), (26, 20))
        filled = filled_in(Picture(plain), (corner,), (0.0, 0.0)).pixels
        self.assertTrue((filled[16:, 26:] == 70).all())

    def test_the_whole_frame_is_the_frame_and_nothing_else(self) -> None:
        """Not a part of it, not with a pointer on it, not cut freehand, not turned."""
        whole = Clipping.uncropped(_FRAME, Rect.whole(_FRAME), 1.0)
        self.assertTrue(whole.is_whole_frame)
        for other in (
            Clipping.uncropped(_FRAME, Rect(0, 0, 89, 60), 1.0),
            whole.cropped(Rect(1, 0, 89, 60)),
            replace(whole, pointer=PointerLayer("arrow", 3, 4)),
            replace(whole, outline=Outline(((0.0, 0.0), (50.0, 0.0), (0.0, 40.0)))),
            replace(whole, sheet=Sheet((Mark("m", "black-out", ((1, 1), (5, 5)), {}),))),
        ):
            self.assertFalse(other.is_whole_frame)

    def test_the_cut_does_not_share_memory_with_the_frame(self) -> None:
        """A view would keep the whole frame within reach."""
        frame = text_like(90, 60)
        cut = visible_pixels(Clipping.uncropped(_FRAME, Rect(3, 4, 20, 10), 1), frame)
        self.assertFalse(np.shares_memory(cut.pixels, frame.pixels))


class Layers(unittest.TestCase):
    """Outlines, gaps between monitors and the pointer."""

    _OUTLINE = Outline(((4.0, 3.0), (50.0, 8.0), (33.0, 36.0), (10.0, 30.0)))

    @given(st.integers(0, 2**32 - 1))
    def test_pixels_outside_an_outline_influence_no_byte(self, seed: int) -> None:
        """Nor those between monitors, whatever is written."""
        clipping = replace(
            Clipping.uncropped(_FRAME, Rect(10, 8, 60, 40), 1.5),
            outline=self._OUTLINE,
            shown=(Rect(0, 0, 45, 60), Rect(45, 20, 45, 40)),
        )
        frame = text_like(90, 60)
        counts = visible_pixels(clipping, frame).pixels[:, :, 3] > 0
        changed = np.random.default_rng(seed).integers(0, 256, frame.pixels.shape, dtype=np.uint8)
        part = changed[8:48, 10:70]
        part[counts] = frame.pixels[8:48, 10:70][counts]
        for encode in (encode_png, lambda picture: encode_jpeg(picture, 90)):
            self.assertEqual(
                encode(visible_pixels(clipping, frame)), encode(visible_pixels(clipping, Picture(changed)))
            )

    def test_between_monitors_there_is_nothing(self) -> None:
        """And on them everything."""
        clipping = replace(
            Clipping.uncropped(_FRAME, Rect(30, 5, 40, 30), 1), shown=(Rect(0, 0, 50, 60), Rect(50, 20, 40, 40))
        )
        pixels = visible_pixels(clipping, text_like(90, 60)).pixels
        self.assertEqual(pixels[3, 30].tolist(), [0, 0, 0, 0])
        self.assertEqual((pixels[3, 10, 3], pixels[20, 30, 3]), (255, 255))
        inside = replace(clipping, shown=(Rect(0, 0, 90, 60),))
        self.assertFalse(visible_pixels(inside, text_like(90, 60)).has_alpha)

    def test_the_pointer_is_laid_over_by_its_opacity(self) -> None:
        """Source over (CSS Compositing 1): half of it over white is half of each; a crop cuts it too."""
        layer = np.zeros((4, 3, 4), dtype=np.uint8)
        layer[:, :, 0], layer[:2, :, 3], layer[2:, :, 3] = 200, 255, 128
        white = Picture(np.full((60, 90, 3), 250, dtype=np.uint8))
        clipping = replace(Clipping.uncropped(_FRAME, Rect(10, 10, 50, 30), 1), pointer=PointerLayer("p", 48, 5))
        pixels = visible_pixels(clipping, white, Picture(layer)).pixels
        self.assertEqual(pixels[5, 48].tolist(), [200, 0, 0])
        self.assertEqual(pixels[7, 49].tolist(), [225, 125, 125])
        self.assertEqual(pixels[9, 48].tolist(), [250, 250, 250])
        hidden = visible_pixels(clipping.cropped(Rect(0, 0, 48, 30)), white, Picture(layer))
        self.assertEqual(len(np.unique(hidden.pixels)), 1)
        self.assertFalse(clipping.is_whole_frame)
