"""What the server has in memory: after many rounds of work, and at its most while a picture of 80 megapixels comes in."""

from __future__ import annotations

import struct
import time
import zlib

from faults.served import Finding, Served
from tests.support.docx import Docx, paragraph, section

_RAW = {"Content-Type": "application/octet-stream"}
_MOST_GROWTH_MB, _MOST_MORE_MB = 60.0, 100.0
_PIXELS = 80_000_000


def run(rounds: int = 200) -> Finding:
    """Rounds of take, trim, place and hand over, each in a window that was opened for it: pictures and pages are asked for again."""
    paper = Docx(paragraph("Ropes are laid out before the vessel has passed.") + section()).build()
    with Served() as served:
        first = 0.0
        for number in range(rounds):
            _round(served, number, paper)
            if number == 9:
                first = served.resident_mb()
        last = served.resident_mb()
    growth = last - first
    details = f"{first:.0f} MB after 10 rounds, {last:.0f} MB after {rounds}"
    wanted = f"≤ {_MOST_GROWTH_MB:.0f} MB"
    return Finding(
        "Memory after 200 rounds of work against that after 10",
        f"{growth:.0f} MB more",
        wanted,
        growth <= _MOST_GROWTH_MB,
        details,
    )


def _round(served: Served, number: int, paper: bytes) -> None:
    http = served.http
    frame = http.post("/sources/desk/frames").json()
    area = {"x": 90 + number, "y": 130, "width": 900, "height": 420}
    body = {"kind": "region", "area": area}
    taken = http.post(f"/frames/{frame['id']}/clippings", json=body)
    taken.raise_for_status()
    clipping = taken.json()["clipping"]
    http.get(f"/frames/{frame['id']}/picture.png")
    http.get(f"/clippings/{clipping}/sheet")
    http.put(f"/clippings/{clipping}/crop", json={"x": 5, "y": 5, "width": 700, "height": 300})
    http.get(f"/clippings/{clipping}/thumbnail.png")
    file = http.post("/destinations", params={"name": f"Rules {number}.docx"}, content=paper, headers=_RAW).json()["id"]
    http.get(f"/destinations/{file}/outline")
    http.post(f"/destinations/{file}/placements", json={"clipping": clipping, "spot": "b.1"}).raise_for_status()
    http.get(f"/destinations/{file}/weight")
    http.post(f"/destinations/{file}/handovers").raise_for_status()
    http.get("/bench")


def large() -> Finding:
    """A PNG of 80 megapixels in a few kilobytes: on its way in, and while it is weighed in a document."""
    paper = Docx(paragraph("Ropes.") + section()).build()
    with Served() as served:
        served.http.get("/bench")
        time.sleep(3)
        with served.family_watched() as most:
            time.sleep(0.5)
            idle = most()
        with served.family_watched() as most:
            begun = time.monotonic()
            answer = served.http.post("/clippings", params={"name": "chart.png"}, content=_large_png(), headers=_RAW)
            took, status = time.monotonic() - begun, answer.status_code
            coming_in = most()
        with served.family_watched() as most:
            file = served.http.post("/destinations", params={"name": "Rules.docx"}, content=paper, headers=_RAW).json()
            clipping = {"clipping": answer.json()["clipping"], "spot": "b.1"}
            placed = served.http.post(f"/destinations/{file['id']}/placements", json=clipping)
            weighed = served.http.get(f"/destinations/{file['id']}/weight")
            weighing = most()
    allowed = idle + _MOST_MORE_MB + 3 * _PIXELS * 3 / 1e6
    peak = max(coming_in, weighing)
    details = (
        f"idle {idle:.0f} MB, coming in ({status}, {took:.1f} s) {coming_in:.0f} MB, placed and weighed ({placed.status_code}, "
        f"{weighed.status_code}) {weighing:.0f} MB"
    )
    return Finding(
        "A PNG of 80 megapixels: the most memory of the server, its decoders and the recogniser of words together",
        f"{peak:.0f} MB",
        f"≤ {allowed:.0f} MB (idle + 100 + 3 × the pixels)",
        peak <= allowed,
        details,
    )


def _large_png() -> bytes:
    width, height = 10_000, 8_000

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    row = b"\0" + b"\x9b\xbf\xb4" * width
    packer = zlib.compressobj(9)
    rows = b"".join([*(packer.compress(row) for _ in range(height)), packer.flush()])
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", struct.pack(">2I5B", width, height, 8, 2, 0, 0, 0))
        + chunk(b"IDAT", rows)
        + chunk(b"IEND", b"")
    )
