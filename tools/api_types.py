"""Make the front end's types from the HTTP interface's own description; with --check, tell whether they are current."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from tijera.serving import build_app

ROOT = Path(__file__).resolve().parent.parent
TARGET = ROOT / "frontend/src/base/schema.ts"


def main() -> int:
    """Write the types, or compare them: 1 when they differ."""
    with tempfile.TemporaryDirectory() as folder:
        description = Path(folder) / "openapi.json"
        made = Path(folder) / "schema.ts"
        description.write_text(json.dumps(build_app(Path(folder) / "data", with_demo_data=False).openapi()))
        subprocess.run(
            ["npx", "openapi-typescript", str(description), "-o", str(made)],
            cwd=ROOT / "frontend",
            check=True,
            capture_output=True,
        )
        text = made.read_text(encoding="utf-8")
    if "--check" not in sys.argv:
        TARGET.write_text(text, encoding="utf-8")
        return 0
    if text == TARGET.read_text(encoding="utf-8"):
        return 0
    sys.stderr.write("frontend/src/base/schema.ts is not current: run `make types`\n")
    return 1


if __name__ == "__main__":
    raise SystemExit(main())
