"""What is written today is what was read and accepted."""

import difflib
import unittest

from tests.golden.cases import CASES
from tests.golden.remake import FOLDER


class Golden(unittest.TestCase):
    """Each case against its dump, with a diff on failure."""

    def test_dumps_are_unchanged(self) -> None:
        """A golden file only proves sameness; independent readers stand in tests/reference."""
        for name, make in CASES.items():
            with self.subTest(name):
                wanted = (FOLDER / f"{name}.txt").read_text(encoding="utf-8")
                found = make()
                diff = "\n".join(difflib.unified_diff(wanted.splitlines(), found.splitlines(), "accepted", "now", lineterm=""))  # fmt: skip
                self.assertEqual(diff, "")

    def test_every_dump_has_its_case(self) -> None:
        """None is left behind."""
        self.assertEqual({path.stem for path in FOLDER.glob("*.txt")}, set(CASES))
