"""The command line: the same use cases, and the wiring of the whole.

JSON goes to standard output, messages to standard error. Exit status: 0 done, 1 the doctor found something, 2 wrong call, 3 the limit can't be met
(nothing written), 4 the input was refused. Heavy modules are imported where they are used: `tijera serve` answers soon.
"""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from tijera import __version__, backup_command, doctor_command, fit_command, people_command, serving, weigh_command
from tijera.core.errors import (
    FolderMissing,
    InputRefused,
    LimitNotMet,
    NotPossibleThere,
    StandsThere,
    TijeraError,
    WouldOverwrite,
    WrongOut,
)

if TYPE_CHECKING:
    from tijera.core.packages.places.placed import Layout

EXIT_LIMIT, EXIT_REFUSED, EXIT_INTERRUPTED = 3, 4, 130
_STANDS = [
    "lines",
    "word",
    "text-left",
    "text-right",
    "under",
    "hangs",
    "stretches",
    "stays",
    "in-body",
    "attached",
    "both",
]
"""`tijera.core.packages.places.spots.Stand`, which is too heavy to import for every command; a test keeps them the same."""


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command line and return its exit status."""
    arguments = _parser().parse_args(argv)
    run: Callable[[argparse.Namespace], int] = arguments.run
    try:
        status = run(arguments)
        sys.stdout.flush()
    except BrokenPipeError:
        # Whoever reads has enough, as `head` does; what is left to say goes nowhere.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except KeyboardInterrupt:
        # The shell's own status of what Ctrl + C ended.
        return EXIT_INTERRUPTED
    except TijeraError as error:
        _say(f"{error.heading}: {error.detail} {error.remedy}")
        if isinstance(error, LimitNotMet):
            return EXIT_LIMIT
        return EXIT_REFUSED if isinstance(error, InputRefused) else serving.EXIT_WRONG_CALL
    except OSError as error:
        _say(f"{error.filename}: {error.strerror or error}.")
        return serving.EXIT_WRONG_CALL
    return status


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="tijera", description="Take, trim, place and hand over clippings of the screen."
    )
    parser.add_argument("--version", action="version", version=f"tijera {__version__}")
    commands = parser.add_subparsers(required=True, metavar="command")

    spots = commands.add_parser("spots", help="list the places of a document that can take a picture")
    place = commands.add_parser("place", help="place a picture into a copy of a document")
    weigh = commands.add_parser("weigh", help="say what a document and its pictures weigh")
    pictures = commands.add_parser("pictures", help="take the pictures of a document out, as files")
    for command, run in ((spots, _spots), (place, _place), (weigh, weigh_command.weigh), (pictures, _pictures)):
        command.add_argument("file", type=Path, metavar="FILE", help="a .docx, .odt, .xlsx, .ods or .eml file")
        command.add_argument("--json", action="store_true", help="JSON on standard output")
        command.set_defaults(run=run)
    where = place.add_mutually_exclusive_group(required=True)
    where.add_argument(
        "--spot", metavar="ID", help="one of the ids that `spots` lists; any cells of a sheet, Tides!B3:F20"
    )
    where.add_argument("--anchor", metavar="CELL", help="a cell of a sheet, B3 or Tides!B3")
    place.add_argument("--picture", required=True, type=Path, metavar="IMG", help="PNG, JPEG, BMP, WebP, TIFF or GIF")
    place.add_argument("--scale-factor", type=_positive, metavar="S", help="of the screen that it was taken from")
    place.add_argument("--width", metavar="W", help="60mm, or fill for the whole width of the place")
    place.add_argument("--span", metavar="COLUMNS", help="of a sheet, filled exactly: B:F; with --anchor")
    place.add_argument("--stand", choices=_STANDS, help="how it stands in its place")
    place.add_argument("--margin", metavar="M", help="round it, such as 3mm, or 0")
    place.add_argument("--align", choices=("left", "centre", "right"), help="at which side; default: centre")
    place.add_argument("--caption", default="", metavar="TEXT", help="behind a number that counts by itself")
    place.add_argument("--caption-above", action="store_true", help="the caption stands above the picture")
    place.add_argument("--beside", default="", metavar="TEXT", help="a line of text beside it")
    place.add_argument("--grow-row", action="store_true", help="the row of a sheet grows to fit the picture")
    place.add_argument("--inline", action="store_true", help="in a message: in its body")
    place.add_argument("--attach", action="store_true", help="in a message: as a file; with --inline as both")
    place.add_argument("--signed", action="store_true", help="accept that the file's signature will no longer hold")
    place.add_argument("--alt", default="", metavar="TEXT", help="the alternative text")
    place.add_argument("--limit", metavar="SIZE", help="what the file may weigh, such as 2MB, 500kB, 10MiB")
    place.add_argument(
        "--out", required=True, type=Path, metavar="OUT", help="the copy to write; - for standard output"
    )
    place.add_argument("--force", action="store_true", help="replace what is there under the name of the copy")

    pictures.add_argument(
        "--out", required=True, type=Path, metavar="DIR", help="the folder; nothing in it is replaced"
    )
    pictures.add_argument("--stored", action="store_true", help="as they are stored, not as they are cropped there")

    fit_command.add_to(commands, _check_out)
    serve = commands.add_parser("serve", help="start the application")
    demo = commands.add_parser("demo", help="start the application with made-up data")
    for command, run in ((serve, people_command.serve), (demo, serving.demo)):
        command.add_argument("--port", type=_port, help=f"default: the first free one from {serving.FIRST_PORT}")
        command.add_argument("--data", type=Path, help="the folder that everything is kept in")
        command.set_defaults(run=run)
        command.add_argument("--scene", type=Path, help="another scene for the practice desk (TOML)")
        command.add_argument("--no-browser", action="store_true", help="print the address, open nothing")
    serve.add_argument("--people", action="store_true", help="for several people, who sign in; see `tijera people add`")
    serve.add_argument(
        "--host",
        metavar="IP",
        help="with --people: where to listen; default: 127.0.0.1, behind a proxy of this computer",
    )
    serve.add_argument(
        "--address", metavar="URL", help="with --people: what people type, such as https://tijera.quillhaven.example"
    )
    way_in = commands.add_parser("address", help="print the address that lets a browser into the running application")
    way_in.add_argument("--data", type=Path, help="the data folder of the running application")
    way_in.set_defaults(run=serving.address)
    take = commands.add_parser("take", help="freeze the screen now and open it for taking; for a key of the system")
    take.add_argument("--source", choices=("screen", "desk"), default="screen", help="default: this computer's screen")
    take.add_argument("--data", type=Path, help="the data folder of the running application")
    take.add_argument("--port", type=_port, help="where to start the application if it is not running")
    take.add_argument("--no-browser", action="store_true", help="print the address, open nothing")
    take.set_defaults(run=serving.take, scene=None)
    opening = commands.add_parser("open", help="open a file in the running application and follow it where it lies")
    opening.add_argument("file", type=Path, metavar="FILE", help="a .docx, .odt, .xlsx, .ods or .eml file")
    opening.add_argument("--data", type=Path, help="the data folder of the running application")
    opening.add_argument("--port", type=_port, help="where to start the application if it is not running")
    opening.add_argument("--no-browser", action="store_true", help="print the address, open nothing")
    opening.set_defaults(run=serving.open_file, scene=None)
    backup_command.add_to(commands)
    doctor_command.add_to(commands)
    people_command.add_to(commands)
    schema = commands.add_parser("openapi", help="print the description of the HTTP interface")
    schema.set_defaults(run=serving.openapi)
    return parser


def _positive(text: str) -> float:
    value = float(text)
    if not 0 < value < 100:
        msg = f"{text} is not a scale factor"
        raise argparse.ArgumentTypeError(msg)
    return value


def _port(text: str) -> int:
    if not text.isdecimal() or not 1 <= int(text) <= 65_535:
        msg = f"{text} is not a port: it is a number from 1 to 65535"
        raise argparse.ArgumentTypeError(msg)
    return int(text)


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
        if spot.follows.value == "cells":
            sys.stdout.write(f"{spot.id:<30} {spot.width.pixels:>6} px wide; any other cells too\n")
            continue
        widths = " or ".join(f"{width.mm:.1f}" for width in spot.widths)
        after = f"after “…{spot.after_text[-40:]}”" if spot.after_text else f"after {spot.follows.value}"
        sys.stdout.write(f"{spot.id:<20} {spot.kind.value:<5} {widths:>14} mm  {after}\n")
    return 0


def _place(arguments: argparse.Namespace) -> int:
    from tijera.core.fit import WidthRule
    from tijera.core.units import Length, parse_limit
    from tijera.usecases.files import place_file, spanned
    from tijera.usecases.whole import write_whole

    _check_out(arguments)
    width: Length | WidthRule = WidthRule.FILL if arguments.span else WidthRule.FIT
    if arguments.width is not None:
        width = WidthRule.FILL if arguments.width == "fill" else Length.parse(arguments.width)
    placed = place_file(
        arguments.file.read_bytes(),
        arguments.file.name,
        spot_id=arguments.spot or spanned(arguments.anchor, arguments.span),
        picture=arguments.picture.read_bytes(),
        picture_name=arguments.picture.name,
        scale_factor=arguments.scale_factor,
        width=width,
        description=arguments.alt,
        layout=_layout(arguments),
        limit_bytes=None if arguments.limit is None else parse_limit(arguments.limit),
        signed=arguments.signed,
    )
    to_pipe = str(arguments.out) == _PIPE
    if to_pipe:
        sys.stdout.buffer.write(placed.data)
    else:
        write_whole(arguments.out, placed.data)
    measures = placed.measures
    if placed.breaks_seal:
        _say("a mail server signed this message (DKIM); in the copy that signature no longer holds.")
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
        (sys.stderr if to_pipe else sys.stdout).write(
            f"{arguments.out}: {measures.width.mm:.1f} × {measures.height.mm:.1f} mm at {placed.spot.id}, "
            f"{placed.ppi:.0f} ppi; picture {placed.picture_bytes} bytes, file {len(placed.data)} bytes\n"
        )
    return 0


_PIPE = "-"
"""Standard output, as the place that the copy goes to."""


def _check_out(arguments: argparse.Namespace) -> None:
    """Refuse, before any work, what the copy can't be written to."""
    out = arguments.out
    if str(out) == _PIPE:
        if arguments.json:
            raise WrongOut(why="the copy and its JSON would both go to standard output")
        return
    if not out.parent.is_dir():
        raise FolderMissing(folder=out.parent, name=out.name)
    if out.is_dir():
        raise WrongOut(why=f"“{out}” is a folder")
    if out.exists():
        if arguments.file.exists() and out.samefile(arguments.file):
            raise WouldOverwrite(path=out)
        if not arguments.force:
            raise StandsThere(path=out)


def _layout(arguments: argparse.Namespace) -> Layout:
    """How the picture is asked to stand; what its place can't do is left out there."""
    from tijera.core.packages.places.placed import Align, Layout, margin_of
    from tijera.core.packages.places.spots import Stand

    stand = Stand(arguments.stand) if arguments.stand else None
    if arguments.inline or arguments.attach:
        if stand is not None:
            raise NotPossibleThere(what="--stand", where="with --inline or --attach", why="each says how it stands")
        both = arguments.inline and arguments.attach
        stand = Stand.BOTH if both else (Stand.IN_BODY if arguments.inline else Stand.ATTACHED)
    return Layout(
        stand=stand,
        align=Align(arguments.align or "centre"),
        margin=None if arguments.margin is None else margin_of(arguments.margin),
        caption=arguments.caption,
        caption_above=arguments.caption_above,
        beside=arguments.beside,
        grows_row=arguments.grow_row,
    )


def _pictures(arguments: argparse.Namespace) -> int:
    from tijera.usecases.files import take_pictures
    from tijera.usecases.whole import write_whole

    taken = take_pictures(arguments.file.read_bytes(), arguments.file.name, as_shown=not arguments.stored)
    for each in taken:
        if (arguments.out / each.name).exists():
            raise StandsThere(path=arguments.out / each.name)
    if not arguments.out.parent.is_dir():
        raise FolderMissing(folder=arguments.out.parent, name=arguments.out.name)
    arguments.out.mkdir(exist_ok=True)
    for each in taken:
        write_whole(arguments.out / each.name, each.data)
    if arguments.json:
        files = [{"name": each.name, "member": each.member, "bytes": len(each.data)} for each in taken]
        _print({"pictures": files})
        return 0
    for each in taken:
        sys.stdout.write(f"{len(each.data):>12}  {arguments.out / each.name}  from {each.member}\n")
    return 0


if __name__ == "__main__":
    sys.exit(main())
