"""One clipping as a file, of each kind, under a limit: read back by Pillow, which did not write all of them."""

import io
import unittest

import numpy as np
from PIL import Image

from tests.support.pictures import photograph_like, text_like
from tests.support.screens import screen
from tijera.core.budget.saving import proposed_kind, save_as
from tijera.core.errors import LimitNotMet
from tijera.core.imaging.kinds import BMP, JPEG, PNG, TIFF, WEBP
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.writing import WRITTEN


def _opened(data: bytes) -> Image.Image:
    return Image.open(io.BytesIO(data))


class Kinds(unittest.TestCase):
    """Without a limit."""

    def test_all_but_jpeg_keep_every_pixel_and_all_but_webp_say_their_density(self) -> None:
        """A screen, and one with transparency where the kind has it."""
        clear = np.dstack((text_like(90, 60).pixels, np.full((60, 90), 255, np.uint8)))
        clear[:20, :, 3] = 0
        clear[:20, :, :3] = 0
        for picture in (text_like(90, 60), Picture(clear)):
            for kind in WRITTEN:
                saved = save_as(picture, kind, 144.0)
                with self.subTest(kind.name, alpha=picture.has_alpha), _opened(saved.data) as image:
                    self.assertEqual((image.format, image.size), (kind.name, (90, 60)))
                    if kind is not WEBP:
                        self.assertAlmostEqual(float(image.info["dpi"][0]), 144, delta=0.1)
                    if kind is JPEG:
                        continue
                    mode = "RGBA" if picture.has_alpha and kind is not BMP else "RGB"
                    seen = np.asarray(image.convert(mode))
                    wanted = picture.pixels[:, :, : len(mode)].copy()
                    if picture.has_alpha and kind is BMP:
                        wanted[:20] = 255
                    self.assertTrue(np.array_equal(seen, wanted))

    def test_png_for_screens_and_jpeg_for_photographs(self) -> None:
        """By what they weigh: of a screen the PNG is the lighter one, of a photograph the JPEG by far."""
        for picture, wanted in ((screen("light"), PNG), (photograph_like(300, 200), JPEG)):
            png, jpeg = (save_as(picture, kind, 96.0) for kind in (PNG, JPEG))
            self.assertIs(proposed_kind(png, jpeg), wanted)


class Limits(unittest.TestCase):
    """Under a limit."""

    def test_each_kind_that_can_give_something_up_does_and_keeps_words(self) -> None:
        """To the byte within it, most of it used, the density kept; words are never smeared."""
        for picture, kinds in ((screen("light"), (PNG, JPEG, WEBP)), (photograph_like(180, 120), (JPEG, WEBP))):
            for kind in kinds:
                whole = save_as(picture, kind, 144.0)
                limit = len(whole.data) * 8 // 10
                saved = save_as(picture, kind, 144.0, limit)
                with self.subTest(kind.name), _opened(saved.data) as image:
                    self.assertLessEqual(len(saved.data), limit)
                    self.assertEqual((image.format, saved.smears), (kind.name, False))
                    self.assertTrue(saved.note)
                    if kind is not WEBP:
                        self.assertGreater(len(saved.data), 0.6 * limit)
                        self.assertAlmostEqual(image.width / float(image.info["dpi"][0]), picture.size.width / 144, 2)
                    if kind is PNG:
                        again = save_as(picture, kind, 144.0, len(saved.data))
                        self.assertLessEqual(len(again.data), len(saved.data))

    def test_what_can_not_be_met_is_said(self) -> None:
        """With the least that it comes to; kinds without loss can give nothing up."""
        for kind in WRITTEN:
            with self.subTest(kind.name), self.assertRaises(LimitNotMet) as caught:
                save_as(screen("light"), kind, 96.0, 300)
            self.assertGreater(int(str(caught.exception.values["least_bytes"])), 300)
        whole = len(save_as(screen("light"), TIFF, 96.0).data)
        with self.assertRaises(LimitNotMet) as caught:
            save_as(screen("light"), TIFF, 96.0, whole - 1)
        self.assertEqual(caught.exception.values["least_bytes"], whole)
