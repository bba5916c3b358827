"""Bytes by their SHA-256: the same bytes are kept once, and a file that is there is whole."""

from __future__ import annotations

import hashlib
import os
import tempfile
from collections.abc import Callable
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

    def _path(self, key: str) -> Path:
        return self._folder / key[:2] / key


class Derived:
    """A folder of what can be made again at any time, such as thumbnails: made once, kept by a key of words."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        folder.mkdir(parents=True, exist_ok=True)

    def get(self, key: str, make: Callable[[], bytes]) -> bytes:
        """What is kept under a key, made where it is not there."""
        name = hashlib.sha256(key.encode()).hexdigest()
        path = self._folder / name[:2] / name
        try:
            return path.read_bytes()
        except FileNotFoundError:
            data = make()
        path.parent.mkdir(exist_ok=True)
        with tempfile.NamedTemporaryFile(dir=path.parent, delete=False) as file:
            file.write(data)
        Path(file.name).replace(path)
        return data
