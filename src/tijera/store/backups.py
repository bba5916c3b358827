"""Everything as one file, and back: a consistent copy of the database and every picture that it names, checked by content.

Derived pictures are left out: they are made anew. What is restored is whole or not there at all: it is unpacked beside the data
folder, checked, and only then takes its name.
"""

from __future__ import annotations

import hashlib
import json
import os
import shutil
import sqlite3
import tempfile
import zipfile
from pathlib import Path

from tijera.core.errors import BackupBroken, BackupWouldReplace
from tijera.store.migrations import STEPS

_DATABASE, _LIST = "tijera.sqlite", "backup.json"
_FORMAT = 1
_MOST_BYTES = 200_000_000_000


def back_up(folder: Path, target: Path) -> int:
    """Write everything below a data folder into one file; how many pictures and files are in it.

    The folder may be in use. The file is there when it is whole, never half. Raises `OSError`.
    """
    with tempfile.TemporaryDirectory(dir=target.parent, prefix=".backup-") as beside:
        copy = Path(beside) / _DATABASE
        _copy_database(folder / _DATABASE, copy)
        written = Path(beside) / "backup.zip"
        # Pictures are compressed already.
        with zipfile.ZipFile(written, "w", zipfile.ZIP_STORED) as out:
            out.write(copy, _DATABASE, zipfile.ZIP_DEFLATED)
            names = [path for path in sorted((folder / "blobs").glob("??/*")) if len(path.name) == 64]
            for path in names:
                out.write(path, f"blobs/{path.parent.name}/{path.name}")
            listed = {
                "format": _FORMAT,
                "schema": len(STEPS),
                "database_sha256": hashlib.sha256(copy.read_bytes()).hexdigest(),
                "blobs": len(names),
            }
            out.writestr(_LIST, json.dumps(listed))
        with written.open("rb") as file:
            os.fsync(file.fileno())
        written.replace(target)
    return len(names)


def _copy_database(source: Path, target: Path) -> None:
    """By SQLite's own way, which holds with writers beside it."""
    one, other = sqlite3.connect(source), sqlite3.connect(target)
    try:
        one.backup(other)
        # One file, which needs no log beside it.
        other.execute("PRAGMA journal_mode = DELETE")
    finally:
        other.close()
        one.close()


def restore(source: Path, folder: Path, *, aside: Path | None) -> int:
    """Bring everything back into a data folder; how many pictures and files came.

    A folder that is there already is moved to `aside`; with None that is refused. Raises `BackupBroken`, `BackupWouldReplace`.
    """
    is_there = folder.exists() and any(folder.iterdir())
    if is_there and aside is None:
        raise BackupWouldReplace(folder=str(folder))
    folder.parent.mkdir(parents=True, exist_ok=True)
    beside = Path(tempfile.mkdtemp(dir=folder.parent, prefix=".restore-"))
    try:
        count = _unpack(source, beside)
        if is_there and aside is not None:
            folder.rename(aside)
        elif folder.exists():
            folder.rmdir()
        beside.rename(folder)
    except BaseException:
        shutil.rmtree(beside, ignore_errors=True)
        raise
    return count


def _unpack(source: Path, beside: Path) -> int:
    try:
        with zipfile.ZipFile(source) as archive:
            listed = json.loads(archive.read(_LIST))
            if listed["format"] != _FORMAT or listed["schema"] > len(STEPS):
                raise BackupBroken(name=source.name, why="it was made by a newer Tijera")
            if sum(each.file_size for each in archive.infolist()) > _MOST_BYTES:
                raise BackupBroken(name=source.name, why="it unpacks to more than can be meant")
            database = archive.read(_DATABASE)
            if hashlib.sha256(database).hexdigest() != listed["database_sha256"]:
                raise BackupBroken(name=source.name, why="its database is not what was written")
            (beside / _DATABASE).write_bytes(database)
            names = [each for each in archive.namelist() if each.startswith("blobs/")]
            if len(names) != listed["blobs"]:
                raise BackupBroken(name=source.name, why="pictures are missing in it")
            for name in names:
                _unpack_blob(archive, name, beside, source.name)
    except (zipfile.BadZipFile, KeyError, ValueError, EOFError) as error:
        raise BackupBroken(name=source.name, why="it is no backup, or only a part of one") from error
    return len(names)


def _unpack_blob(archive: zipfile.ZipFile, name: str, beside: Path, called: str) -> None:
    data = archive.read(name)
    key = hashlib.sha256(data).hexdigest()
    # Named by what it holds: a name that leads elsewhere can't be one.
    if name != f"blobs/{key[:2]}/{key}":
        raise BackupBroken(name=called, why=f"{name[-24:]} is not what was written")
    path = beside / name
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(data)
