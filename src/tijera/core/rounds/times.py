"""When a round is due: every so many minutes from its beginning, or at given times of the clock on the wall.

Minutes are counted as they pass, whatever the clock does. A time that the clock skips is due at the change; one that it shows twice,
once (common practice).
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime, time, timedelta

from tijera.core.errors import TimesUnreadable
from tijera.core.moments import LocalTime, moment_of

MOST_MINUTES = 7 * 24 * 60
MOST_TIMES = 48
MOST_DAYS = 366
_TIME = re.compile(r"(\d{1,2})[:.](\d{2})")


@dataclass(frozen=True)
class Times:
    """When: one of the two is given."""

    every_min: int | None = None
    at: tuple[time, ...] = ()

    def __post_init__(self) -> None:
        if (self.every_min is None) != bool(self.at):
            raise TimesUnreadable(text="", why="either a number of minutes or times are needed")
        if self.every_min is not None and not 1 <= self.every_min <= MOST_MINUTES:
            raise TimesUnreadable(text=str(self.every_min), why=f"minutes are 1 to {MOST_MINUTES}")
        if len(self.at) > MOST_TIMES:
            raise TimesUnreadable(text=str(len(self.at)), why=f"up to {MOST_TIMES} times a day are taken")

    def after(self, moment: datetime, began: datetime, local_time: LocalTime) -> datetime:
        """The first due moment after one; all in UTC."""
        if self.every_min is not None:
            pause = timedelta(minutes=self.every_min)
            return began + max((moment - began) // pause + 1, 1) * pause
        day = local_time(moment.isoformat()).date()
        # Yesterday too: a time that was skipped there may be due now. Three days ahead: a zone may skip a whole one.
        days = (day + timedelta(days=each) for each in range(-1, 4))
        due = (moment_of(local_time, datetime.combine(each, at)) for each in days for at in self.at)
        return min(each for each in due if each > moment)

    def between(self, first: datetime, last: datetime, began: datetime, local_time: LocalTime) -> Iterator[datetime]:
        """Due moments from one (which is due) to another, both included."""
        due = first
        while due <= last:
            yield due
            due = self.after(due, began, local_time)


def read_times(text: str) -> tuple[time, ...]:
    """Times as people write them, parted by commas or spaces: 8:00, 12.30, 16:00. Raises `TimesUnreadable`."""
    out = set()
    for part in re.split(r"[,;\s]+", text.strip()):
        found = _TIME.fullmatch(part)
        if found is None or int(found[1]) > 23 or int(found[2]) > 59:
            raise TimesUnreadable(text=part or text, why="a time is like 8:00 or 16.30")
        out.add(time(int(found[1]), int(found[2])))
    return tuple(sorted(out))


def write_times(at: Sequence[time]) -> str:
    """The same, as it is shown."""
    return ", ".join(f"{each:%H:%M}" for each in at)
