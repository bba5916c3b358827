"""The disk is full for a minute in the middle of work: it is said by name, removing works, and nothing that was acknowledged is lost.

The data folder lies on a small disk of its own (tmpfs), which needs the rights to mount one.
"""

from __future__ import annotations

import os
import random
import subprocess
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from faults.served import Finding, Served
from tests.support.pictures import encoded, text_like
from tijera.store.checking import check

_RAW = {"Content-Type": "application/octet-stream"}
_SECONDS = 60.0


@contextmanager
def _small_disk() -> Iterator[Path]:
    with tempfile.TemporaryDirectory() as folder:
        subprocess.run(["mount", "-t", "tmpfs", "-o", "size=60m", "tmpfs", folder], check=True)
        try:
            yield Path(folder)
        finally:
            subprocess.run(["umount", "--lazy", folder], check=True)


def run(seconds: float = _SECONDS) -> Finding:
    """Work, fill the disk, go on working for a minute, make room, go on."""
    if os.geteuid() != 0:
        return Finding(
            "A full disk for a minute",
            "not tried",
            "nothing lost",
            met=False,
            details="needs the rights to mount a disk",
        )
    chance = random.Random(18)
    answers: Counter[int] = Counter()
    wrong: list[str] = []
    names: dict[str, str] = {}
    removed: set[str] = set()
    with _small_disk() as disk, Served(disk / "data") as served:
        for _ in range(8):
            _bring_in(served, names, answers, chance)
        ballast = disk / "ballast"
        with ballast.open("wb", buffering=0) as file:
            try:
                while True:
                    file.write(b"\0" * 65_536)
            except OSError:
                pass
        until = time.monotonic() + seconds
        while time.monotonic() < until:
            before = len(names)
            _bring_in(served, names, answers, chance)
            if len(names) > before + 3:
                wrong.append("the disk was not full")
            if len(names) > 4 and chance.random() < 0.05:
                clipping = chance.choice(sorted(names))
                answer = served.http.post("/clippings/removals", json={"clippings": [clipping]})
                answers[answer.status_code] += 1
                if answer.status_code == 204:
                    removed.add(names.pop(clipping))
                else:
                    wrong.append(f"removing was answered {answer.status_code}")
            served.http.get("/clippings").raise_for_status()
        left = [path.name for path in (served.folder / "blobs").glob("??/*") if len(path.name) != 64]
        wrong += [f"{len(left)} half files"] if left else []
        ballast.unlink()
        count = len(names)
        _bring_in(served, names, answers, chance)
        wrong += [] if len(names) == count + 1 else ["with room again nothing can be kept"]
        there = {
            each["id"]: each["name"] for each in served.http.get("/clippings", params={"most": 500}).json()["slips"]
        }
        wrong += [f"{name} is lost" for clipping, name in names.items() if clipping not in there]
        wrong += [f"{name} came back" for name in removed & set(there.values())]
        found = check(served.folder)
        wrong += (
            [f"integrity {found.integrity}, {found.missing} missing, {found.broken} broken"]
            if (found.integrity, found.missing, found.broken) != ("ok", 0, 0)
            else []
        )
    said = ", ".join(f"{count} × {status}" for status, count in sorted(answers.items()))
    wrong += [f"answers of {status}" for status in answers if status >= 500 and status != 507]
    details = (
        f"{seconds:.0f} s, answers {said}; {len(removed)} removed meanwhile; {'; '.join(wrong[:5]) or 'nothing wrong'}"
    )
    return Finding(
        "A full disk for a minute in the middle of work: what is lost, half there or unsaid",
        str(len(wrong)),
        "0",
        not wrong and answers[507] > 0,
        details,
    )


def _bring_in(served: Served, names: dict[str, str], answers: Counter[int], chance: random.Random) -> None:
    name = f"Full {sum(answers.values())}"
    data = encoded(text_like(300, 200, seed=chance.randrange(1 << 30)))
    answer = served.http.post("/clippings", params={"name": f"{name}.png"}, content=data, headers=_RAW)
    answers[answer.status_code] += 1
    if answer.status_code == 201:
        names[str(answer.json()["clipping"])] = name
