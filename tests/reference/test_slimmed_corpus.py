"""Slimming real files that others wrote: 0 bytes changed but in pictures, and independent readers see what they saw."""

from __future__ import annotations

import io
import unittest
import zipfile

import numpy as np
from PIL import Image

from tests.corpus.corpus import declared, stored
from tijera.core.errors import LimitNotMet, TijeraError
from tijera.core.imaging.decode import decode
from tijera.core.packages.places.format import View
from tijera.core.packages.registry import format_of, open_document, report_pictures
from tijera.usecases.slimming import Slimmed, slim

_SHARES = (0.02, 0.1, 0.3, 0.5, 0.7)
"""Of its pictures' bytes that a file has to lose: many can't, and what is left of the last that can is looked at."""


class Corpus(unittest.TestCase):
    """Every file of the corpus that is a package."""

    def test_nothing_but_pictures_changes(self) -> None:
        """Names, order and records of all other members; a picture keeps its kind, and its pixels or fewer."""
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
        """How many pictures have become lighter."""
        changed = {each.member for each in slimmed.pictures if each.before_bytes != each.after_bytes}
        with zipfile.ZipFile(io.BytesIO(data)) as before, zipfile.ZipFile(io.BytesIO(slimmed.data)) as after:
            self.assertEqual(before.namelist(), after.namelist())
            self.assertIsNone(after.testzip())
            for was, now in zip(before.infolist(), after.infolist(), strict=True):
                if was.filename in changed:
                    self._lighter(before.read(was), after.read(now))
                else:
                    one, other = (
                        held[info.header_offset :][: 30 + len(info.orig_filename.encode()) + info.compress_size]
                        for held, info in ((data, was), (slimmed.data, now))
                    )
                    self.assertEqual(one, other, was.filename)
        shown = [
            sorted((each.member, each.shown) for each in report_pictures(open_document(held)))
            for held in (data, slimmed.data)
        ]
        self.assertEqual(shown[0], shown[1])
        return len(changed)

    def _lighter(self, was: bytes, now: bytes) -> None:
        one, other = (Image.open(io.BytesIO(held)) for held in (was, now))
        self.assertEqual(one.format, other.format)
        self.assertLess(len(now), len(was))
        self.assertLessEqual(other.size, one.size)
        # The same picture still: its mean colours by sixteenths, whatever the encoder did.
        small = [
            np.asarray(Image.fromarray(decode(held).pixels[:, :, :3]).resize((4, 4), Image.Resampling.BOX)).astype(int)
            for held in (was, now)
        ]
        self.assertLess(int(np.abs(small[0] - small[1]).max()), 14)
