"""Slimming real files that others wrote: 0 bytes changed but in pictures, and independent readers see what they saw."""

from __future__ import annotations

import unittest

from tests.corpus.corpus import declared, stored
from tests.support.slimmed_checker import changed_pictures
from tijera.core.errors import LimitNotMet, TijeraError
from tijera.core.packages.places.format import View
from tijera.core.packages.registry import format_of, open_document, report_pictures
from tijera.usecases.slimming import Slimmed, slim

_SHARES = (0.02, 0.1, 0.3, 0.5, 0.7)
"""Of its pictures' bytes that a file has to lose: many can't, and what is left of the last that can is looked at."""


class Corpus(unittest.TestCase):
    """Every file of the corpus that is a package."""

    def test_nothing_but_pictures_changes(self) -> None:
        """By the tests' own look at packages: other members to the byte, pictures lighter and the same to the eye."""
        files = pictures = 0
        for name, path in ((path, stored(sha256, path)) for each in declared() for path, sha256 in each.members):
            if not path.is_file():
                continue
            data = path.read_bytes()
            try:
                document = open_document(data, name)
            except TijeraError:
                continue
            if format_of(document).view is View.MESSAGE or not report_pictures(document):
                continue
            slimmed = self._lightest(data, name)
            if slimmed is None:
                continue
            files += 1
            with self.subTest(name):
                pictures += self._checked(data, slimmed)
        if not files:
            self.skipTest("no file of the corpus with pictures is there: `make corpus`")
        self.assertGreaterEqual(pictures, files)

    def _lightest(self, data: bytes, name: str) -> Slimmed | None:
        found, pictures = None, sum(each.bytes for each in report_pictures(open_document(data, name)))
        for share in _SHARES:
            limit = int(len(data) - share * pictures)
            try:
                *_, last = slim(data, name, limit)
            except LimitNotMet:
                break
            assert isinstance(last, Slimmed)
            self.assertLessEqual(len(last.data), limit)
            found = last
        return found

    def _checked(self, data: bytes, slimmed: Slimmed) -> int:
        """How many pictures have become lighter; they are shown as large as they were."""
        changed = changed_pictures(data, slimmed.data)
        shown = [
            sorted(str(each.shown) for each in report_pictures(open_document(held))) for held in (data, slimmed.data)
        ]
        self.assertEqual(shown[0], shown[1])
        return changed
