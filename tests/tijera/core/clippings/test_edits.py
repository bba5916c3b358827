"""Changes to the marks of a sheet."""

from __future__ import annotations

import unittest

from tests.support.sheets import mark
from tijera.core.clippings import edits
from tijera.core.clippings.sheet import Sheet
from tijera.core.errors import MarkGone, NotFound, OptionUnreadable

SHEET = Sheet(
    (
        mark("pennant", (10, 10), id_="p1"),
        mark("ring", (0, 0), (40, 30), id_="r"),
        mark("pennant", (50, 20), id_="p2"),
        mark("line", (0, 0), (30, 0), id_="l"),
    )
)


def ids(sheet: Sheet) -> str:
    """The order of the marks."""
    return " ".join(each.id for each in sheet.marks)


class Edits(unittest.TestCase):
    """Each gives a new sheet and leaves the old one."""

    def test_move_several(self) -> None:
        after = edits.move(SHEET, ["r", "l"], 5, -2, "Log")
        self.assertEqual(after.mark("r").points, ((5, -2), (45, 28)))
        self.assertEqual(after.mark("p1"), SHEET.mark("p1"))

    def test_order_by_steps_and_to_the_ends(self) -> None:
        self.assertEqual(ids(edits.order(SHEET, ["r"], "front", "")), "p1 p2 l r")
        self.assertEqual(ids(edits.order(SHEET, ["l"], "back", "")), "l p1 r p2")
        self.assertEqual(ids(edits.order(SHEET, ["r"], "up", "")), "p1 p2 r l")

    def test_a_pennant_steps_past_the_next_pennant(self) -> None:
        """So that one step changes its number, whatever lies between."""
        self.assertEqual(ids(edits.order(SHEET, ["p1"], "up", "")), "r p2 p1 l")
        self.assertEqual(ids(edits.order(SHEET, ["p2"], "down", "")), "p2 p1 r l")
        self.assertEqual(edits.order(SHEET, ["p2"], "up", "").marks, SHEET.marks)

    def test_restyle_takes_what_each_kind_has(self) -> None:
        after = edits.restyle(SHEET, ["p1", "r"], {"colour": "plum", "weight_pt": 3.0}, "")
        self.assertEqual(after.mark("p1").options, {"colour": "plum"})
        self.assertEqual(after.mark("r").options, {"colour": "plum", "weight_pt": 3.0})
        with self.assertRaises(OptionUnreadable):
            edits.restyle(SHEET, ["p1"], {"weight_pt": 3.0}, "")

    def test_a_lines_angle_and_length_can_be_typed(self) -> None:
        up = edits.derive(SHEET, "l", "degrees", 90.0, "").mark("l").points
        self.assertEqual(up, ((0, 0), (0, -30)))
        longer = edits.derive(SHEET, "l", "pixels", 45.0, "").mark("l").points
        self.assertEqual(longer, ((0, 0), (45, 0)))
        with self.assertRaises(NotFound):
            edits.derive(SHEET, "r", "degrees", 10.0, "")

    def test_what_is_gone_is_said(self) -> None:
        with self.assertRaises(MarkGone):
            edits.remove(SHEET, ["x"], "Log")
        with self.assertRaises(MarkGone):
            edits.move(SHEET, ["x"], 1, 1, "Log")
        with self.assertRaises(MarkGone):
            edits.reshape(SHEET, "x", ((0, 0), (1, 9)), "Log")
        self.assertEqual(ids(edits.remove(SHEET, ["r", "l"], "")), "p1 p2")
