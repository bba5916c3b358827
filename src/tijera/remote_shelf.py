"""Files wherever fsspec reaches (the `cluster` extra), for `tijera fit` over a folder."""

from __future__ import annotations

import posixpath
import secrets
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass
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
        try:
            system, root = url_to_fs(self.address)
        except ValueError as error:
            raise OSError(0, str(error), self.address) from error
        return system, str(root).rstrip("/")

    def names(self) -> Iterator[str]:
        """Every file below the address."""
        system, root = self._reached()
        return (str(path)[len(root) :].lstrip("/") for path in system.find(root))

    def read(self, name: str) -> bytes:
        """A file's bytes."""
        system, root = self._reached()
        return bytes(system.cat_file(posixpath.join(root, name)))

    def size(self, name: str) -> int | None:
        """A file's length."""
        system, root = self._reached()
        with suppress(FileNotFoundError):
            return int(system.size(posixpath.join(root, name)))
        return None

    def write(self, name: str, data: bytes) -> None:
        """Beside its place, then moved there: what the system behind it makes of a move is its own affair."""
        system, root = self._reached()
        path = posixpath.join(root, name)
        beside = f"{posixpath.dirname(path)}/.{posixpath.basename(path)[:180]}.{secrets.token_hex(4)}.part"
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
