"""Write the golden dumps anew: `make golden`; the diff is for a person to read."""

from __future__ import annotations

import sys
from pathlib import Path

from tests.golden.cases import CASES

FOLDER = Path(__file__).parent / "dumps"


def main() -> int:
    """Write every case."""
    FOLDER.mkdir(exist_ok=True)
    for name, make in CASES.items():
        (FOLDER / f"{name}.txt").write_text(make(), encoding="utf-8")
        sys.stdout.write(f"{name}\n")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
