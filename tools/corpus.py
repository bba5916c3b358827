"""Fetch the corpus of real files into its cache, from the index that pip uses here: `make corpus`.

Without a network it says so and succeeds: the tests of the corpus are then reported as skipped.
"""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from pathlib import Path
from urllib.error import URLError
from urllib.parse import urljoin
from urllib.request import Request, urlopen

from pip._internal.models.index import PyPI

from tests.corpus.corpus import Source, cache, declared, stored, unpack

_SIMPLE = "application/vnd.pypi.simple.v1+json"
_SECONDS = 60


def _index() -> str:
    """The index that pip is set to, else its own."""
    asked = subprocess.run(
        [sys.executable, "-m", "pip", "config", "get", "global.index-url"], capture_output=True, text=True, check=False
    )
    return asked.stdout.strip() or str(PyPI.simple_url)


def _fetch(index: str, source: Source) -> None:
    """Fetch one package by the index's JSON (PEP 691) and take its files out."""
    address = f"{index.rstrip('/')}/{source.name}/"
    with urlopen(Request(address, headers={"Accept": _SIMPLE}), timeout=_SECONDS) as answer:  # noqa: S310  (pip's index)
        files = json.load(answer)["files"]
    found = next(each for each in files if each["filename"] == source.file)
    with urlopen(urljoin(address, found["url"]), timeout=_SECONDS) as answer:  # noqa: S310  (as above)
        data = answer.read()
    with tempfile.TemporaryDirectory() as folder:
        package = Path(folder) / source.file
        package.write_bytes(data)
        unpack(source, package)


def main() -> int:
    """Fetch what is not there yet."""
    cache().mkdir(parents=True, exist_ok=True)
    index = _index()
    for source in declared():
        if all(stored(sha256, path).exists() for path, sha256 in source.members):
            continue
        try:
            _fetch(index, source)
        except (URLError, TimeoutError, StopIteration, KeyError, json.JSONDecodeError, ValueError) as error:
            sys.stderr.write(f"corpus: {source.file} was not fetched: {error or type(error).__name__}\n")
    have = sum(stored(sha256, path).exists() for source in declared() for path, sha256 in source.members)
    total = sum(len(source.members) for source in declared())
    sys.stdout.write(f"corpus: {have} of {total} files are there\n")
    return 0


if __name__ == "__main__":
    sys.exit(main())
