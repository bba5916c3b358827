"""Count lines: tests should be a quarter to a third of all code, and no file should grow without end."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
CODE = {".py", ".ts", ".tsx", ".js", ".css"}
SHARE = (0.25, 0.34)
MOST_LINES = 400
GENERATED = {"frontend/src/base/schema.ts"}
# One long list with nothing to divide: the tree of errors.
LONG = {"src/tijera/core/errors.py"}


def _is_test(name: str) -> bool:
    return name.startswith("tests/") or ".test.ts" in name


def main() -> int:
    """Print the figures; 1 when a share or a length is out of bounds."""
    listed = subprocess.run(
        ["git", "ls-files", "--cached", "--others", "--exclude-standard"],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=True,
    ).stdout.split("\n")
    counts = {}
    for name in listed:
        path = ROOT / name
        if path.suffix in CODE and name not in GENERATED and path.is_file():
            text = path.read_text(encoding="utf-8")
            counts[name] = sum(1 for line in text.splitlines() if line.strip())
    tests = sum(count for name, count in counts.items() if _is_test(name))
    everything = sum(counts.values())
    share = tests / everything
    sys.stdout.write(f"{everything} lines of code, {tests} of them tests: {share:.1%}\n")
    too_long = [f"{name} ({count})" for name, count in counts.items() if count > MOST_LINES and name not in LONG]
    for line in too_long:
        sys.stderr.write(f"longer than {MOST_LINES} lines: {line}\n")
    if not SHARE[0] <= share <= SHARE[1]:
        sys.stderr.write(f"tests should be {SHARE[0]:.0%} to {SHARE[1]:.0%} of all code\n")
        return 1
    return 1 if too_long else 0


if __name__ == "__main__":
    raise SystemExit(main())
