"""Rows of a strip, as they are counted."""

import unittest

import numpy as np

from tijera.core.frames.longpage.rows import Rows


class Distinct(unittest.TestCase):
    """How many different rows with detail there are, exactly and in a video."""

    def test_those_with_detail_are_counted_once(self) -> None:
        """Two kinds in turn are two, however often; flat ones are none, whatever their colours."""
        chance = np.random.default_rng(4)
        kinds = chance.integers(0, 256, (2, 640, 3), dtype=np.uint8)
        kinds[:, ::2] = 0
        flat = np.repeat(np.arange(0, 120, 20, dtype=np.uint8)[:, None, None], 640, axis=1).repeat(3, axis=2)
        for exact in (True, False):
            rows = Rows(np.concatenate((kinds[[0, 1, 0, 1, 0]], flat)), exact)
            with self.subTest(exact=exact):
                self.assertEqual((rows.distinct(0, 5), rows.distinct(5, 11), rows.distinct(4, 9)), (2, 0, 1))


if __name__ == "__main__":
    unittest.main()
