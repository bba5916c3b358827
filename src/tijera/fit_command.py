"""`tijera fit`: a heavy file, or all of a folder, brought under a limit."""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Callable
from errno import ENOENT
from functools import partial
from pathlib import Path

from tijera.core.errors import FolderMissing, WrongOut

EXIT_LIMIT = 3


def add_to(
    commands: argparse._SubParsersAction[argparse.ArgumentParser], check_out: Callable[[argparse.Namespace], None]
) -> None:
    """Have the command line know it; `check_out` refuses what a copy can't be written to."""
    fit = commands.add_parser(
        "fit", help="bring a heavy file, or each file of a folder, under a limit by its own pictures"
    )
    fit.add_argument(
        "file",
        metavar="FILE",
        help="a .docx, .odt, .xlsx, .ods or .eml file, or a folder of them; of a folder also s3://…",
    )
    limits = fit.add_mutually_exclusive_group(required=True)
    limits.add_argument("--limit", metavar="SIZE", help="what the file may weigh, such as 2MB, 500kB, 10MiB")
    limits.add_argument("--limit-each", metavar="SIZE", help="what each file of a folder may weigh")
    fit.add_argument("--out", required=True, metavar="OUT", help="the copy, or the folder of the copies")
    fit.add_argument("--jobs", type=_jobs, metavar="N", help="so many files side by side; default: one a core")
    fit.add_argument("--cluster", metavar="ADDRESS", help="the workers of this Dask scheduler do it: tcp://HOST:8786")
    fit.add_argument("--force", action="store_true", help="replace what is there under the name of the copy")
    fit.add_argument("--json", action="store_true", help="JSON on standard output")
    fit.set_defaults(run=partial(_fit, check_out))


def _jobs(text: str) -> int:
    number = int(text)
    if not 1 <= number <= 256:
        msg = f"{text} is no number of files from 1 to 256"
        raise argparse.ArgumentTypeError(msg)
    return number


def _fit(check_out: Callable[[argparse.Namespace], None], arguments: argparse.Namespace) -> int:
    from tijera.remote_shelf import is_address

    if not is_address(arguments.file) and not Path(arguments.file).exists():
        raise FileNotFoundError(ENOENT, os.strerror(ENOENT), arguments.file)
    is_folder = is_address(arguments.file) or Path(arguments.file).is_dir()
    if is_folder and arguments.limit is not None:
        raise WrongOut(why=f"“{arguments.file}” is a folder: --limit-each says what each of its files may weigh")
    if not is_folder and arguments.limit_each is not None:
        raise WrongOut(why=f"“{arguments.file}” is a file: --limit says what it may weigh")
    if not is_folder and (arguments.jobs is not None or arguments.cluster is not None):
        raise WrongOut(why="--jobs and --cluster are for a folder")
    if arguments.jobs is not None and arguments.cluster is not None:
        raise WrongOut(why="a cluster has its own number of workers: --jobs has no effect with --cluster")
    if is_folder:
        return _folder(arguments)
    arguments.file, arguments.out = Path(arguments.file), Path(arguments.out)
    return _file(check_out, arguments)


def _file(check_out: Callable[[argparse.Namespace], None], arguments: argparse.Namespace) -> int:
    from tijera.core.budget.search import Progress
    from tijera.core.units import parse_limit
    from tijera.usecases.slimming import Slimmed, slim
    from tijera.usecases.whole import write_whole

    check_out(arguments)
    slimmed: Slimmed | None = None
    for step in slim(arguments.file.read_bytes(), arguments.file.name, parse_limit(arguments.limit)):
        if isinstance(step, Progress):
            _progress(step.done, step.of, step.doing)
        else:
            slimmed = step
    _progress_ended()
    assert slimmed is not None
    to_pipe = str(arguments.out) == "-"
    if to_pipe:
        sys.stdout.buffer.write(slimmed.data)
    else:
        write_whole(arguments.out, slimmed.data)
    if slimmed.breaks_seal:
        sys.stderr.write(
            "tijera: a mail server signed this message (DKIM); in the copy that signature no longer holds.\n"
        )
    if arguments.json:
        pictures = [
            {"name": each.member, "before_bytes": each.before_bytes, "after_bytes": each.after_bytes, "note": each.note}
            for each in slimmed.pictures
        ]
        _print({"before_bytes": slimmed.before_bytes, "file_bytes": len(slimmed.data), "pictures": pictures})
        return 0
    told = sys.stderr if to_pipe else sys.stdout
    told.write(f"{arguments.out}: {slimmed.before_bytes} → {len(slimmed.data)} bytes\n")
    for each in slimmed.pictures:
        told.write(f"{each.before_bytes:>12} → {each.after_bytes:<12} {each.member}  {each.note or 'untouched'}\n")
    return 0


def _folder(arguments: argparse.Namespace) -> int:
    from tijera.core.units import parse_limit
    from tijera.remote_shelf import is_address, shelf_of
    from tijera.usecases.batches import Outcome, State, files_in, fit_files
    from tijera.workers import cluster, processes

    if not is_address(arguments.out):
        _check_folder(arguments.file, Path(arguments.out))
    elif arguments.out.rstrip("/") == arguments.file.rstrip("/"):
        raise WrongOut(why=_AMONG_ORIGINALS)
    source, out, limit = shelf_of(arguments.file), shelf_of(arguments.out), parse_limit(arguments.limit_each)
    workers = cluster(arguments.cluster) if arguments.cluster else processes(arguments.jobs or os.cpu_count() or 1)
    total, outcomes = len(files_in(source)), list[Outcome]()
    for outcome in fit_files(source, out, limit, workers):
        outcomes.append(outcome)
        _progress(len(outcomes), total, outcome.name)
        if outcome.why and not arguments.json:
            _progress_ended()
            sys.stderr.write(f"tijera: {outcome.name}: {outcome.why}\n")
    _progress_ended()
    counts = {state.value: sum(each.state is state for each in outcomes) for state in State}
    if arguments.json:
        files = [{**vars(each), "state": each.state.value} for each in sorted(outcomes, key=lambda each: each.name)]
        _print({"files": files, "counts": counts})
    else:
        before, after = (
            sum(getattr(each, side) for each in outcomes if each.state in (State.WRITTEN, State.DONE_BEFORE))
            for side in ("before_bytes", "after_bytes")
        )
        sys.stdout.write(
            f"{len(outcomes)} files: {counts['written']} written, {counts['done-before']} done before, "
            f"{counts['over']} over the limit, {counts['refused']} refused; {before} → {after} bytes\n"
        )
    return EXIT_LIMIT if counts["over"] or counts["refused"] else 0


_AMONG_ORIGINALS = "the copies would be among the originals"


def _check_folder(source: str, out: Path) -> None:
    """Refuse a folder that copies can't go to; make it where it is not there."""
    if not out.parent.is_dir():
        raise FolderMissing(folder=out.parent, name=out.name)
    if out.exists() and not out.is_dir():
        raise WrongOut(why=f"“{out}” is a file, and copies of a folder go into one")
    originals = Path(source).resolve()
    if out.resolve() == originals or originals in out.resolve().parents:
        raise WrongOut(why=_AMONG_ORIGINALS)
    out.mkdir(exist_ok=True)


_BAR = 30


def _progress(done: int, of: int, doing: str) -> None:
    """A bar on a terminal; nothing where nobody looks."""
    if sys.stderr.isatty():
        full = _BAR * done // max(of, 1)
        sys.stderr.write(f"\r\x1b[K[{'#' * full}{'.' * (_BAR - full)}] {done} of {of}  {doing[:60]}")
        sys.stderr.flush()


def _progress_ended() -> None:
    if sys.stderr.isatty():
        sys.stderr.write("\r\x1b[K")
        sys.stderr.flush()


def _print(value: object) -> None:
    sys.stdout.write(json.dumps(value, indent=2, ensure_ascii=False) + "\n")
