"""Fifty clients at once, each with work of its own, on one server: nothing fails, no update is lost, nobody waits out of proportion."""

from __future__ import annotations

import os
import random
import threading
import time

import httpx

from faults.served import Finding, Served
from tests.support.pictures import encoded, text_like

_RAW = {"Content-Type": "application/octet-stream"}
_CLIENTS, _SECONDS = 50, 60.0
_MOST_RATIO = 8.0


class _Client(threading.Thread):
    """Hangs a picture of its own on the rack, then names it anew and looks at it, over and over."""

    def __init__(self, served: Served, number: int, until: float) -> None:
        super().__init__(daemon=True)
        self._http = served.client()
        self._number, self._until = number, until
        self.times: list[float] = []
        self.wrong: list[str] = []
        self.clipping, self.name = "", ""

    def run(self) -> None:
        try:
            self._work()
        except httpx.HTTPError as error:
            self.wrong.append(f"client {self._number}: {type(error).__name__}")
        finally:
            self._http.close()

    def _work(self) -> None:
        chance = random.Random(self._number)
        data = encoded(text_like(60, 40, seed=self._number))
        self.clipping = self._do(
            "POST", "/clippings", params={"name": f"{self._number}.png"}, content=data, headers=_RAW
        ).json()["clipping"]
        turn = 0
        while time.monotonic() < self._until:
            turn += 1
            self.name = f"Client {self._number} turn {turn}"
            self._do("PATCH", f"/clippings/{self.clipping}", json={"name": self.name})
            seen = self._do("GET", f"/clippings/{self.clipping}").json()["name"]
            if seen != self.name:
                self.wrong.append(f"{self.name} was lost: {seen}")
            self._do("GET", "/clippings", params={"most": 20})
            time.sleep(chance.uniform(0.0, 0.2))

    def _do(self, method: str, path: str, **given: object) -> httpx.Response:
        begun = time.monotonic()
        answer = self._http.request(method, path, **given)  # type: ignore[arg-type]
        self.times.append(time.monotonic() - begun)
        if answer.status_code >= 400:
            self.wrong.append(f"{method} {path}: {answer.status_code}")
        return answer


def _load(served: Served, clients: int, seconds: float) -> list[_Client]:
    until = time.monotonic() + seconds
    every = [_Client(served, number, until) for number in range(clients)]
    for each in every:
        each.start()
    for each in every:
        each.join()
    return every


def run(seconds: float = _SECONDS) -> Finding:
    """One alone first, then fifty."""
    with Served() as served:
        (alone,) = _load(served, 1, min(seconds, 10.0))
        every = _load(served, _CLIENTS, seconds)
        names = {
            each["id"]: each["name"] for each in served.http.get("/clippings", params={"most": 500}).json()["slips"]
        }
    lost = [each.name for each in every if each.clipping and names.get(each.clipping) != each.name]
    wrong = [each for client in (alone, *every) for each in client.wrong]
    times = sorted(each for client in every for each in client.times)
    one = sorted(alone.times)
    tail, tail_alone = times[int(len(times) * 0.95)], one[int(len(one) * 0.95)]
    # Fifty that each wait a tenth of a second between rounds of three are as much work as so many without a pause.
    cores = os.cpu_count() or 1
    ratio = tail / tail_alone / (_CLIENTS / cores)
    details = (
        f"{len(times)} requests in {seconds:.0f} s; 95th {tail * 1000:.0f} ms, of one client alone {tail_alone * 1000:.1f} ms; "
        f"{len(lost)} lost updates, {len(wrong)} failures: {'; '.join(wrong[:4]) or 'none'}"
    )
    return Finding(
        "Fifty clients at once: waiting as a multiple of one client's, for each core's share of them",
        f"{ratio:.2f} ×", f"≤ {_MOST_RATIO:.0f} ×, nothing lost, no failure", ratio <= _MOST_RATIO and not wrong and not lost, details,
    )  # fmt: skip
