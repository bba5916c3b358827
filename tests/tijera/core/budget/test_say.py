"""What the user says of pictures, as it counts in a search."""

import unittest

from tijera.core.budget.say import Say


class Saying(unittest.TestCase):
    """What the user may say of a picture."""

    def test_what_nothing_is_said_of_counts_as_it_is(self) -> None:
        """Its loss is neither more nor less, also where it is kept."""
        self.assertEqual([each.matters for each in (Say.USUAL, Say.KEEP)], [1, 1])
        self.assertGreater(Say.MORE.matters, 1)
        self.assertLess(max(Say.LESS.matters, Say.FALL.matters), 1)


if __name__ == "__main__":
    unittest.main()
