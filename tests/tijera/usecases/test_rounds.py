"""Rounds: taken on time with nobody there, gaps seen, one slip on the rack."""

import errno
import unittest
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from unittest import mock

from tests.support.bench import BenchCase
from tests.support.sheets import mark
from tijera.core.clippings import edits
from tijera.core.clippings.anew import share_apart
from tijera.core.errors import NotAble, NotAnew, RoundsEndBefore, ScreenUnavailable
from tijera.core.geometry import Rect
from tijera.desk.desk import PracticeDesk
from tijera.records import ClippingRecord, RoundRecord
from tijera.usecases import looking, rack, retaking, rounds, taking, trimming
from tijera.usecases.rounds import RoundWish

_NOON = datetime(2026, 3, 12, 12, tzinfo=UTC)
_EVENING = datetime(2026, 3, 12, 18)  # noqa: DTZ001  (what the wall shows)


class RoundsCase(BenchCase):
    """A whole window, the desk with its clock standing, and a clock that the test moves."""

    def setUp(self) -> None:
        """It is noon."""
        super().setUp()
        self.moment = _NOON
        self.workshop.now = lambda: self.moment.isoformat(timespec="microseconds")
        desk = self.workshop.sources["desk"]
        assert isinstance(desk, PracticeDesk)
        self.desk = desk
        self.model = self.take_window("Tide board, outer quay")

    def take_window(self, title: str) -> ClippingRecord:
        """A clipping of a window."""
        frame = taking.freeze(self.workshop, "desk")
        window = next(each for each in frame.windows if each.title == title)
        return taking.take(self.workshop, frame.id, taking.Cut(taking.CutKind.WINDOW, None, window=window.id))

    def begin(self, **wish: object) -> RoundRecord:
        """Every ten minutes until the evening, if nothing else is said."""
        asked = {"until": _EVENING, "name": "Tides"} | ({} if "at" in wish else {"every_min": 10}) | wish
        return rounds.begin(self.workshop, self.model.id, RoundWish(**asked))  # type: ignore[arg-type]

    def later(self, minutes: float, *, step: float | None = None) -> None:
        """Let time pass, with somebody looking at the clock every so often, or at the end only."""
        end = self.moment + timedelta(minutes=minutes)
        while self.moment < end:
            self.moment = min(end, self.moment + timedelta(minutes=step or minutes))
            rounds.go(self.workshop)

    def now(self, begun: RoundRecord) -> RoundRecord:
        """As they stand."""
        return rounds.find(self.workshop, begun.id)

    def taken(self, begun: RoundRecord) -> list[ClippingRecord]:
        """What they took, the first first."""
        slips = looking.rack(self.workshop, "", 0, 500, begun.id).slips
        return [looking.clipping(self.workshop, each.id) for each in reversed(slips)]


class Going(RoundsCase):
    """With nobody there."""

    def test_every_ten_minutes_until_the_end(self) -> None:
        """On time, each a clipping of its own named by its time; then it has ended."""
        begun = self.begin(until=datetime(2026, 3, 12, 13))  # noqa: DTZ001
        self.later(90, step=1)
        taken = self.taken(begun)
        self.assertEqual(
            [each.taken_at[11:16] for each in taken], ["12:10", "12:20", "12:30", "12:40", "12:50", "13:00"]
        )
        self.assertEqual(
            (taken[0].name, taken[0].kind, taken[0].window), ("Tides 2026-03-12 12.10", "window", self.model.window)
        )
        ended = self.now(begun)
        self.assertEqual((ended.taken, ended.next_at, ended.stopped, ended.gaps), (6, None, False, ()))

    def test_at_given_times_day_after_day(self) -> None:
        """Those of the wall's clock."""
        begun = self.begin(at="8:00, 16.30", until=datetime(2026, 3, 14, 12))  # noqa: DTZ001
        self.later(48 * 60, step=1)
        self.assertEqual(
            [each.taken_at[8:16] for each in self.taken(begun)], ["12T16:30", "13T08:00", "13T16:30", "14T08:00"]
        )

    def test_it_follows_its_window_and_comes_whole(self) -> None:
        """Moved and covered; with the crop and the marks that the clipping has at that time."""
        rack.crop(self.workshop, self.model.id, Rect(10, 20, 300, 200))
        hide = lambda sheet, crop: (edits.add(sheet, [mark("black-out", (30, 30), (90, 80))]), crop)  # noqa: E731
        trimming.edit(self.workshop, self.model.id, None, "Mark", hide)
        before = self.workshop.pictures.finished(looking.clipping(self.workshop, self.model.id))
        begun = self.begin()
        window = next(each for each in self.desk.look().windows if each.title == self.model.window)
        self.desk.move_window(window.id, window.box.x + 160, window.box.y + 90)
        other = next(each for each in self.desk.look().windows if each.title == "Engine log")
        self.desk.move_window(other.id, window.box.x + 200, window.box.y + 120)
        self.desk.raise_window(other.id)
        self.later(10)
        (taken,) = self.taken(begun)
        after = self.workshop.pictures.finished(taken)
        self.assertEqual(share_apart(before, after), 0)
        self.assertIsNotNone(retaking.look(self.workshop, retaking.Looks(), taken.id))

    def test_only_what_changed_is_kept(self) -> None:
        """What was the same is counted."""
        window = next(each for each in self.desk.look().windows if each.can_scroll)
        self.model = self.take_window(window.title)
        begun = self.begin(only_changed=True)
        self.later(30, step=1)
        self.assertEqual((self.now(begun).taken, self.now(begun).same), (1, 2))
        self.desk.scroll(window.id, 40)
        self.later(30, step=1)
        self.assertEqual((self.now(begun).taken, self.now(begun).same, len(self.taken(begun))), (2, 4, 2))

    def test_stopped_it_takes_nothing_more(self) -> None:
        """And what was taken stays."""
        begun = self.begin()
        self.later(20, step=1)
        rounds.stop(self.workshop, begun.id)
        self.later(60, step=1)
        self.assertEqual((len(self.taken(begun)), self.now(begun).stopped, self.now(begun).gaps), (2, True, ()))

    def test_undo_does_not_know_of_it(self) -> None:
        """It takes back what the user did last."""
        begun = self.begin()
        rack.rename(self.workshop, self.model.id, "Outer quay")
        self.later(10)
        self.workshop.store.undo()
        self.assertEqual(
            (looking.clipping(self.workshop, self.model.id).name, len(self.taken(begun))), (self.model.name, 1)
        )

    def test_it_comes_into_nobodys_hand(self) -> None:
        """Whoever works on the newest clipping goes on with that."""
        self.begin()
        self.later(30, step=1)
        newest = self.workshop.store.newest_clipping()
        assert newest is not None
        self.assertEqual(newest.id, self.model.id)

    def test_only_what_it_shows_is_kept(self) -> None:
        """Not the whole screen, each time."""
        begun = self.begin()
        self.later(10)
        (taken,) = self.taken(begun)
        frame = self.workshop.pictures.frame(taken.frame)
        self.assertEqual(frame.size, taken.area.size)


class Gaps(RoundsCase):
    """Times at which nothing could be taken."""

    def gaps(self, begun: RoundRecord) -> list[tuple[str, str, int]]:
        """First, last, how many."""
        return [(each.first[11:16], each.last[11:16], each.count) for each in self.now(begun).gaps]

    def fails(self, error: Exception) -> Callable[[], None]:
        """Have the source fail; the answer lets it work again."""
        patch = mock.patch.object(self.desk, "grab", side_effect=error)
        patch.start()
        self.addCleanup(mock.patch.stopall)
        return patch.stop

    def test_a_source_that_is_away_is_seen_and_comes_back(self) -> None:
        """One gap with its reason; what follows is taken again."""
        begun = self.begin()
        self.later(10)
        comes_back = self.fails(ScreenUnavailable(why="nobody is signed in"))
        self.later(30, step=1)
        comes_back()
        self.later(10)
        self.assertEqual((self.gaps(begun), len(self.taken(begun))), ([("12:20", "12:40", 3)], 2))
        self.assertIn("nobody is signed in", self.now(begun).gaps[0].why)

    def test_a_window_that_is_closed_is_a_gap(self) -> None:
        """Named."""
        begun = self.begin()
        with mock.patch("tijera.usecases.retaking.found_again", return_value=None):
            self.later(10)
        self.later(10)
        (gap,) = self.now(begun).gaps
        self.assertIn("is not open any more", gap.why)
        self.assertEqual(len(self.taken(begun)), 1)

    def test_nobody_was_there(self) -> None:
        """The computer slept from 12:05 to 13:01: five times missed, the sixth is on time still; it goes on from there."""
        begun = self.begin()
        self.later(5)
        self.later(55.5)
        self.assertEqual(self.gaps(begun), [("12:10", "12:50", 5)])
        self.later(60, step=1)
        self.assertEqual(
            ([each.taken_at[11:16] for each in self.taken(begun)][:2], len(self.gaps(begun))), (["13:00", "13:10"], 1)
        )

    def test_it_slept_past_the_end(self) -> None:
        """All that was missed is one gap, and it has ended."""
        begun = self.begin()
        self.later(24 * 60)
        self.assertEqual((self.gaps(begun), self.now(begun).next_at), ([("12:10", "18:00", 36)], None))

    def test_the_disk_is_full(self) -> None:
        """Nothing is half kept, and the next one is taken."""
        begun = self.begin()
        full = OSError(errno.ENOSPC, "No space left on device")
        with mock.patch.object(self.workshop.store.blobs, "put", side_effect=full):
            self.later(10)
        self.later(10)
        (gap,) = self.now(begun).gaps
        self.assertIn("No space left on device", gap.why)
        self.assertEqual((len(self.taken(begun)), self.now(begun).taken), (1, 1))

    def test_the_clock_is_set_back(self) -> None:
        """By two hours: it goes on every ten minutes by the new time, and does not wait for two hours."""
        begun = self.begin(until=datetime(2026, 3, 12, 14))  # noqa: DTZ001
        self.later(30, step=1)
        self.moment -= timedelta(hours=2)
        self.later(150, step=1)
        self.assertEqual(self.now(begun).gaps, ())
        self.assertGreaterEqual(len(self.taken(begun)), 3 + 3)

    def test_the_model_is_gone(self) -> None:
        """That is said, and undo mends it."""
        begun = self.begin()
        rack.remove(self.workshop, [self.model.id])
        self.later(10)
        self.workshop.store.undo()
        self.later(10)
        self.assertEqual((self.gaps(begun), len(self.taken(begun))), ([("12:10", "12:10", 1)], 1))


class Slips(RoundsCase):
    """On the rack."""

    def test_the_run_is_one_slip_that_opens(self) -> None:
        """The last that was taken; removed, the one before; found by words, each by itself."""
        begun = self.begin()
        self.later(30, step=1)
        taken = self.taken(begun)
        page = looking.rack(self.workshop, "", 0, 100)
        self.assertEqual([each.id for each in page.slips], [taken[-1].id, self.model.id])
        self.assertEqual((page.slips[0].round, page.found), (begun.id, 2))
        self.assertEqual(len(looking.rack(self.workshop, "tides 12:20", 0, 100).slips), 1)
        rack.remove(self.workshop, [taken[-1].id])
        self.assertEqual(looking.rack(self.workshop, "", 0, 100).slips[0].id, taken[-2].id)

    def test_what_can_not_be_taken_so_is_refused(self) -> None:
        """A picture from elsewhere, a source that asks somebody each time, an end that is over."""
        with self.assertRaises(RoundsEndBefore):
            self.begin(until=datetime(2026, 3, 12, 12, 9))  # noqa: DTZ001
        asks = mock.Mock(wraps=self.desk.abilities)
        asks.can.side_effect = lambda name: name != "unattended"
        with mock.patch.object(PracticeDesk, "abilities", asks), self.assertRaises(NotAble):
            self.begin()
        from tests.support.pictures import encoded, text_like

        self.model = taking.bring_in(self.workshop, encoded(text_like()), "a.png")
        with self.assertRaises(NotAnew):
            self.begin()


if __name__ == "__main__":
    unittest.main()
