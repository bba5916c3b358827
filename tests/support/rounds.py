"""How often a test by chance tries: all its rounds, or in a fast run a third of them."""

from __future__ import annotations

import os

SHARE = "TIJERA_TEST_ROUNDS"
"""The environment's name for the share of rounds, 0 to 1."""


def rounds(most: int) -> int:
    """So many, or the share of them that was asked for; never none."""
    return max(1, round(most * float(os.environ.get(SHARE, "1"))))
