"""The disk is full: said by name, nothing half kept, nothing of what was there lost, and it goes on when there is room again."""

import errno
import os
import unittest
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from unittest import mock

from tests.support.pictures import encoded, text_like
from tests.support.post import ScriptedPost
from tests.tijera.usecases.test_sending import SendingCase
from tijera.core.errors import DiskFull
from tijera.core.mail.post import MailServer
from tijera.records import DispatchRecord
from tijera.store.reserve import SIZE
from tijera.usecases import looking, rack, saving, sending, taking
from tijera.usecases.mailing import Mailing
from tijera.usecases.postman import Postman

_FULL = OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))


class DiskIsFull(SendingCase):
    """A rack, a message, and a disk on which nothing more can be kept."""

    @contextmanager
    def full(self, *, files: bool = True, database: bool = True) -> Iterator[None]:
        """No room: files can't be written to their end; the database may not grow by a page, as SQLite itself says then."""
        store = self.workshop.store
        with store._open():
            store._database.execute_sql("PRAGMA wal_checkpoint(TRUNCATE)")
            (pages,) = store._database.execute_sql("PRAGMA page_count").fetchone()
            if database:
                store._database.execute_sql(f"PRAGMA max_page_count = {pages}")
        patched = mock.patch("tijera.store.blobs.os.fsync", side_effect=_FULL) if files else mock.patch("builtins.id")
        with patched:
            yield
        with store._open():
            store._database.execute_sql("PRAGMA max_page_count = 1000000000")

    def kept(self) -> set[Path]:
        """Every file that is kept."""
        return {path for path in (self.folder / "blobs").rglob("*") if path.is_file()}

    def test_what_can_not_be_kept_is_said_and_leaves_nothing_behind(self) -> None:
        """No half file, no row; what was there is there, and with room again all goes on."""
        self.take()
        before, slips = self.kept(), looking.rack(self.workshop, "", 0, 9).slips
        heavy = encoded(text_like(500, 400, seed=9))
        with self.full(), self.assertRaises(DiskFull) as refused:
            taking.bring_in(self.workshop, heavy, "board.png")
        self.assertIn("Make room", refused.exception.remedy)
        self.assertEqual((self.kept(), looking.rack(self.workshop, "", 0, 9).slips), (before, slips))
        taking.bring_in(self.workshop, heavy, "board.png")
        self.assertEqual(len(looking.rack(self.workshop, "", 0, 9).slips), 2)

    def test_sqlite_says_it_too(self) -> None:
        """With room for files and none in the database: one step is nothing or all."""
        one = self.take()
        with self.full(files=False), self.assertRaises(DiskFull):
            for number in range(2_000):
                rack.rename(self.workshop, one.id, f"Board {number} " + "x" * 90)
        names = [each.name for each in looking.rack(self.workshop, "board", 0, 9).slips]
        self.assertEqual(len(names), 1)
        self.workshop.store.undo(one.id)
        self.assertNotEqual(looking.clipping(self.workshop, one.id).name, names[0])

    def test_pictures_are_still_shown(self) -> None:
        """Thumbnails that can't be kept are made each time."""
        one = self.take()
        with self.full(), mock.patch("tijera.store.blobs.DerivedFiles._keep", side_effect=_FULL):
            self.assertTrue(rack.thumbnail(self.workshop, one.id))

    def test_a_message_is_not_queued_or_it_is_whole(self) -> None:
        """What could not be written down has not left."""
        message = self.message(clippings=1)
        post = ScriptedPost()
        with self.full(), self.assertRaises(DiskFull):
            sending.send(self.workshop, post, message.id)
        self.assertEqual((self.workshop.store.dispatches(), post.got), ([], []))
        record = sending.send(self.workshop, post, message.id)
        self.assertEqual(sending.attempt(self.workshop, post, record.id).state, "sent")

    def test_what_left_and_could_not_be_noted_is_unclear_and_goes_again_under_the_same_id(self) -> None:
        """Not *leaving* for ever; and before it leaves, that is written down or it stays."""
        post = ScriptedPost()
        record = sending.send(self.workshop, post, self.message(clippings=1).id)
        noted = self.workshop.store.set_aside
        with mock.patch.object(self.workshop.store, "set_aside", side_effect=DiskFull), self.assertRaises(DiskFull):
            sending.attempt(self.workshop, post, record.id)
        self.assertEqual((self.state(record), post.got), ("waiting", []))
        steps: Iterator[Callable[..., object]] = iter((noted,))

        def once(*what: object) -> object:
            return next(steps, _no_room)(*what)

        with mock.patch.object(self.workshop.store, "set_aside", side_effect=once), self.assertRaises(DiskFull):
            sending.attempt(self.workshop, post, record.id)
        self.assertEqual((self.state(record), len(post.got)), ("going", 1))
        postman = Postman(self.workshop, Mailing(lambda _: post, lambda: MailServer("localhost", 25)))
        self.addCleanup(postman.close)
        self.assertEqual(self.state(record), "unclear")
        self.later(60)
        postman._round()
        self.assertEqual((self.state(record), len(post.got)), ("sent", 2))
        self.assertEqual(*(data for _, data in post.got))

    def state(self, record: DispatchRecord) -> str:
        """Where a message is."""
        return sending.dispatch(self.workshop, record.id).state

    def test_a_file_that_leaves_is_noted_or_refused(self) -> None:
        """Saved under no name that history does not know."""
        one = self.take()
        with self.full(), self.assertRaises(DiskFull):
            saving.note_saved(self.workshop, saving.save(self.workshop, one.id, "png"))
        self.assertEqual(looking.handovers(self.workshop, 0, 9), [])


def _no_room(*_: object) -> None:
    raise DiskFull


if __name__ == "__main__":
    unittest.main()


class KeptBack(SendingCase):
    """Room that is kept back for removals."""

    def test_it_is_given_up_once_and_nothing_is_added_until_there_is_room_again(self) -> None:
        """A removal that finds the disk full is done with it; `make faults` does the same on a disk that is really full."""
        reserve, folder = self.workshop.store.reserve, self.folder
        self.assertEqual((folder / "reserve").stat().st_size, SIZE)
        answers = iter([DiskFull(), None])

        def removal() -> str:
            answer = next(answers)
            if answer is not None:
                raise answer
            return "removed"

        self.assertEqual(reserve.used_for(removal), "removed")
        self.assertFalse((folder / "reserve").exists())
        before = self.kept()
        with mock.patch("shutil.disk_usage", return_value=mock.Mock(free=SIZE)):
            with self.assertRaises(DiskFull):
                taking.bring_in(self.workshop, encoded(text_like(50, 40, seed=7)), "More.png")
            with self.assertRaises(DiskFull):
                reserve.used_for(mock.Mock(side_effect=DiskFull()))
            reserve.keep()
        self.assertEqual((self.kept(), (folder / "reserve").exists()), (before, False))
        reserve.keep()
        self.assertTrue((folder / "reserve").exists())
        taking.bring_in(self.workshop, encoded(text_like(50, 40, seed=7)), "More.png")

    def kept(self) -> set[Path]:
        """Every file that is kept."""
        return {path for path in (self.folder / "blobs").rglob("*") if path.is_file()}
