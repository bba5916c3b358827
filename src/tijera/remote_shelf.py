"""Files wherever fsspec reaches (the `cluster` extra), for `tijera fit` over a folder."""

from __future__ import annotations

import os
import posixpath
import secrets
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from errno import ENOENT
from pathlib import Path
from typing import Any

from tijera.core.errors import ExtraMissing
from tijera.usecases.shelves import LocalShelf, Shelf


@dataclass(frozen=True)
class RemoteShelf:
    """A folder by its address, such as `s3://scans/outbox`."""

    address: str

    def _reached(self) -> tuple[Any, str]:
        try:
            from fsspec.core import url_to_fs
        except ImportError as error:
            raise ExtraMissing(what=f"files at “{self.address}”", extra="cluster") from error
        with self._said():
            system, root = url_to_fs(self.address)
        return system, str(root).rstrip("/")

    @contextmanager
    def _said(self) -> Iterator[None]:
        """Each kind of storage has errors of its own, also for a package that it lacks: here they are those of files."""
        try:
            yield
        except FileNotFoundError as error:
            raise FileNotFoundError(ENOENT, os.strerror(ENOENT), self.address) from error
        except Exception as error:
            raise OSError(0, str(error) or type(error).__name__, self.address) from error

    def names(self) -> Iterator[str]:
        """Every file below the address. Raises `FileNotFoundError` where there is no such folder."""
        system, root = self._reached()
        with self._said():
            found = [str(path) for path in system.find(root)]
            if not found and not system.exists(root):
                raise FileNotFoundError(root)
        return (path[len(root) :].lstrip("/") for path in found)

    def read(self, name: str) -> bytes:
        """A file's bytes."""
        system, root = self._reached()
        with self._said():
            return bytes(system.cat_file(posixpath.join(root, name)))

    def size(self, name: str) -> int | None:
        """A file's length."""
        system, root = self._reached()
        with suppress(FileNotFoundError), self._said():
            return int(system.size(posixpath.join(root, name)))
        return None

    def write(self, name: str, data: bytes) -> None:
        """Beside its place, then moved there: what the system behind it makes of a move is its own affair."""
        system, root = self._reached()
        path = posixpath.join(root, name)
        beside = f"{posixpath.dirname(path)}/.{posixpath.basename(path)[:180]}.{secrets.token_hex(4)}.part"
        with self._said():
            system.makedirs(posixpath.dirname(path), exist_ok=True)
            try:
                system.pipe_file(beside, data)
                system.mv(beside, path)
            finally:
                if system.exists(beside):
                    system.rm_file(beside)


def is_address(text: str) -> bool:
    """Whether a text is an address such as `s3://scans`, not a path of this computer."""
    scheme, colon, _ = text.partition("://")
    return bool(colon) and len(scheme) > 1 and scheme.replace("+", "").replace("-", "").isalnum()


def shelf_of(text: str) -> Shelf:
    """Where a path or an address leads."""
    return RemoteShelf(text) if is_address(text) else LocalShelf(Path(text).resolve())
