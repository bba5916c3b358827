"""When a message is tried again, and what it is after a try."""

import unittest

from tijera.core.mail.post import Delivery, Kind, Reply
from tijera.core.mail.queueing import GIVEN_UP_AFTER_S, PAUSES_S, State, is_due, pause_s, state_after


class Queueing(unittest.TestCase):
    """RFC 5321 §4.5.4.1: pauses that grow, and an end after four to five days."""

    def test_pauses_grow_to_half_an_hour_and_stay_there(self) -> None:
        """At least thirty minutes is what the standard asks for in the long run."""
        pauses = [pause_s(tries) for tries in range(1, 20)]
        self.assertEqual(pauses, sorted(pauses))
        self.assertEqual({pause_s(tries) for tries in range(len(PAUSES_S), 50)}, {1_800})
        self.assertTrue(4 * 86_400 <= GIVEN_UP_AFTER_S <= 5 * 86_400)

    def test_what_it_is_after_a_try(self) -> None:
        """By what the server said, who is left, who was reached, and how old it is."""
        for kind, left, reached, age, state in (
            (Kind.TAKEN, 0, 1, 0, State.SENT),
            (Kind.TAKEN, 2, 1, 0, State.WAITING),
            (Kind.TAKEN, 0, 0, 0, State.REFUSED),
            (Kind.LATER, 1, 0, 0, State.WAITING),
            (Kind.AWAY, 1, 0, GIVEN_UP_AFTER_S, State.WAITING),
            (Kind.AWAY, 1, 0, GIVEN_UP_AFTER_S + 1, State.REFUSED),
            (Kind.LATER, 1, 3, GIVEN_UP_AFTER_S + 1, State.SENT),
            (Kind.REFUSED, 1, 0, 0, State.REFUSED),
            (Kind.REFUSED, 1, 2, 0, State.SENT),
            (Kind.UNCLEAR, 1, 0, GIVEN_UP_AFTER_S + 1, State.UNCLEAR),
        ):
            with self.subTest(kind=kind, left=left, reached=reached, age=age):
                self.assertIs(state_after(Delivery(kind, Reply(0, "")), left, reached, age), state)

    def test_a_clock_that_is_set_back_keeps_nothing_waiting(self) -> None:
        """A time further off than any pause can't be one that was set by the clock as it is."""
        self.assertTrue(is_due(100, 100))
        self.assertFalse(is_due(101, 100))
        self.assertFalse(is_due(100 + PAUSES_S[-1], 100))
        self.assertTrue(is_due(101 + PAUSES_S[-1], 100))

    def test_the_classes_of_replies(self) -> None:
        """RFC 5321 §4.2.1: 2 and 3 yes, 4 later, 5 no."""
        self.assertEqual(
            [Reply(code, "").is_yes for code in (199, 200, 354, 399, 400, 550)], [False, True, True, True, False, False]
        )
        self.assertEqual(
            [Reply(code, "").is_no for code in (499, 500, 599, 600, 250)], [False, True, True, False, False]
        )
