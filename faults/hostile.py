"""Files that were made to do harm: each is refused in words or handled right, soon, within memory, while others are answered."""

from __future__ import annotations

import io
import random
import struct
import threading
import time
import zipfile
import zlib
from collections.abc import Iterator

import httpx
from PIL import Image

from faults.served import Finding, Served
from tests.support.docx import Docx, paragraph, section
from tests.support.odt import Odt, p
from tests.support.pictures import encoded, photograph_like, text_like
from tests.support.xlsx import Tab, Xlsx
from tests.tijera.core.imaging.test_decode import png_of_size

_RAW = {"Content-Type": "application/octet-stream"}
_MOST_SECONDS, _MOST_ANSWER_S = 2.0, 0.2
_IDLE_AND_MORE_MB = 100


def _damaged(good: bytes, chance: random.Random) -> bytes:
    """Cut off, bits turned over, a piece doubled, filled with noise, or lengthened."""
    data = bytearray(good)
    way = chance.randrange(5)
    at = chance.randrange(max(len(data) - 9, 1))
    if way == 0:
        return bytes(data[: max(at, 1)])
    if way == 1:
        for _ in range(chance.randrange(1, 30)):
            data[chance.randrange(len(data))] ^= 1 << chance.randrange(8)
    elif way == 2:
        data[at:at] = data[: chance.randrange(1, 400)]
    elif way == 3:
        data[at : at + 8] = chance.randbytes(8)
    else:
        data += chance.randbytes(chance.randrange(1, 3_000))
    return bytes(data)


def _packed(members: dict[str, bytes], method: int = zipfile.ZIP_DEFLATED) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", method) as package:
        for name, data in members.items():
            package.writestr(name, data)
    return out.getvalue()


def _chunked_png(width: int, height: int, colour: int, bits: int, rows: bytes) -> bytes:
    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">2I5B", width, height, bits, colour, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(rows, 9)) + chunk(b"IEND", b"")


def pictures(chance: random.Random) -> Iterator[tuple[str, bytes]]:
    """Pictures: damaged ones of every kind, ones that say what they are not, ones that grow."""
    kinds = {
        "PNG": encoded(text_like(200, 150)),
        "JPEG": encoded(photograph_like(200, 150), file_format="JPEG"),
        "WEBP": encoded(photograph_like(200, 150), file_format="WEBP"),
        "TIFF": encoded(text_like(200, 150), file_format="TIFF", compression="tiff_lzw"),
        "BMP": encoded(text_like(200, 150), file_format="BMP"),
        "GIF": encoded(text_like(200, 150), file_format="GIF"),
    }
    for kind, good in kinds.items():
        for number in range(24):
            yield f"{kind} damaged {number}.{kind.lower()}", _damaged(good, chance)
        yield f"{kind} named otherwise.docx", good
        yield f"{kind} head only.{kind.lower()}", good[:24]
    for width, height in ((2**31 - 1, 1), (1, 2**31 - 1), (100_000, 100_000), (0, 0), (2**32 - 1, 2**32 - 1)):
        yield f"png of {width} × {height}.png", png_of_size(width, height)
    # One bit a pixel, all alike: 80 megapixels in a few kilobytes.
    rows = (b"\0" + b"\0" * 1_250) * 8_000
    yield "80 megapixels in one bit.png", _chunked_png(10_000, 8_000, 0, 1, rows)
    yield "79 megapixels of colours.png", _chunked_png(9_900, 8_000, 2, 8, (b"\0" + b"\0" * 29_700) * 8_000)
    yield "more rows than it says.png", _chunked_png(10, 10, 2, 8, b"\0" * 90_000_000)
    frames = [Image.new("P", (400, 300), each % 256) for each in range(300)]
    out = io.BytesIO()
    frames[0].save(out, "GIF", save_all=True, append_images=frames[1:])
    yield "three hundred frames.gif", out.getvalue()
    for text in (
        b"<svg xmlns='http://www.w3.org/2000/svg'><image href='file:///etc/passwd'/></svg>",
        b"GIF89a",
        b"BM",
        b"\xff\xd8\xff",
        b"RIFF\0\0\0\0WEBP",
    ):
        yield f"{text[:6]!r}.png", text


def documents(chance: random.Random) -> Iterator[tuple[str, bytes]]:
    """Packages and messages: damaged, nested, growing, pointing outside, with entities."""
    good = {
        "docx": Docx(paragraph("Ropes") + section()).build(),
        "odt": Odt(p("Ropes")).build(),
        "xlsx": Xlsx([Tab("Tides", "")]).build(),
        "eml": b"From: a@quillhaven.example\r\nSubject: Low water\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-Type: text/html\r\n\r\n<p>Hi</p>\r\n--b--\r\n",
    }
    for kind, data in good.items():
        for number in range(30):
            yield f"damaged {number}.{kind}", _damaged(data, chance)
    docx = {
        name: zipfile.ZipFile(io.BytesIO(good["docx"])).read(name)
        for name in zipfile.ZipFile(io.BytesIO(good["docx"])).namelist()
    }
    main = "word/document.xml"
    bomb = (
        b'<?xml version="1.0"?><!DOCTYPE a ['
        + b"".join(b'<!ENTITY e%d "%s">' % (n, b"&e%d;" % (n - 1) * 10 if n else b"x" * 10) for n in range(10))
        + b"]><a>&e9;</a>"
    )
    outside = b'<?xml version="1.0"?><!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><a>&x;</a>'
    deep = b"<w:p xmlns:w='http://schemas.openxmlformats.org/wordprocessingml/2006/main'>" + b"<a>" * 200_000
    for name, xml in (
        ("entities", bomb),
        ("outside", outside),
        ("deep", deep),
        ("empty", b""),
        ("no xml", b"\0" * 999),
        ("wide", b"<a " + b"x='y' " * 3 + b"/>"),
    ):
        yield f"{name}.docx", _packed({**docx, main: xml})
    yield "a gigabyte of nothing.docx", _packed({**docx, "word/media/x.bin": b"\0" * 600_000_000})
    yield "many members.docx", _packed({**docx, **{f"x/{each}": b"" for each in range(30_000)}}, zipfile.ZIP_STORED)
    for name in ("../../etc/cron.d/x", "/etc/passwd", "C:\\x", "word/../../x", "a\0b", "x" * 60_000):
        yield f"member {name[:12]!r}.docx", _packed({**docx, name[:65_000]: b"x"})
    yield "in itself.docx", _packed({**docx, "word/embeddings/again.docx": good["docx"] * 40})
    yield "no package.docx", b"PK\3\4" + chance.randbytes(4_000)
    parts = b"".join(b"--b%d\r\nContent-Type: multipart/mixed; boundary=b%d\r\n\r\n" % (n, n + 1) for n in range(2_000))
    yield (
        "nested.eml",
        b"From: a@b.example\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=b0\r\n\r\n" + parts,
    )
    yield "endless line.eml", b"Subject: " + b"x" * 30_000_000 + b"\r\n\r\nbody"
    yield "many fields.eml", b"".join(b"X-%d: y\r\n" % n for n in range(300_000)) + b"\r\nbody"
    yield "tags.eml", b"From: a@b.example\r\nContent-Type: text/html\r\n\r\n" + b"<b>" * 400_000
    yield "encoded words.eml", b"Subject: " + b"=?utf-8?q?=41?= " * 100_000 + b"\r\n\r\nx"


def run() -> Finding:
    """Send each, one after the other, while another client asks for the bench over and over."""
    chance = random.Random(18)
    wrong: list[str] = []
    slowest, statuses = (0.0, ""), {"taken": 0, "refused": 0}
    count = 0
    with Served() as served:
        for _ in range(5):
            served.http.get("/bench")
        served.http.post("/clippings", params={"name": "warm.png"}, content=encoded(text_like(900, 700)), headers=_RAW)
        time.sleep(2)
        idle = served.resident_mb()
        served.forget_peak()
        beside = _Beside(served)
        beside.start()
        for kind, path, files in (
            ("picture", "/clippings", pictures(chance)),
            ("file", "/destinations", documents(chance)),
        ):
            for name, data in files:
                count += 1
                begun = time.monotonic()
                try:
                    answer = served.http.post(path, params={"name": name[:80]}, content=data, headers=_RAW)
                except httpx.TransportError as error:
                    wrong.append(f"{kind} {name}: {type(error).__name__}")
                    continue
                took = time.monotonic() - begun
                slowest = max(slowest, (took, name))
                statuses["taken" if answer.status_code < 400 else "refused"] += 1
                if took > _MOST_SECONDS:
                    wrong.append(f"{kind} {name} took {took:.1f} s")
                if answer.status_code >= 500 or (answer.status_code >= 400 and not answer.json().get("remedy")):
                    wrong.append(f"{kind} {name}: {answer.status_code}")
        beside.stop()
        peak = served.peak_mb()
    late = sorted(beside.times)
    tail = late[int(len(late) * 0.95)] if late else 0.0
    allowed = idle + _IDLE_AND_MORE_MB + 3 * 80 * 4
    wrong += [f"{peak:.0f} MB in memory, {allowed:.0f} allowed"] if peak > allowed else []
    wrong += [f"others were answered after {tail * 1000:.0f} ms"] if tail > _MOST_ANSWER_S else []
    details = (
        f"{count} files: {statuses['refused']} refused in words, {statuses['taken']} taken; the slowest took {slowest[0]:.1f} s "
        f"({slowest[1]}); idle {idle:.0f} MB, peak {peak:.0f} MB; others were answered in {tail * 1000:.0f} ms (95th of {len(late)}), "
        f"{late[-1] * 1000 if late else 0:.0f} ms at most; {'; '.join(wrong[:6]) or 'nothing wrong'}"
    )
    return Finding(
        "Files made to do harm: those that were slow, unanswered or in the way of others",
        str(len(wrong)), "0 of ≥ 300; ≤ 2 s each, others within 200 ms", not wrong and count >= 300, details,
    )  # fmt: skip


class _Beside(threading.Thread):
    """Another client, who only wants to see the bench."""

    def __init__(self, served: Served) -> None:
        super().__init__(daemon=True)
        self._http = served.client()
        self._over = threading.Event()
        self.times: list[float] = []

    def run(self) -> None:
        while not self._over.wait(0.05):
            begun = time.monotonic()
            self._http.get("/bench")
            self.times.append(time.monotonic() - begun)

    def stop(self) -> None:
        self._over.set()
        self.join()
        self._http.close()
