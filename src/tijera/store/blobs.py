"""Bytes by their SHA-256: the same bytes are kept once, and a file that is there is whole."""

from __future__ import annotations

import hashlib
import os
import tempfile
from collections.abc import Callable, Collection
from pathlib import Path

from tijera.core.errors import NotFound


class Blobs:
    """A folder of files named by their content."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        folder.mkdir(parents=True, exist_ok=True)

    def put(self, data: bytes) -> str:
        """Keep bytes and return their key. Once this returns they survive a crash."""
        key = hashlib.sha256(data).hexdigest()
        path = self._path(key)
        if path.exists():
            # As good as new: cleaning leaves alone what came lately.
            path.touch()
            return key
        path.parent.mkdir(exist_ok=True)
        # Written beside its place and moved there, so that a killed process leaves no half file under a key.
        with tempfile.NamedTemporaryFile(dir=path.parent, delete=False) as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
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

    def _path(self, key: str) -> Path:
        return self._folder / key[:2] / key


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
        path.parent.mkdir(exist_ok=True)
        with tempfile.NamedTemporaryFile(dir=path.parent, delete=False) as file:
            file.write(data)
        Path(file.name).replace(path)
        return data

    def free_unused_since(self, before: float) -> None:
        """Free what nobody has asked for since a moment."""
        for path in self._folder.glob("??/*"):
            if path.stat().st_mtime < before:
                path.unlink(missing_ok=True)
