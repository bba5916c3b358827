"""Every kind of mark with every choice it has, as it was drawn when somebody looked at it.

The record holds no truth of its own: `tests/reference/test_drawn_marks.py` checks geometry. It tells that something is
drawn otherwise than before, which may be meant: look at it, then write it anew with
`python -m tests.tijera.core.marks.test_recorded`.
"""

from __future__ import annotations

import json
import unittest
from collections.abc import Iterator
from dataclasses import fields
from pathlib import Path

import numpy as np

from tests.tijera.core.marks.test_kinds import ONE_OF_EACH
from tijera.core.imaging.picture import Picture
from tijera.core.marks.ground import Ground
from tijera.core.marks.kinds import checked, draw, kinds
from tijera.core.marks.mark import Amount, Choice, Mark, Switch

_RECORD = Path(__file__).parents[3] / "data/drawn_marks.json"
_GROUND = np.full((80, 100, 3), 240, np.uint8)
_GROUND[:, 40:] = (30, 60, 50)
_PRESSURES = (0.2, 1.0, 0.6)


def _cases() -> Iterator[tuple[str, Mark]]:
    for each in ONE_OF_EACH:
        yield each.kind, each
        for field in fields(kinds()[each.kind].options):
            for value in _values(field.metadata.get("option")):
                options = {**each.options, field.name: value}
                yield f"{each.kind}, {field.name} {value}", Mark("m", each.kind, each.points, options)
        if each.kind == "pen":
            yield "pen, pressed", Mark("m", "pen", each.points, each.options, _PRESSURES)


def _values(option: object) -> tuple[str | float | bool, ...]:
    if isinstance(option, Choice):
        return tuple(value for value, _ in option.values)
    if isinstance(option, Amount):
        return (option.least, option.most)
    return (True, False) if isinstance(option, Switch) else ()


def _drawn() -> dict[str, str]:
    ground = Ground(Picture(_GROUND), (3.0, 5.0), 1.0)
    return {name: draw(checked(each), 1.5, ground, 12).svg for name, each in _cases()}


class Recorded(unittest.TestCase):
    """Nothing is drawn otherwise by accident."""

    maxDiff = None

    def test_each_is_drawn_as_before(self) -> None:
        """To the last digit."""
        self.assertEqual(_drawn(), json.loads(_RECORD.read_text(encoding="utf-8")))


if __name__ == "__main__":
    _RECORD.write_text(json.dumps(_drawn(), indent=1, ensure_ascii=False) + "\n", encoding="utf-8")
