"""The solver against every combination there is, and against SciPy's integer programming (HiGHS) where there are too many."""

import itertools
import unittest
from collections.abc import Sequence
from unittest import mock

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import LinearConstraint, milp

from tijera.core.budget import solver
from tijera.core.budget.solver import Choice, Option, choose

_LADDERS = st.lists(
    st.lists(st.builds(Option, st.integers(1, 60), st.integers(0, 40).map(float)), min_size=1, max_size=5),
    min_size=0,
    max_size=4,
)
Ladders = Sequence[Sequence[Option]]


def curves(seed: int, pictures: int, rungs: int) -> list[list[Option]]:
    """Ladders like measured ones: bytes and losses of any scale, bent one way or the other, with some noise."""
    random = np.random.default_rng(seed)
    ladders = []
    for _ in range(pictures):
        at = np.sort(random.random(rungs))
        most, bent, steep = random.integers(20_000, 900_000), random.uniform(0.5, 2.5), random.uniform(1, 3)
        sizes = (most * (0.05 + 0.95 * at**bent)).astype(int)
        losses = np.maximum(0, (1 - at) ** steep * random.uniform(0.02, 0.6) + random.normal(0, 0.002, rungs))
        ladders.append([Option(int(size), float(loss)) for size, loss in zip(sizes, losses, strict=True)])
    return ladders


def _range(ladders: Ladders) -> tuple[int, int]:
    return tuple(sum(of(option.bytes for option in ladder) for ladder in ladders) for of in (min, max))  # type: ignore[return-value]


def _least(ladders: Ladders, most: int) -> float:
    """The least loss there is, by integer programming: one variable an option, one option a picture."""
    options = [(number, option) for number, ladder in enumerate(ladders) for option in ladder]
    one_each = np.array([[float(number == row) for number, _ in options] for row in range(len(ladders))])
    constraints = [
        LinearConstraint(one_each, 1, 1),
        LinearConstraint(np.array([[float(option.bytes) for _, option in options]]), 0, most),
    ]
    found = milp(
        [option.loss for _, option in options],
        integrality=np.ones(len(options)),
        bounds=(0, 1),
        constraints=constraints,
        options={"mip_rel_gap": 0.0},
    )
    return float(found.fun)


class Choosing(unittest.TestCase):
    """The least loss within the bytes."""

    def _sound(self, ladders: Ladders, most: int, choice: Choice) -> None:
        taken = [ladder[index] for ladder, index in zip(ladders, choice.chosen, strict=True)]
        self.assertEqual(choice.bytes, sum(option.bytes for option in taken))
        self.assertAlmostEqual(choice.loss, sum(option.loss for option in taken), places=9)
        self.assertLessEqual(choice.bytes, most)
        self.assertLessEqual(choice.bound, choice.loss)

    @given(_LADDERS, st.integers(0, 200))
    def test_nothing_better_exists(self, ladders: list[list[Option]], most: int) -> None:
        """Compared with brute force."""
        fitting = [each for each in itertools.product(*ladders) if sum(option.bytes for option in each) <= most]
        choice = choose(ladders, most)
        if not fitting:
            self.assertIsNone(choice)
            return
        assert choice is not None
        self._sound(ladders, most, choice)
        self.assertEqual((choice.loss, choice.gap), (min(sum(option.loss for option in each) for each in fitting), 0.0))

    def test_of_equal_options_the_lighter_is_taken(self) -> None:
        """Whatever order they come in; one that is heavier and worse never is."""
        ladder = [Option(50, 0.2), Option(30, 0.2), Option(40, 0.3), Option(90, 0.0), Option(30, 0.4)]
        choice = choose([ladder], 60)
        assert choice is not None
        self.assertEqual(choice.chosen, (1,))

    def test_thirty_pictures_of_sixty_renditions_are_solved_exactly(self) -> None:
        """At limits over the whole range; a general solver finds nothing better."""
        for seed in range(4):
            ladders = curves(seed, 30, 60)
            least, most = _range(ladders)
            limit = int(least + (most - least) * (0.1, 0.3, 0.55, 0.9)[seed])
            choice = choose(ladders, limit)
            assert choice is not None
            self._sound(ladders, limit, choice)
            with self.subTest(seed):
                self.assertEqual(choice.gap, 0.0)
                self.assertAlmostEqual(choice.loss, _least(ladders, limit), places=6)

    def test_three_hundred_pictures_are_within_a_ten_thousandth(self) -> None:
        """Proven by its own bound."""
        ladders = curves(9, 300, 60)
        least, most = _range(ladders)
        limit = (least + most) // 2
        choice = choose(ladders, limit)
        assert choice is not None
        self._sound(ladders, limit, choice)
        self.assertLessEqual(choice.gap, 1e-4 * choice.loss)

    def test_what_is_thinned_out_says_how_far_off_it_may_be(self) -> None:
        """With room for few states: within the limit, no better than the best, and the best within its bound."""
        ladders = curves(5, 12, 20)
        least, most = _range(ladders)
        limit = int(least + (most - least) * 0.35)
        with mock.patch.object(solver, "STATES_CAP", 3):
            choice = choose(ladders, limit)
        assert choice is not None
        self._sound(ladders, limit, choice)
        best = _least(ladders, limit)
        self.assertGreaterEqual(choice.loss, best - 1e-9)
        self.assertLessEqual(choice.bound, best + 1e-9)

    def test_the_bounds_of_what_is_possible(self) -> None:
        """The lightest of all to the byte, one less, and more than there is; of no ladders nothing is chosen."""
        self.assertEqual(choose([], 0), Choice((), 0, 0.0, 0.0))
        self.assertIsNone(choose([], -1))
        ladders = curves(2, 6, 8)
        least, most = _range(ladders)
        tight, free = choose(ladders, least), choose(ladders, most)
        assert tight is not None
        assert free is not None
        self.assertEqual(tight.bytes, least)
        self.assertIsNone(choose(ladders, least - 1))
        self.assertEqual(free.loss, sum(min(option.loss for option in ladder) for ladder in ladders))
