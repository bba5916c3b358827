"""Sequences that are read as far as they are asked for."""

from __future__ import annotations

import unittest
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor

from tijera.core.packages.containers.lazy_reading import Pulled


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
