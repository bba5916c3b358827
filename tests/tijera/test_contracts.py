"""The import rules catch what they are for: a breach of each kind is seeded into a copy of the source, one at a time."""

import shutil
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from typing import ClassVar

from tools.import_rules import complaints

_ROOT = Path(__file__).resolve().parents[2]
_LAYERS = {
    "use cases know no web": ("usecases/rack.py", "import tijera.web.deps\n"),
    "floors of the core": ("core/fit.py", "import tijera.core.imaging.encode\n"),
    "families know no format": (
        "core/packages/families/opc/relationships.py",
        "import tijera.core.packages.formats.docx.names\n",
    ),
    "formats do not know each other": (
        "core/packages/formats/odt/writer.py",
        "import tijera.core.packages.formats.docx.names\n",
    ),
    "containers know no places": ("core/packages/containers/zipped.py", "import tijera.core.packages.places.grid\n"),
    "places know no list of formats": ("core/packages/places/grid.py", "import tijera.core.packages.registry\n"),
    "sideways between desk and store": ("desk/desk.py", "import tijera.store.blobs\n"),
    "a new module of the core without a floor": ("core/guesses.py", '"""New."""\n'),
    "web reaches the store only through use cases": ("web/rack/routes.py", "import tijera.store.store\n"),
    "rooms of the web: place knows no bench": ("web/place/routes.py", "import tijera.web.bench.schemas\n"),
    "rows stay in the store": ("usecases/rack.py", "import peewee\n"),
    "frameworks stay in the web": ("usecases/rack.py", "import fastapi\n"),
}
"""Breaches that `lint-imports` finds."""
_OUTSIDE = {
    "a clock in the core": ("core/geometry.py", "import datetime\n"),
    "a clock by another name": ("core/geometry.py", "import time\n"),
    "the network of the standard library": ("core/geometry.py", "import urllib.request\n"),
    "the network, from another side": ("core/geometry.py", "from http import client\n"),
    "mail by the standard library": ("core/packages/formats/eml/mime.py", "import smtplib\n"),
    "a socket": ("core/units.py", "import socket\n"),
    "another process": ("core/units.py", "import subprocess\n"),
    "a database in the core": ("core/naming.py", "import sqlite3\n"),
    "a table in the web": ("web/rack/routes.py", "import peewee\n"),
    "a test package": ("core/fit.py", "import hypothesis\n"),
    "a reader that tests use": ("core/fit.py", "import docx\n"),
    "the tests themselves": ("serving.py", "import tests.support.pictures\n"),
    "a parser that fetches": ("core/fit.py", "import xml.etree.ElementTree\n"),
    "a relative import": ("core/fit.py", "from . import geometry\n"),
    "a cycle between two files": ("records.py", "import tijera.store.rows\n"),
    "a cycle in the core": ("core/errors.py", "import tijera.core.geometry\nimport tijera.core.fit\n"),
    "pydantic in the core": ("core/fit.py", "import pydantic\n"),
}
"""Breaches that `tools/import_rules.py` finds."""
_MARKER = "from __future__ import annotations\n"


class Contracts(unittest.TestCase):
    """Both checks on a copy of the source."""

    folder: ClassVar[Path]

    @classmethod
    def setUpClass(cls) -> None:
        """Copy it once."""
        cls.folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        ignored = shutil.ignore_patterns("static", "__pycache__")
        shutil.copytree(_ROOT / "src/tijera", cls.folder / "src/tijera", ignore=ignored)
        shutil.copy(_ROOT / "pyproject.toml", cls.folder)

    def _layers(self) -> subprocess.CompletedProcess[str]:
        command = [str(Path(sys.executable).parent / "lint-imports"), "--no-cache"]
        environment = {"PYTHONPATH": str(self.folder / "src"), "PATH": "/usr/bin:/bin"}
        return subprocess.run(command, cwd=self.folder, env=environment, capture_output=True, text=True, check=False)

    def _outside(self) -> list[str]:
        return complaints(self.folder / "src/tijera")

    def _seed(self, change: tuple[str, str]) -> None:
        path = self.folder / "src/tijera" / change[0]
        before = path.read_text(encoding="utf-8") if path.exists() else None
        text = before or ""
        seeded = text.replace(_MARKER, _MARKER + change[1], 1) if _MARKER in text else change[1]
        path.write_text(seeded, encoding="utf-8")
        self.addCleanup(path.unlink if before is None else lambda: path.write_text(before, encoding="utf-8"))

    def test_the_source_as_it_is_keeps_them(self) -> None:
        """Otherwise the other tests prove nothing."""
        self.assertEqual(self._layers().returncode, 0)
        self.assertEqual(self._outside(), [])

    def test_each_breach_of_the_layers_is_caught(self) -> None:
        """By the contract that is meant to."""
        for name, change in _LAYERS.items():
            with self.subTest(name):
                self._seed(change)
                answer = self._layers()
                self.assertNotEqual(answer.returncode, 0, answer.stdout[-2_000:])
                self.doCleanups()

    def test_each_breach_towards_the_outside_is_caught(self) -> None:
        """And nothing else is complained about."""
        for name, change in _OUTSIDE.items():
            with self.subTest(name):
                self._seed(change)
                self.assertIn(len(said := self._outside()), (1, 2, 3), said)
                self.doCleanups()
