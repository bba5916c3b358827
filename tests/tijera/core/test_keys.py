"""Keys that can be changed."""

import itertools
import unittest

from tijera.core.errors import KeyTaken, OptionUnreadable
from tijera.core.keys import ACTIONS, EVERYWHERE, check_keys


class Changing(unittest.TestCase):
    """What a user may choose."""

    def test_no_two_keys_clash_to_begin_with(self) -> None:
        """Where they could both be meant; ids are unique."""
        for one, other in itertools.combinations(ACTIONS, 2):
            self.assertNotEqual(one.id, other.id)
            if one.where == other.where or EVERYWHERE in (one.where, other.where):
                self.assertNotEqual(one.key, other.key, (one.id, other.id))

    def test_only_what_differs_is_kept(self) -> None:
        """A key that is the action's own is no change."""
        self.assertEqual(check_keys({"freeze": "F", "undo": "Alt+Backspace"}), {"undo": "Alt+Backspace"})

    def test_a_clash_names_the_other_action(self) -> None:
        """In one room, and with what works everywhere; not between two rooms."""
        with self.assertRaises(KeyTaken) as caught:
            check_keys({"freeze": "A"})
        self.assertEqual(caught.exception.detail, "A belongs to “last area again” already.")
        with self.assertRaises(KeyTaken):
            check_keys({"take-out": "Ctrl+Z"})
        self.assertEqual(check_keys({"take-out": "F"}), {"take-out": "F"})

    def test_two_keys_can_change_places(self) -> None:
        """In one step."""
        self.assertEqual(check_keys({"freeze": "A", "last-area": "F"}), {"freeze": "A", "last-area": "F"})

    def test_what_is_no_key_or_no_action_is_refused(self) -> None:
        """With the reason."""
        for keys in ({"freeze": ""}, {"freeze": "Ctrl+"}, {"freeze": "Shift+Alt+x y"}, {"fly": "F"}):
            with self.subTest(keys), self.assertRaises(OptionUnreadable):
                check_keys(keys)
        for key in ("Ctrl+Alt+Shift+F12", "+", "Ctrl++", " ", "ArrowUp", "ß"):
            with self.subTest(key):
                self.assertEqual(check_keys({"take-out": key}), {"take-out": key})
