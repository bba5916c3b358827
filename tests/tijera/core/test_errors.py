"""The tree of errors: every code once, every text complete."""

import string
import unittest
from collections.abc import Iterator

from tijera.core import errors
from tijera.core.errors import LimitNotMet, TijeraError


def _leaves(kind: type[TijeraError]) -> Iterator[type[TijeraError]]:
    children = kind.__subclasses__()
    if not children:
        yield kind
    for child in children:
        yield from _leaves(child)


class Tree(unittest.TestCase):
    """Every error that can be raised."""

    def test_every_code_is_its_own(self) -> None:
        """Two errors with one code could not be told apart."""
        codes = [kind.code for kind in _leaves(TijeraError)]
        self.assertEqual(len(codes), len(set(codes)))

    def test_every_leaf_has_words_of_its_own(self) -> None:
        """What happened, why, what to do: none is inherited from the root."""
        for kind in _leaves(TijeraError):
            with self.subTest(kind.__name__):
                for text in ("code", "title", "detail_text", "remedy_text"):
                    self.assertNotEqual(getattr(kind, text), getattr(TijeraError, text))

    def test_every_leaf_stands_in_the_drawing(self) -> None:
        """The docstring is the map of the tree."""
        for kind in _leaves(TijeraError):
            self.assertIn(kind.__name__, errors.__doc__ or "")

    def test_texts_name_only_values_that_the_error_carries(self) -> None:
        """A missing value would raise in the middle of an error; what is shown has no braces left."""
        for kind in _leaves(TijeraError):
            if kind is LimitNotMet:
                continue
            fields = [name for text in (kind.title, kind.detail_text, kind.remedy_text) for _, name, _, _ in string.Formatter().parse(text) if name]  # fmt: skip
            values = dict.fromkeys(fields, 7)
            with self.subTest(kind.__name__):
                error = kind(**values)
                self.assertTrue(error.heading and error.detail and error.remedy)
                self.assertNotRegex(f"{error.heading}{error.detail}{error.remedy}", "[{}]")

    def test_a_limit_that_is_not_met_says_by_how_much(self) -> None:
        """In bytes for programs, in MB for people."""
        error = LimitNotMet(least_bytes=2_610_000, over_bytes=610_000, limit_bytes=2_000_000, in_the_way="a chart")
        self.assertIn("0.61 MB over its limit of 2.00 MB", error.detail)
        self.assertIn("a chart", error.remedy)
        self.assertEqual(error.values["over_bytes"], 610_000)
