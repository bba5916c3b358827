"""How many pixels are worked on at once."""

import threading
import unittest

from tijera.core.imaging.gate import Gate

_SHORT, _LONG = 0.2, 60.0


class Budget(unittest.TestCase):
    """Work waits for its turn by pixels."""

    def _enters(self, gate: Gate, pixels: int) -> threading.Event:
        """Set as soon as work of so many pixels is let in by a thread of its own."""
        entered = threading.Event()

        def work() -> None:
            with gate.passed(pixels):
                entered.set()

        thread = threading.Thread(target=work)
        self.addCleanup(thread.join)
        thread.start()
        return entered

    def test_small_ones_go_side_by_side_and_a_large_one_alone(self) -> None:
        """What has no room waits, and comes in when there is some; what is larger than the budget comes in by itself."""
        gate = Gate(10)
        with gate.passed(6):
            self.assertTrue(self._enters(gate, 4).wait(_LONG))
            too_much, large = self._enters(gate, 5), self._enters(gate, 25)
            # Were it let in, it would be so at once; a slow machine can't make this fail.
            self.assertFalse(too_much.wait(_SHORT) or large.wait(_SHORT))
        self.assertTrue(too_much.wait(_LONG) and large.wait(_LONG))
        with gate.passed(25):
            self.assertFalse(self._enters(gate, 1).wait(_SHORT))

    def test_a_fault_inside_lets_the_next_one_in(self) -> None:
        """Nothing waits for what is over."""
        gate = Gate(10)
        with self.assertRaises(ZeroDivisionError), gate.passed(25):
            raise ZeroDivisionError
        with gate.passed(25):
            pass


if __name__ == "__main__":
    unittest.main()
