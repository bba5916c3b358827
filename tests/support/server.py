"""The real application on a real port, in this process."""

from __future__ import annotations

import socket
import tempfile
import threading
import time
from pathlib import Path
from types import TracebackType

import uvicorn

from tijera.cli import build_app

_START_SECONDS = 20.0


class Server:
    """A running application with a fresh data folder, or with one that was there before."""

    def __init__(self, *, with_demo_data: bool, folder: Path | None = None) -> None:
        self._temporary = None if folder else tempfile.TemporaryDirectory()
        self.folder = folder or Path(self._temporary.name if self._temporary else "")
        listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
        listener.bind(("127.0.0.1", 0))
        self.address = f"http://127.0.0.1:{listener.getsockname()[1]}"
        self.app = build_app(self.folder, with_demo_data=with_demo_data)
        config = uvicorn.Config(self.app, log_level="error", access_log=False, lifespan="off")
        self._server = uvicorn.Server(config)
        self._listener = listener
        self._thread = threading.Thread(target=self._server.run, kwargs={"sockets": [listener]}, daemon=True)

    def __enter__(self) -> Server:
        """Start it and wait until it answers."""
        self._thread.start()
        until = time.monotonic() + _START_SECONDS
        while not self._server.started:
            if time.monotonic() > until:
                msg = "the server did not start"
                raise RuntimeError(msg)
            time.sleep(0.01)
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        """Stop it and drop its data, unless the folder was given."""
        self._server.should_exit = True
        self._thread.join(10)
        self._listener.close()
        services = self.app.state.services
        services.jobs.close()
        services.workshop.store.close()
        if self._temporary:
            self._temporary.cleanup()
