"""The wheel holds everything that runs: the built front end and the typefaces, which git does not keep as source."""

import shutil
import subprocess
import sys
import tempfile
import unittest
import zipfile
from pathlib import Path

_ROOT = Path(__file__).resolve().parents[2]


@unittest.skipUnless((_ROOT / "src/tijera/web/static/index.html").is_file(), "the front end has not been built")
class Wheel(unittest.TestCase):
    """Built without network, by the project's own backend where it is at hand."""

    def test_front_end_and_fonts_are_inside(self) -> None:
        """A wheel without them installs well and shows nothing."""
        if shutil.which("uv", path=str(Path(sys.executable).parent)) is None:
            self.skipTest("uv is not in the environment")
        with tempfile.TemporaryDirectory() as folder:
            command = [
                str(Path(sys.executable).parent / "uv"),
                "build",
                "--wheel",
                "--quiet",
                "--out-dir",
                folder,
                str(_ROOT),
            ]
            subprocess.run(command, check=True, capture_output=True)
            wheel = next(Path(folder).glob("*.whl"))
            names = zipfile.ZipFile(wheel).namelist()
        self.assertIn("tijera/web/static/index.html", names)
        self.assertTrue(any(name.startswith("tijera/web/static/assets/") and name.endswith(".woff2") for name in names))
        self.assertIn("tijera/fonts/fonts.conf", names)
        self.assertIn("tijera/fonts/hyperlegible-next-400.ttf", names)
        self.assertFalse([name for name in names if name.startswith(("tests/", "frontend/", "tools/"))])
