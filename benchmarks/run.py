"""Ask every question and write `benchmarks/RESULTS.md`."""

from __future__ import annotations

import platform
import sys
from datetime import UTC, datetime
from pathlib import Path

from benchmarks import (
    actions,
    drag,
    draw_marks,
    encode_clipping,
    find_clippings,
    fit,
    history,
    join_strip,
    large_sheet,
    memory,
    on_the_mat,
    outline,
    panes,
    place_large,
    release_to_slip,
    retake,
    send,
    start,
    weigh_large,
)

_QUESTIONS = (
    encode_clipping,
    start,
    panes,
    join_strip,
    release_to_slip,
    find_clippings,
    draw_marks,
    drag,
    send,
    retake,
)
_MET = {True: "yes", False: "no", None: ""}
_TARGET = Path(__file__).parent / "RESULTS.md"


def main() -> int:
    """Run all; the exit status is 0 whatever was found: times are recorded, not asserted."""
    results = [
        *place_large.run(),
        *weigh_large.run(),
        *large_sheet.run(),
        *outline.run(),
        *memory.run(),
        *fit.run(),
        *history.run(),
        *(module.run() for module in _QUESTIONS),
        find_clippings.words_on_pictures(),
        *on_the_mat.run(),
        *actions.run(),
    ]
    lines = [
        "# Benchmarks",
        "",
        f"{datetime.now(UTC):%Y-%m-%d}, {platform.machine()}, {platform.system()}, Python {platform.python_version()}. "
        "Ratios are taken in one run, ours to the control; written by `make bench`.",
        "",
        "| question | found | goal | met | details |",
        "|---|---|---|---|---|",
        *(f"| {r.question} | {r.figure} | {r.goal} | {_MET[r.met]} | {r.details} |" for r in results),
        "",
    ]
    _TARGET.write_text("\n".join(lines), encoding="utf-8")
    sys.stdout.write("\n".join(lines))
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
