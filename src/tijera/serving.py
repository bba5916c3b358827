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
from pathlib import Path
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from fastapi import FastAPI

    from tijera.core.mail.post import MailServer, Post
    from tijera.core.recognition.words import Recogniser
    from tijera.postbox.server import Postbox

EXIT_WRONG_CALL = 2
FIRST_PORT, _PORTS = 7_420, 20


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
) -> FastAPI:
    """Wire store, sources and web together; the only place where the stand-ins are named.

    With a `recogniser` the words on pictures are read. `seconds` drives the practice desk's clock: it stands still unless
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

    def now() -> str:
        return datetime.now(UTC).isoformat(timespec="microseconds")

    def local_time(moment: str) -> datetime:
        return datetime.fromisoformat(moment).astimezone()

    sources: dict[str, FrameSource] = {"desk": PracticeDesk(load_scene(scene) if scene else None, seconds)}
    unavailable = {}
    try:
        sources["screen"] = open_screen()
    except ScreenUnavailable as error:
        unavailable["screen"] = f"{error.detail} {error.remedy}"
    workshop = Workshop(Store(folder, now), sources, now, local_time, unavailable)
    if with_demo_data:
        fill(workshop)
    jobs = Jobs(ThreadPoolExecutor(2, thread_name_prefix="job"))
    # Beside the first requests, not before them; what it could not do is written down by the job.
    jobs.start(lambda: iter((clean(workshop.store, datetime.now(UTC)),)))
    parts = side_by_side(ThreadPoolExecutor(os.cpu_count() or 1, thread_name_prefix="part"))
    postbox = _postbox(folder, now) if with_demo_data else None
    usual = (lambda: MailServer(*postbox.address(), security="none")) if postbox else (lambda: None)
    mailing = Mailing(_post_of, usual, RECIPIENTS if with_demo_data else ())
    postman = Postman(workshop, mailing)
    links = Links(workshop)
    link_listener = LinkListener(links)
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
        )
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
    opens: Callable[[FastAPI, str], None] | None = None,
) -> int:
    import gc
    import time

    # What is put together here stays: nobody need look for garbage in it, neither now nor later.
    gc.disable()
    import uvicorn

    from tijera.recognition.tesseract import find_recogniser

    folder = data_folder(arguments.data, kind)
    listener = _listen(arguments.port)
    if listener is None:
        return EXIT_WRONG_CALL
    began = time.monotonic()
    app = build_app(
        folder,
        with_demo_data=with_demo_data,
        scene=arguments.scene,
        seconds=lambda: time.monotonic() - began,
        recogniser=find_recogniser(),
    )
    gc.freeze()
    gc.enable()
    address = f"http://127.0.0.1:{listener.getsockname()[1]}"
    sys.stdout.write(f"Tijera is ready: {address}/  (Ctrl + C stops it)\n")
    sys.stdout.flush()
    if opens is not None:
        opens(app, address)
    running = folder / _RUNNING
    running.write_text(address, encoding="utf-8")
    try:
        uvicorn.Server(uvicorn.Config(app, log_level="warning", access_log=False, lifespan="off")).run(
            sockets=[listener]
        )
    finally:
        running.unlink(missing_ok=True)
    return 0


_RUNNING = "running-at"
"""A file in the data folder that says where the application answers."""


def data_folder(given: Path | None, kind: str) -> Path:
    """The folder that everything is kept in: the one given, else the user's own of this kind."""
    from platformdirs import user_data_path

    return given or user_data_path("tijera") / kind


def running_at(folder: Path) -> str | None:
    """Where the application answers that uses a data folder; None where none does."""
    from urllib.error import URLError
    from urllib.request import urlopen

    note = folder / _RUNNING
    address = note.read_text(encoding="utf-8").strip() if note.is_file() else ""
    if not address:
        return None
    try:
        with urlopen(f"{address}/api/v1/options", timeout=5):  # noqa: S310  (our own address)
            return address
    except (URLError, TimeoutError, ConnectionError, ValueError):
        return None


def _listen(port: int | None) -> socket.socket | None:
    """A listening socket on the given port, or on the first free one; None when there is none."""
    # The protocol is named: asyncio sends at once (TCP_NODELAY) only where it is, and an answer in two pieces would
    # wait 40 ms for the first one to be acknowledged.
    listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    ports = [port] if port is not None else range(FIRST_PORT, FIRST_PORT + _PORTS)
    for each in ports:
        try:
            listener.bind(("127.0.0.1", each))
        except OSError:
            continue
        # From now on who connects waits until the application answers.
        listener.listen(128)
        return listener
    sys.stderr.write(f"tijera: port {ports[0]} is in use; give another one with --port.\n")
    return None


def take(arguments: argparse.Namespace) -> int:
    """Freeze first and show afterwards: so Tijera never stands in the picture."""
    import webbrowser

    def show(frame: str, address: str) -> None:
        target = f"{address}/take?frame={frame}"
        sys.stdout.write(f"{target}\n")
        sys.stdout.flush()
        if not arguments.no_browser:
            webbrowser.open(target)

    running = data_folder(arguments.data, "serve") / _RUNNING
    address = running.read_text(encoding="utf-8").strip() if running.is_file() else ""
    frame = _freeze_there(address, arguments.source) if address else None
    if frame is not None:
        show(frame, address)
        return 0

    def freeze_here(app: FastAPI, at: str) -> None:
        from tijera.usecases.taking import freeze

        show(freeze(app.state.services.workshop, arguments.source).id, at)

    return _run(arguments, "serve", with_demo_data=False, opens=freeze_here)


def open_file(arguments: argparse.Namespace) -> int:
    """Open a file where it lies, so that a newer version of it is noticed and it can be written back."""
    import webbrowser

    path = arguments.file.absolute()
    if not path.is_file():
        raise FileNotFoundError(2, "no such file", str(path))

    def show(address: str, opened: str) -> None:
        target = f"{address}/place?file={opened}"
        sys.stdout.write(f"{target}\n")
        sys.stdout.flush()
        if not arguments.no_browser:
            webbrowser.open(target)

    running = data_folder(arguments.data, "serve") / _RUNNING
    address = running.read_text(encoding="utf-8").strip() if running.is_file() else ""
    answer = _post(f"{address}/api/v1/destinations/at", {"path": str(path)}) if address else None
    if answer is not None:
        show(address, str(answer["id"]))
        return 0

    def open_here(app: FastAPI, at: str) -> None:
        from tijera.usecases.versions import open_path

        show(at, open_path(app.state.services.workshop, path).id)

    return _run(arguments, "serve", with_demo_data=False, opens=open_here)


def _post(address: str, body: dict[str, str]) -> dict[str, Any] | None:
    """Ask the running application; None when none answers. Raises `FileUnreachable` with its words when it refuses."""
    from urllib.error import HTTPError, URLError
    from urllib.request import Request, urlopen

    headers = {"Content-Type": "application/json"}
    request = Request(address, json.dumps(body).encode(), headers, method="POST")  # noqa: S310  (our own address)
    try:
        with urlopen(request, timeout=60) as answer:  # noqa: S310  (as above)
            found: dict[str, Any] = json.load(answer)
            return found
    except HTTPError as error:
        from tijera.core.errors import FileUnreachable

        raise FileUnreachable(path=body.get("path", ""), why=json.load(error).get("detail", str(error))) from error
    except (URLError, TimeoutError, ConnectionError):
        return None


def _freeze_there(address: str, source: str) -> str | None:
    """Let the running application freeze; None when none answers. Raises `ScreenUnavailable` when it can't."""
    from urllib.error import HTTPError, URLError
    from urllib.request import Request, urlopen

    request = Request(f"{address}/api/v1/sources/{source}/frames", method="POST")  # noqa: S310  (our own address)
    try:
        with urlopen(request, timeout=20) as answer:  # noqa: S310  (as above)
            return str(json.load(answer)["id"])
    except HTTPError as error:
        from tijera.core.errors import ScreenUnavailable

        raise ScreenUnavailable(why=json.load(error).get("detail", str(error))) from error
    except (URLError, TimeoutError, ConnectionError):
        return None


def openapi(_: argparse.Namespace) -> int:
    """Print the description of the HTTP interface."""
    import tempfile

    with tempfile.TemporaryDirectory() as folder:
        sys.stdout.write(
            json.dumps(build_app(Path(folder), with_demo_data=False).openapi(), ensure_ascii=False, indent=1) + "\n"
        )
    return 0
