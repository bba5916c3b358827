"""The loss of renditions beside a published measure: structural similarity (Wang et al., IEEE TIP 13(4), 2004), as
scikit-image works it out. It knows nothing of text; so both agree on what is worse, not on where words go.
"""

from __future__ import annotations

import unittest

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from scipy.stats import spearmanr
from skimage.metrics import structural_similarity

from tests.support.pictures import photograph_like
from tests.support.screens import SORTS, screen
from tijera.core.geometry import Rect
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_fewer_colours, encode_jpeg
from tijera.core.imaging.measure import Original
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.resize import resize
from tijera.desk.desk import PracticeDesk


def _encodings(picture: Picture) -> list[Picture]:
    """Fewer colours, JPEG, fewer pixels: from good to bad."""
    colours = [decode(encode_fewer_colours(picture, count)) for count in (64, 16, 8, 5, 3, 2)]
    qualities = [decode(encode_jpeg(picture, quality)) for quality in (90, 70, 45, 25, 12, 6)]
    smaller = [resize(resize(picture, picture.size.scaled(share)), picture.size) for share in (0.8, 0.6, 0.45, 0.3)]
    return [*colours, *qualities, *smaller]


def _agreement(picture: Picture) -> tuple[list[float], list[float]]:
    original, grey = Original(picture), _grey(picture)
    encodings = _encodings(picture)
    ours = [original.loss(each).total for each in encodings]
    theirs = [1 - float(structural_similarity(grey, _grey(each), data_range=255)) for each in encodings]
    return ours, theirs


def _grey(picture: Picture) -> NDArray[np.float64]:
    grey: NDArray[np.float64] = picture.pixels[:, :, :3].astype(float) @ np.array([0.299, 0.587, 0.114])
    return grey


class Beside(unittest.TestCase):
    """By rank correlation (Spearman)."""

    def test_screens(self) -> None:
        """Within a screen, and over all of them together."""
        within, ours, theirs = [], [], []
        for name in list(SORTS)[::4]:
            one, other = _agreement(screen(name))
            within.append(spearmanr(one, other).statistic)
            ours += one
            theirs += other
        self.assertGreater(float(np.median(within)), 0.75)
        self.assertGreater(spearmanr(ours, theirs).statistic, 0.65)

    def test_photographs(self) -> None:
        """Where there is no text both measure edges."""
        for seed in (3, 4):
            ours, theirs = _agreement(photograph_like(300, 200, seed=seed))
            self.assertGreater(spearmanr(ours, theirs).statistic, 0.85)

    def test_colours_of_a_photograph(self) -> None:
        """In colour, over both samplings of JPEG and palettes: half as many colours across are worse, and other hues are too."""
        chart, chance = PracticeDesk().window("harbour-chart").cut(Rect(0, 0, 600, 400)), np.random.default_rng(3)
        patches = Image.fromarray(chance.integers(0, 255, (12, 16, 3), dtype=np.uint8))
        tints = np.asarray(patches.resize((chart.size.width, chart.size.height), Image.Resampling.NEAREST))
        picture = Picture((chart.pixels * 0.6 + tints * 0.4).astype(np.uint8))
        original = Original(picture)
        pairs = [
            [decode(encode_jpeg(picture, q, full_colour=full)) for full in (False, True)] for q in (95, 80, 60, 35)
        ]
        for half, full in pairs:
            self.assertGreater(original.loss(half).total, original.loss(full).total)
        palettes = [decode(encode_fewer_colours(picture, count)) for count in (256, 64, 16)]
        encodings = [*(each for pair in pairs for each in pair), *palettes]
        ours = [original.loss(each).total for each in encodings]
        theirs = [1 - structural_similarity(picture.pixels, each.pixels, channel_axis=2) for each in encodings]
        # 0.58 by lightness alone.
        self.assertGreater(spearmanr(ours, theirs).statistic, 0.85)


if __name__ == "__main__":
    unittest.main()
