"""Where the files of a batch lie: a folder of this computer; others stand in `tijera.remote_shelf`."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

from tijera.usecases.whole import write_whole


class Shelf(Protocol):
    """Files by name: paths below it, with slashes. It is sent to other processes, perhaps on other machines."""

    def names(self) -> Iterator[str]:
        """Every file on it, hidden ones too, in no order."""

    def read(self, name: str) -> bytes:
        """A file's bytes. Raises `OSError`."""

    def size(self, name: str) -> int | None:
        """A file's length in bytes; None where there is none."""

    def write(self, name: str, data: bytes) -> None:
        """Write a file whole or not at all, over what is there. Raises `OSError`."""


@dataclass(frozen=True)
class LocalShelf:
    """A folder of this computer, or one that all computers of a cluster see under the same path."""

    folder: Path

    def names(self) -> Iterator[str]:
        """Every file below the folder."""
        return (path.relative_to(self.folder).as_posix() for path in self.folder.rglob("*") if path.is_file())

    def read(self, name: str) -> bytes:
        """A file's bytes."""
        return (self.folder / name).read_bytes()

    def size(self, name: str) -> int | None:
        """A file's length."""
        path = self.folder / name
        return path.stat().st_size if path.is_file() else None

    def write(self, name: str, data: bytes) -> None:
        """Beside its place, then moved there."""
        path = self.folder / name
        path.parent.mkdir(parents=True, exist_ok=True)
        write_whole(path, data)
