"""The README says what the code does."""

import unittest
from dataclasses import fields
from pathlib import Path

from tijera.core.frames.abilities import ABILITY_NAMES, SOURCE_NAMES, SOURCES, Abilities, table
from tijera.desk.desk import PracticeDesk

_README = (Path(__file__).parents[2] / "README.md").read_text(encoding="utf-8")


class SourcesAndAbilities(unittest.TestCase):
    """One table, in the code and in the README."""

    def test_the_table_of_the_readme_is_that_of_the_code(self) -> None:
        """Word for word."""
        self.assertIn(table(), _README)

    def test_every_source_and_every_ability_has_its_words(self) -> None:
        """A source either can, or says what to do instead."""
        self.assertEqual(set(SOURCES), set(SOURCE_NAMES))
        names = [field.name for field in fields(Abilities)]
        self.assertEqual(names, list(ABILITY_NAMES))
        for source, abilities in SOURCES.items():
            for name in names:
                words = getattr(abilities, name)
                self.assertTrue(words is None or words.endswith("."), (source, name))
        self.assertEqual(PracticeDesk().abilities, SOURCES["desk"])
