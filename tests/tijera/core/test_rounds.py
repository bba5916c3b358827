"""When rounds are due: through the changes of the clock, by the tz database."""

import random
import unittest
from collections.abc import Iterator
from datetime import UTC, date, datetime, time, timedelta
from functools import partial
from zoneinfo import ZoneInfo

from tests.support.rounds import rounds
from tijera.core.errors import TimesUnreadable
from tijera.core.moments import LocalTime, moment_of, start_of_next_day
from tijera.core.rounds.times import MOST_TIMES, Times, read_times, write_times

_ZONES = (
    "Europe/London", "Europe/Dublin", "America/St_Johns", "America/Sao_Paulo", "Australia/Lord_Howe", "Asia/Beirut",
    "Africa/Casablanca", "Pacific/Apia", "Antarctica/Troll", "Asia/Kathmandu", "UTC",
)  # fmt: skip
"""Changes of half an hour and of two, at midnight, negative ones, a day that was left out, none at all."""


def _in(zone: str) -> LocalTime:
    return partial(_shown, ZoneInfo(zone))


def _shown(zone: ZoneInfo, moment: str) -> datetime:
    return datetime.fromisoformat(moment).astimezone(zone)


def _utc(text: str) -> datetime:
    return datetime.fromisoformat(text).replace(tzinfo=UTC)


def _minutes(zone: str, begin: datetime, count: int) -> Iterator[tuple[datetime, datetime]]:
    """Every minute from a moment on, and what the wall shows at it: the plainest way to ask the tz database."""
    for each in range(count):
        moment = begin + timedelta(minutes=each)
        yield moment, moment.astimezone(ZoneInfo(zone)).replace(tzinfo=None)


class Moments(unittest.TestCase):
    """From the wall to the moment."""

    def test_as_a_scan_of_the_tz_database_finds_them(self) -> None:
        """Around each change of each zone in some years: the first minute that shows it, or the first that shows a later one."""
        checked = 0
        for zone in _ZONES:
            for begin in _changes(zone):
                minutes = list(_minutes(zone, begin - timedelta(hours=30), 60 * 60))
                walls = [wall for _, wall in minutes]
                for wall in (walls[1_500] + timedelta(minutes=13 * each) for each in range(-20, 40)):
                    expected = next(moment for moment, shown in minutes if shown >= wall)
                    self.assertEqual(moment_of(_in(zone), wall), expected, f"{zone} {wall}")
                    checked += 1
        self.assertGreater(checked, 3_000)

    def test_days_end_where_the_next_begins(self) -> None:
        """Days of 23, 24 and 25 hours, and one that begins at one o'clock."""
        cases = (
            ("Europe/London", date(2026, 3, 29), "2026-03-29T23:00"),
            ("Europe/London", date(2026, 10, 25), "2026-10-26T00:00"),
            ("Asia/Beirut", date(2022, 3, 26), "2022-03-26T22:00"),
            ("Pacific/Apia", date(2011, 12, 29), "2011-12-30T10:00"),
        )
        for zone, day, moment in cases:
            self.assertEqual(start_of_next_day(_in(zone), day), _utc(moment), zone)


def _changes(zone: str) -> list[datetime]:
    """Moments (to the hour) at which a zone's offset changes, in the years in which the zones above do odd things."""
    out = []
    for year in (2011, 2017, 2026):
        moment = datetime(year, 1, 1, tzinfo=UTC)
        while moment.year == year:
            later = moment + timedelta(hours=1)
            if moment.astimezone(ZoneInfo(zone)).utcoffset() != later.astimezone(ZoneInfo(zone)).utcoffset():
                out.append(moment)
            moment = later
    return out


class Due(unittest.TestCase):
    """Every so many minutes, and at given times."""

    def due(self, times: Times, zone: str, begin: str, end: str) -> list[str]:
        """All due moments between two, in UTC."""
        began = _utc(begin)
        first = times.after(began, began, _in(zone))
        return [f"{each:%d %H:%M}" for each in times.between(first, _utc(end), began, _in(zone))]

    def test_minutes_are_counted_as_they_pass(self) -> None:
        """Through the night on which the clock is put forward: 20 minutes stay 20."""
        found = self.due(Times(every_min=20), "Europe/London", "2026-03-29T00:30", "2026-03-29T01:50")
        self.assertEqual(found, ["29 00:50", "29 01:10", "29 01:30", "29 01:50"])

    def test_a_time_that_is_skipped_is_due_at_the_change_and_one_shown_twice_once(self) -> None:
        """London, 2026: 01:00 to 02:00 is skipped on 29 March and shown twice on 25 October."""
        at = Times(at=read_times("0:45, 1:30, 8:00"))
        spring = self.due(at, "Europe/London", "2026-03-28T12:00", "2026-03-29T12:00")
        self.assertEqual(spring, ["29 00:45", "29 01:00", "29 07:00"])
        autumn = self.due(at, "Europe/London", "2026-10-24T12:00", "2026-10-25T12:00")
        self.assertEqual(autumn, ["24 23:45", "25 00:30", "25 08:00"])

    def test_each_day_has_each_time_once(self) -> None:
        """In every zone, through a year, from any moment on; and none is skipped, wherever one begins to count."""
        chance = random.Random(5)
        for zone in _ZONES:
            at = Times(at=tuple(sorted({time(chance.randrange(24), chance.randrange(60)) for _ in range(4)})))
            began = datetime(2026, 1, 1, tzinfo=UTC)
            whole = list(at.between(at.after(began, began, _in(zone)), began + timedelta(days=300), began, _in(zone)))
            self.assertIn(len(whole), range(4 * 300 - 4, 4 * 300 + 5), zone)
            self.assertEqual(whole, sorted(set(whole)))
            for _ in range(rounds(20)):
                moment = began + timedelta(minutes=chance.randrange(60 * 24 * 290))
                self.assertEqual(at.after(moment, began, _in(zone)), next(each for each in whole if each > moment))

    def test_times_are_read_as_people_write_them(self) -> None:
        """And refused with what is wrong."""
        self.assertEqual(write_times(read_times(" 16.30,8:00; 08:00  23:59 ")), "08:00, 16:30, 23:59")
        for text in ("", "noon", "24:00", "8:60", "8", "8:00 pm", "-1:00", "8:00,,x"):
            with self.assertRaises(TimesUnreadable, msg=text):
                read_times(text)
        for wrong in ({}, {"every_min": 0}, {"every_min": 10_081}, {"every_min": 5, "at": (time(8),)}):
            with self.assertRaises(TimesUnreadable, msg=str(wrong)):
                Times(**wrong)
        with self.assertRaises(TimesUnreadable):
            Times(at=tuple(time(each // 60, each % 60) for each in range(MOST_TIMES + 1)))


if __name__ == "__main__":
    unittest.main()
