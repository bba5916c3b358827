"""Files are written whole or not at all."""

from __future__ import annotations

import os
import secrets
import stat
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

OTHERS = 0o077
"""The mask by which nobody else can read what is written."""
_USUAL = os.umask(OTHERS)
"""The user's own mask, from before anything else was set: copies are readable as the user's files usually are."""
os.umask(_USUAL)


def write_whole(path: Path, data: bytes, just_before: Callable[[], None] = lambda: None) -> None:
    """Write a file beside its place, then move it there; what stood there before stays until then.

    A link is kept, and what it leads to is written; so are mode, owner and extended attributes of what stood there, as far as
    the system lets us. Nothing that was planted under the name beside it is followed: that is random and opened exclusively.
    Done means that file and folder are on the disk. `just_before` it takes its place may raise: then nothing is changed.
    Raises `OSError`.
    """
    target = Path(os.path.realpath(path))
    before = target.stat() if target.exists() else None
    beside = target.with_name(f".{target.name[:120]}.{secrets.token_hex(8)}.part")
    handle = os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_EXCL | getattr(os, "O_NOFOLLOW", 0), 0o600)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            if before is None:
                beside.chmod(0o666 & ~_USUAL)
            else:
                _as_before(beside, target, before)
            os.fsync(file.fileno())
        just_before()
        beside.replace(target)
    except BaseException:
        beside.unlink(missing_ok=True)
        raise
    _sync_folder(target.parent)


def _as_before(beside: Path, target: Path, before: os.stat_result) -> None:
    if hasattr(os, "chown"):
        with suppress(OSError):
            os.chown(beside, before.st_uid, before.st_gid)
    if hasattr(os, "listxattr"):
        with suppress(OSError):
            for name in os.listxattr(target):
                with suppress(OSError):
                    os.setxattr(beside, name, os.getxattr(target, name))
    # Last: a change of owner takes the bits of set-user and set-group away.
    beside.chmod(stat.S_IMODE(before.st_mode))


def _sync_folder(folder: Path) -> None:
    """Have the new name on the disk, too; where a folder can't be opened (Windows), the system sees to it."""
    with suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
