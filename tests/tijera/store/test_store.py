"""The store: transactions, undo without code of its own, and nothing lost when the process is killed."""

import json
import signal
import sqlite3
import subprocess
import sys
import tempfile
import textwrap
import unittest
from dataclasses import replace
from pathlib import Path

from peewee import SqliteDatabase

from tijera.core.errors import DataTooNew, NotFound, NothingToUndo
from tijera.core.frames.frame import Monitor, WindowBox
from tijera.core.geometry import Rect
from tijera.records import ClippingRecord, DestinationRecord, FrameRecord, KeptPointer
from tijera.store import migrations
from tijera.store.models import TABLES
from tijera.store.store import Store

_FRAME = FrameRecord(
    "f1",
    "desk",
    "0" * 64,
    None,
    80,
    50,
    1.5,
    (WindowBox("w", "Tide board", Rect(1, 2, 30, 20), 0, Rect(2, 4, 28, 17), is_whole=True),),
    "t1",
    (Monitor("m", "Left", Rect(0, 0, 80, 50), 1.5),),
    KeptPointer(12, 9, 2, 2, "1" * 64),
)
_CLIPPING = ClippingRecord(
    "c1",
    "f1",
    "Tide board",
    3,
    4,
    30,
    20,
    0,
    0,
    30,
    20,
    "t2",
    "freehand",
    "Tide board",
    1.5,
    ((0.5, 1.0), (9.0, 2.25), (4.0, 8.0)),
    7,
    9,
    "2026-03-12 Thursday",
    rank=1,
)


class StoreCase(unittest.TestCase):
    """A store in a temporary folder."""

    def setUp(self) -> None:
        """With one frame in it."""
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.store = Store(self.folder, lambda: "now")
        self.addCleanup(self.store.close)
        self.store.add(_FRAME)


class Keeping(StoreCase):
    """What goes in comes out."""

    def test_records_come_back_equal(self) -> None:
        """Windows too, which are kept as JSON; also by another opening of the same folder."""
        with self.store.change("Take") as change:
            change.save(_CLIPPING)
        again = Store(self.folder, lambda: "now")
        self.addCleanup(again.close)
        self.assertEqual((again.find(FrameRecord, "f1"), again.clippings()), (_FRAME, [_CLIPPING]))
        with self.assertRaises(NotFound):
            again.find(ClippingRecord, "nobody")

    def test_a_change_that_fails_leaves_no_trace(self) -> None:
        """Neither the row nor an entry for undo."""
        with self.assertRaises(ZeroDivisionError), self.store.change("Take") as change:
            change.save(_CLIPPING)
            raise ZeroDivisionError
        self.assertEqual((self.store.clippings(), self.store.undoable()), ([], None))

    def test_the_same_bytes_are_kept_once_and_lost_ones_are_named(self) -> None:
        """By SHA-256."""
        keys = {self.store.blobs.put(b"harbour") for _ in range(3)}
        self.assertEqual(len(keys), 1)
        self.assertEqual(self.store.blobs.get(keys.pop()), b"harbour")
        self.assertEqual(len(list((self.folder / "blobs").rglob("*"))), 2)
        with self.assertRaises(NotFound):
            self.store.blobs.get("ab" * 32)


class Undoing(StoreCase):
    """Undo and redo, over every kind of change."""

    def test_takes_back_and_makes_again_in_order(self) -> None:
        """Insert, change, remove."""
        cropped = replace(_CLIPPING, crop_width=9)
        for label, saved in (("Take", _CLIPPING), ("Crop", cropped)):
            with self.store.change(label) as change:
                change.save(saved)
        with self.store.change("Remove") as change:
            change.remove(cropped)
        states = [[], [cropped], [_CLIPPING], []]
        self.assertEqual(self.store.clippings(), states[0])
        for wanted, label in zip(states[1:], ("Remove", "Crop", "Take"), strict=True):
            self.assertEqual(self.store.undo().label, label)
            self.assertEqual(self.store.clippings(), wanted)
        for wanted in reversed(states[:-1]):
            self.store.redo()
            self.assertEqual(self.store.clippings(), wanted)

    def test_a_new_change_forgets_what_was_undone(self) -> None:
        """There is one line of history."""
        with self.store.change("Take") as change:
            change.save(_CLIPPING)
        self.store.undo()
        with self.store.change("Take another") as change:
            change.save(replace(_CLIPPING, id="c2"))
        self.assertIsNone(self.store.redoable())
        with self.assertRaises(NothingToUndo):
            self.store.redo()

    def test_what_changes_nothing_can_not_be_undone(self) -> None:
        """An empty entry would make undo seem broken."""
        with self.store.change("Take") as change:
            change.save(_CLIPPING)
        with self.store.change("Rename") as change:
            change.save(_CLIPPING)
        self.assertEqual(self.store.undo().label, "Take")

    def test_what_was_set_outside_of_undo_stays(self) -> None:
        """Undoing the limit must not move the chosen place back."""
        paper = DestinationRecord("d1", "Rules.docx", "0" * 64, None, "b.1", "t1")
        self.store.add(paper)
        with self.store.change("Change the limit") as change:
            change.save(replace(paper, limit_bytes=500))
        self.store.add(replace(paper, limit_bytes=500, spot="b.7"))
        self.store.undo()
        # Taking something back is work on it too.
        self.assertEqual(self.store.find(DestinationRecord, "d1"), replace(paper, spot="b.7", worked_at="now"))


class Migrating(unittest.TestCase):
    """The schema, from the first version on."""

    def test_tables_are_those_of_the_models(self) -> None:
        """Column by column, so that a model can't drift from the migrations."""
        with tempfile.TemporaryDirectory() as folder:
            database = SqliteDatabase(str(Path(folder) / "x.sqlite"))
            self.assertEqual(migrations.migrate(database), len(migrations.STEPS))
            self.assertEqual(migrations.migrate(database), len(migrations.STEPS))
            for model in TABLES:
                columns = {column.name for column in database.get_columns(model._meta.table_name)}
                self.assertEqual(columns, {field.column_name for field in model._meta.sorted_fields}, model)
            database.close()

    def test_data_of_a_newer_version_are_not_opened(self) -> None:
        """What it wrote could get lost."""
        with tempfile.TemporaryDirectory() as folder:
            database = SqliteDatabase(str(Path(folder) / "x.sqlite"))
            database.execute_sql("PRAGMA user_version = 99")
            with self.assertRaises(DataTooNew):
                migrations.migrate(database)
            database.close()


class Killed(unittest.TestCase):
    """SIGKILL while it is writing."""

    def test_everything_that_was_confirmed_is_there(self) -> None:
        """A child confirms each clipping on its output; whatever it confirmed must be found, and undo must work."""
        script = textwrap.dedent("""
            import sys, pathlib
            from dataclasses import replace
            from tests.tijera.store.test_store import _CLIPPING, _FRAME
            from tijera.store.store import Store
            store = Store(pathlib.Path(sys.argv[1]), lambda: "now")
            store.add(_FRAME)
            for number in range(100_000):
                key = store.blobs.put(f"picture {number}".encode())
                with store.change(f"Take {number}") as change:
                    change.save(replace(_CLIPPING, id=f"c{number}", name=key))
                print(number, flush=True)
        """)
        with tempfile.TemporaryDirectory() as folder:
            child = subprocess.Popen([sys.executable, "-c", script, folder], stdout=subprocess.PIPE, text=True)
            assert child.stdout is not None
            confirmed = -1
            for line in child.stdout:
                confirmed = int(line)
                if confirmed >= 25:
                    child.send_signal(signal.SIGKILL)
                    break
            rest = child.stdout.read().split()
            child.stdout.close()
            child.wait()
            confirmed = max([confirmed, *(int(line) for line in rest if line.isdigit())])
            store = Store(Path(folder), lambda: "now")
            self.addCleanup(store.close)
            names = {clipping.id: clipping.name for clipping in store.clippings()}
            for number in range(confirmed + 1):
                self.assertEqual(store.blobs.get(names[f"c{number}"]), f"picture {number}".encode())
            label = store.undo().label
            self.assertGreaterEqual(int(label.split()[1]), confirmed)
            store.close()
            check = sqlite3.connect(Path(folder) / "tijera.sqlite")
            self.assertEqual(check.execute("PRAGMA integrity_check").fetchone()[0], "ok")
            check.close()


class FromTheFirstVersion(unittest.TestCase):
    """Data that an older version kept."""

    def test_clippings_of_the_first_version_stay_whole_also_through_undo(self) -> None:
        """Their scale factor is their frame's; they are found; one that was removed comes back with undo."""
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        database = sqlite3.connect(folder / "tijera.sqlite")
        for statement in migrations._FIRST.split(";"):
            database.execute(statement)
        database.execute("INSERT INTO frame VALUES ('f1', 'desk', 'b', NULL, 80, 50, 1.5, '[]', 't1')")
        row = ("c1", "f1", "Tide board", 3, 4, 30, 20, 0, 0, 30, 20, "2026-03-12T12:00:00")
        database.execute(f"INSERT INTO clipping VALUES ({', '.join('?' * len(row))})", row)
        names = [each[1] for each in database.execute("PRAGMA table_info(clipping)")]
        removed = dict(zip(names, ("c2", *row[1:]), strict=True))
        rows = json.dumps([{"table": "Clipping", "id": "c2", "before": removed, "after": None}])
        database.execute("INSERT INTO change (label, rows, made_at) VALUES ('Remove', ?, 't2')", (rows,))
        database.execute("PRAGMA user_version = 1")
        database.commit()
        database.close()
        store = Store(folder, lambda: "now")
        self.addCleanup(store.close)
        store.undo()
        self.assertEqual({each.id: each.scale_factor for each in store.clippings()}, {"c1": 1.5, "c2": 1.5})
        self.assertEqual(len(store.slips(["tide", "2026-03-12"])), 2)
        frame = store.find(FrameRecord, "f1")
        self.assertEqual((frame.monitors, frame.scale_factor_of(Rect(3, 4, 30, 20))), ((), 1.5))
