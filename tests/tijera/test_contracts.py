"""The import contracts catch what they are for: a violation is injected into a copy, once per contract."""

import shutil
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

_ROOT = Path(__file__).resolve().parents[2]
_VIOLATIONS = {
    "the command line wires": ("usecases/rack.py", "import tijera.web.schemas\n"),
    "floors of the core": ("core/fit.py", "import tijera.core.imaging.encode\n"),
    "formats stand on what they share": (
        "core/packages/opc/relationships.py",
        "import tijera.core.packages.formats.docx.names\n",
    ),
    "the core without web": ("core/geometry.py", "import datetime\n"),
    "rows stay in the store": ("usecases/rack.py", "import peewee\n"),
    "sideways between desk and store": ("desk/desk.py", "import tijera.store.blobs\n"),
    "a new module of the core without a floor": ("core/guesses.py", '"""New."""\n'),
}


class Contracts(unittest.TestCase):
    """`lint-imports` on a copy of the source."""

    def _lint(self, change: tuple[str, str] | None) -> subprocess.CompletedProcess[str]:
        with tempfile.TemporaryDirectory() as folder:
            source = Path(folder) / "src/tijera"
            shutil.copytree(_ROOT / "src/tijera", source, ignore=shutil.ignore_patterns("static", "__pycache__"))
            shutil.copy(_ROOT / "pyproject.toml", folder)
            if change:
                path = source / change[0]
                text = path.read_text(encoding="utf-8") if path.exists() else ""
                marker = "from __future__ import annotations\n"
                path.write_text(
                    text.replace(marker, marker + change[1], 1) if marker in text else change[1], encoding="utf-8"
                )
            command = [str(Path(sys.executable).parent / "lint-imports"), "--no-cache"]
            environment = {"PYTHONPATH": str(Path(folder) / "src"), "PATH": "/usr/bin:/bin"}
            return subprocess.run(command, cwd=folder, env=environment, capture_output=True, text=True, check=False)

    def test_the_source_as_it_is_keeps_them(self) -> None:
        """Otherwise the other test proves nothing."""
        self.assertEqual(self._lint(None).returncode, 0)

    def test_each_violation_is_caught(self) -> None:
        """By the contract that is meant to."""
        for name, change in _VIOLATIONS.items():
            with self.subTest(name):
                answer = self._lint(change)
                self.assertNotEqual(answer.returncode, 0, answer.stdout[-2_000:])
