"""The loss of renditions beside a published measure: structural similarity (Wang et al., IEEE TIP 13(4), 2004), as
scikit-image works it out. It knows nothing of text; so both agree on what is worse, not on where words go.
"""

from __future__ import annotations

import unittest

import numpy as np
from numpy.typing import NDArray
from scipy.stats import spearmanr
from skimage.metrics import structural_similarity

from tests.support.pictures import photograph_like
from tests.support.screens import SORTS, screen
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_fewer_colours, encode_jpeg
from tijera.core.imaging.measure import Original
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.resize import resize


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


if __name__ == "__main__":
    unittest.main()
