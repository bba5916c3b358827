"""The solver against every combination there is."""

import itertools
import unittest

from hypothesis import given
from hypothesis import strategies as st

from tijera.core.budget.solver import Option, choose

_LADDERS = st.lists(
    st.lists(st.builds(Option, st.integers(1, 60), st.integers(0, 40).map(float)), min_size=1, max_size=5),
    min_size=0,
    max_size=4,
)


class Choosing(unittest.TestCase):
    """The least loss within the bytes."""

    @given(_LADDERS, st.integers(0, 200))
    def test_nothing_better_exists(self, ladders: list[list[Option]], most: int) -> None:
        """Compared with brute force: the same loss, and of equal losses the lightest."""
        fitting = [
            combination
            for combination in itertools.product(*ladders)
            if sum(option.bytes for option in combination) <= most
        ]
        chosen = choose(ladders, most)
        if not fitting:
            self.assertIsNone(chosen)
            return
        assert chosen is not None
        taken = [ladder[index] for ladder, index in zip(ladders, chosen, strict=True)]
        found = sum(option.loss for option in taken), sum(option.bytes for option in taken)
        best = min((sum(o.loss for o in c), sum(o.bytes for o in c)) for c in fitting)
        self.assertEqual(found, best)

    def test_thirty_pictures_stay_within_the_limit_when_states_are_thinned(self) -> None:
        """More states than the cap: still under the limit, and not far from the bound."""
        ladders = [[Option(997 * (i + 3) // (r + 1), float(r * r * (i % 7 + 1))) for r in range(12)] for i in range(30)]
        most = sum(ladder[0].bytes for ladder in ladders) // 2
        chosen = choose(ladders, most)
        assert chosen is not None
        self.assertLessEqual(sum(ladder[i].bytes for ladder, i in zip(ladders, chosen, strict=True)), most)
