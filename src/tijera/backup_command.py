"""`tijera backup` and `tijera restore`: everything as one file, and back."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from tijera import serving
from tijera.core.errors import FolderMissing, StandsThere, StillRunning

if TYPE_CHECKING:
    from argparse import _SubParsersAction


def add_to(commands: _SubParsersAction[argparse.ArgumentParser]) -> None:
    """Add both to the command line."""
    backup = commands.add_parser("backup", help="write everything that is kept into one file")
    backup.add_argument("out", type=Path, metavar="OUT", help="the file to write, such as tijera.zip")
    backup.add_argument("--force", action="store_true", help="replace what is there under that name")
    restore = commands.add_parser("restore", help="bring everything back from a backup")
    restore.add_argument("file", type=Path, metavar="FILE", help="a file that `backup` wrote")
    restore.add_argument("--force", action="store_true", help="where something is kept already: move it aside first")
    for command, run in ((backup, _backup), (restore, _restore)):
        command.add_argument("--data", type=Path, help="the folder that everything is kept in")
        command.set_defaults(run=run)


def _backup(arguments: argparse.Namespace) -> int:
    from tijera.core.units import format_bytes
    from tijera.store.backups import back_up

    folder, out = serving.data_folder(arguments.data, "serve"), arguments.out.absolute()
    if not (folder / "tijera.sqlite").is_file():
        raise FileNotFoundError(2, "nothing is kept there", str(folder))
    if not out.parent.is_dir():
        raise FolderMissing(folder=str(out.parent), name=out.name)
    if out.exists() and not arguments.force:
        raise StandsThere(path=str(out))
    count = back_up(folder, out)
    sys.stdout.write(f"{out}: {count} pictures and files, {format_bytes(out.stat().st_size)}\n")
    return 0


def _restore(arguments: argparse.Namespace) -> int:
    from datetime import UTC, datetime

    from tijera.ownership import running
    from tijera.store.backups import restore

    folder = serving.data_folder(arguments.data, "serve").absolute()
    there = running(folder)
    if there is not None:
        raise StillRunning(address=there.address)
    aside = folder.with_name(f"{folder.name} before {datetime.now(UTC):%Y-%m-%d %H.%M.%S}") if arguments.force else None
    was_there = folder.exists() and any(folder.iterdir())
    count = restore(arguments.file, folder, aside=aside)
    sys.stdout.write(f"{folder}: {count} pictures and files are back\n")
    if was_there and aside is not None:
        sys.stdout.write(f"What was there before lies in {aside}\n")
    return 0
