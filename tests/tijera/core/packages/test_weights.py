"""What pictures take where they go: reckoned before, written after, equal to the byte in every format."""

from __future__ import annotations

import base64
import unittest
import zipfile
from collections.abc import Sequence
from io import BytesIO
from typing import ClassVar

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.support.docx import Docx, paragraph
from tijera.core.packages.formats.eml.transfer import base64_bytes, base64_lines
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.placed import Layout, PlacedPicture
from tijera.core.packages.places.spots import Stand
from tijera.core.packages.registry import FORMATS, copies_of, new_document, open_document, takes, write
from tijera.core.units import Length

_WIDTH, _HEIGHT = Length.from_mm(40), Length.from_mm(30)
_NAMES = ("Tide board", "Wache, Brücke Öst", "log “4417”", "")


def _documents() -> list[Document]:
    return [open_document(new_document(each.extension)[1]) for each in FORMATS] + [
        open_document(Docx(paragraph("One") + paragraph("Two")).build())
    ]


def _bytes_of(random: np.random.Generator, size: int) -> bytes:
    return random.integers(0, 256, size, dtype=np.uint8).tobytes()


def _placed(
    document: Document, data: Sequence[bytes], groups: Sequence[int], endings: Sequence[str], seed: int
) -> list[PlacedPicture]:
    """Pictures of some groups at places of a document, in the ways that are possible there; a group has one picture."""
    random = np.random.default_rng(seed)
    spots = list(document.spots())
    pictures = []
    for group in groups:
        spot = spots[int(random.integers(len(spots)))]
        stands = [each for each in spot.stands if each not in (Stand.WORD, Stand.UNDER)]
        stand = stands[int(random.integers(len(stands)))]
        name = _NAMES[int(random.integers(len(_NAMES)))]
        pictures.append(
            PlacedPicture(
                spot.id, data[group], endings[group], _WIDTH, _HEIGHT, "Depth", Layout(stand=stand), name=name
            )
        )
    return pictures


class Reckoned(unittest.TestCase):
    """The weight of a written copy, from that of another one with pictures of other sizes."""

    documents: ClassVar[list[Document]]

    @given(
        st.integers(0, 2**32),
        st.lists(st.integers(0, 2), min_size=1, max_size=6),
        st.lists(st.sampled_from(("png", "jpeg")), min_size=3, max_size=3),
        st.lists(st.tuples(st.integers(16, 9_000), st.integers(16, 90_000)), min_size=3, max_size=3),
    )
    def test_it_is_what_is_written(
        self, seed: int, groups: list[int], endings: list[str], sizes: list[tuple[int, int]]
    ) -> None:
        """In each format: pictures used once and several times, in the text, attached and both, of any name."""
        random = np.random.default_rng(seed)
        for document in self.documents:
            before, after = ([_bytes_of(random, pair[side]) for pair in sizes] for side in (0, 1))
            first = write(document, _placed(document, before, groups, endings, seed))
            second = write(document, _placed(document, after, groups, endings, seed))
            more = 0
            for group in set(groups):
                copies = copies_of(document, first, [n for n, each in enumerate(groups) if each == group])
                more += copies * (takes(document, len(after[group])) - takes(document, len(before[group])))
            self.assertEqual(len(second.data) - len(first.data), more, type(document).__name__)

    @classmethod
    def setUpClass(cls) -> None:
        """A new file of each format, and one with text."""
        super().setUpClass()
        cls.documents = _documents()

    def test_a_picture_that_is_there_already_takes_nothing(self) -> None:
        """Its bytes are not written once more."""
        document = self.documents[-1]
        picture = PlacedPicture("b.1", b"p" * 5_000, "png", _WIDTH, _HEIGHT, "")
        again = open_document(write(document, [picture]).data)
        written = write(again, [picture])
        self.assertEqual(copies_of(again, written, [0]), 0)
        with zipfile.ZipFile(BytesIO(written.data)) as package:
            self.assertEqual(sum(name.endswith(".png") for name in package.namelist()), 1)


class Base64(unittest.TestCase):
    """RFC 2045, 6.8: four characters for three bytes, lines of 76."""

    def test_its_length_is_that_of_the_standard_librarys(self) -> None:
        """For every length of some lines, and some large ones; the last line end belongs to what follows."""
        for count in (*range(400), 57 * 999, 57 * 1_000, 57 * 1_000 + 1, 123_456):
            data = bytes(count)
            wanted = base64.encodebytes(data).replace(b"\n", b"\r\n").removesuffix(b"\r\n")
            self.assertEqual((base64_lines(data), base64_bytes(count)), (wanted, len(wanted)))
            self.assertEqual(base64_bytes(count, b"\n"), len(wanted.replace(b"\r\n", b"\n")))
