"""The legend: the lines of a clipping's pennants, which become a list where the picture is placed."""

from __future__ import annotations

from dataclasses import dataclass

from tijera.core.clippings.sheet import Sheet
from tijera.core.marks.pennant import label_of


@dataclass(frozen=True)
class LegendLine:
    """A pennant and what it says."""

    label: str
    text: str


def legend_of(sheet: Sheet) -> list[LegendLine]:
    """The lines of the pennants that say something, numbers before letters, each in order."""
    rows: dict[str, list[LegendLine]] = {"numbers": [], "letters": []}
    counts = {"numbers": 0, "letters": 0}
    for mark in sheet.marks:
        if mark.kind == "pennant":
            row = str(mark.options.get("row", "numbers"))
            counts[row] += 1
            text = str(mark.options.get("text", "")).strip()
            if text:
                rows[row].append(LegendLine(label_of(counts[row], row), text))
    return [*rows["numbers"], *rows["letters"]]
