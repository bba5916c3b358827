"""The corpus: real files that others wrote, fetched once from source packages and kept in a cache."""

from __future__ import annotations

import hashlib
import os
import tarfile
import tomllib
from dataclasses import dataclass
from pathlib import Path

from platformdirs import user_cache_path

DECLARED = Path(__file__).with_name("corpus.toml")


@dataclass(frozen=True)
class Source:
    """A source package, and the files that are taken from it: path and SHA-256."""

    name: str
    version: str
    file: str
    sha256: str
    members: tuple[tuple[str, str], ...]


def declared() -> list[Source]:
    """What the corpus is made of."""
    packages = tomllib.loads(DECLARED.read_text(encoding="utf-8"))["package"]
    return [
        Source(
            each["name"],
            each["version"],
            each["file"],
            each["sha256"],
            tuple((member["path"], member["sha256"]) for member in each["members"]),
        )
        for each in packages
    ]


def cache() -> Path:
    """Where the files lie once they are fetched."""
    return Path(os.environ.get("TIJERA_CORPUS") or user_cache_path("tijera") / "corpus")


def stored(sha256: str, path: str) -> Path:
    """Where one file lies."""
    return cache() / f"{sha256[:16]}{Path(path).suffix.lower()}"


def unpack(source: Source, package: Path) -> None:
    """Take the declared files out of a source package, each checked by its hash."""
    if hashlib.sha256(package.read_bytes()).hexdigest() != source.sha256:
        msg = f"{source.file} is not the package that was declared"
        raise ValueError(msg)
    with tarfile.open(package) as archive:
        for path, sha256 in source.members:
            member = archive.extractfile(path)
            data = b"" if member is None else member.read()
            if hashlib.sha256(data).hexdigest() != sha256:
                msg = f"{path} is not the file that was declared"
                raise ValueError(msg)
            stored(sha256, path).write_bytes(data)
