"""Files are written whole or not at all."""

from __future__ import annotations

import os
from pathlib import Path


def write_whole(path: Path, data: bytes) -> None:
    """Write a file beside its place, then move it there; what stood there before stays until then.

    The name of the file beside it is this process's own: two that write the same file don't meet.
    """
    beside = path.with_name(f".{path.name[:180]}.{os.getpid()}.part")
    try:
        with beside.open("wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        beside.replace(path)
    finally:
        beside.unlink(missing_ok=True)
