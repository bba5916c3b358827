"""What *Make it fit* gives, read by a recogniser: every word that could be read still can be."""

from __future__ import annotations

import unittest
from typing import Any

from tests.support.recogniser import TESSERACT, readable, recall
from tests.support.sack import Sack
from tests.support.screens import SORTS, screen
from tijera.core.budget.ladder import Ladder
from tijera.core.budget.rendition import first_rendition
from tijera.core.budget.search import Verdict, Wanted, find_fit
from tijera.core.imaging.decode import decode
from tijera.core.units import Length

_LIMITS = (0.5, 0.3, 0.0)
"""Of what the picture weighs without loss; nothing fits under the last one, and the lightest that is offered is read."""
_PARTS = 4


class _Read:
    """A part of the screens, so that several parts are read side by side."""

    part: int

    @unittest.skipUnless(TESSERACT.exists(), "Debian's recogniser is not installed: `make test` installs it")
    def test_every_word_is_still_read(self: Any) -> None:
        """Under three limits: 0.99 of all words and more, on no screen less than 0.95, which is the recogniser's own noise."""
        kept, words = 0.0, 0
        for name in list(SORTS)[self.part :: _PARTS]:
            picture = screen(name)
            first, known = first_rendition(picture), readable(picture)
            self.assertGreater(known.total(), 9, name)
            read: dict[bytes, float] = {}
            ladder = Ladder(lambda picture=picture: picture, first, Length.from_mm(150))  # type: ignore[misc]
            for share in _LIMITS:
                *_, verdict = find_fit([Wanted(ladder)], int(first.bytes * share), Sack())
                assert isinstance(verdict, Verdict)
                (rendition,) = verdict.renditions
                if rendition.data not in read:
                    read[rendition.data] = recall(known, decode(rendition.data), picture.size)
                share_read = read[rendition.data]
                words, kept = words + known.total(), kept + share_read * known.total()
                with self.subTest(name, share=share, way=rendition.way, amount=rendition.quality):
                    self.assertGreaterEqual(share_read, 0.95)
        self.assertGreaterEqual(kept / words, 0.99)


class FirstPart(_Read, unittest.TestCase):
    """The first, fifth, …"""

    part = 0


class SecondPart(_Read, unittest.TestCase):
    """The second, sixth, …"""

    part = 1


class ThirdPart(_Read, unittest.TestCase):
    """The third, seventh, …"""

    part = 2


class FourthPart(_Read, unittest.TestCase):
    """The fourth, eighth, …"""

    part = 3
