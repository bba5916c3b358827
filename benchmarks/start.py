"""From `tijera serve` to its first answer, against importing its web framework alone in a fresh interpreter."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request

from benchmarks.measure import Result, compare, ratio

_PORT = 7_461


def _answered() -> bool:
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{_PORT}/api/v1/bench", timeout=5) as answer:
            return bool(answer.status == 200)
    except urllib.error.HTTPError:
        # It answers, and lets nobody in that has no key.
        return True
    except (urllib.error.URLError, ConnectionError, TimeoutError):
        return False


def run() -> Result:
    """Measure."""
    # Compiled modules are kept, as they are where somebody starts it a second time.
    compiled = tempfile.TemporaryDirectory()
    environment = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
    environment["PYTHONPYCACHEPREFIX"] = compiled.name

    def ours() -> None:
        with tempfile.TemporaryDirectory() as folder:
            command = [sys.executable, "-m", "tijera", "serve", "--port", str(_PORT), "--data", folder]
            process = subprocess.Popen(command, stdout=subprocess.DEVNULL, env=environment)
            while not _answered():
                time.sleep(0.005)
            process.terminate()
            process.wait()

    def control() -> None:
        subprocess.run([sys.executable, "-c", "import fastapi"], check=True, env=environment)

    with compiled:
        return ratio(
            "Start to the first answer", 3, *compare(ours, control, 5), "importing fastapi alone is the control"
        )
