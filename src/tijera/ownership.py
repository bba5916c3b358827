"""One application a data folder, and what only its owner may read there.

The lock is the operating system's: it ends with the process that holds it, however that ends. Beside it lie the secret of this
installation, made once, and a note that says where the application answers; the note means something only while the lock is held.
"""

from __future__ import annotations

import json
import os
import secrets
import time
from collections.abc import Callable
from contextlib import suppress
from dataclasses import asdict, dataclass
from pathlib import Path

from tijera.core.errors import FolderInUse, FolderUnusable

LOCK, NOTE, SECRET = "lock", "running-at", "secret"
OWNER_ONLY_FOLDER, OWNER_ONLY_FILE = 0o700, 0o600
_SECRET_BYTES = 32
"""As many bits as the hash that answers are made with (RFC 2104 §3: no less than the hash's length)."""
_PATIENCE_S = 10.0
"""From taking the lock to answering takes a second or two; a slow machine has time."""


@dataclass(frozen=True)
class Running:
    """The application that works on a folder."""

    address: str
    """Such as http://127.0.0.1:7420, without a slash at its end."""
    key: str
    """What lets a browser in while it runs."""


class Ownership:
    """This process is the one that works on a folder, from now until it ends or `release` is called."""

    def __init__(self, folder: Path) -> None:
        """Make the folder if need be, for nobody but the user. Raises `FolderInUse`, `FolderUnusable`."""
        from filelock import FileLock, Timeout

        self._folder = folder
        self._lock = FileLock(folder / LOCK, timeout=0, mode=OWNER_ONLY_FILE, thread_local=False)
        try:
            folder.mkdir(parents=True, exist_ok=True)
            # A folder that is somebody else's is used as it is.
            with suppress(OSError):
                folder.chmod(OWNER_ONLY_FOLDER)
            self._lock.acquire()
        except Timeout as error:
            note = _note(folder)
            where = f" It answers at {note.address}." if note else ""
            raise FolderInUse(folder=str(folder), where=where) from error
        except OSError as error:
            raise FolderUnusable(why=f"{folder}: {error.strerror or error}") from error
        # What a killed one left behind is true no more.
        for left in ((folder / NOTE), *folder.glob(f".{NOTE}.*"), *folder.glob(f".{SECRET}.*")):
            left.unlink(missing_ok=True)

    def __enter__(self) -> Ownership:
        """Until the end of the block."""
        return self

    def __exit__(self, *_: object) -> None:
        """Let others work on the folder."""
        self.release()

    def tell(self, running: Running) -> None:
        """Note where the application answers."""
        write_secretly(self._folder / NOTE, json.dumps(asdict(running)).encode())

    def release(self) -> None:
        """Let others work on the folder."""
        (self._folder / NOTE).unlink(missing_ok=True)
        self._lock.release()


def running(folder: Path, seconds: Callable[[], float] = time.monotonic) -> Running | None:
    """The application that works on a folder; None where none does, whatever was left behind."""
    from filelock import FileLock, Timeout

    if not (folder / LOCK).exists():
        return None
    until = seconds() + _PATIENCE_S
    while True:
        try:
            with FileLock(folder / LOCK, timeout=0, mode=OWNER_ONLY_FILE):
                return None
        except Timeout:
            # It may be about to answer.
            note = _note(folder)
            if note is not None or seconds() > until:
                return note
            time.sleep(0.05)
        except OSError:
            return None


def _note(folder: Path) -> Running | None:
    try:
        found = json.loads((folder / NOTE).read_text(encoding="utf-8"))
        return Running(str(found["address"]), str(found["key"]))
    except (OSError, ValueError, KeyError, TypeError):
        return None


def secret_of(folder: Path) -> bytes:
    """The secret of an installation; made where there is none, or where what is there is none."""
    path = folder / SECRET
    with suppress(OSError, ValueError):
        found = bytes.fromhex(path.read_text(encoding="ascii"))
        if len(found) == _SECRET_BYTES:
            path.chmod(OWNER_ONLY_FILE)
            return found
    made = secrets.token_bytes(_SECRET_BYTES)
    write_secretly(path, made.hex().encode("ascii"))
    return made


def write_secretly(path: Path, data: bytes) -> None:
    """Write a file that nobody but the user can read, at no moment."""
    beside = path.with_name(f".{path.name}.{secrets.token_hex(8)}")
    handle = os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_EXCL, OWNER_ONLY_FILE)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        beside.replace(path)
    finally:
        beside.unlink(missing_ok=True)
