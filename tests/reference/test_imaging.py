"""Resampling and the measure of what is kept, against general libraries.

Pillow's Lanczos filter (support 3) for resampling; scikit-image's SSIM for the ranking of encodings.
"""

import unittest

import numpy as np
from PIL import Image
from skimage.metrics import structural_similarity

from tests.support.pictures import photograph_like
from tijera.core.geometry import Size
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_jpeg
from tijera.core.imaging.luma import luma
from tijera.core.imaging.measure import Original
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.resize import resize
from tijera.desk.desk import PracticeDesk


class Resampling(unittest.TestCase):
    """The same filter gives the same pixels, to the rounding."""

    def test_close_to_pillows_lanczos(self) -> None:
        """On a screen and on a photograph; by another factor in each direction."""
        screen = PracticeDesk().window("tide-board")
        for picture in (screen, photograph_like(300, 200)):
            size = Size(picture.size.width * 3 // 5, picture.size.height * 2 // 3)
            ours = resize(picture, size).pixels.astype(int)
            theirs = Image.fromarray(picture.pixels).resize((size.width, size.height), Image.Resampling.LANCZOS)
            difference = np.abs(ours - np.asarray(theirs).astype(int))
            # The border is excluded: the two libraries extend the picture differently there.
            inner = difference[4:-4, 4:-4]
            self.assertLess(float(inner.mean()), 0.6)
            self.assertLessEqual(float(np.quantile(inner, 0.999)), 8)

    def test_nothing_moves_on_the_way_up(self) -> None:
        """Against Pillow's cubic: a wave lies where it lay, to a twentieth of a pixel, in both directions."""
        wave = (128 + 100 * np.sin(np.arange(120) / 7)).astype(np.uint8)
        for pixels in (np.tile(wave, (90, 1)), np.tile(wave[:90, None], (1, 120))):
            picture = Picture(np.repeat(pixels[:, :, None], 3, axis=2))
            for size in (Size(181, 133), Size(240, 270), Size(121, 91), Size(300, 60), Size(80, 200)):
                ours = resize(picture, size).pixels.astype(int)
                theirs = Image.fromarray(picture.pixels).resize((size.width, size.height), Image.Resampling.BICUBIC)
                with self.subTest(size):
                    self.assertLess(float(np.abs(ours - np.asarray(theirs)).mean()), 1.0)

    def test_transparent_colour_does_not_bleed(self) -> None:
        """Green under full transparency stays out of the red beside it."""
        pixels = np.zeros((8, 40, 4), dtype=np.uint8)
        pixels[:, :20] = [255, 0, 0, 255]
        pixels[:, 20:] = [0, 255, 0, 0]
        small = resize(Picture(pixels), Size(10, 2)).pixels
        covered = small[small[:, :, 3] > 8]
        self.assertLess(int(covered[:, 1].max()), 24)


class Measure(unittest.TestCase):
    """More loss measures as more loss."""

    def test_ranks_jpeg_qualities_as_ssim_does(self) -> None:
        """Seven qualities of a text window: the same order by both measures."""
        window = PracticeDesk().window("crew-roster")
        original, plane = Original(window), luma(window)
        ours, theirs = [], []
        for quality in (95, 80, 65, 50, 35, 20, 8):
            lossy = decode(encode_jpeg(window, quality))
            ours.append(1 - original.loss(lossy).text)
            theirs.append(structural_similarity(plane, luma(lossy), data_range=255))
        self.assertEqual(np.argsort(ours).tolist(), np.argsort(theirs).tolist())
        self.assertAlmostEqual(original.loss(window).total, 0.0, places=6)
