"""Captions that count by themselves: what a document calls its figures, and which number the next one has."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

TABLES = frozenset(
    ("table", "tabelle", "tabla", "tableau", "tabella", "tabela", "tabel", "tabell", "equation", "formula", "text")
)
"""Series that count something else than pictures (from memory)."""


@dataclass(frozen=True)
class Counted:
    """One caption's number in a document: where it stands, which series it belongs to, which number it has."""

    order: int
    """Of the element in the document."""
    series: str
    value: int
    before: str = ""
    """The words directly before the number."""
    after: str = ""
    """The sign that follows it."""


@dataclass(frozen=True)
class Series:
    """The series that figures are counted in: its name, the words before a number and the sign after it."""

    name: str = "Figure"
    label: str = "Figure "
    separator: str = ": "


def series_of(captions: Sequence[Counted]) -> Series:
    """The series of a document's figures: the one that most captions belong to, but for tables; a usual one else."""
    own = [each for each in captions if each.series.casefold() not in TABLES]
    if not own:
        return Series()
    name = Counter(each.series for each in own).most_common(1)[0][0]
    like = next(each for each in own if each.series == name)
    label = like.before if like.before.strip() else f"{name} "
    separator = {":": ": ", ".": ". ", "–": " – ", "-": " - "}.get(like.after.strip()[:1], ": ")
    return Series(name, label, separator)


def number_at(captions: Sequence[Counted], series: Series, order: int) -> int:
    """How many of a series stand before an element: the number of the last one, as it counts."""
    earlier = [each.value for each in captions if each.series == series.name and each.order < order]
    return earlier[-1] if earlier else 0


@dataclass(frozen=True)
class Numbered:
    """A picture's caption: its series, and the number that is shown until the program counts anew."""

    series: Series
    number: int
    reference: str = ""
    """A name by which it can be referred to, where the format has one."""

    @property
    def words(self) -> str:
        """What stands before the caption's own words."""
        return f"{self.series.label}{self.number}{self.series.separator}".strip()
