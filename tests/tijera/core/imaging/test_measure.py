"""What an encoding lacks, told alike whatever the size of the letters; how it follows what is read: tests/reference."""

import unittest

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from tests.support.pictures import photograph_like
from tijera.core.imaging.measure import Original
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.resize import resize
from tijera.core.marks.scripts import FONTS

_WORDS = ("harbour tide berth vessel anchor", "engine bilge quay pilot ballast", "signal ferry timetable weather")


def _lines(em_px: int, photograph_px: int = 0) -> Picture:
    """Three lines of dark words on light ground, perhaps beside a photograph."""
    image = Image.new("RGB", (em_px * 20 + photograph_px, round(em_px * 5.1) + 16), (250, 250, 248))
    font = ImageFont.truetype(str(FONTS / "hyperlegible-next-400.ttf"), em_px)
    draw = ImageDraw.Draw(image)
    for number, words in enumerate(_WORDS):
        draw.text((10, 8 + number * 1.7 * em_px), words, font=font, fill=(20, 30, 40))
    if photograph_px:
        image.paste(Image.fromarray(photograph_like(photograph_px, image.height).pixels), (em_px * 20, 0))
    return Picture(np.asarray(image).copy())


class Letters(unittest.TestCase):
    """Loss by the size of what is written."""

    def test_what_leaves_letters_of_seven_pixels_loses_about_as_much_however_large_they_were(self) -> None:
        """Whole pixels are taken together, two from 12 px on, three from 18: neither makes the same damage another one."""
        lost = [Original(page).loss(resize(page, page.size.scaled(7 / em))).text for em, page in self.pages()]
        self.assertGreater(min(lost), 0.08)
        self.assertLess(max(lost) / min(lost), 2.2)

    def test_fewer_pixels_lose_more(self) -> None:
        """At each size, from a half of the pixels across to none fewer."""
        for em, page in self.pages():
            original = Original(page)
            lost = [original.loss(resize(page, page.size.scaled(share))).text for share in (0.5, 0.65, 0.8, 1.0)]
            self.assertEqual(lost, sorted(lost, reverse=True), em)
            self.assertAlmostEqual(lost[-1], 0, places=6)

    def test_one_spoilt_line_decides(self) -> None:
        """A line that is blurred beside two that are as they were counts as if all were."""
        for em, page in self.pages():
            original, coarse = Original(page), resize(resize(page, page.size.scaled(7 / em)), page.size)
            one = page.pixels.copy()
            one[: int(8 + 1.5 * em)] = coarse.pixels[: int(8 + 1.5 * em)]
            self.assertGreater(original.loss(Picture(one)).text, 0.6 * original.loss(coarse).text, em)

    def test_what_happens_to_a_photograph_beside_them_is_none_of_theirs(self) -> None:
        """Softened, it has lost some of its edges; every word is as it was."""
        page = _lines(14, photograph_px=300)
        seen = page.pixels.copy()
        part = Picture(np.ascontiguousarray(seen[:, 300:]))
        seen[:, 300:] = resize(resize(part, part.size.scaled(0.25)), part.size).pixels
        loss = Original(page).loss(Picture(seen))
        self.assertAlmostEqual(loss.text, 0, places=6)
        self.assertGreater(loss.edges, 0.05)

    def pages(self) -> list[tuple[int, Picture]]:
        """At sizes on both sides of those at which more pixels are taken together."""
        return [(em, _lines(em)) for em in (9, 11, 12, 13, 17, 19, 24, 28)]


if __name__ == "__main__":
    unittest.main()
