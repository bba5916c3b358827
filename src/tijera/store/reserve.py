"""Room that is kept back, so that something can still be removed where the disk is full: a removal writes a little first."""

from __future__ import annotations

import shutil
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import TypeVar

from tijera.core.errors import DiskFull

T = TypeVar("T")
SIZE = 4_000_000
"""Bytes: some hundred removals. While it is given up nothing is added that would take the room for itself."""


class Reserve:
    """A file of nothing in the data folder, given up when the disk is full and kept again when there is room."""

    def __init__(self, folder: Path) -> None:
        self._path = folder / "reserve"

    def keep(self) -> None:
        """Take the room, where there is more than enough of it."""
        with suppress(OSError):
            if self._path.exists() or shutil.disk_usage(self._path.parent).free < 3 * SIZE:
                return
            try:
                self._path.write_bytes(bytes(SIZE))
            except OSError:
                self._path.unlink(missing_ok=True)

    def check_room(self, wanted: int) -> None:
        """Before something is added: raise `DiskFull` where only the reserve is left."""
        with suppress(OSError):
            if not self._path.exists() and shutil.disk_usage(self._path.parent).free < SIZE + wanted:
                raise DiskFull

    def used_for(self, removal: Callable[[], T]) -> T:
        """Do what removes something; where the disk is full, once more with the reserve given up."""
        try:
            return removal()
        except DiskFull:
            if not self._path.exists():
                raise
            self._path.unlink(missing_ok=True)
            return removal()
