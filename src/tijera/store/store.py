"""The store: one SQLite file and one folder of blobs. A change is one transaction and can be undone.

Every row that a change touches is written to a journal as it was before and after, so undo and redo survive a restart
and need no code of their own for each kind of change.
"""

from __future__ import annotations

import json
import re
import threading
from collections.abc import Callable, Collection, Iterator, Sequence
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any

from peewee import SQL, SqliteDatabase

from tijera.core.errors import DiskFull, NotFound, NothingToUndo
from tijera.core.recognition.words import Shown
from tijera.records import (
    ChangeRecord,
    ClippingRecord,
    DestinationRecord,
    DispatchRecord,
    HandoverRecord,
    Happening,
    LinkRecord,
    PlacementRecord,
    RoundRecord,
    Slip,
)
from tijera.store import models
from tijera.store.blobs import Blobs, DerivedFiles, as_kept_or_said
from tijera.store.change import MODEL_NAMED, MODEL_OF, WHAT, Change, changed_columns, put_back, read_row
from tijera.store.finding import count_query, slips_query
from tijera.store.happenings import Wanted, happenings_query
from tijera.store.migrations import migrate
from tijera.store.reserve import Reserve
from tijera.store.rows import R, record_of
from tijera.store.shown_words import as_json as shown_as_json
from tijera.store.shown_words import from_json as shown_from_json

_ALL = -1
"""No limit, as SQLite says it."""
_WRITTEN_BACK = re.compile(r"(?:before writing|written) back (\S+)")
"""Settings that tell of a file that was written back (`tijera.usecases.versions`)."""
_OVER = ("sent", "refused", "withdrawn")
"""States of a message that has come to its end (`tijera.core.mail.queueing.State`)."""
_LOCK = threading.RLock()
"""One writer at a time; it is shared by all stores of a process because peewee binds tables process-wide."""


class Store:
    """Everything that is kept, below one folder."""

    def __init__(self, folder: Path, now: Callable[[], str]) -> None:
        folder.mkdir(parents=True, exist_ok=True)
        self.reserve = Reserve(folder)
        self.blobs = Blobs(folder / "blobs", self.reserve.check_room)
        self.thumbnails = DerivedFiles(folder / "thumbnails")
        self._now = now
        self._database = SqliteDatabase(
            str(folder / "tijera.sqlite"),
            # FULL: what was confirmed is on the disk, even if the power goes. What is deleted is overwritten.
            pragmas={
                "journal_mode": "wal",
                "foreign_keys": 1,
                "synchronous": "full",
                "busy_timeout": 5_000,
                "secure_delete": 1,
            },
            check_same_thread=False,
            thread_safe=False,
        )
        with self._open():
            migrate(self._database)
        self.reserve.keep()

    @contextmanager
    def _open(self) -> Iterator[None]:
        with _LOCK, self._database.bind_ctx(models.TABLES), as_kept_or_said():
            self._database.connect(reuse_if_open=True)
            yield

    def close(self) -> None:
        """Close the file."""
        with _LOCK:
            self._database.close()

    # Reading

    def find(self, kind: type[R], record_id: str) -> R:
        """A record by its id; raise `NotFound`."""
        found = self.find_or_none(kind, record_id)
        if found is None:
            raise NotFound(what=WHAT[kind], key=record_id)
        return found

    def find_or_none(self, kind: type[R], record_id: str) -> R | None:
        """A record by its id; None where it is gone."""
        with self._open():
            row = read_row(MODEL_OF[kind], record_id)
        return None if row is None else record_of(kind, row)

    def clippings(self) -> list[ClippingRecord]:
        """The rack, newest first."""
        return self._all(ClippingRecord, models.ClippingRow.rank.desc())

    def newest_clipping(self) -> ClippingRecord | None:
        """The clipping that somebody took last; what rounds take comes into nobody's hand by itself."""
        table = models.ClippingRow
        with self._open():
            row = table.select().where(table.round.is_null()).order_by(table.rank.desc()).limit(1).dicts().first()
            return None if row is None else record_of(ClippingRecord, row)

    def has_name(self, name: str) -> bool:
        """Whether a clipping on the rack has this name."""
        with self._open():
            return bool(models.ClippingRow.select().where(models.ClippingRow.name == name).exists())

    def slips(
        self, terms: Sequence[str] = (), first: int = 0, most: int = _ALL, round_id: str | None = None
    ) -> list[Slip]:
        """A page of the rack, newest first: the clippings that have every term, or those of some rounds."""
        sql, values = slips_query(terms, round_id)
        with self._open():
            return [_slip(row) for row in self._database.execute_sql(f"{sql} LIMIT ? OFFSET ?", [*values, most, first])]

    def count_slips(self, terms: Sequence[str], round_id: str | None = None) -> int:
        """How many there are of them."""
        sql, values = count_query(terms, round_id)
        with self._open():
            return int(self._database.execute_sql(sql, values).fetchone()[0])

    def next_unread(self) -> str | None:
        """The newest clipping whose words have not been read since it came or changed."""
        sql = "SELECT c.id FROM unread u JOIN clipping c ON c.rowid = u.clipping ORDER BY c.rank DESC LIMIT 1"
        with self._open():
            row = self._database.execute_sql(sql).fetchone()
            return None if row is None else str(row[0])

    def count_unread(self) -> int:
        """How many there are of them."""
        with self._open():
            return int(self._database.execute_sql("SELECT count(*) FROM unread").fetchone()[0])

    def note_shown(self, clipping_id: str, shown: Shown, is_still: Callable[[ClippingRecord], bool]) -> bool:
        """Keep the words of a clipping, where it still looks as it did when they were read; whether they were kept."""
        with self._open(), self._database.atomic():
            record = self.find_or_none(ClippingRecord, clipping_id)
            if record is None or not is_still(record):
                return False
            (row,) = self._database.execute_sql("SELECT rowid FROM clipping WHERE id = ?", [clipping_id]).fetchone()
            self._database.execute_sql("INSERT OR REPLACE INTO shown VALUES (?, ?)", [row, shown_as_json(shown)])
            self._database.execute_sql("UPDATE findable SET shown = ? WHERE rowid = ?", [shown.text, row])
            self._database.execute_sql("DELETE FROM unread WHERE clipping = ?", [row])
            return True

    def shown_of(self, clipping_ids: Collection[str]) -> dict[str, Shown]:
        """The words of clippings, of those that have been read."""
        marks = ", ".join("?" * len(clipping_ids))
        sql = f"SELECT c.id, s.words FROM clipping c JOIN shown s ON s.clipping = c.rowid WHERE c.id IN ({marks})"  # noqa: S608  (question marks only)
        with self._open():
            rows = self._database.execute_sql(sql, list(clipping_ids)).fetchall()
        return {each: shown_from_json(words) for each, words in rows}

    def count_clippings(self) -> int:
        """How many hang on the rack."""
        with self._open():
            return int(models.ClippingRow.select().count())

    def destinations(self, first: int = 0, most: int = _ALL) -> list[DestinationRecord]:
        """A page of the opened files, the last opened first."""
        return self._all(DestinationRecord, SQL("rowid DESC"), first, most)

    def handovers(self, first: int = 0, most: int = _ALL) -> list[HandoverRecord]:
        """A page of what left, the last first."""
        return self._all(HandoverRecord, SQL("rowid DESC"), first, most)

    def worked_on(self, first: int = 0, most: int = _ALL) -> list[DestinationRecord]:
        """A page of the files, the last worked on first."""
        return self._all(DestinationRecord, SQL("worked_at DESC, rowid DESC"), first, most)

    def happenings(self, wanted: Wanted, most: int) -> list[Happening]:
        """What happened, the last first."""
        sql, values = happenings_query(wanted, most)
        with self._open():
            return [Happening(*row) for row in self._database.execute_sql(sql, values)]

    def dispatches(self, first: int = 0, most: int = _ALL) -> list[DispatchRecord]:
        """A page of the messages that were sent or wait, the last first."""
        return self._all(DispatchRecord, SQL("rowid DESC"), first, most)

    def links(self, clipping: str | None = None) -> list[LinkRecord]:
        """All links, or those of a clipping, the last made first."""
        if clipping is None:
            return self._all(LinkRecord, SQL("rowid DESC"))
        with self._open():
            rows = models.LinkRow.select().where(models.LinkRow.clipping == clipping).order_by(SQL("rowid DESC"))
            return [record_of(LinkRecord, row) for row in rows.dicts()]

    def rounds(self) -> list[RoundRecord]:
        """All rounds, the last begun first."""
        return self._all(RoundRecord, SQL("rowid DESC"))

    def open_rounds(self) -> list[RoundRecord]:
        """Those that go on, the next due first."""
        with self._open():
            table = models.RoundRow
            rows = table.select().where(~table.next_at.is_null()).order_by(table.next_at)
            return [record_of(RoundRecord, row) for row in rows.dicts()]

    def newest_of_round(self, round_id: str) -> ClippingRecord | None:
        """The clipping that rounds took last, of those that are still there."""
        with self._open():
            table = models.ClippingRow
            row = table.select().where(table.round == round_id).order_by(table.rank.desc()).limit(1).dicts().first()
            return None if row is None else record_of(ClippingRecord, row)

    def open_dispatches(self, *states: str) -> list[DispatchRecord]:
        """The messages in some states, the first first."""
        with self._open():
            rows = models.DispatchRow.select().where(models.DispatchRow.state.in_(states)).order_by(SQL("rowid"))
            return [record_of(DispatchRecord, row) for row in rows.dicts()]

    def placements(self, destination: str | None = None) -> list[PlacementRecord]:
        """Placements of one destination, or all, in the order in which they are written."""
        with self._open():
            rows = models.PlacementRow.select().order_by(models.PlacementRow.rank, models.PlacementRow.id)
            if destination is not None:
                rows = rows.where(models.PlacementRow.destination == destination)
            return [record_of(PlacementRecord, row) for row in rows.dicts()]

    def placements_of(self, clipping_id: str) -> list[PlacementRecord]:
        """Where a clipping stands, in all files, the last placed first."""
        with self._open():
            table = models.PlacementRow
            rows = table.select().where(table.clipping == clipping_id).order_by(table.rank.desc()).dicts()
            return [record_of(PlacementRecord, row) for row in rows]

    def wholes_of(self, clipping_id: str) -> list[ClippingRecord]:
        """The clippings on which a clipping is laid."""
        with self._open():
            rows = models.ClippingRow.select().where(models.ClippingRow.parts.contains(json.dumps(clipping_id))).dicts()
            return [record_of(ClippingRecord, row) for row in rows]

    def count_places(self, clipping_id: str) -> int:
        """In how many places, of all destinations, a clipping stands."""
        with self._open():
            return int(models.PlacementRow.select().where(models.PlacementRow.clipping == clipping_id).count())

    def _all(self, kind: type[R], order: Any, first: int = 0, most: int = _ALL) -> list[R]:  # noqa: ANN401  (peewee's expressions have no type)
        with self._open():
            rows = MODEL_OF[kind].select().order_by(order).limit(most).offset(first)
            return [record_of(kind, row) for row in rows.dicts()]

    def setting(self, name: str) -> str | None:
        """A remembered value."""
        with self._open():
            row = models.SettingRow.get_or_none(models.SettingRow.name == name)
            return None if row is None else str(row.value)

    # Writing

    def remember(self, name: str, value: str) -> None:
        """Remember a value; not part of undo."""
        with self._open(), self._database.atomic():
            models.SettingRow.insert({"name": name, "value": value}).on_conflict_replace().execute()

    def add(self, record: R) -> None:
        """Keep a record that undo does not concern: a frame, a hand-over, an opened file."""
        with self._open(), self._database.atomic():
            Change("").save(record)

    def set_aside(self, kind: type[R], record_id: str, make: Callable[[R], R]) -> R:
        """Change a record outside of undo, in the fields that `make` changes and in one step. Raises `NotFound`."""
        with self._open(), self._database.atomic():
            before = self.find(kind, record_id)
            return Change("").update(before, make(before))

    @contextmanager
    def together(self) -> Iterator[None]:
        """Make what is added and set aside within one step: all of it, or nothing."""
        with self._open(), self._database.atomic():
            yield

    @contextmanager
    def change(self, label: str, clipping: str | None = None) -> Iterator[Change]:
        """Save and remove records in one transaction that can be undone under this label.

        A change of one clipping belongs to that clipping's own history too. What was undone and stands in its way
        can't be done again after it.
        """
        with self._open(), self._database.atomic():
            change = Change(label)
            yield change
            if change.rows:
                table = models.ChangeRow
                gone = [row["id"] for row in change.rows if row["after"] is None and row["table"] == "Clipping"]
                stands_in_way = (
                    (table.clipping.is_null() | table.clipping.in_(gone))
                    if clipping is None
                    else table.clipping == clipping
                )
                table.delete().where(table.undone & stands_in_way).execute()
                table.create(label=change.label, rows=json.dumps(change.rows), made_at=self._now(), clipping=clipping)
                self._note_work(change.rows)

    def _note_work(self, rows: Sequence[dict[str, Any]]) -> None:
        """The files that some rows of the journal concern were worked on now."""
        touched = {
            row["id"] if row["table"] == "Destination" else (row["after"] or row["before"])["destination"]
            for row in rows
            if row["table"] in ("Destination", "Placement")
        }
        table = models.DestinationRow
        table.update(worked_at=self._now()).where(table.id.in_(touched)).execute()

    # Undo

    def undoable(self, clipping: str | None = None) -> ChangeRecord | None:
        """The change that undo would take back: the last of all, or the last of one clipping."""
        return self._top(clipping, undone=False)

    def redoable(self, clipping: str | None = None) -> ChangeRecord | None:
        """The change that redo would make again."""
        return self._top(clipping, undone=True)

    def undo(self, clipping: str | None = None) -> ChangeRecord:
        """Take the last change back, of all or of one clipping; raise `NothingToUndo`."""
        return self._step("undo", lambda: self.undoable(clipping), "before")

    def redo(self, clipping: str | None = None) -> ChangeRecord:
        """Make the last undone change again; raise `NothingToUndo`."""
        return self._step("redo", lambda: self.redoable(clipping), "after")

    def forget_changes(self) -> None:
        """Empty the journal: what stands now is where undo begins."""
        with self._open(), self._database.atomic():
            models.ChangeRow.delete().execute()

    # What can be freed

    def forget_what_left(self) -> int:
        """Forget copies and messages of files and clippings that are gone, but for what still waits to be sent or is linked to;
        how many. Also what stood in files that were written back and are gone from here.
        """
        handover, dispatch, link = models.HandoverRow, models.DispatchRow, models.LinkRow
        setting, file, clipping = models.SettingRow, models.DestinationRow, models.ClippingRow
        with self._open(), self._database.atomic():
            files = [str(row.id) for row in file.select(file.id)]
            clippings = [str(row.id) for row in clipping.select(clipping.id)]
            linked = [str(row.handover) for row in link.select(link.handover)]
            left = handover.select(handover.id, handover.destination, handover.clipping)
            gone = [
                str(row.id)
                for row in left
                if (row.destination not in (None, *files) or row.clipping not in (None, *clippings))
                and row.id not in linked
            ]
            for each in gone:
                handover.delete().where(handover.id == each).execute()
            over = dispatch.state.in_(_OVER) & dispatch.destination.not_in(files)
            count = len(gone) + int(dispatch.delete().where(over).execute())
            for row in list(setting.select(setting.name)):
                found = _WRITTEN_BACK.match(str(row.name))
                if found and found[1] not in files:
                    setting.delete().where(setting.name == row.name).execute()
            return count

    def scrub(self) -> None:
        """Leave nothing of what was deleted in the files of the database: not in free pages, the index, or the log."""
        with self._open():
            self._database.execute_sql("INSERT INTO findable(findable) VALUES('optimize')")
            # A copy of the database has to have room; without it what was deleted is overwritten, but its pages stay.
            with suppress(DiskFull), as_kept_or_said():
                self._database.execute_sql("VACUUM")
            self._database.execute_sql("PRAGMA wal_checkpoint(TRUNCATE)")

    def forget_changes_before(self, most: int) -> int:
        """Forget all but the last changes; how many that were."""
        table = models.ChangeRow
        with self._open(), self._database.atomic():
            kept = table.select(table.id).order_by(table.id.desc()).limit(most)
            return int(table.delete().where(table.id.not_in(kept)).execute())

    def forget_changes_called(self, label: str) -> int:
        """Forget the changes whose label begins so and have not been undone, and all others of what they removed; how many."""
        table = models.ChangeRow
        with self._open(), self._database.atomic():
            called = table.label.startswith(label) & ~table.undone
            removed = {
                entry["id"]
                for row in table.select(table.rows).where(called)
                for entry in json.loads(row.rows)
                if entry["after"] is None
            }
            # Done again, an older change would bring back what has no picture any more.
            gone = [row.id for row in table.select() if any(f'"{each}"' in row.rows for each in removed)]
            for at in range(0, len(gone), 500):
                table.delete().where(table.id.in_(gone[at : at + 500])).execute()
            return len(gone)

    def forget_frames(self, before: str) -> int:
        """Forget frames from before a moment that no clipping shows, and none that undo could bring back; how many."""
        frame, clipping, change = models.FrameRow, models.ClippingRow, models.ChangeRow
        with self._open(), self._database.atomic():
            journal = [str(row.rows) for row in change.select(change.rows)]
            shown = clipping.select(clipping.frame)
            old = frame.select(frame.id).where(frame.taken_at < before, frame.id.not_in(shown))
            rows: Any = old.dicts()
            gone = [str(row["id"]) for row in rows if not any(f'"{row["id"]}"' in text for text in journal)]
            for at in range(0, len(gone), 500):
                frame.delete().where(frame.id.in_(gone[at : at + 500])).execute()
            return len(gone)

    def texts_with_keys(self) -> Iterator[str]:
        """Every text that may name a blob: all text columns of all tables, one value after the other."""
        with self._open():
            for model in models.TABLES:
                rows: Any = model.select().dicts()
                for row in rows:
                    yield from (value for value in row.values() if isinstance(value, str))

    def _top(self, clipping: str | None, *, undone: bool) -> ChangeRecord | None:
        table = models.ChangeRow
        with self._open():
            order = table.id if undone else table.id.desc()
            rows = table.select().where(table.undone == undone)
            row = (rows if clipping is None else rows.where(table.clipping == clipping)).order_by(order).first()
            return None if row is None else ChangeRecord(row.id, row.label, row.made_at)

    def _step(self, which: str, find: Callable[[], ChangeRecord | None], side: str) -> ChangeRecord:
        with self._open(), self._database.atomic():
            found = find()
            if found is None:
                raise NothingToUndo(which=which)
            row = models.ChangeRow.get_by_id(found.id)
            rows = json.loads(row.rows)
            for entry in reversed(rows) if side == "before" else rows:
                put_back(MODEL_NAMED[entry["table"]], entry["id"], entry[side], changed_columns(entry))
            row.undone = side == "before"
            row.save()
            self._note_work(rows)
            return found


def _slip(row: Sequence[Any]) -> Slip:
    # SQLite has no truth of its own.
    *rest, pinned, rounds = row
    return Slip(*(*rest, bool(pinned), rounds))
