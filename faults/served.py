"""`tijera serve` as a process of its own, and a client that was let in."""

from __future__ import annotations

import signal
import subprocess
import sys
import tempfile
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path
from types import TracebackType

import httpx

from tijera.ownership import secret_of
from tijera.web.entry import Entry

_START_S = 120.0


@dataclass(frozen=True)
class Finding:
    """A row of docs/faults.md."""

    question: str
    found: str
    wanted: str
    met: bool
    details: str


class Served:
    """One data folder, and the server that runs on it."""

    def __init__(self, folder: Path | None = None) -> None:
        self._temporary = tempfile.TemporaryDirectory() if folder is None else None
        self.folder = folder or Path(self._temporary.name if self._temporary else "") / "data"
        self.process: subprocess.Popen[str] | None = None
        self.address = ""
        self.http = httpx.Client()

    def __enter__(self) -> Served:
        """Start it."""
        self.start()
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        """Stop it and drop its data."""
        self.kill(signal.SIGTERM)
        if self._temporary:
            self._temporary.cleanup()

    def start(self) -> None:
        """Start it and wait until it answers; where it stands in the folder as it was left."""
        command = [sys.executable, "-m", "tijera", "serve", "--data", str(self.folder), "--no-browser"]
        self.process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
        output = self.process.stdout
        line = output.readline() if output else ""
        if not line.startswith("Tijera is ready"):
            msg = f"it did not start: {line!r}"
            raise RuntimeError(msg)
        self.address = line.split()[3].split("/enter")[0]
        self.http.close()
        self.http = self.client()

    def client(self) -> httpx.Client:
        """A client of its own that is let in."""
        token = Entry(secret_of(self.folder)).command
        return httpx.Client(
            base_url=f"{self.address}/api/v1", headers={"Authorization": f"Bearer {token}"}, timeout=_START_S
        )

    def kill(self, how: signal.Signals = signal.SIGKILL) -> None:
        """End it, by default without a word."""
        process, self.process = self.process, None
        if process is None:
            return
        process.send_signal(how)
        process.wait()
        if process.stdout:
            process.stdout.close()
        self.http.close()

    def resident_mb(self) -> float:
        """What the server has in memory now, in megabytes; its decoders not counted."""
        return _status(self._pid, "VmRSS")

    def peak_mb(self) -> float:
        """The most that it had since its start, or since `forget_peak`."""
        return _status(self._pid, "VmHWM")

    @contextmanager
    def family_watched(self) -> Iterator[Callable[[], float]]:
        """Meanwhile what the server and its children have together is looked at every 10 ms; gives the most so far, in megabytes.

        What several share is counted once (Pss of proc(5), smaps_rollup).
        """
        most, over = [0.0], threading.Event()

        def look() -> None:
            while not over.wait(0.01):
                with suppress(OSError):
                    most[0] = max(most[0], sum(_pss(pid) for pid in (self._pid, *_children(self._pid))))

        watcher = threading.Thread(target=look, daemon=True)
        watcher.start()
        try:
            yield lambda: most[0]
        finally:
            over.set()
            watcher.join()

    def forget_peak(self) -> None:
        """Begin to look for the peak anew (Linux, proc(5): clear_refs 5)."""
        Path(f"/proc/{self._pid}/clear_refs").write_text("5", encoding="ascii")

    @property
    def _pid(self) -> int:
        if self.process is None:
            raise RuntimeError
        return self.process.pid


def _children(pid: int) -> list[int]:
    found = Path(f"/proc/{pid}/task").glob("*/children")
    return [int(child) for each in found for child in each.read_text(encoding="ascii").split()]


def _pss(pid: int) -> float:
    with suppress(OSError):
        for line in Path(f"/proc/{pid}/smaps_rollup").read_text(encoding="ascii").splitlines():
            if line.startswith("Pss:"):
                return int(line.split()[1]) / 1_000
    return 0.0


def _status(pid: int, name: str) -> float:
    for line in Path(f"/proc/{pid}/status").read_text(encoding="ascii").splitlines():
        if line.startswith(f"{name}:"):
            return int(line.split()[1]) / 1_000
    return 0.0
