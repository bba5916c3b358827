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
    clipping = marit.post(
        "/api/v1/clippings", params={"name": "Wages.png"}, content=encoded(text_like(60, 40)), headers=_RAW
    ).json()["clipping"]
    frame = marit.post("/api/v1/sources/desk/frames").json()["id"]
    described = oda.get("/api/v1/openapi.json").json()["paths"]
    paths = [
        path
        for path, methods in described.items()
        if "get" in methods and path.count("{") == 1 and ("{clipping}" in path or "{frame}" in path)
    ]
    times: dict[bool, list[float]] = {True: [], False: []}
    found = told = 0
    for _ in range(requests // 2):
        path = chance.choice(paths)
        kind, real = ("clipping", clipping) if "{clipping}" in path else ("frame", frame)
        said = []
        for is_real in chance.sample((True, False), 2):
            key = real if is_real else f"{chance.getrandbits(48):012x}"
            begun = time.perf_counter()
            answer = oda.get(path.replace(f"{{{kind}}}", key), params={"words": "x"})
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
        f"{requests} requests over {len(paths)} addresses: {found} not 404, {told} in other words; median {real_ms:.2f} ms for the other's ids, "
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
