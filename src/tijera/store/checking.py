"""Whether what is kept is whole: the database by SQLite's own check, files by what names them and by their content."""

from __future__ import annotations

import hashlib
import re
import sqlite3
from dataclasses import dataclass
from pathlib import Path

from tijera.store.migrations import STEPS

_KEY = re.compile(r"^[0-9a-f]{64}$")
_PLACES = (("frame", ("blob", "original")), ("destination", ("blob", "first_blob")), ("handover", ("blob",)))
"""Columns of which each names a file that must be there."""


@dataclass(frozen=True)
class Checked:
    """What was found."""

    schema: int
    newest: int
    integrity: str
    """"ok", or the first complaint."""
    named: int
    """How many files rows name."""
    missing: int
    broken: int
    """Files whose content is not what their name says."""


def check(folder: Path) -> Checked:
    """Look at everything below a data folder and change nothing; it may be in use. Raises `sqlite3.Error`."""
    database = sqlite3.connect(f"{(folder / 'tijera.sqlite').absolute().as_uri()}?mode=ro", uri=True)
    try:
        schema = int(database.execute("PRAGMA user_version").fetchone()[0])
        integrity = str(database.execute("PRAGMA integrity_check(1)").fetchone()[0])
        foreign = database.execute("PRAGMA foreign_key_check").fetchone()
        if integrity == "ok" and foreign is not None:
            integrity = f"a row of {foreign[0]} names one of {foreign[2]} that is not there"
        named = {
            key
            for table, columns in _PLACES
            for column in columns
            for (key,) in database.execute(f"SELECT {column} FROM {table}")  # noqa: S608  (our own names)
            if key is not None and _KEY.match(key)
        }
    finally:
        database.close()
    files = {path.name: path for path in (folder / "blobs").glob("??/*") if _KEY.match(path.name)}
    broken = sum(hashlib.sha256(path.read_bytes()).hexdigest() != name for name, path in files.items())
    return Checked(schema, len(STEPS), integrity, len(named), len(named - files.keys()), broken)
