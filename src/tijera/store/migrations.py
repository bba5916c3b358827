"""Steps from one version of the schema to the next, numbered from 1 and never edited once released."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from typing import Any

from peewee import SqliteDatabase

from tijera.core.errors import DataTooNew

Step = Callable[[SqliteDatabase], None]

_FIRST = """
CREATE TABLE frame (
    id TEXT NOT NULL PRIMARY KEY, source TEXT NOT NULL, blob TEXT NOT NULL, original TEXT, width INTEGER NOT NULL,
    height INTEGER NOT NULL, scale_factor REAL NOT NULL, windows TEXT NOT NULL, taken_at TEXT NOT NULL);
CREATE TABLE clipping (
    id TEXT NOT NULL PRIMARY KEY, frame TEXT NOT NULL REFERENCES frame(id), name TEXT NOT NULL,
    area_x INTEGER NOT NULL, area_y INTEGER NOT NULL, area_width INTEGER NOT NULL, area_height INTEGER NOT NULL,
    crop_x INTEGER NOT NULL, crop_y INTEGER NOT NULL, crop_width INTEGER NOT NULL, crop_height INTEGER NOT NULL,
    taken_at TEXT NOT NULL);
CREATE INDEX clipping_taken_at ON clipping(taken_at);
CREATE TABLE destination (
    id TEXT NOT NULL PRIMARY KEY, name TEXT NOT NULL, blob TEXT NOT NULL, limit_bytes INTEGER, spot TEXT,
    opened_at TEXT NOT NULL);
CREATE TABLE placement (
    id TEXT NOT NULL PRIMARY KEY, destination TEXT NOT NULL REFERENCES destination(id),
    clipping TEXT NOT NULL REFERENCES clipping(id), spot TEXT NOT NULL, rank INTEGER NOT NULL,
    width_rule TEXT NOT NULL, width_emu INTEGER, place_width_emu INTEGER NOT NULL, description TEXT NOT NULL,
    rendition_blob TEXT, rendition_extension TEXT, rendition_width_px INTEGER, rendition_of TEXT, rendition_note TEXT);
CREATE INDEX placement_destination ON placement(destination);
CREATE TABLE change (
    id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, label TEXT NOT NULL, rows TEXT NOT NULL,
    undone INTEGER NOT NULL DEFAULT 0, made_at TEXT NOT NULL);
CREATE TABLE handover (
    id TEXT NOT NULL PRIMARY KEY, name TEXT NOT NULL, media_type TEXT NOT NULL, blob TEXT NOT NULL,
    bytes INTEGER NOT NULL, what TEXT NOT NULL, made_at TEXT NOT NULL);
CREATE TABLE setting (name TEXT NOT NULL PRIMARY KEY, value TEXT NOT NULL)
"""


def _first(database: SqliteDatabase) -> None:
    for statement in _FIRST.split(";"):
        database.execute_sql(statement)


_TAKEN_IN_EVERY_WAY = """
ALTER TABLE frame ADD COLUMN monitors TEXT NOT NULL DEFAULT '[]';
ALTER TABLE frame ADD COLUMN pointer TEXT;
ALTER TABLE clipping ADD COLUMN kind TEXT NOT NULL DEFAULT 'region';
ALTER TABLE clipping ADD COLUMN window TEXT;
ALTER TABLE clipping ADD COLUMN scale_factor REAL NOT NULL DEFAULT 1;
ALTER TABLE clipping ADD COLUMN outline TEXT;
ALTER TABLE clipping ADD COLUMN pointer_x INTEGER;
ALTER TABLE clipping ADD COLUMN pointer_y INTEGER;
ALTER TABLE clipping ADD COLUMN found_as TEXT NOT NULL DEFAULT '';
UPDATE clipping SET scale_factor = (SELECT scale_factor FROM frame WHERE frame.id = clipping.frame);
UPDATE clipping SET found_as = substr(taken_at, 1, 10);
CREATE INDEX clipping_name ON clipping(name);
CREATE INDEX placement_clipping ON placement(clipping);
CREATE VIRTUAL TABLE clipping_words USING fts5(words, tokenize='trigram');
INSERT INTO clipping_words(rowid, words) SELECT rowid, name || ' ' || found_as FROM clipping
"""
_WORDS = "new.name || ' ' || coalesce(new.window, '') || ' ' || new.found_as"
_TRIGGERS = (
    f"CREATE TRIGGER clipping_comes AFTER INSERT ON clipping BEGIN INSERT INTO clipping_words(rowid, words) VALUES (new.rowid, {_WORDS}); END",
    f"CREATE TRIGGER clipping_changes AFTER UPDATE OF name, window, found_as ON clipping BEGIN UPDATE clipping_words SET words = {_WORDS} WHERE rowid = old.rowid; END",
    "CREATE TRIGGER clipping_goes AFTER DELETE ON clipping BEGIN DELETE FROM clipping_words WHERE rowid = old.rowid; END",
)


def _taken_in_every_way(database: SqliteDatabase) -> None:
    """Monitors and the pointer on frames; kinds of cut, outlines and an index of words for clippings.

    The index is kept by triggers, so that undo and redo, which put rows back as they were, need not know of it.
    """
    for statement in _TAKEN_IN_EVERY_WAY.split(";"):
        database.execute_sql(statement)
    for statement in _TRIGGERS:
        database.execute_sql(statement)
    _complete_journal(database)


def _complete_journal(database: SqliteDatabase) -> None:
    """Clippings in the journal get the new columns too, so that undo from before this version brings them back whole."""
    scales = dict(database.execute_sql("SELECT id, scale_factor FROM frame").fetchall())
    for number, rows in database.execute_sql("SELECT id, rows FROM change").fetchall():
        entries = json.loads(rows)
        for row in (entry[side] for entry in entries if entry["table"] == "Clipping" for side in ("before", "after")):
            if row is not None:
                row |= {"kind": "region", "window": None, "outline": None, "pointer_x": None, "pointer_y": None}
                row |= {"scale_factor": scales.get(row["frame"], 1.0), "found_as": row["taken_at"][:10]}
        database.execute_sql("UPDATE change SET rows = ? WHERE id = ?", (json.dumps(entries), number))


_MARKED = """
ALTER TABLE clipping ADD COLUMN sheet TEXT;
ALTER TABLE clipping ADD COLUMN parts TEXT NOT NULL DEFAULT '[]';
ALTER TABLE clipping ADD COLUMN consent INTEGER NOT NULL DEFAULT 0;
ALTER TABLE change ADD COLUMN clipping TEXT;
CREATE INDEX change_clipping ON change(clipping)
"""


def _marked(database: SqliteDatabase) -> None:
    """What is done to clippings, and a history for each of them."""
    for statement in _MARKED.split(";"):
        database.execute_sql(statement)
    for number, rows in database.execute_sql("SELECT id, rows FROM change").fetchall():
        entries = json.loads(rows)
        touched = [entry for entry in entries if entry["table"] == "Clipping"]
        for row in (entry[side] for entry in touched for side in ("before", "after")):
            if row is not None:
                row |= {"sheet": None, "parts": "[]", "consent": False}
        # A change of one clipping and nothing else, not its coming or going, belongs to that clipping's history.
        own = touched[0]["id"] if len(entries) == len(touched) == 1 and _is_change(touched[0]) else None
        values = (json.dumps(entries), own, number)
        database.execute_sql("UPDATE change SET rows = ?, clipping = ? WHERE id = ?", values)


_PLACED_WHOLE = """
ALTER TABLE placement ADD COLUMN layout TEXT NOT NULL DEFAULT '{}';
ALTER TABLE placement ADD COLUMN alike TEXT;
ALTER TABLE destination ADD COLUMN path TEXT;
ALTER TABLE destination ADD COLUMN letter TEXT;
ALTER TABLE destination ADD COLUMN unsigned INTEGER NOT NULL DEFAULT 0;
ALTER TABLE destination ADD COLUMN first_blob TEXT
"""


def _placed_whole(database: SqliteDatabase) -> None:
    """How pictures stand and what stands with them; where a file came from, and what a new message says."""
    for statement in _PLACED_WHOLE.split(";"):
        database.execute_sql(statement)
    new = {
        "Placement": {"layout": "{}", "alike": None},
        "Destination": {"path": None, "letter": None, "unsigned": False, "first_blob": None},
    }
    for number, rows in database.execute_sql("SELECT id, rows FROM change").fetchall():
        entries = json.loads(rows)
        for entry in entries:
            for side in ("before", "after"):
                if entry[side] is not None:
                    entry[side] |= new.get(entry["table"], {})
        database.execute_sql("UPDATE change SET rows = ? WHERE id = ?", (json.dumps(entries), number))


_IN_ORDER = """
ALTER TABLE clipping ADD COLUMN rank INTEGER NOT NULL DEFAULT 0;
CREATE INDEX clipping_rank ON clipping(rank)
"""


def _in_order(database: SqliteDatabase) -> None:
    """Clippings have the order in which they came, which does not follow the clock when that is set back.

    What is gone and could come back by undo has its place in that order too; numbers go on above all placements'.
    """
    for statement in _IN_ORDER.split(";"):
        database.execute_sql(statement)
    taken = dict(database.execute_sql("SELECT id, taken_at FROM clipping ORDER BY rowid").fetchall())
    changes = [
        (number, json.loads(rows)) for number, rows in database.execute_sql("SELECT id, rows FROM change").fetchall()
    ]
    touched = [
        row
        for _, entries in changes
        for entry in entries
        if entry["table"] == "Clipping"
        for row in (entry["before"], entry["after"])
        if row is not None
    ]
    for row in touched:
        taken.setdefault(row["id"], row["taken_at"])
    ranks = {id_: rank for rank, id_ in enumerate(sorted(taken, key=lambda each: taken[each]), 1)}
    for id_, rank in ranks.items():
        database.execute_sql("UPDATE clipping SET rank = ? WHERE id = ?", (rank, id_))
    for row in touched:
        row["rank"] = ranks[row["id"]]
    for number, entries in changes:
        database.execute_sql("UPDATE change SET rows = ? WHERE id = ?", (json.dumps(entries), number))
    placed = database.execute_sql("SELECT coalesce(max(rank), 0) FROM placement").fetchone()[0]
    placed = max([placed, *(row["rank"] for _, entries in changes for row in _placements(entries))])
    last = str(max(len(ranks), placed))
    database.execute_sql("INSERT OR REPLACE INTO setting(name, value) VALUES ('last rank', ?)", (last,))


def _placements(entries: list[dict[str, Any]]) -> list[dict[str, Any]]:
    sides = (entry[side] for entry in entries if entry["table"] == "Placement" for side in ("before", "after"))
    return [row for row in sides if row is not None]


def _is_change(entry: dict[str, object]) -> bool:
    return entry["before"] is not None and entry["after"] is not None


def _said(database: SqliteDatabase) -> None:
    """What the user says of a placed picture, where a file has to become lighter."""
    database.execute_sql("ALTER TABLE placement ADD COLUMN say TEXT NOT NULL DEFAULT 'usual'")


def _kept_fitting(database: SqliteDatabase) -> None:
    """Whether a file is kept under its limit."""
    database.execute_sql("ALTER TABLE destination ADD COLUMN keeps_fitting INTEGER NOT NULL DEFAULT 0")


_SENT = """
CREATE TABLE dispatch (
    id TEXT NOT NULL PRIMARY KEY, destination TEXT NOT NULL, name TEXT NOT NULL, sender TEXT NOT NULL,
    recipients TEXT NOT NULL, blob TEXT NOT NULL, bytes INTEGER NOT NULL, message_id TEXT NOT NULL,
    made_at TEXT NOT NULL, state TEXT NOT NULL, reached TEXT NOT NULL, refused TEXT NOT NULL, tries TEXT NOT NULL,
    tried INTEGER NOT NULL, next_at TEXT, needs_utf8 INTEGER NOT NULL);
CREATE INDEX dispatch_next ON dispatch(next_at)
"""


def _sent(database: SqliteDatabase) -> None:
    """Messages that were sent from here, and those that wait."""
    for statement in _SENT.split(";"):
        database.execute_sql(statement)


_HISTORY = """
ALTER TABLE destination ADD COLUMN worked_at TEXT NOT NULL DEFAULT '';
UPDATE destination SET worked_at = opened_at;
ALTER TABLE handover ADD COLUMN destination TEXT;
ALTER TABLE handover ADD COLUMN clipping TEXT;
CREATE INDEX destination_worked ON destination(worked_at);
CREATE INDEX handover_made ON handover(made_at);
CREATE INDEX dispatch_made ON dispatch(made_at);
CREATE INDEX change_made ON change(made_at)
"""


def _history(database: SqliteDatabase) -> None:
    """When each file was worked on last, and of what each hand-over was made."""
    for statement in _HISTORY.split(";"):
        database.execute_sql(statement)
    for number, rows in database.execute_sql("SELECT id, rows FROM change").fetchall():
        entries = json.loads(rows)
        for entry in entries:
            for side in ("before", "after"):
                if entry["table"] == "Destination" and entry[side] is not None:
                    entry[side] |= {"worked_at": entry[side]["opened_at"]}
        database.execute_sql("UPDATE change SET rows = ? WHERE id = ?", (json.dumps(entries), number))


def _pinned(database: SqliteDatabase) -> None:
    """Clippings that stay on top of the rack."""
    database.execute_sql("ALTER TABLE clipping ADD COLUMN pinned INTEGER NOT NULL DEFAULT 0")
    database.execute_sql("CREATE INDEX clipping_pinned ON clipping(pinned, rank)")
    _tell_journal(database, "Clipping", {"pinned": False})


def _tell_journal(database: SqliteDatabase, table: str, columns: Mapping[str, object]) -> None:
    """Rows that undo may bring back get new columns too."""
    for number, rows in database.execute_sql("SELECT id, rows FROM change").fetchall():
        entries = json.loads(rows)
        for entry in entries:
            for side in ("before", "after"):
                if entry["table"] == table and entry[side] is not None:
                    entry[side] |= columns
        database.execute_sql("UPDATE change SET rows = ? WHERE id = ?", (json.dumps(entries), number))


_LINKED = """
CREATE TABLE link (
    id TEXT NOT NULL PRIMARY KEY, token TEXT NOT NULL UNIQUE, clipping TEXT NOT NULL, handover TEXT NOT NULL,
    name TEXT NOT NULL, file TEXT NOT NULL, media_type TEXT NOT NULL, blob TEXT NOT NULL, bytes INTEGER NOT NULL,
    width INTEGER NOT NULL, height INTEGER NOT NULL, made_at TEXT NOT NULL, password TEXT NOT NULL, ends_at TEXT,
    ended INTEGER NOT NULL, most_views INTEGER, views INTEGER NOT NULL, seen_at TEXT, withdrawn_at TEXT,
    wrong INTEGER NOT NULL, wrong_at TEXT);
CREATE INDEX link_clipping ON link(clipping);
CREATE INDEX link_withdrawn ON link(withdrawn_at)
"""


def _linked(database: SqliteDatabase) -> None:
    """Pictures that others open at an address."""
    for statement in _LINKED.split(";"):
        database.execute_sql(statement)


_READ = """
CREATE TABLE shown (clipping INTEGER NOT NULL PRIMARY KEY, words TEXT NOT NULL);
CREATE TABLE unread (clipping INTEGER NOT NULL PRIMARY KEY);
CREATE INDEX clipping_joined ON clipping(id) WHERE parts != '[]';
INSERT INTO unread SELECT rowid FROM clipping;
DROP TRIGGER clipping_comes;
DROP TRIGGER clipping_changes;
DROP TRIGGER clipping_goes;
DROP TABLE clipping_words;
CREATE VIRTUAL TABLE findable USING fts5(own, shown, places, tokenize='trigram')
"""
_LOOK = "frame, area_x, area_y, area_width, area_height, crop_x, crop_y, crop_width, crop_height, outline, pointer_x, pointer_y, sheet, parts"
_ALSO = (
    "SELECT rowid FROM clipping WHERE rowid = new.rowid UNION SELECT rowid FROM clipping c WHERE c.parts != '[]' AND "
    "(c.parts LIKE '%\"' || new.id || '\"%' OR EXISTS "
    "(SELECT 1 FROM clipping p WHERE p.parts != '[]' AND c.parts LIKE '%\"' || p.id || '\"%'))"
)
"""Rows that look otherwise when one does: it, the joined ones that it is laid on, and those that joined ones are laid on."""
_SAID = (
    "d.name || coalesce(char(10) || json_extract(d.letter, '$.to') || ' ' || json_extract(d.letter, '$.cc') || ' ' || "
    "json_extract(d.letter, '$.subject'), '')"
)


def _places(clipping: str) -> str:
    """What is said of the files in which a clipping stands."""
    said = f"SELECT DISTINCT {_SAID} AS said FROM placement p JOIN destination d ON d.id = p.destination WHERE p.clipping = {clipping}"
    return f"(SELECT coalesce(group_concat(said, char(10)), '') FROM ({said}))"


def _placed_anew(clippings: str) -> str:
    return f"UPDATE findable SET places = {_places('(SELECT id FROM clipping WHERE rowid = findable.rowid)')} WHERE rowid IN (SELECT rowid FROM clipping WHERE id IN ({clippings}))"


_READ_TRIGGERS = (
    f"CREATE TRIGGER found_comes AFTER INSERT ON clipping BEGIN INSERT INTO findable(rowid, own, shown, places) VALUES (new.rowid, {_WORDS}, '', {_places('new.id')}); INSERT OR REPLACE INTO unread VALUES (new.rowid); END",
    f"CREATE TRIGGER found_named AFTER UPDATE OF name, window, found_as ON clipping BEGIN UPDATE findable SET own = {_WORDS} WHERE rowid = old.rowid; END",
    "CREATE TRIGGER found_goes AFTER DELETE ON clipping BEGIN DELETE FROM findable WHERE rowid = old.rowid; DELETE FROM shown WHERE clipping = old.rowid; DELETE FROM unread WHERE clipping = old.rowid; END",
    f"CREATE TRIGGER shown_changes AFTER UPDATE OF {_LOOK} ON clipping BEGIN DELETE FROM shown WHERE clipping IN ({_ALSO}); UPDATE findable SET shown = '' WHERE rowid IN ({_ALSO}); INSERT OR REPLACE INTO unread {_ALSO}; END",
    f"CREATE TRIGGER placed_comes AFTER INSERT ON placement BEGIN {_placed_anew('new.clipping')}; END",
    f"CREATE TRIGGER placed_changes AFTER UPDATE OF clipping, destination ON placement BEGIN {_placed_anew('old.clipping, new.clipping')}; END",
    f"CREATE TRIGGER placed_goes AFTER DELETE ON placement BEGIN {_placed_anew('old.clipping')}; END",
    "CREATE TRIGGER placed_named AFTER UPDATE OF name, letter ON destination WHEN "
    f"{_SAID.replace('d.', 'old.')} IS NOT {_SAID.replace('d.', 'new.')} BEGIN "
    f"{_placed_anew('SELECT clipping FROM placement WHERE destination = new.id')}; END",
)


def _read(database: SqliteDatabase) -> None:
    """One index of all by which clippings are found: their own words, those they show, and what is said of their places.

    What is there already has yet to be read.
    """
    for statement in _READ.split(";"):
        database.execute_sql(statement)
    own = _WORDS.replace("new.", "c.")
    database.execute_sql(
        f"INSERT INTO findable(rowid, own, shown, places) SELECT c.rowid, {own}, '', {_places('c.id')} FROM clipping c"
    )
    for statement in _READ_TRIGGERS:
        database.execute_sql(statement)


_ROUNDS = """
ALTER TABLE clipping ADD COLUMN round TEXT;
CREATE INDEX clipping_round ON clipping(round, rank);
CREATE TABLE round (
    id TEXT NOT NULL PRIMARY KEY, name TEXT NOT NULL, model TEXT NOT NULL, every_min INTEGER, at TEXT NOT NULL,
    begun_at TEXT NOT NULL, until TEXT NOT NULL, only_changed INTEGER NOT NULL, next_at TEXT, stopped INTEGER NOT NULL,
    taken INTEGER NOT NULL, same INTEGER NOT NULL, gaps TEXT NOT NULL);
CREATE INDEX round_begun ON round(begun_at);
CREATE INDEX round_next ON round(next_at)
"""


def _rounds(database: SqliteDatabase) -> None:
    """Areas that are taken at set times."""
    for statement in _ROUNDS.split(";"):
        database.execute_sql(statement)
    _tell_journal(database, "Clipping", {"round": None})


STEPS: tuple[Step, ...] = (
    _first,
    _taken_in_every_way,
    _marked,
    _placed_whole,
    _in_order,
    _said,
    _kept_fitting,
    _sent,
    _history,
    _pinned,
    _linked,
    _read,
    _rounds,
)


def migrate(database: SqliteDatabase) -> int:
    """Bring a database to the newest version, each step in a transaction of its own; return that version.

    Raises `DataTooNew`.
    """
    version = int(database.execute_sql("PRAGMA user_version").fetchone()[0])
    if version > len(STEPS):
        raise DataTooNew(found=version, known=len(STEPS))
    for number, step in enumerate(STEPS[version:], version + 1):
        with database.atomic():
            step(database)
            database.execute_sql(f"PRAGMA user_version = {number}")
    return len(STEPS)
