"""Bytes by their SHA-256: the same bytes are kept once, and a file that is there is whole."""

from __future__ import annotations

import errno
import hashlib
import os
import tempfile
from collections.abc import Callable, Collection, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from peewee import OperationalError

from tijera.core.errors import DiskFull, FolderUnusable, NotFound, StoreBusy

_FULL = (errno.ENOSPC, errno.EDQUOT)
_NAME_LENGTH = 64
"""Of a SHA-256 in hexadecimal digits."""
_UNUSABLE = (errno.EROFS, errno.EACCES, errno.EPERM, errno.ENOENT, errno.ENOTDIR)
_UNUSABLE_DATABASE = ("readonly database", "unable to open database file", "disk I/O error")
_BUSY = ("database is locked", "database table is locked")


@contextmanager
def as_kept_or_said() -> Iterator[None]:
    """Say by its name that nothing can be kept now and why, whoever says it: the system, or SQLite."""
    try:
        yield
    except OSError as error:
        if error.errno in _FULL:
            raise DiskFull from error
        if error.errno in _UNUSABLE:
            raise FolderUnusable(why=(error.strerror or "it is not there").lower()) from error
        raise
    except OperationalError as error:
        # SQLite has taken the step back by itself then; that there is nothing to take back is what is said last.
        if any("database or disk is full" in str(each) for each in _chain(error)):
            raise DiskFull from error
        # It was waited for (busy_timeout); who has it is another process.
        if any(str(each) in _BUSY for each in _chain(error)):
            raise StoreBusy from error
        if any(part in str(each) for each in _chain(error) for part in _UNUSABLE_DATABASE):
            raise FolderUnusable(why=str(error)) from error
        raise


def _chain(error: BaseException | None) -> Iterator[BaseException]:
    while error is not None:
        yield error
        error = error.__context__


class Blobs:
    """A folder of files named by their content."""

    def __init__(self, folder: Path, check_room: Callable[[int], None] = lambda _: None) -> None:
        """`check_room` is asked before so many bytes are added, and raises `DiskFull` where they may not be."""
        self._folder, self._check_room = folder, check_room
        folder.mkdir(parents=True, exist_ok=True)

    def put(self, data: bytes) -> str:
        """Keep bytes and return their key. Once this returns they survive a crash. Raises `DiskFull`."""
        key = hashlib.sha256(data).hexdigest()
        path = self._path(key)
        if path.exists():
            # As good as new: cleaning leaves alone what came lately.
            path.touch()
            return key
        self._check_room(len(data))
        with as_kept_or_said():
            path.parent.mkdir(exist_ok=True)
            # Written beside its place and moved there, so that a killed process leaves no half file under a key.
            with tempfile.NamedTemporaryFile(dir=path.parent, delete=False) as file:
                try:
                    file.write(data)
                    file.flush()
                    os.fsync(file.fileno())
                except OSError:
                    Path(file.name).unlink(missing_ok=True)
                    raise
            Path(file.name).replace(path)
            folder = os.open(path.parent, os.O_RDONLY)
            try:
                os.fsync(folder)
            finally:
                os.close(folder)
        return key

    def get(self, key: str) -> bytes:
        """Read bytes back; raise `NotFound`."""
        try:
            return self._path(key).read_bytes()
        except FileNotFoundError:
            raise NotFound(what="stored content", key=key[:12]) from None

    def size(self, key: str) -> int:
        """How many bytes are kept under a key; 0 where none are."""
        path = self._path(key)
        return path.stat().st_size if path.exists() else 0

    def free_all_but(self, named: Collection[str], before: float) -> tuple[int, int]:
        """Free every file that is not named and was last kept before a moment; how many, and how many bytes."""
        count = size = 0
        for path in self._folder.glob("??/*"):
            state = path.stat()
            if path.name not in named and state.st_mtime < before:
                path.unlink(missing_ok=True)
                count, size = count + 1, size + state.st_size
        return count, size

    def free_leftovers(self, before: float) -> None:
        """Free what a process that was killed had not finished before a moment: such files have no content's name."""
        _free_leftovers(self._folder, before)

    def _path(self, key: str) -> Path:
        return self._folder / key[:2] / key


def _free_leftovers(folder: Path, before: float) -> None:
    for path in folder.glob("??/*"):
        with suppress(FileNotFoundError):
            if len(path.name) != _NAME_LENGTH and path.stat().st_mtime < before:
                path.unlink()


class DerivedFiles:
    """A folder of what can be made again at any time, such as thumbnails: made once, kept by a key of words."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        folder.mkdir(parents=True, exist_ok=True)

    def get(self, key: str, make: Callable[[], bytes]) -> bytes:
        """What is kept under a key, made where it is not there."""
        name = hashlib.sha256(key.encode()).hexdigest()
        path = self._folder / name[:2] / name
        try:
            data = path.read_bytes()
        except FileNotFoundError:
            data = make()
        else:
            path.touch()
            return data
        # Shown all the same where there is no room to keep it.
        with suppress(OSError):
            self._keep(path, data)
        return data

    @staticmethod
    def _keep(path: Path, data: bytes) -> None:
        path.parent.mkdir(exist_ok=True)
        with tempfile.NamedTemporaryFile(dir=path.parent, delete=False) as file:
            try:
                file.write(data)
                file.flush()
            except OSError:
                Path(file.name).unlink(missing_ok=True)
                raise
        Path(file.name).replace(path)

    def free_unused_since(self, before: float) -> None:
        """Free what nobody has asked for since a moment, and what was never finished."""
        for path in self._folder.glob("??/*"):
            if path.stat().st_mtime < before:
                path.unlink(missing_ok=True)
