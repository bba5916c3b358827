"""`make faults`: do all of it and write docs/faults.md. `python -m faults.run [NAME …]` does some, and writes the page anew with them."""

from __future__ import annotations

import json
import os
import platform
import sys
from collections.abc import Callable
from dataclasses import asdict
from datetime import UTC, datetime
from pathlib import Path

from faults import clients, full, fuzz, hidden, hostile, kills, memory, office, windows
from faults.served import Finding

TARGET = Path(__file__).resolve().parent.parent / "docs" / "faults.md"
KEPT = Path(__file__).resolve().parent.parent / "var" / "faults"
"""What was found last, each in a file of its own."""
_ALL: dict[str, Callable[[], Finding]] = {
    "kills": kills.run,
    "fuzz": fuzz.run,
    "hostile": hostile.run,
    "hidden": hidden.run,
    "full": full.run,
    "clients": clients.run,
    "office": office.run,
    "memory": memory.run,
    "windows": windows.run,
    "large": memory.large,
}


def main(names: list[str]) -> int:
    """Do them; 1 where one is not met."""
    KEPT.mkdir(parents=True, exist_ok=True)
    for name, run in _ALL.items():
        if names and name not in names:
            continue
        finding = run()
        (KEPT / f"{name}.json").write_text(json.dumps(asdict(finding)), encoding="utf-8")
        sys.stdout.write(_row(finding) + "\n")
        sys.stdout.flush()
    kept = [KEPT / f"{name}.json" for name in _ALL]
    rows = [Finding(**json.loads(path.read_text(encoding="utf-8"))) for path in kept if path.is_file()]
    if len(rows) == len(_ALL):
        TARGET.write_text(_page(rows), encoding="utf-8")
    return 0 if all(each.met for each in rows) else 1


def _row(each: Finding) -> str:
    return f"| {each.question} | {each.found} | {each.wanted} | {'yes' if each.met else 'no'} | {each.details} |"


def _page(rows: list[Finding]) -> str:
    where = f"{platform.machine()}, {platform.system()}, {os.cpu_count()} cores, Python {platform.python_version()}"
    return "\n".join(
        [
            "# Faults on purpose",
            "",
            f"{datetime.now(UTC):%Y-%m-%d}, {where}. Written by `make faults`, which does it to `tijera serve` as it is started by a user.",
            "",
            "| what was done, and what is counted | found | wanted | met | details |",
            "|---|---|---|---|---|",
            *map(_row, rows),
            "",
        ]
    )


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
