"""Lengths, byte sizes and the one rounding rule."""

import ast
import unittest
from fractions import Fraction
from pathlib import Path

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

import tijera
from tijera.core.errors import LengthUnreadable, LimitUnreadable
from tijera.core.geometry import Size
from tijera.core.imaging.picture import whole_values
from tijera.core.units import Length, format_bytes, ooxml_measure, parse_limit, round_half_up

_SOURCE = Path(tijera.__file__).parent


def _rounds(call: ast.Call) -> bool:
    """Whether it rounds to whole numbers by a rule of its own; to decimals is for showing."""
    called = call.func
    name = called.id if isinstance(called, ast.Name) else called.attr if isinstance(called, ast.Attribute) else ""
    return name in ("rint", "around") or (name == "round" and len(call.args) + len(call.keywords) == 1)


class RoundHalfUp(unittest.TestCase):
    """The rounding rule."""

    def test_it_is_the_only_rule(self) -> None:
        """Nowhere in the core or the use cases is rounded to whole numbers in another way: to even, or cut off by chance."""
        files = [*(_SOURCE / "core").rglob("*.py"), *(_SOURCE / "usecases").rglob("*.py")]
        self.assertGreater(len(files), 100)
        other = [
            f"{file.relative_to(_SOURCE)}:{node.lineno}"
            for file in files
            for node in ast.walk(ast.parse(file.read_text(encoding="utf-8")))
            if isinstance(node, ast.Call) and _rounds(node)
        ]
        self.assertEqual(other, [])

    def test_samples_keep_to_it(self) -> None:
        """Halves go up there, too; what can't be written is cut off."""
        values = np.array([-3.0, 0.49, 0.5, 1.5, 2.5, 254.5, 300.0])
        self.assertEqual(whole_values(values).tolist(), [0, 0, 1, 2, 3, 255, 255])

    def test_a_size_keeps_to_it(self) -> None:
        """At least one pixel is left each way."""
        self.assertEqual(Size(5, 3).scaled(0.5), Size(3, 2))
        self.assertEqual(Size(5, 3).scaled(0.01), Size(1, 1))

    def test_halves_go_up_on_both_sides_of_zero(self) -> None:
        """Not to even, and not away from zero."""
        halves = [Fraction(1, 2), Fraction(3, 2), Fraction(5, 2), Fraction(-1, 2), Fraction(-3, 2)]
        self.assertEqual([round_half_up(each) for each in halves], [1, 2, 3, 0, -1])

    @given(st.fractions(min_value=-(10**9), max_value=10**9))
    def test_is_never_off_by_more_than_a_half(self, value: Fraction) -> None:
        """The defining property of rounding to nearest."""
        self.assertLessEqual(abs(round_half_up(value) - value), Fraction(1, 2))


class Lengths(unittest.TestCase):
    """Reading and converting."""

    def test_reads_the_units_that_people_type(self) -> None:
        """Each with the standard's factor."""
        for text, emu in (("60mm", 2_160_000), ("2.5 in", 2_286_000), ("12 pt", 152_400), ("6CM", 2_160_000), ("96px", 914_400)):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(Length.parse(text).emu, emu)

    def test_refuses_what_is_no_length(self) -> None:
        """Nothing without a unit, nothing of zero or less."""
        for text in ("60", "mm", "0mm", "-3mm", "6 furlongs", "", "1e9mm", "6mm;", "9" * 5_000 + "mm", "99999999999mm"):
            with self.subTest(text), self.assertRaises(LengthUnreadable):
                Length.parse(text)

    def test_does_not_truncate_centimetres(self) -> None:
        """0.7 cm is 252 000 EMU; a float would come out one short."""
        self.assertEqual(Length.parse("0.7cm").emu, 252_000)

    def test_reads_measures_of_strict_and_transitional_files(self) -> None:
        """Twips without a unit, anything with one."""
        self.assertEqual(ooxml_measure("1440"), 914_400)
        self.assertEqual(ooxml_measure("210mm"), 7_560_000)
        with self.assertRaises(LengthUnreadable):
            ooxml_measure("wide")

    @given(st.integers(min_value=1, max_value=10**9))
    def test_millimetres_come_back(self, emu: int) -> None:
        """Through text and back it is the same length."""
        self.assertEqual(Length.parse(f"{Length(emu).emu}emu"), Length(emu))


class ByteSizes(unittest.TestCase):
    """Limits as text."""

    def test_reads_powers_of_ten_and_of_two(self) -> None:
        """IEC 80000-13: kB and MB decimal, KiB and MiB binary."""
        cases = {"2 MB": 2_000_000, "500kB": 500_000, "10 MiB": 10_485_760, "1,5 MB": 1_500_000, "900 B": 900, "2mb": 2_000_000}  # fmt: skip
        for text, size in cases.items():
            with self.subTest(text):
                self.assertEqual(parse_limit(text), size)

    def test_refuses_what_is_no_limit(self) -> None:
        """Also nothing at all and a bare number."""
        for text in ("2", "MB", "0 MB", "-1 MB", "lots", "2 MB please", "99999999 GB", "9" * 5_000 + " MB"):
            with self.subTest(text), self.assertRaises(LimitUnreadable):
                parse_limit(text)

    def test_writes_them_for_people(self) -> None:
        """Never "1000 kB"."""
        self.assertEqual([format_bytes(size) for size in (12, 31_400, 999_600, 2_610_000)], ["12 B", "31 kB", "1.00 MB", "2.61 MB"])  # fmt: skip
