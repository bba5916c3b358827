"""Words on a picture: long ones in bands, and which words are meant."""

import itertools
import unittest
from collections.abc import Sequence

import numpy as np

from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture
from tijera.core.recognition.words import Shown, Word, bands, read_shown


class OneWordARow:
    """Reads a word wherever a row is black: called by the number in the row below."""

    def read(self, picture: Picture, scale_factor: float) -> Sequence[Word]:
        """Every word that lies in the band whole."""
        rows = np.flatnonzero(picture.pixels[:, 0, 0] == 0)
        return [Word(str(scale_factor), Rect(0, int(row) - 4, 9, 9)) for row in rows if row >= 4]


class Bands(unittest.TestCase):
    """Each row belongs to one band, and lies well within it."""

    def test_each_row_counts_once_and_no_line_is_cut(self) -> None:
        """For pictures of all heights about the borders, and long and wide ones; a line may be 40 px high."""
        heights = (1, 900, 1_695, 1_696, 1_697, 1_744, 3_200, 3_296, 3_297, 30_000)
        for height, width in itertools.product(heights, (1, 2_560, 10_000, 80_000)):
            found = list(bands(height, width))
            middles = [row for _, _, own in found for row in own if row < height]
            self.assertEqual(middles, list(range(height)), height)
            self.assertLessEqual(max(end - top for top, end, _ in found) * width, max(40 * 80_000 * 10, 5_000_000))
            for top, end, own in found:
                self.assertTrue(top == 0 or own.start - top >= 40, height)
                self.assertTrue(end == height or end - own.stop >= 40, height)

    def test_a_word_is_read_once_where_it_stands(self) -> None:
        """On a long picture with a word every 37 rows."""
        pixels = np.full((9_000, 40, 3), 255, dtype=np.uint8)
        rows = list(range(20, 8_990, 37))
        pixels[rows] = 0
        *steps, shown = read_shown(OneWordARow(), Picture(pixels), 1.5)
        assert shown is not None
        self.assertEqual([each.box.y + 4 for each in shown.words], rows)
        self.assertEqual((shown.size, shown.words[0].text, len(steps)), (Size(40, 9_000), "1.5", 6))


class Meant(unittest.TestCase):
    """Words that contain one of the terms."""

    def test_cases_are_alike_and_parts_are_enough(self) -> None:
        """And nothing is looked for where nothing was typed."""
        words = [Word(text, Rect(10 * at, 0, 9, 9)) for at, text in enumerate(("Ebb", "EL-207.", "ÉBB", "straße"))]
        shown = Shown(Size(90, 9), tuple(words))

        def found(*terms: str) -> list[int]:
            return [box.x // 10 for box in shown.boxes_of(terms)]

        self.assertEqual(
            (found("ebb"), found("207", "ébb"), found("STRASSE"), found(), found("")), ([0], [1, 2], [3], [], [])
        )


if __name__ == "__main__":
    unittest.main()
