"""Names by a pattern."""

import unittest

from tijera.core.errors import OptionUnreadable
from tijera.core.naming import (
    DEFAULT_PATTERN,
    MOST_CHARACTERS,
    check_pattern,
    clean_name,
    file_name,
    file_stem,
    name_by,
)


def _name(pattern: str, window: str = "Tide board", taken: tuple[str, ...] = ()) -> str:
    return name_by(pattern, window=window, date="2026-03-12", time="12.05", is_taken=lambda name: name in taken)


class FileNames(unittest.TestCase):
    """What every file system takes; rules of the strictest one (common practice)."""

    def test_the_ending_follows_the_content_and_stays(self) -> None:
        """However long the name is; a full stop within it parts nothing off."""
        cases = {
            "Mooring rules.docx": "Mooring rules.docx",
            "Mooring rules.pdf": "Mooring rules.docx",
            "Mooring rules": "Mooring rules.docx",
            "Minutes 2026.03": "Minutes 2026.03.docx",
            "Rules.DOCX": "Rules.DOCX",
            "C:\\harbour\\Rules.docx": "Rules.docx",
            "a/b/Rules.odt": "Rules.docx",
            "…/..": "document.docx",
            ".docx": "docx.docx",
            'Who? "me": <3|*.docx': "Who- -me- -3-.docx",
            "aux.docx": "_aux.docx",
            "COM1": "_COM1.docx",
            "communal.docx": "communal.docx",
            "Rules .docx": "Rules.docx",
        }
        for given, wanted in cases.items():
            with self.subTest(given):
                self.assertEqual(file_name(given, "docx"), wanted)

    def test_a_long_name_loses_of_its_stem(self) -> None:
        """255 bytes of UTF-8, no letter cut in half."""
        for letter in ("x", "ü", "潮", "🚢"):
            with self.subTest(letter):
                name = file_name(letter * 300 + ".docx", "docx")
                self.assertTrue(name.endswith(".docx"))
                self.assertLessEqual(len(name.encode()), 255)
                self.assertGreater(len(name.encode()), 245)
                self.assertEqual(set(name.removesuffix(".docx")), {letter})
                self.assertLessEqual(len(file_stem(letter * 300).encode()), 223)


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
