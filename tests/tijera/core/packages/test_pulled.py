"""Sequences that are read as far as they are asked for."""

from __future__ import annotations

import unittest
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor

from tests.support.docx import Docx, paragraph, section
from tests.support.odt import Odt, p
from tijera.core.packages.formats import as_text, open_document
from tijera.core.packages.pulled import Pulled, PulledMapping


def _counted(seen: list[int], most: int = 1_000) -> Iterator[int]:
    for number in range(most):
        seen.append(number)
        yield number


class Sequences(unittest.TestCase):
    """They are like a list, and no further read than needed."""

    def test_no_further_than_asked_for(self) -> None:
        """By index, by slice and by going through; what was read is not read again."""
        seen: list[int] = []
        numbers = Pulled(_counted(seen))
        self.assertEqual((numbers[3], len(seen)), (3, 4))
        self.assertEqual((list(numbers[2:6]), len(seen)), ([2, 3, 4, 5], 6))
        self.assertEqual((next(iter(numbers)), len(seen)), (0, 6))
        self.assertEqual((numbers[-1], len(numbers), list(numbers)), (999, 1_000, list(range(1_000))))
        self.assertEqual((seen, list(numbers[998:2_000])), (list(range(1_000)), [998, 999]))

    def test_a_mapping_reads_on_until_the_key_comes_up(self) -> None:
        """One that is not there is missed once all was read."""
        known: dict[str, int] = {}

        def walk() -> Iterator[int]:
            for number in range(5_000):
                known[str(number)] = number
                yield number

        numbers = Pulled(walk())
        by_name = PulledMapping.over(known, numbers)
        self.assertEqual(by_name["7"], 7)
        self.assertLess(len(known), 1_000)
        self.assertIsNone(by_name.get("6000"))
        self.assertEqual((len(by_name), list(by_name)[-1]), (5_000, "4999"))
        self.assertIs(PulledMapping.over(known, ()), known)

    def test_a_failure_does_not_look_like_the_end(self) -> None:
        """It is raised again whenever more is asked for; what was read before stays."""

        def walk() -> Iterator[int]:
            yield 1
            raise ValueError

        numbers = Pulled(walk())
        for _ in range(2):
            with self.assertRaises(ValueError):
                len(numbers)
        self.assertEqual(numbers[0], 1)

    def test_threads_may_share_one(self) -> None:
        """Each number once, in order, whoever asks."""
        seen: list[int] = []
        numbers = Pulled(_counted(seen, 20_000))
        with ThreadPoolExecutor(8) as pool:
            sums = list(pool.map(lambda _: sum(numbers), range(8)))
        self.assertEqual((set(sums), len(seen)), ({sum(range(20_000))}, 20_000))


class Outlines(unittest.TestCase):
    """A long text's first places are there before its last."""

    def test_a_place_is_found_without_reading_what_lies_far_behind_it(self) -> None:
        """The same places come up as by reading everything."""
        texts = [f"Rule {number}" for number in range(2_000)]
        for data in (
            Docx("".join(map(paragraph, texts)) + section()).build(),
            Odt("".join(map(p, texts))).build(),
        ):
            first, whole = (as_text(open_document(data)) for _ in range(2))
            self.assertEqual(first.spot("b.3").after_text, "Rule 2")
            blocks = first.outline.body.blocks
            assert isinstance(blocks, Pulled)
            self.assertLess(len(blocks._known), 1_000)
            self.assertEqual(len(list(whole.spots())), 2_001)
            self.assertEqual(list(first.spots()), list(whole.spots()))
