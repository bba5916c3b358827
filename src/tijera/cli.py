"""The command line: the same use cases, and the wiring of the whole.

JSON goes to standard output, messages to standard error. Exit status: 0 done, 2 wrong call, 3 the limit can't be met
(nothing written), 4 the input was refused. Heavy modules are imported where they are used: `tijera serve` answers soon.
"""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from tijera import __version__
from tijera.core.errors import InputRefused, LimitNotMet, TijeraError, WouldOverwrite

if TYPE_CHECKING:
    from fastapi import FastAPI

EXIT_WRONG_CALL, EXIT_LIMIT, EXIT_REFUSED = 2, 3, 4
_FIRST_PORT, _PORTS = 7_420, 20


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command line and return its exit status."""
    arguments = _parser().parse_args(argv)
    run: Callable[[argparse.Namespace], int] = arguments.run
    try:
        return run(arguments)
    except TijeraError as error:
        _say(f"{error.title}: {error.detail} {error.remedy}")
        if isinstance(error, LimitNotMet):
            return EXIT_LIMIT
        return EXIT_REFUSED if isinstance(error, InputRefused) else EXIT_WRONG_CALL
    except (FileNotFoundError, IsADirectoryError, PermissionError) as error:
        _say(f"{error.filename}: {error.strerror}.")
        return EXIT_WRONG_CALL


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="tijera", description="Take, trim, place and hand over clippings of the screen."
    )
    parser.add_argument("--version", action="version", version=f"tijera {__version__}")
    commands = parser.add_subparsers(required=True, metavar="command")

    spots = commands.add_parser("spots", help="list the places of a document that can take a picture")
    place = commands.add_parser("place", help="place a picture into a copy of a document")
    weigh = commands.add_parser("weigh", help="say what a document and its pictures weigh")
    for command, run in ((spots, _spots), (place, _place), (weigh, _weigh)):
        command.add_argument("file", type=Path, metavar="FILE", help="a .docx document")
        command.add_argument("--json", action="store_true", help="JSON on standard output")
        command.set_defaults(run=run)
    place.add_argument("--spot", required=True, metavar="ID", help="one of the ids that `spots` lists")
    place.add_argument("--picture", required=True, type=Path, metavar="IMG", help="PNG, JPEG, BMP, WebP, TIFF or GIF")
    place.add_argument("--scale-factor", type=_positive, metavar="S", help="of the screen that it was taken from")
    place.add_argument("--width", metavar="W", help="60mm, or fill for the whole width of the place")
    place.add_argument("--alt", default="", metavar="TEXT", help="the alternative text")
    place.add_argument("--limit", metavar="SIZE", help="what the file may weigh, such as 2MB, 500kB, 10MiB")
    place.add_argument("--out", required=True, type=Path, metavar="OUT", help="the copy to write")

    serve = commands.add_parser("serve", help="start the application")
    demo = commands.add_parser("demo", help="start the application with made-up data")
    for command, run in ((serve, _serve), (demo, _demo)):
        command.add_argument("--port", type=int, help=f"default: the first free one from {_FIRST_PORT}")
        command.add_argument("--data", type=Path, help="the folder that everything is kept in")
        command.set_defaults(run=run)
    schema = commands.add_parser("openapi", help="print the description of the HTTP interface")
    schema.set_defaults(run=_openapi)
    return parser


def _positive(text: str) -> float:
    value = float(text)
    if not 0 < value < 100:
        msg = f"{text} is not a scale factor"
        raise argparse.ArgumentTypeError(msg)
    return value


def _say(text: str) -> None:
    sys.stderr.write(f"tijera: {text}\n")


def _print(value: Any) -> None:  # noqa: ANN401  (anything that JSON can hold)
    sys.stdout.write(json.dumps(value, ensure_ascii=False, indent=1) + "\n")


def _spots(arguments: argparse.Namespace) -> int:
    from tijera.usecases.files import list_spots

    found = list_spots(arguments.file.read_bytes(), arguments.file.name)
    if arguments.json:
        _print(
            {
                "spots": [
                    {
                        "id": spot.id,
                        "kind": spot.kind.value,
                        "after": spot.after_text,
                        "widths_emu": [width.emu for width in spot.widths],
                        "height_emu": spot.height.emu,
                    }
                    for spot in found
                ]
            }
        )
        return 0
    for spot in found:
        widths = " or ".join(f"{width.mm:.1f}" for width in spot.widths)
        after = f"after “…{spot.after_text[-40:]}”" if spot.after_text else f"after {spot.follows.value}"
        sys.stdout.write(f"{spot.id:<20} {spot.kind.value:<5} {widths:>14} mm  {after}\n")
    return 0


def _place(arguments: argparse.Namespace) -> int:
    from tijera.core.fit import WidthRule
    from tijera.core.units import Length, parse_limit
    from tijera.usecases.files import place_file

    if arguments.out.exists() and arguments.out.samefile(arguments.file):
        raise WouldOverwrite(path=arguments.out)
    width: Length | WidthRule = WidthRule.FIT
    if arguments.width is not None:
        width = WidthRule.FILL if arguments.width == "fill" else Length.parse(arguments.width)
    placed = place_file(
        arguments.file.read_bytes(),
        arguments.file.name,
        spot_id=arguments.spot,
        picture=arguments.picture.read_bytes(),
        picture_name=arguments.picture.name,
        scale_factor=arguments.scale_factor,
        width=width,
        description=arguments.alt,
        limit_bytes=None if arguments.limit is None else parse_limit(arguments.limit),
    )
    _write_whole(arguments.out, placed.data)
    measures = placed.measures
    if measures.enlarged:
        _say(f"the picture is larger than its natural size here ({placed.ppi:.0f} ppi); it will look soft.")
    result = {
        "spot": placed.spot.id,
        "width_emu": measures.width.emu,
        "height_emu": measures.height.emu,
        "ppi": round(placed.ppi, 2),
        "picture_bytes": placed.picture_bytes,
        "file_bytes": len(placed.data),
    }
    if arguments.json:
        _print(result)
    else:
        sys.stdout.write(
            f"{arguments.out}: {measures.width.mm:.1f} × {measures.height.mm:.1f} mm at {placed.spot.id}, "
            f"{placed.ppi:.0f} ppi; picture {placed.picture_bytes} bytes, file {len(placed.data)} bytes\n"
        )
    return 0


def _write_whole(path: Path, data: bytes) -> None:
    """Write a file whole or not at all."""
    beside = path.with_name(f".{path.name}.part")
    try:
        beside.write_bytes(data)
        beside.replace(path)
    finally:
        beside.unlink(missing_ok=True)


def _weigh(arguments: argparse.Namespace) -> int:
    from tijera.usecases.files import weigh_file

    data = arguments.file.read_bytes()
    reports = weigh_file(data, arguments.file.name)
    if arguments.json:
        pictures = [
            {
                "name": report.member,
                "pixels": {"width": report.pixels.width, "height": report.pixels.height} if report.pixels else None,
                "shown_emu": [{"width": width.emu, "height": height.emu} for width, height in report.shown],
                "ppi": None if report.ppi is None else round(report.ppi, 2),
                "bytes": report.bytes,
                "times_used": report.times_used,
            }
            for report in reports
        ]
        _print({"file_bytes": len(data), "pictures": pictures})
        return 0
    sys.stdout.write(f"{arguments.file}: {len(data)} bytes\n")
    for report in reports:
        ppi = "" if report.ppi is None else f", {report.ppi:.0f} ppi"
        size = "no pixels" if report.pixels is None else f"{report.pixels} px"
        sys.stdout.write(f"{report.bytes:>12}  {report.member}  {size}{ppi}, used {report.times_used} ×\n")
    return 0


def _serve(arguments: argparse.Namespace) -> int:
    return _run(arguments, "serve", with_demo_data=False)


def _demo(arguments: argparse.Namespace) -> int:
    return _run(arguments, "demo", with_demo_data=True)


def build_app(folder: Path, *, with_demo_data: bool) -> FastAPI:
    """Wire store, practice desk and web together; the only place where the stand-ins are named."""
    from concurrent.futures import ThreadPoolExecutor
    from datetime import UTC, datetime

    from tijera.demo.example import fill, make_example
    from tijera.desk.desk import PracticeDesk
    from tijera.store.store import Store
    from tijera.usecases.jobs import Jobs
    from tijera.usecases.workshop import Workshop
    from tijera.web.app import create_app
    from tijera.web.routers.deps import Services

    def now() -> str:
        return datetime.now(UTC).isoformat(timespec="microseconds")

    workshop = Workshop(Store(folder, now), {"desk": PracticeDesk()}, now)
    if with_demo_data:
        fill(workshop)
    jobs = Jobs(ThreadPoolExecutor(2, thread_name_prefix="job"))
    return create_app(Services(workshop, jobs, make_example))


def _run(arguments: argparse.Namespace, kind: str, *, with_demo_data: bool) -> int:
    import socket

    import uvicorn
    from platformdirs import user_data_path

    folder = arguments.data or user_data_path("tijera") / kind
    listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    ports = [arguments.port] if arguments.port is not None else range(_FIRST_PORT, _FIRST_PORT + _PORTS)
    for port in ports:
        try:
            listener.bind(("127.0.0.1", port))
            break
        except OSError:
            continue
    else:
        _say(f"port {ports[0]} is in use; give another one with --port.")
        return EXIT_WRONG_CALL
    app = build_app(folder, with_demo_data=with_demo_data)
    sys.stdout.write(f"Tijera is ready: http://127.0.0.1:{listener.getsockname()[1]}/  (Ctrl + C stops it)\n")
    sys.stdout.flush()
    uvicorn.Server(uvicorn.Config(app, log_level="warning", access_log=False, lifespan="off")).run(sockets=[listener])
    return 0


def _openapi(_: argparse.Namespace) -> int:
    import tempfile

    with tempfile.TemporaryDirectory() as folder:
        _print(build_app(Path(folder), with_demo_data=False).openapi())
    return 0


if __name__ == "__main__":
    sys.exit(main())
