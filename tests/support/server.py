"""The real application on a real port, in this process."""

from __future__ import annotations

import asyncio
import atexit
import shutil
import socket
import tempfile
import threading
from functools import cache, lru_cache
from pathlib import Path
from types import TracebackType

import uvicorn

from tijera.core.imaging.decode import decode, decoded_elsewhere
from tijera.core.imaging.picture import Picture
from tijera.serving import build_app
from tijera.usecases.rack import thumbnail
from tijera.usecases.workshop import Workshop
from tijera.web.entry import Entry

_START_SECONDS = _STOP_SECONDS = 120.0
_TURNS_TO_ACCEPT = 8
"""Of the loop; asyncio needs three to make a connection of one that waits."""


@cache
def _demo() -> tuple[Path, Workshop]:
    """The demo data, made once for the whole run and copied for each server, and what was worked out of them."""
    folder = Path(tempfile.mkdtemp())
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    services = build_app(folder, with_demo_data=True).state.services
    for record in services.workshop.store.clippings():
        thumbnail(services.workshop, record.id)
    services.close()
    return folder, services.workshop


_DECODED = 12
"""Pictures of the handbook and of what is opened beside it."""


@lru_cache(_DECODED)
def _decoded_once(data: bytes, name: str) -> Picture:
    return decode(data, name)


def _remembers(workshop: Workshop) -> None:
    """Have at hand what servers before it worked out of the demo data: pure results, under keys that say of what.

    Ladders of renditions are each server's own work.
    """
    lasting = _demo()[1]
    workshop.panes, workshop.texts, workshop._documents = lasting.panes, lasting.texts, lasting._documents
    workshop.pictures._frames, workshop.pictures._firsts = lasting.pictures._frames, lasting.pictures._firsts


class _Started(uvicorn.Server):
    """Tells when it answers, and stops when it is told to and not at its next look."""

    def __init__(self, config: uvicorn.Config) -> None:
        super().__init__(config)
        self.answers = threading.Event()
        self._loop: asyncio.AbstractEventLoop | None = None
        self._end: asyncio.Event | None = None

    async def main_loop(self) -> None:
        self._loop, self._end = asyncio.get_running_loop(), asyncio.Event()
        self.answers.set()
        await self._end.wait()
        # What is being accepted in this moment has to be there when all are told to close: a connection that comes after that
        # stays for ever, and with it this server; the browser would go on asking it, at the address of the next one.
        for server in self.servers:
            server.close()
        for _ in range(_TURNS_TO_ACCEPT):
            await asyncio.sleep(0)

    def stop(self) -> None:
        """From another thread."""
        self.should_exit = True
        if self._loop and self._end:
            self._loop.call_soon_threadsafe(self._end.set)


class Server:
    """A running application with a data folder of its own, empty or with the demo data."""

    def __init__(self, *, with_demo_data: bool, port: int = 0, entry: Entry | None = None) -> None:
        """At a port that is asked for, or at any that is free; without an entry everybody is let in."""
        self._temporary = tempfile.TemporaryDirectory()
        self.folder = Path(self._temporary.name)
        if with_demo_data:
            shutil.copytree(_demo()[0], self.folder, dirs_exist_ok=True)
        listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        listener.bind(("127.0.0.1", port))
        self.port = int(listener.getsockname()[1])
        self.address = f"http://127.0.0.1:{self.port}"
        self.app = build_app(self.folder, with_demo_data=with_demo_data, entry=entry)
        if with_demo_data:
            _remembers(self.app.state.services.workshop)
        self._decoding = decoded_elsewhere(_decoded_once)
        config = uvicorn.Config(
            self.app,
            log_level="error",
            access_log=False,
            lifespan="off",
            # However long a slow machine takes between two requests of one client.
            timeout_keep_alive=600,
        )
        self._server = _Started(config)
        self._listener = listener
        self._thread = threading.Thread(target=self._server.run, kwargs={"sockets": [listener]}, daemon=True)

    def __enter__(self) -> Server:
        """Start it and wait until it answers."""
        self._decoding.__enter__()
        self._thread.start()
        if not self._server.answers.wait(_START_SECONDS):
            msg = "the server did not start"
            raise RuntimeError(msg)
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        """Stop it and drop its data."""
        self._server.stop()
        self._thread.join(_STOP_SECONDS)
        if self._thread.is_alive():
            msg = "the server did not stop"
            raise RuntimeError(msg)
        self._decoding.__exit__(None, None, None)
        self._listener.close()
        self.app.state.services.close()
        # FastAPI keeps every endpoint that it has ever called, and with it its application: not the pictures in memory too.
        del self.app.state.services
        self._temporary.cleanup()
