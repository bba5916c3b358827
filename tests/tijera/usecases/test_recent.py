"""Results that are kept for a while."""

import threading
import unittest

from tijera.usecases.recent import Budget, Recent


class Shared(unittest.TestCase):
    """Several that have so many bytes together."""

    def setUp(self) -> None:
        """Two, for ten bytes."""
        self.budget = Budget(10)
        self.one, self.other = (Recent[bytes](4, self.budget, len) for _ in range(2))
        self.made: list[object] = []

    def get(self, recent: Recent[bytes], key: str, size: int) -> bytes:
        """As one who needs it."""

        def make() -> bytes:
            self.made.append(key)
            return bytes(size)

        return recent.get(key, make)

    def test_what_was_used_longest_ago_goes_first_wherever_it_is(self) -> None:
        """Asking for it again counts as use."""
        for recent, key, size in ((self.one, "a", 4), (self.other, "b", 4), (self.one, "a", 4), (self.one, "c", 5)):
            self.get(recent, key, size)
        self.assertEqual(self.made, ["a", "b", "c"])
        self.get(self.one, "a", 4)
        self.assertEqual(self.made, ["a", "b", "c"])
        self.get(self.other, "b", 4)
        self.assertEqual(self.made, ["a", "b", "c", "b"])

    def test_the_newest_stays_however_large_and_all_others_make_room(self) -> None:
        """What is needed next is most likely the same."""
        self.get(self.one, "a", 3)
        for _ in range(2):
            self.get(self.other, "b", 99)
        self.assertEqual(self.made, ["a", "b"])
        self.get(self.one, "a", 3)
        self.get(self.other, "b", 99)
        self.assertEqual(self.made, ["a", "b", "a", "b"])

    def test_what_is_dropped_by_number_leaves_its_bytes(self) -> None:
        """Four at the most in each."""
        for number in range(30):
            self.get(self.one, f"a{number}", 2)
        self.get(self.other, "b", 2)
        for number in (26, 27, 28, 29):
            self.get(self.one, f"a{number}", 2)
        self.assertEqual(self.made[-2:], ["a29", "b"])

    def test_many_threads_wait_for_each_other_and_never_for_ever(self) -> None:
        """Each value is right, whatever was dropped meanwhile."""

        def work(seed: int) -> None:
            for number in range(400):
                key = (seed * 7 + number) % 11
                wrong.extend(
                    key
                    for recent in (self.one, self.other)
                    if len(recent.get(key, lambda key=key: bytes(key))) != key  # type: ignore[misc]
                )

        wrong: list[int] = []
        threads = [threading.Thread(target=work, args=(seed,)) for seed in range(8)]
        for each in threads:
            each.start()
        for each in threads:
            each.join(60)
        self.assertFalse(any(each.is_alive() for each in threads))
        self.assertEqual(wrong, [])


class Deadlock(unittest.TestCase):
    """Who asks within a change holds the database; who makes the value may need it."""

    def test_neither_waits_for_the_other_for_ever(self) -> None:
        """Both get the value, though each holds what the other wants."""
        database, making, asking = threading.RLock(), threading.Event(), threading.Event()
        for patience_s in (0.0, 0.05):
            recent = Recent[str](4, patience_s=patience_s)
            got: list[str] = []

            def make() -> str:
                making.set()
                asking.wait(30)
                with database:
                    return "value"

            def maker(recent: Recent[str] = recent, got: list[str] = got) -> None:
                got.append(recent.get("key", make))

            def within_a_change(recent: Recent[str] = recent, got: list[str] = got) -> None:
                with database:
                    making.wait(30)
                    asking.set()
                    got.append(recent.get("key", make))

            threads = [threading.Thread(target=each, daemon=True) for each in (within_a_change, maker)]
            for each in threads:
                each.start()
            for each in threads:
                each.join(60)
            self.assertEqual(got, ["value"] * 2)
            making.clear()
            asking.clear()
