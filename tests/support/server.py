"""The real application on a real port, in this process."""

from __future__ import annotations

import atexit
import shutil
import socket
import tempfile
import threading
import time
from functools import cache
from pathlib import Path
from types import TracebackType

import uvicorn

from tijera.serving import build_app

_START_SECONDS = 20.0


@cache
def _demo_folder() -> Path:
    """The demo data, made once for the whole run and copied for each server."""
    folder = Path(tempfile.mkdtemp())
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    services = build_app(folder, with_demo_data=True).state.services
    services.jobs.close()
    services.workshop.store.close()
    return folder


class Server:
    """A running application with a data folder of its own, empty or with the demo data."""

    def __init__(self, *, with_demo_data: bool) -> None:
        self._temporary = tempfile.TemporaryDirectory()
        self.folder = Path(self._temporary.name)
        if with_demo_data:
            shutil.copytree(_demo_folder(), self.folder, dirs_exist_ok=True)
        listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
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
        """Stop it and drop its data."""
        self._server.should_exit = True
        self._thread.join(10)
        self._listener.close()
        services = self.app.state.services
        services.jobs.close()
        services.workshop.store.close()
        self._temporary.cleanup()
