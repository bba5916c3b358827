"""`tijera weigh`: a file's pictures and what they weigh, or those of every file of a folder."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Sequence
from pathlib import Path

from tijera.core.errors import TijeraError
from tijera.core.packages.places.reports import PictureReport


def weigh(arguments: argparse.Namespace) -> int:
    """Print the table; of a folder one line a file, the heaviest first."""
    return _folder(arguments.file, as_json=arguments.json) if arguments.file.is_dir() else _file(arguments)


def _file(arguments: argparse.Namespace) -> int:
    from tijera.usecases.files import weigh_file

    data = arguments.file.read_bytes()
    reports = weigh_file(data, arguments.file.name)
    if arguments.json:
        _print({"file_bytes": len(data), "pictures": [_as_json(report) for report in reports]})
        return 0
    sys.stdout.write(f"{arguments.file}: {len(data)} bytes\n")
    for report in reports:
        ppi = "" if report.ppi is None else f", {report.ppi:.0f} ppi"
        size = "no pixels" if report.pixels is None else f"{report.pixels} px"
        sys.stdout.write(f"{report.bytes:>12}  {report.member}  {size}{ppi}, used {report.times_used} ×\n")
    return 0


def _folder(folder: Path, *, as_json: bool) -> int:
    """What can't be read is told and left; the others are weighed."""
    from tijera.usecases.batches import files_in
    from tijera.usecases.files import weigh_file
    from tijera.usecases.shelves import LocalShelf

    shelf, exit_code = LocalShelf(folder), 0
    weighed: list[tuple[str, int, Sequence[PictureReport]]] = []
    for name in files_in(shelf):
        try:
            data = shelf.read(name)
            weighed.append((name, len(data), weigh_file(data, name)))
        except TijeraError as error:
            exit_code = 4
            sys.stderr.write(f"tijera: {name}: {error.detail} {error.remedy}\n")
    weighed.sort(key=lambda each: (-each[1], each[0]))
    if as_json:
        files = [
            {"name": name, "file_bytes": size, "pictures": [_as_json(report) for report in reports]}
            for name, size, reports in weighed
        ]
        _print({"files": files})
        return exit_code
    sys.stdout.write(f"{'bytes':>12} {'in pictures':>12} {'pictures':>9}  file\n")
    for name, size, reports in weighed:
        pictures = sum(report.record_bytes for report in reports)
        sys.stdout.write(f"{size:>12} {pictures:>12} {len(reports):>9}  {name}\n")
    return exit_code


def _as_json(report: PictureReport) -> dict[str, object]:
    return {
        "name": report.member,
        "pixels": {"width": report.pixels.width, "height": report.pixels.height} if report.pixels else None,
        "shown_emu": [{"width": width.emu, "height": height.emu} for width, height in report.shown],
        "ppi": None if report.ppi is None else round(report.ppi, 2),
        "bytes": report.bytes,
        "times_used": report.times_used,
    }


def _print(value: object) -> None:
    sys.stdout.write(json.dumps(value, indent=2, ensure_ascii=False) + "\n")
