"""`tijera doctor`: whether all that Tijera needs is there and whole, and what to send to whoever helps. It changes nothing."""

from __future__ import annotations

import argparse
import os
import platform
import shutil
import stat
import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from tijera import __version__, serving

if TYPE_CHECKING:
    from argparse import _SubParsersAction

_LEAST_FREE_BYTES = 1_000_000_000
_LAST_LINES = 12


@dataclass(frozen=True)
class Finding:
    """What was found out about one thing."""

    what: str
    says: str
    is_well: bool = True


def add_to(commands: _SubParsersAction[argparse.ArgumentParser]) -> None:
    """Add it to the command line."""
    doctor = commands.add_parser("doctor", help="check that all is there and whole, and print what to send")
    doctor.add_argument("--data", type=Path, help="the folder that everything is kept in")
    doctor.set_defaults(run=_doctor)


def _doctor(arguments: argparse.Namespace) -> int:
    folder = serving.data_folder(arguments.data, "serve").absolute()
    bad = 0
    for check in (_program, _engines, _fonts, _front_end, _recogniser, _folder, _database, _disk, _log):
        for each in _tried(check, folder):
            bad += not each.is_well
            sys.stdout.write(f"{'ok  ' if each.is_well else 'LOOK'}  {each.what}: {each.says}\n")
    sys.stdout.write(
        f"\n{'All is well.' if bad == 0 else f'{bad} to look at.'} To have it looked into, send what stands above"
        f" and {folder / 'log' / 'tijera.log'}; neither has anything of your pictures or files in it.\n"
    )
    return 0 if bad == 0 else 1


def _tried(check: Callable[[Path], Iterator[Finding]], folder: Path) -> Iterator[Finding]:
    """What a check finds; that it fails is a finding, too."""
    try:
        yield from check(folder)
    except Exception as error:
        yield Finding(
            check.__name__.strip("_"), f"could not be checked ({type(error).__name__}: {error})", is_well=False
        )


def _program(_: Path) -> Iterator[Finding]:
    yield Finding("Tijera", f"{__version__} with Python {platform.python_version()} on {platform.platform()}")


def _engines(_: Path) -> Iterator[Finding]:
    import sqlite3
    from importlib.metadata import version

    import numpy as np

    from tijera.core.imaging.decode import decode
    from tijera.core.imaging.encode import encode_frame
    from tijera.core.imaging.picture import Picture

    names = ("pyvips", "pyvips-binary", "pillow", "numpy", "lxml", "pyoxipng", "fastapi", "uvicorn", "peewee")
    yield Finding(
        "Engines", ", ".join(f"{each} {version(each)}" for each in names) + f", SQLite {sqlite3.sqlite_version}"
    )
    pixels = np.arange(48, dtype=np.uint8).reshape(4, 4, 3)
    same = bool((decode(encode_frame(Picture(pixels))).pixels == pixels).all())
    yield Finding("A picture written and read", "the same" if same else "not the same", is_well=same)


def _fonts(_: Path) -> Iterator[Finding]:
    from PIL import ImageFont

    from tijera.core.marks.scripts import FONTS, scripts

    files = sorted(FONTS.glob("*.ttf"))
    for each in files:
        ImageFont.truetype(str(each), 12)
    missing = [each.file for each in scripts() if not (FONTS / f"{each.file}.ttf").is_file()]
    says = f"missing: {', '.join(missing)}" if missing else f"{len(files)} can be read"
    yield Finding("Fonts", says, is_well=not missing and bool(files))


def _front_end(_: Path) -> Iterator[Finding]:
    from tijera.web.app import STATIC

    built = (STATIC / "index.html").is_file()
    yield Finding("Pages", "built" if built else "not built: run `make build`", is_well=built)


def _recogniser(_: Path) -> Iterator[Finding]:
    from tijera.recognition.tesseract import find_recogniser

    found = find_recogniser()
    yield Finding("Words on pictures", "are read" if found else "are not read: Tesseract is not installed")


def _folder(folder: Path) -> Iterator[Finding]:
    from tijera.ownership import OWNER_ONLY_FOLDER, running

    if not folder.is_dir():
        yield Finding("Data folder", f"{folder} is not there yet: `tijera serve` makes it")
        return
    mode = stat.S_IMODE(folder.stat().st_mode)
    private = os.name == "nt" or mode & ~OWNER_ONLY_FOLDER == 0
    yield Finding(
        "Data folder", f"{folder}, mode {mode:o}" + ("" if private else ": others may read it"), is_well=private
    )
    writable = os.access(folder, os.W_OK)
    yield Finding("Writing there", "is allowed" if writable else "is not allowed", is_well=writable)
    there = running(folder)
    yield Finding("Running", f"at {there.address}" if there else "no")


def _database(folder: Path) -> Iterator[Finding]:
    from tijera.store.checking import check

    if not (folder / "tijera.sqlite").is_file():
        yield Finding("Database", "none yet")
        return
    found = check(folder)
    yield Finding("Database", f"version {found.schema} of {found.newest}", is_well=found.schema <= found.newest)
    yield Finding("Its integrity", found.integrity, is_well=found.integrity == "ok")
    lacking = f"{found.missing} of {found.named} are not there" if found.missing else f"all {found.named} are there"
    yield Finding("Kept pictures and files", lacking, is_well=not found.missing)
    yield Finding("Their content", f"{found.broken} are not what was kept" if found.broken else "is what was kept", is_well=not found.broken)  # fmt: skip


def _disk(folder: Path) -> Iterator[Finding]:
    there = next(each for each in (folder, *folder.parents) if each.exists())
    free = shutil.disk_usage(there).free
    yield Finding("Room on the disk", f"{free / 1e9:.1f} GB free", is_well=free >= _LEAST_FREE_BYTES)


def _log(folder: Path) -> Iterator[Finding]:
    from tijera.logbook import FILE, FOLDER

    path = folder / FOLDER / FILE
    lines = path.read_text(encoding="utf-8", errors="replace").splitlines() if path.is_file() else []
    faults = [line for line in lines if " fault " in line][-_LAST_LINES:]
    yield Finding("Faults in the log", "none" if not faults else "\n      ".join([f"the last {len(faults)}", *faults]))
