"""Two people on one server: one asks for what is the other's by its very ids, and for ids of nobody's; nothing may tell them apart."""

from __future__ import annotations

import random
import statistics
import subprocess
import sys
import tempfile
import time
from contextlib import closing
from pathlib import Path

import httpx

from faults.served import Finding
from tests.support.docx import Docx, paragraph, section
from tests.support.pictures import encoded, text_like

_RAW = {"Content-Type": "application/octet-stream"}
_PASSWORD = "seven gulls on a mast"


def run(requests: int = 2_000) -> Finding:
    """So many requests, half for real ids and half for made-up ones."""
    chance = random.Random(18)
    with tempfile.TemporaryDirectory() as folder:
        for name in ("Marit", "Oda"):
            command = [sys.executable, "-m", "tijera", "people", "add", name, "--password-stdin", "--data", folder]
            subprocess.run(command, input=f"{_PASSWORD}\n", text=True, check=True, stdout=subprocess.DEVNULL)
        command = [sys.executable, "-m", "tijera", "serve", "--people", "--data", folder]
        process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
        try:
            address = (process.stdout.readline() if process.stdout else "").split()[3].rstrip("/")
            with closing(_signed_in(address, "Marit")) as marit, closing(_signed_in(address, "Oda")) as oda:
                return _asked(marit, oda, requests, chance, Path(folder))
        finally:
            process.terminate()
            process.wait()
            if process.stdout:
                process.stdout.close()


def _signed_in(address: str, name: str) -> httpx.Client:
    http = httpx.Client(base_url=address, timeout=120)
    http.post("/sign-in", data={"name": name, "password": _PASSWORD})
    http.get("/api/v1/bench").raise_for_status()
    return http


def _asked(marit: httpx.Client, oda: httpx.Client, requests: int, chance: random.Random, folder: Path) -> Finding:
    ids = _everything_of(marit)
    described = oda.get("/api/v1/openapi.json").json()["paths"]
    # Without a body nothing but the id can be wrong.
    calls = [
        (method, path, kind)
        for path, methods in described.items()
        for method in ("get", "delete")
        for kind in ids
        if method in methods and path.count("{") == 1 and f"{{{kind}}}" in path and not _asks_more(methods[method])
    ]
    times: dict[bool, list[float]] = {True: [], False: []}
    found = told = 0
    for _ in range(requests // 2):
        method, path, kind = chance.choice(calls)
        said = []
        for is_real in chance.sample((True, False), 2):
            key = ids[kind] if is_real else f"{chance.getrandbits(48):012x}"
            begun = time.perf_counter()
            answer = oda.request(method, path.replace(f"{{{kind}}}", key), params={"words": "x"})
            times[is_real].append(time.perf_counter() - begun)
            found += answer.status_code != 404
            said.append(answer.text.replace(key, "…"))
        told += said[0] != said[1]
    real_ms, made_up_ms = (statistics.median(times[each]) * 1000 for each in (True, False))
    # Which of the two a single answer belongs to: half of the guesses are right by chance.
    middle = statistics.median([*times[True], *times[False]])
    guessed = sum(each > middle for each in times[True]) / len(times[True])
    mixed = [path.parent.name for path in folder.glob("people/*/tijera.sqlite*") if b"Wages" in path.read_bytes()]
    details = (
        f"{requests} requests over {len(calls)} calls for ids of {len(ids)} kinds: {found} not 404, {told} in other words; median {real_ms:.2f} ms for the other's ids, "
        f"{made_up_ms:.2f} ms for made-up ones, by its time {guessed:.0%} of the other's are told (50 % is chance); what one has lies in {len(set(mixed))} folder"
    )
    met = found == 0 and told == 0 and abs(guessed - 0.5) < 0.06 and len(set(mixed)) == 1
    return Finding(
        "Requests of one person for what is another's: answers that tell something",
        str(found + told),
        "0 of 2,000, nothing by time",
        met,
        details,
    )


def _asks_more(operation: dict[str, list[dict[str, object]]]) -> bool:
    return any(each.get("in") == "query" and each.get("required") for each in operation.get("parameters", []))


def _everything_of(marit: httpx.Client) -> dict[str, str]:
    """One thing of every kind, by what the interface calls its id."""
    paper = Docx(paragraph("Wages of the watch.") + section()).build()
    picture = encoded(text_like(60, 40))
    clipping = marit.post("/api/v1/clippings", params={"name": "Wages.png"}, content=picture, headers=_RAW).json()[
        "clipping"
    ]
    destination = marit.post("/api/v1/destinations", params={"name": "Wages.docx"}, content=paper, headers=_RAW).json()[
        "id"
    ]
    placed = marit.post(f"/api/v1/destinations/{destination}/placements", json={"clipping": clipping, "spot": "b.1"})
    placed.raise_for_status()
    (placement,) = marit.get("/api/v1/bench").json()["destination"]["placements"]
    frame = marit.post("/api/v1/sources/desk/frames").json()["id"]
    saved = marit.post(f"/api/v1/clippings/{clipping}/saves", json={"format": "png"})
    saved.raise_for_status()
    (handover, *_) = marit.get("/api/v1/handovers").json()
    return {
        "clipping": clipping,
        "destination": destination,
        "placement": placement["id"],
        "frame": frame,
        "handover": handover["id"],
    }
