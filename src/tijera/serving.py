"""Starting the application and finding the running one; the only place where the stand-ins are named.

Heavy modules are imported where they are used, so that `tijera serve` answers soon.
"""

from __future__ import annotations

import argparse
import json
import os
import socket
import sys
from collections.abc import Callable
from contextlib import closing
from pathlib import Path
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    import uvicorn
    from fastapi import FastAPI
    from starlette.types import ASGIApp

    from tijera.core.errors import TijeraError
    from tijera.core.mail.post import MailServer, Post
    from tijera.core.recognition.words import Recogniser
    from tijera.ownership import Running
    from tijera.postbox.server import Postbox
    from tijera.web.entry import Entry

EXIT_WRONG_CALL = 2
FIRST_PORT, _PORTS = 7_420, 20
_LAST_WORDS_S = 10
"""What is being answered when the program is told to stop has so long to end."""


def serve(arguments: argparse.Namespace) -> int:
    """Start it."""
    return _run(arguments, "serve", with_demo_data=False)


def demo(arguments: argparse.Namespace) -> int:
    """Start it with made-up data."""
    return _run(arguments, "demo", with_demo_data=True)


def build_app(
    folder: Path,
    *,
    with_demo_data: bool,
    scene: Path | None = None,
    seconds: Callable[[], float] = lambda: 0.0,
    recogniser: Recogniser | None = None,
    entry: Entry | None = None,
    hosts: frozenset[str] | None = None,
) -> FastAPI:
    """Wire store, sources and web together; the only place where the stand-ins are named.

    With a `recogniser` the words on pictures are read; without an `entry` whoever can reach it is let in.
    With `hosts`, the names that it is addressed by, it is somebody's on a server that several people share. `seconds` drives the practice desk's clock: it stands still unless
    somebody lets it run.
    """
    from concurrent.futures import ThreadPoolExecutor
    from datetime import UTC, datetime

    from tijera.core.errors import ScreenUnavailable
    from tijera.core.frames.source import FrameSource
    from tijera.core.mail.post import MailServer
    from tijera.demo.example import EXAMPLES, RECIPIENTS, fill
    from tijera.desk.desk import PracticeDesk
    from tijera.desk.scene import load_scene
    from tijera.links.listener import LinkListener
    from tijera.screens.computer import open_screen
    from tijera.store.cleaning import clean
    from tijera.store.store import Store
    from tijera.usecases.jobs import Jobs, side_by_side
    from tijera.usecases.linking import Links
    from tijera.usecases.mailing import Mailing
    from tijera.usecases.postman import Postman
    from tijera.usecases.reading import Reader
    from tijera.usecases.watchman import Watchman
    from tijera.usecases.workshop import Workshop
    from tijera.web.app import create_app
    from tijera.web.deps import Services
    from tijera.web.guard import LOCAL_HOSTS

    def now() -> str:
        return datetime.now(UTC).isoformat(timespec="microseconds")

    def local_time(moment: str) -> datetime:
        return datetime.fromisoformat(moment).astimezone()

    sources: dict[str, FrameSource] = {"desk": PracticeDesk(load_scene(scene) if scene else None, seconds)}
    unavailable = {}
    if hosts is None:
        try:
            sources["screen"] = open_screen()
        except ScreenUnavailable as error:
            unavailable["screen"] = f"{error.detail} {error.remedy}"
    else:
        unavailable["screen"] = (
            "This server is shared by several people, who sit elsewhere. Share a screen or a window by the browser."
        )
    workshop = Workshop(Store(folder, now), sources, now, local_time, unavailable)
    if with_demo_data:
        fill(workshop)
    jobs = Jobs(ThreadPoolExecutor(2, thread_name_prefix="job"))
    # Beside the first requests, not before them; what it could not do is written down by the job.
    start = datetime.now(UTC)
    jobs.start(lambda: iter((clean(workshop.store, start),)))
    parts = side_by_side(ThreadPoolExecutor(os.cpu_count() or 1, thread_name_prefix="part"))
    postbox = _postbox(folder, now) if with_demo_data else None
    usual = (lambda: MailServer(*postbox.address(), security="none")) if postbox else (lambda: None)
    mailing = Mailing(_post_of, usual, RECIPIENTS if with_demo_data else ())
    postman = Postman(workshop, mailing)
    links = Links(workshop)
    link_listener = LinkListener(links)
    if hosts is None:
        link_listener.start()
    return create_app(
        Services(
            workshop,
            jobs,
            EXAMPLES,
            side_by_side=parts,
            mailing=mailing,
            postman=postman,
            postbox=postbox,
            watchman=Watchman(workshop),
            reader=Reader(workshop, recogniser) if recogniser else None,
            links=links,
            link_listener=link_listener,
            is_shared=hosts is not None,
        ),
        LOCAL_HOSTS if hosts is None else hosts,
        entry,
    )


def _postbox(folder: Path, now: Callable[[], str]) -> Postbox:
    from tijera.postbox.server import Postbox

    return Postbox(folder / "postbox", now)


def _post_of(server: MailServer) -> Post:
    from tijera.post.smtp import SmtpPost

    return SmtpPost(server)


def _run(
    arguments: argparse.Namespace,
    kind: str,
    *,
    with_demo_data: bool,
    opens: Callable[[FastAPI, Running], None] | None = None,
) -> int:
    import gc
    import threading
    import time

    # What is put together here stays: nobody need look for garbage in it, neither now nor later.
    gc.disable()
    from tijera.core.imaging.allocator import keep_small
    from tijera.core.imaging.decode import decoded_elsewhere
    from tijera.decoders import Decoders
    from tijera.logbook import open_log
    from tijera.ownership import Ownership, Running, secret_of
    from tijera.recognition.tesseract import find_recogniser
    from tijera.web.entry import Entry

    folder = data_folder(arguments.data, kind)
    keep_to_oneself()
    keep_small()
    with Ownership(folder) as ownership:
        listener = listen(arguments.port)
        if listener is None:
            return EXIT_WRONG_CALL
        open_log(folder)
        entry = Entry(secret_of(folder))
        began = time.monotonic()
        app = build_app(
            folder,
            with_demo_data=with_demo_data,
            scene=arguments.scene,
            seconds=lambda: time.monotonic() - began,
            recogniser=find_recogniser(),
            entry=entry,
        )
        server = server_of(app)
        gc.freeze()
        gc.enable()
        decoders = Decoders()
        with closing(app.state.services), closing(decoders), decoded_elsewhere(decoders.decode):
            # Beside the first requests: it takes a second.
            threading.Thread(target=decoders.warm, daemon=True).start()
            here = Running(f"http://127.0.0.1:{listener.getsockname()[1]}", entry.key)
            ownership.tell(here)
            sys.stdout.write(f"Tijera is ready: {way_in(here)}  (Ctrl + C stops it)\n")
            sys.stdout.flush()
            if opens is not None:
                opens(app, here)
            elif sys.stdout.isatty() and not arguments.no_browser:
                _show(way_in(here))
            server.run(sockets=[listener])
    return 0


def server_of(app: ASGIApp) -> uvicorn.Server:
    """What answers for an application until the program is told to stop."""
    import uvicorn

    config = uvicorn.Config(
        app,
        log_config=None,
        access_log=False,
        lifespan="off",
        # A browser's connection that comes in the very moment of the end would keep the program for ever.
        timeout_graceful_shutdown=_LAST_WORDS_S,
    )
    return uvicorn.Server(config)


def way_in(running: Running, to: str = "/") -> str:
    """The address that lets a browser in."""
    from urllib.parse import quote, urlencode

    if not running.key:
        # Several people share it: each signs in.
        return f"{running.address}{to}"
    query = {"key": running.key} if to == "/" else {"key": running.key, "to": to}
    return f"{running.address}/enter?{urlencode(query, quote_via=quote)}"


def address(arguments: argparse.Namespace) -> int:
    """Print how a browser is let in."""
    from tijera.core.errors import NotRunning
    from tijera.ownership import running

    kinds = ("serve", "demo") if arguments.data is None else ("serve",)
    found = [each for each in (running(data_folder(arguments.data, kind)) for kind in kinds) if each is not None]
    if not found:
        raise NotRunning
    sys.stdout.write("".join(f"{way_in(each)}\n" for each in found))
    return 0


def keep_to_oneself() -> None:
    """What is written from now on is for nobody but the user; copies that the user asks for are as files usually are."""
    from tijera.usecases import whole

    os.umask(whole.OTHERS)


def _show(target: str) -> None:
    import threading
    import webbrowser

    # A browser that has to be started may take its time.
    threading.Thread(target=webbrowser.open, args=(target,), daemon=True).start()


def data_folder(given: Path | None, kind: str) -> Path:
    """The folder that everything is kept in: the one given, else the user's own of this kind."""
    from platformdirs import user_data_path

    return given or user_data_path("tijera") / kind


def listen(port: int | None, host: str = "127.0.0.1") -> socket.socket | None:
    """A listening socket on the given port, or on the first free one; None when there is none."""
    # The protocol is named: asyncio sends at once (TCP_NODELAY) only where it is, and an answer in two pieces would
    # wait 40 ms for the first one to be acknowledged.
    listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    ports = [port] if port is not None else range(FIRST_PORT, FIRST_PORT + _PORTS)
    for each in ports:
        try:
            listener.bind((host, each))
        except OSError:
            continue
        # From now on who connects waits until the application answers.
        listener.listen(128)
        return listener
    sys.stderr.write(f"tijera: port {ports[0]} is in use; give another one with --port.\n")
    return None


def take(arguments: argparse.Namespace) -> int:
    """Freeze first and show afterwards: so Tijera never stands in the picture."""
    from tijera.core.errors import ScreenUnavailable

    def refused(why: str) -> TijeraError:
        return ScreenUnavailable(why=why)

    there = _running_with(arguments)
    if there is not None:
        made = _post(arguments, there, f"/api/v1/sources/{arguments.source}/frames", None, refused)
        _open_at(arguments, there, f"/take?frame={made['id']}")
        return 0

    def freeze_here(app: FastAPI, here: Running) -> None:
        from tijera.usecases.taking import freeze

        _open_at(arguments, here, f"/take?frame={freeze(app.state.services.workshop, arguments.source).id}")

    return _run(arguments, "serve", with_demo_data=False, opens=freeze_here)


def open_file(arguments: argparse.Namespace) -> int:
    """Open a file where it lies, so that a newer version of it is noticed and it can be written back."""
    from tijera.core.errors import FileUnreachable

    path = arguments.file.absolute()
    if not path.is_file():
        raise FileNotFoundError(2, "no such file", str(path))

    def refused(why: str) -> TijeraError:
        return FileUnreachable(path=str(path), why=why)

    there = _running_with(arguments)
    if there is not None:
        opened = _post(arguments, there, "/api/v1/destinations/at", {"path": str(path)}, refused)
        _open_at(arguments, there, f"/place?file={opened['id']}")
        return 0

    def open_here(app: FastAPI, here: Running) -> None:
        from tijera.usecases.versions import open_path

        _open_at(arguments, here, f"/place?file={open_path(app.state.services.workshop, path).id}")

    return _run(arguments, "serve", with_demo_data=False, opens=open_here)


def _running_with(arguments: argparse.Namespace) -> Running | None:
    from tijera.ownership import running

    return running(data_folder(arguments.data, "serve"))


def _open_at(arguments: argparse.Namespace, running: Running, path: str) -> None:
    """Print the address of a page, and show it by a way in: the browser may not have been let in yet."""
    import webbrowser

    sys.stdout.write(f"{running.address}{path}\n")
    sys.stdout.flush()
    if not arguments.no_browser:
        webbrowser.open(way_in(running, path))


def _post(
    arguments: argparse.Namespace,
    running: Running,
    path: str,
    body: dict[str, str] | None,
    refused: Callable[[str], TijeraError],
) -> dict[str, Any]:
    """Ask the running application. Raises what `refused` makes of its words."""
    from urllib.error import HTTPError, URLError
    from urllib.request import Request, urlopen

    from tijera.ownership import secret_of
    from tijera.web.entry import Entry

    command = Entry(secret_of(data_folder(arguments.data, "serve"))).command
    headers = {"Content-Type": "application/json", "Authorization": f"Bearer {command}"}
    data = b"" if body is None else json.dumps(body).encode()
    request = Request(f"{running.address}{path}", data, headers, method="POST")  # noqa: S310  (our own address)
    try:
        with urlopen(request, timeout=60) as answer:  # noqa: S310  (as above)
            found: dict[str, Any] = json.load(answer)
            return found
    except HTTPError as error:
        raise refused(json.load(error).get("detail", str(error))) from error
    except (URLError, TimeoutError, ConnectionError) as error:
        raise refused(f"the one that runs at {running.address} does not answer") from error


def openapi(_: argparse.Namespace) -> int:
    """Print the description of the HTTP interface."""
    import tempfile

    with tempfile.TemporaryDirectory() as folder:
        sys.stdout.write(
            json.dumps(build_app(Path(folder), with_demo_data=False).openapi(), ensure_ascii=False, indent=1) + "\n"
        )
    return 0
