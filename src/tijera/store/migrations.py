"""Steps from one version of the schema to the next, numbered from 1 and never edited once released."""

from __future__ import annotations

from collections.abc import Callable

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


STEPS: tuple[Step, ...] = (_first,)


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
