"""Names by a pattern."""

import unittest

from tijera.core.errors import OptionUnreadable
from tijera.core.naming import DEFAULT_PATTERN, MOST_CHARACTERS, check_pattern, clean_name, name_by


def _name(pattern: str, window: str = "Tide board", taken: tuple[str, ...] = ()) -> str:
    return name_by(pattern, window=window, date="2026-03-12", time="12.05", is_taken=lambda name: name in taken)


class Names(unittest.TestCase):
    """Made at once from what is known."""

    def test_every_part_finds_its_place(self) -> None:
        """Also twice, also none."""
        for pattern, name in (
            (DEFAULT_PATTERN, "Tide board 2026-03-12 12.05"),
            ("{date} {window} ({counter})", "2026-03-12 Tide board (1)"),
            ("{window}/{window}", "Tide board/Tide board"),
            ("Log", "Log"),
        ):
            with self.subTest(pattern):
                self.assertEqual(_name(pattern), name)

    def test_a_name_that_is_taken_gets_a_counter(self) -> None:
        """The pattern's own, or one behind it."""
        self.assertEqual(_name("{window}", taken=("Tide board", "Tide board 2")), "Tide board 3")
        self.assertEqual(_name("{counter} {window}", taken=("1 Tide board", "2 Tide board")), "3 Tide board")

    def test_a_title_can_not_play_the_pattern(self) -> None:
        """Braces in it are braces; signs that turn text are gone; nothing is left of it: there is a name still."""
        self.assertEqual(_name("{window} {date}", window="{counter}{time}"), "{counter}{time} 2026-03-12")
        self.assertEqual(clean_name("quay\u202egnp.exe\n\x00 two"), "quay gnp.exe two")
        self.assertEqual(_name("{window}", window="\u200f\t"), "Clipping")
        long = _name("{window}", window="x" * 300, taken=("x" * MOST_CHARACTERS,))
        self.assertTrue(long.endswith(" 2") and len(long) <= MOST_CHARACTERS)

    def test_a_pattern_that_says_nothing_is_refused(self) -> None:
        """Unknown parts, stray braces, nothing at all; a good one is cleaned."""
        for pattern in ("{where}", "{window", "a } b", "   ", "{}"):
            with self.subTest(pattern), self.assertRaises(OptionUnreadable):
                check_pattern(pattern)
        self.assertEqual(check_pattern("  {window}\n {counter} "), "{window} {counter}")
