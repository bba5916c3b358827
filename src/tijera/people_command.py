"""`tijera people` and `tijera serve --people`: accounts for several people on one server."""

from __future__ import annotations

import argparse
import getpass
import sys
from typing import TYPE_CHECKING
from urllib.parse import urlsplit

from tijera import serving

if TYPE_CHECKING:
    from argparse import _SubParsersAction
    from pathlib import Path

    from fastapi import FastAPI

    from tijera.people.accounts import Accounts, Person

_LOOPBACK = ("127.0.0.1", "localhost", "::1")


def add_to(commands: _SubParsersAction[argparse.ArgumentParser]) -> None:
    """Add it to the command line."""
    people = commands.add_parser("people", help="who may sign in to a server that is started with `serve --people`")
    deeds = people.add_subparsers(required=True, metavar="deed")
    for deed, says in (
        ("add", "make an account; the password is asked for"),
        ("password", "give somebody another password, and sign them out everywhere"),
        ("remove", "let somebody in no more; their folder stays"),
        ("list", "name everybody"),
    ):
        one = deeds.add_parser(deed, help=says)
        if deed != "list":
            one.add_argument("name", metavar="NAME")
        if deed in ("add", "password"):
            one.add_argument("--password-stdin", action="store_true", help="read it from standard input")
        one.add_argument("--data", type=_path, help="the folder that everything is kept in")
        one.set_defaults(run=_people, deed=deed)


def _path(text: str) -> Path:
    from pathlib import Path

    return Path(text)


def _folder(arguments: argparse.Namespace) -> Path:
    return serving.data_folder(arguments.data, "office")


def _accounts(folder: Path) -> Accounts:
    import time

    from tijera.ownership import OWNER_ONLY_FOLDER
    from tijera.people.accounts import Accounts

    folder.mkdir(parents=True, exist_ok=True)
    folder.chmod(OWNER_ONLY_FOLDER)
    return Accounts(folder, time.time)


def _people(arguments: argparse.Namespace) -> int:
    serving.keep_to_oneself()
    accounts = _accounts(_folder(arguments))
    try:
        if arguments.deed == "list":
            sys.stdout.write("".join(f"{each.name}\n" for each in accounts.everybody()))
        elif arguments.deed == "remove":
            gone = accounts.remove(arguments.name)
            sys.stdout.write(f"{gone.name} is let in no more. What they had stays in {accounts.folder_of(gone)}\n")
        elif arguments.deed == "add":
            sys.stdout.write(f"{accounts.add(arguments.name, _password(arguments)).name} can sign in.\n")
        else:
            named = accounts.set_password(arguments.name, _password(arguments))
            sys.stdout.write(f"{named.name} has another password, and is signed out everywhere.\n")
    finally:
        accounts.close()
    return 0


def _password(arguments: argparse.Namespace) -> str:
    """Typed twice, or a line of standard input; never an argument, which others could see."""
    from tijera.core.errors import PersonUnreadable

    if arguments.password_stdin:
        return sys.stdin.readline().rstrip("\r\n")
    try:
        first, again = getpass.getpass("Password: "), getpass.getpass("Once more: ")
    except EOFError as error:
        raise PersonUnreadable(name="password", why="nobody typed one; a script gives --password-stdin") from error
    if again != first:
        raise PersonUnreadable(name="password", why="the two were not the same")
    return first


def serve(arguments: argparse.Namespace) -> int:
    """Start a server: one's own, or one that several people share."""
    if arguments.people:
        return _serve_people(arguments)
    if arguments.host or arguments.address:
        return _wrong("--host and --address are for a server with --people; without it only this computer is answered.")
    return serving.serve(arguments)


def _serve_people(arguments: argparse.Namespace) -> int:
    """Start a server that several people share."""
    from contextlib import closing

    from tijera.core.imaging.allocator import keep_small
    from tijera.core.imaging.decode import decoded_elsewhere
    from tijera.decoders import Decoders
    from tijera.logbook import open_log
    from tijera.ownership import Ownership, Running
    from tijera.people.server import people_app
    from tijera.recognition.tesseract import find_recogniser

    host, address = arguments.host or _LOOPBACK[0], (arguments.address or "").rstrip("/")
    parts = urlsplit(address)
    if address and (parts.scheme not in ("http", "https") or not parts.hostname or parts.path):
        return _wrong("--address is what people type, such as https://tijera.quillhaven.example, without a path.")
    if host not in _LOOPBACK and parts.scheme != "https":
        return _wrong(
            "beyond this computer passwords and pictures go through TLS: give --address https://…, and let a proxy with TLS pass requests on."
        )
    folder = _folder(arguments)
    serving.keep_to_oneself()
    keep_small()
    with Ownership(folder) as ownership, closing(_accounts(folder)) as accounts:
        listener = serving.listen(arguments.port, host)
        if listener is None:
            return serving.EXIT_WRONG_CALL
        open_log(folder)
        hosts = frozenset({*_LOOPBACK, *([parts.hostname] if parts.hostname else [])})
        recogniser = find_recogniser()

        def build(person: Person) -> FastAPI:
            return serving.build_app(
                accounts.folder_of(person), with_demo_data=False, recogniser=recogniser, hosts=hosts
            )

        app = people_app(accounts, build, hosts, secure=parts.scheme == "https")
        server = serving.server_of(app)
        decoders = Decoders()
        here = f"http://{host}:{listener.getsockname()[1]}"
        ownership.tell(Running(here, ""))
        count = len(accounts.everybody())
        sys.stdout.write(f"Tijera is ready: {address or here}/  ({count} can sign in; Ctrl + C stops it)\n")
        sys.stdout.flush()
        with closing(decoders), decoded_elsewhere(decoders.decode):
            server.run(sockets=[listener])
            app.close()
    return 0


def _wrong(text: str) -> int:
    sys.stderr.write(f"tijera: {text}\n")
    return serving.EXIT_WRONG_CALL
