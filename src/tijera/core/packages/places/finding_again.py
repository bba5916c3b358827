"""Places found again in a newer version of a document: by the text that they follow and by their neighbours.

A place whose own text is gone is found by what stands round it; one that has lost both is lost, and is named.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from tijera.core.packages.places.grid import CellRange, GridCell, GridSheet
from tijera.core.packages.places.spots import Spot


@dataclass(frozen=True)
class _Seen:
    """A spot with what it is known by."""

    spot: Spot
    own: tuple[str, str, str]
    before: str
    after: str


def _seen(spots: Sequence[Spot]) -> list[_Seen]:
    texts = [f"{spot.follows.value}:{spot.after_text}" for spot in spots]
    return [
        _Seen(
            spot,
            (spot.kind.value, spot.follows.value, spot.after_text),
            texts[number - 1] if number else "",
            texts[number + 1] if number + 1 < len(texts) else "",
        )
        for number, spot in enumerate(spots)
    ]


def find_again(old: Sequence[Spot], new: Sequence[Spot], wanted: str) -> Spot | None:
    """The spot of the newer version that an old one's id means now; None where it is lost."""
    before, now = _seen(old), _seen(new)
    mine = next((each for each in before if each.spot.id == wanted), None)
    if mine is None:
        return None
    same = [each for each in now if each.own == mine.own]
    if not same:
        # Its own text was changed: both neighbours must still be there.
        beside = [
            each
            for each in now
            if (each.before, each.after) == (mine.before, mine.after) and each.own[:2] == mine.own[:2]
        ]
        return beside[0].spot if len(beside) == 1 else None
    twins = [each for each in before if each.own == mine.own]
    ordinal = twins.index(mine)

    def likeness(each: _Seen) -> tuple[int, int]:
        fits = 2 * ((each.before == mine.before) + (each.after == mine.after)) + (each.spot.id == wanted)
        return fits, -abs(same.index(each) - ordinal)

    best = max(same, key=likeness)
    # An empty place is like any other empty one: it needs a neighbour that is still there.
    return best.spot if mine.own[2] or likeness(best)[0] > 0 or len(same) == len(twins) else None


def find_cells_again(old: Sequence[GridSheet], new: Sequence[GridSheet], wanted: str) -> Spot | None:
    """The cells of the newer version that some cells of an old one mean now: moved along with the nearest label."""
    name, _, text = wanted.rpartition("!")
    cells = CellRange.parse(text)
    before = next((sheet for sheet in old if sheet.name == name), None)
    now = next((sheet for sheet in new if sheet.name == name), None)
    if cells is None or before is None or now is None:
        return None
    down, right = _shift(before.read_cells(), now.read_cells(), cells)
    moved = CellRange(cells.top + down, cells.left + right, cells.bottom + down, cells.right + right)
    return now.spot(str(moved)) if moved.top >= 0 and moved.left >= 0 else None


def _shift(before: Sequence[GridCell], now: Sequence[GridCell], cells: CellRange) -> tuple[int, int]:
    """How far the nearest cells to the left and above, whose text is there only once, have moved."""
    beside = [each for each in before if each.row == cells.top and each.column < cells.left and not each.is_number]
    above = [each for each in before if each.column == cells.left and each.row < cells.top and not each.is_number]
    for label in sorted(beside, key=lambda each: -each.column):
        twin = _only(now, label.text)
        if twin is not None and _only(before, label.text) is not None:
            return twin.row - label.row, twin.column - label.column
    for label in sorted(above, key=lambda each: -each.row):
        twin = _only(now, label.text)
        if twin is not None and _only(before, label.text) is not None:
            return twin.row - label.row, twin.column - label.column
    return 0, 0


def _only(cells: Sequence[GridCell], text: str) -> GridCell | None:
    found = [each for each in cells if each.text == text]
    return found[0] if len(found) == 1 else None
