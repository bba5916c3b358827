"""Clippings: what is hidden can't come out."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.support.pictures import photograph_like, text_like
from tijera.core.clippings import Clipping, visible_pixels
from tijera.core.errors import AreaOutside, CropOutside
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.encode import encode_jpeg, encode_png
from tijera.core.imaging.picture import Picture

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

    def test_the_cut_does_not_share_memory_with_the_frame(self) -> None:
        """A view would keep the whole frame within reach."""
        frame = text_like(90, 60)
        cut = visible_pixels(Clipping.uncropped(_FRAME, Rect(3, 4, 20, 10), 1), frame)
        self.assertFalse(np.shares_memory(cut.pixels, frame.pixels))
