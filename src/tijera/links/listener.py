"""Where links are answered: a listener of its own, in a thread of its own, at a port that the application has nothing else at."""

from __future__ import annotations

import socket
import threading
from dataclasses import replace

import uvicorn

from tijera.core.errors import LinkPortTaken
from tijera.links.app import LinkPages
from tijera.usecases.linking import Links, LinkSetup

USUAL_PORT = 7_480
_ENDS_S = 10.0
_MOST_AT_ONCE = 64


class LinkListener:
    """Starts and stops as links are set up."""

    def __init__(self, links: Links) -> None:
        self._links = links
        self._lock = threading.Lock()
        self._server: uvicorn.Server | None = None
        self._thread: threading.Thread | None = None
        self.trouble = ""
        """Why it does not listen though links are set up; empty where all is well."""

    def start(self) -> None:
        """Listen where links are set up already; what stands in the way is said in `trouble`."""
        setup = self._links.setup()
        if setup is None:
            return
        try:
            self.set_up(setup)
        except LinkPortTaken as error:
            self.trouble = error.detail

    def set_up(self, setup: LinkSetup | None) -> LinkSetup | None:
        """Listen there, or nowhere; port 0 is any free one. Raises `LinkPortTaken`, and then all stays as it was."""
        with self._lock:
            before = self._links.setup()
            listens = before if self._server else None
            if setup and listens and (setup.host, setup.port) == (listens.host, listens.port):
                self._links.set_up(setup)
                return setup
            listener = None if setup is None else _listen(setup)
            self._stop()
            if setup is not None and listener is not None:
                setup = replace(setup, port=listener.getsockname()[1])
                self._begin(listener)
            self._links.set_up(setup)
            self.trouble = ""
            return setup

    def usual(self) -> LinkSetup:
        """What is proposed: this computer by its own address in the office, at the usual port."""
        return LinkSetup(f"http://{_own_address()}:{USUAL_PORT}", USUAL_PORT)

    def close(self) -> None:
        """Stop listening; links stay set up."""
        with self._lock:
            self._stop()

    def _begin(self, listener: socket.socket) -> None:
        config = uvicorn.Config(
            LinkPages(self._links),
            log_level="warning",
            access_log=False,
            lifespan="off",
            limit_concurrency=_MOST_AT_ONCE,
            server_header=False,
            date_header=False,
            timeout_keep_alive=5,
            timeout_graceful_shutdown=3,
            proxy_headers=False,
        )
        self._server = uvicorn.Server(config)
        self._thread = threading.Thread(
            target=self._server.run, kwargs={"sockets": [listener]}, name="links", daemon=True
        )
        self._thread.start()

    def _stop(self) -> None:
        if self._server is not None and self._thread is not None:
            self._server.should_exit = True
            self._thread.join(_ENDS_S)
        self._server = self._thread = None


def _own_address() -> str:
    """The address by which others in the office reach this computer; the loopback's where there is no net."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asked:
        try:
            # Nothing is sent: it is only asked which way it would go (the address is for documentation, RFC 5737).
            asked.connect(("192.0.2.1", 9))
            return str(asked.getsockname()[0])
        except OSError:
            return "127.0.0.1"


def _listen(setup: LinkSetup) -> socket.socket:
    listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((setup.host, setup.port))
        # From now on who connects waits until it answers.
        listener.listen(128)
    except OSError as error:
        listener.close()
        raise LinkPortTaken(port=setup.port, why=error.strerror or str(error)) from error
    return listener
