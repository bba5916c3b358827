"""From what a clock on the wall shows to moments, through the changes of daylight-saving time.

Moments are aware and in UTC; what the wall shows is naive. Which zone that is in, a function tells: a moment as the user's clock
shows it. So nothing here knows the zone, and every zone that a system has works.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, date, datetime, timedelta

LocalTime = Callable[[str], datetime]
"""A moment in ISO 8601 as the user's clock shows it, aware."""
_LEAST = timedelta(seconds=1)
_AROUND = timedelta(days=2)
"""Two changes of the clock lie further apart."""


def moment_of(local_time: LocalTime, wall: datetime) -> datetime:
    """The moment at which the wall shows a time: the first one where it shows it twice, the change where it skips it."""
    near = wall.replace(tzinfo=UTC)
    offsets = {_offset(local_time, near - _AROUND), _offset(local_time, near + _AROUND)}
    candidates = sorted(near - offset for offset in offsets)
    shown = [each for each in candidates if _wall(local_time, each) == wall]
    return shown[0] if shown else _change(local_time, candidates[0], candidates[-1])


def start_of_next_day(local_time: LocalTime, day: date) -> datetime:
    """The first moment after a day."""
    return moment_of(local_time, datetime(day.year, day.month, day.day) + timedelta(days=1))  # noqa: DTZ001  (what the wall shows)


def iso(moment: datetime) -> str:
    """As moments are kept: so that they sort."""
    return moment.astimezone(UTC).isoformat(timespec="microseconds")


def _offset(local_time: LocalTime, moment: datetime) -> timedelta:
    return local_time(moment.isoformat()).utcoffset() or timedelta()


def _wall(local_time: LocalTime, moment: datetime) -> datetime:
    return local_time(moment.isoformat()).replace(tzinfo=None)


def _change(local_time: LocalTime, before: datetime, after: datetime) -> datetime:
    """The first moment at which the clock runs by its new offset, to the second."""
    old = _offset(local_time, before)
    while after - before > _LEAST:
        middle = before + (after - before) // 2
        if _offset(local_time, middle) == old:
            before = middle
        else:
            after = middle
    return after.replace(microsecond=0)
