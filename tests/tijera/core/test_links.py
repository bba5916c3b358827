"""What guards a link: the rules by themselves."""

import unittest

from argon2 import extract_parameters
from argon2.profiles import RFC_9106_LOW_MEMORY

from tijera.core.links.guarding import closed_s, hashed, is_right, new_token, pause_s
from tijera.core.links.standing import LinkState, state_of

_NOON, _LATER = "2026-03-12T12:00:00.000000+00:00", "2026-03-12T13:00:00.000000+00:00"


class Guarding(unittest.TestCase):
    """Passwords, tokens, pauses."""

    def test_passwords_are_kept_as_rfc_9106_recommends(self) -> None:
        """Section 4, second recommended option: Argon2id v1.3, t = 3, p = 4, m = 2^16 KiB, 128-bit salt, 256-bit tag."""
        kept = hashed("low tide at nine")
        self.assertTrue(kept.startswith("$argon2id$v=19$m=65536,t=3,p=4$"), kept)
        self.assertEqual(extract_parameters(kept), RFC_9106_LOW_MEMORY)
        self.assertNotEqual(kept, hashed("low tide at nine"))
        self.assertNotIn("tide", kept)
        self.assertTrue(is_right(kept, "low tide at nine"))
        for wrong in ("Low tide at nine", "low tide at nine ", "", "x" * 5_000, "low tide at nin\ud800"):
            self.assertFalse(is_right(kept, wrong), wrong)
        self.assertFalse(is_right("no such thing", "low tide at nine"))

    def test_tokens_are_long_and_their_own(self) -> None:
        """32 signs of 64 kinds: 192 bits. Every sign of the alphabet comes at every place."""
        tokens = [new_token() for _ in range(4_000)]
        self.assertEqual(len(set(tokens)), 4_000)
        self.assertTrue(all(len(set(signs)) == 64 for signs in zip(*tokens, strict=True)))

    def test_pauses_grow_up_to_a_day(self) -> None:
        """None for four; then a minute, doubled each time."""
        self.assertEqual([pause_s(wrong) for wrong in range(9)], [0, 0, 0, 0, 0, 60, 120, 240, 480])
        self.assertEqual((pause_s(15), pause_s(16), pause_s(10**6)), (61_440, 86_400, 86_400))

    def test_a_clock_that_is_set_back_makes_no_pause_longer(self) -> None:
        """And time that passes ends it."""
        self.assertEqual((closed_s(5, 1_000, 1_000), closed_s(5, 1_000, 1_059), closed_s(5, 1_000, 1_060)), (60, 1, 0))
        self.assertEqual(closed_s(5, 1_000_000, 1_000), 60)


class Standing(unittest.TestCase):
    """Open, or why not."""

    def state(self, now: str = _NOON, *, views: int = 0, **other: object) -> LinkState:
        """Of a link with an end at noon and three views, unless said otherwise."""
        fields = {"withdrawn": False, "ended": False, "ends_at": _LATER, "most_views": 3, "views": views} | other
        return state_of(now=now, **fields)  # type: ignore[arg-type]

    def test_each_way_to_be_closed(self) -> None:
        """What was said first counts most."""
        self.assertIs(self.state(), LinkState.OPEN)
        self.assertIs(self.state(ends_at=None, most_views=None, views=10**6), LinkState.OPEN)
        self.assertIs(self.state(views=3), LinkState.USED_UP)
        self.assertIs(self.state(_LATER), LinkState.ENDED)
        self.assertIs(self.state(ended=True), LinkState.ENDED)
        self.assertIs(self.state(_LATER, withdrawn=True, views=3), LinkState.WITHDRAWN)
