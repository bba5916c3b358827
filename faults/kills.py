"""The server is killed at random moments of a load over HTTP: nothing that was acknowledged is lost, doubled or half there."""

from __future__ import annotations

import random
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field

import httpx

from faults.served import Finding, Served
from tests.support.docx import Docx, paragraph, section
from tests.support.pictures import encoded, text_like
from tijera.store.checking import check

_RAW = {"Content-Type": "application/octet-stream"}
_PAPER = Docx(paragraph("Ropes are laid out before the vessel has passed the inner light.") + section()).build()


@dataclass
class Known:
    """What the client knows: names of clippings by id, as they were acknowledged, and what was on its way when it ended."""

    names: dict[str, str] = field(default_factory=dict)
    removed: set[str] = field(default_factory=set)
    placed: set[str] = field(default_factory=set)
    file: str = ""
    acknowledged: int = 0
    count: int = 0
    """Of names that were given out."""
    pending: str = ""
    """The name, or the id, of what was asked last and not acknowledged yet."""


def _bring_in(http: httpx.Client, known: Known, chance: random.Random) -> None:
    known.count += 1
    name = f"Kill {known.count}"
    known.pending = name
    data = encoded(text_like(40 + chance.randrange(60), 40, seed=known.count))
    answer = http.post("/clippings", params={"name": f"{name}.png"}, content=data, headers=_RAW)
    answer.raise_for_status()
    known.names[str(answer.json()["clipping"])] = name


def _rename(http: httpx.Client, known: Known, chance: random.Random) -> None:
    clipping = chance.choice(sorted(known.names))
    known.count += 1
    name = f"Named {known.count}"
    known.pending = clipping
    http.patch(f"/clippings/{clipping}", json={"name": name}).raise_for_status()
    known.names[clipping] = name


def _remove(http: httpx.Client, known: Known, chance: random.Random) -> None:
    clipping = chance.choice(sorted(known.names))
    if clipping in known.placed:
        return
    known.pending = clipping
    http.post("/clippings/removals", json={"clippings": [clipping]}).raise_for_status()
    del known.names[clipping]
    known.removed.add(clipping)


def _place(http: httpx.Client, known: Known, chance: random.Random) -> None:
    clipping = chance.choice(sorted(known.names))
    if not known.file:
        known.pending = "file"
        answer = http.post("/destinations", params={"name": "Rules.docx"}, content=_PAPER, headers=_RAW)
        answer.raise_for_status()
        known.file = str(answer.json()["id"])
    if clipping in known.placed:
        return
    known.pending = clipping
    http.post(f"/destinations/{known.file}/placements", json={"clipping": clipping, "spot": "b.1"}).raise_for_status()
    known.placed.add(clipping)


def _undo_and_redo(http: httpx.Client, known: Known, _: random.Random) -> None:
    known.pending = "undo"
    http.post("/history/undo").raise_for_status()
    known.pending = "redo"
    http.post("/history/redo").raise_for_status()


_STEPS: tuple[Callable[[httpx.Client, Known, random.Random], None], ...] = (
    _bring_in,
    _bring_in,
    _rename,
    _remove,
    _place,
)


def run(kills: int = 200) -> Finding:
    """Kill it so often."""
    chance = random.Random(18)
    known = Known()
    wrong: list[str] = []
    with Served() as served:
        for number in range(kills):
            ending = threading.Timer(chance.uniform(0.2, 2.0), served.kill)
            ending.start()
            _load(served, known, chance)
            ending.join()
            wrong += [f"kill {number + 1}: {each}" for each in _compared(served, known)]
        wrong += _undone(served)
    details = f"{kills} kills, {known.acknowledged} acknowledged steps; {'; '.join(wrong[:5]) or 'nothing wrong'}"
    return Finding(
        "Killed (SIGKILL) at random moments of a load over HTTP: steps lost, doubled or half there",
        str(len(wrong)),
        "0 of ≥ 1,000 acknowledged, ≥ 200 kills",
        not wrong and known.acknowledged >= 1_000,
        details,
    )


def _load(served: Served, known: Known, chance: random.Random) -> None:
    """Step after step until it is gone."""
    http = served.client()
    try:
        while True:
            step = chance.choice(_STEPS) if len(known.names) > 3 else _bring_in
            known.pending = ""
            step(http, known, chance)
            if known.pending:
                known.acknowledged += 1
                known.pending = ""
    except (httpx.TransportError, httpx.HTTPStatusError) as error:
        if isinstance(error, httpx.HTTPStatusError):
            raise
    finally:
        http.close()


def _compared(served: Served, known: Known) -> list[str]:
    """What is there against what was acknowledged; afterwards what is there is what is known."""
    found = check(served.folder)
    wrong = [f"integrity {found.integrity}"] if found.integrity != "ok" else []
    wrong += [f"{found.missing} files missing, {found.broken} broken"] if found.missing or found.broken else []
    served.start()
    there = {each["id"]: each["name"] for each in _rack(served.http)}
    in_doubt = known.pending
    for clipping, name in list(known.names.items()):
        if there.get(clipping) == name or in_doubt == clipping:
            continue
        wrong.append(f"{name} is lost or other")
    wrong += [f"{each} came back" for each in known.removed & there.keys() if each != in_doubt]
    strange = [clipping for clipping, name in there.items() if clipping not in known.names and name != in_doubt]
    wrong += [f"{there[each]} is there and nobody was told" for each in strange if each not in known.removed]
    wrong += ["a name is there twice"] if len(set(there.values())) != len(there) else []
    if known.file:
        answer = served.http.get("/bench").json()
        standing = (
            {each["clipping"] for each in answer["destination"]["placements"]} if answer["destination"] else set()
        )
        wrong += [f"{each} stands no more" for each in known.placed if each not in standing and each != in_doubt]
        known.placed = set(standing)
    # Every picture can be got whole.
    for each in list(there)[:3]:
        if served.http.get(f"/clippings/{each}/picture.png").status_code != 200:
            wrong.append(f"the picture of {there[each]} can't be got")
    known.names = dict(there)
    return wrong


def _rack(http: httpx.Client) -> list[dict[str, str]]:
    slips: list[dict[str, str]] = []
    while True:
        page = http.get("/clippings", params={"first": len(slips), "most": 500}).json()
        slips += page["slips"]
        if len(slips) >= page["found"] or not page["slips"]:
            return slips


def _undone(served: Served) -> list[str]:
    """All the way back as far as undo goes in fifty steps, and forward again: the same as before."""
    http = served.http
    before = {each["id"]: each["name"] for each in _rack(http)}
    steps = 0
    while steps < 50 and http.post("/history/undo").status_code < 400:
        steps += 1
    for _ in range(steps):
        http.post("/history/redo").raise_for_status()
        time.sleep(0)
    return [] if {each["id"]: each["name"] for each in _rack(http)} == before else ["undo and redo do not lead back"]
