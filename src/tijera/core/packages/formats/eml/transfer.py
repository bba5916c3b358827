"""Transfer encodings (RFC 2045 §6): reading a body, and putting something into it in its own encoding."""

from __future__ import annotations

import base64
import binascii
import quopri
import re
from bisect import bisect_right
from collections.abc import Sequence

from tijera.core.packages.formats.eml.mime import Entity

_LINE = 76
"""The longest line of base64 and quoted-printable (§6.7, §6.8), without its line end."""
_BYTES_A_LINE = 57
_QP_TOKEN = re.compile(rb"=\r?\n|=[0-9A-Fa-f]{2}|.", re.DOTALL)
_NOT_BASE64 = re.compile(rb"[^A-Za-z0-9+/=]")


def base64_lines(data: bytes, newline: bytes = b"\r\n") -> bytes:
    """Bytes in base64, in lines of 76, without a line end behind the last one."""
    rows = (
        binascii.b2a_base64(data[at : at + _BYTES_A_LINE], newline=False) for at in range(0, len(data), _BYTES_A_LINE)
    )
    return newline.join(rows)


def base64_bytes(count: int, newline: bytes = b"\r\n") -> int:
    """How long so many bytes are as `base64_lines` (RFC 2045, 6.8)."""
    characters = -(-count // 3) * 4
    return characters + max(-(-characters // _LINE) - 1, 0) * len(newline)


def decode(entity: Entity) -> bytes:
    """A body as it was before it was encoded; what can't be read is passed over, as readers do."""
    body, encoding = entity.body, entity.encoding
    if encoding == "base64":
        clean = _NOT_BASE64.sub(b"", body).split(b"=", 1)[0]
        return base64.b64decode(clean[: len(clean) - (len(clean) % 4 == 1)] + b"===")
    if encoding == "quoted-printable":
        return quopri.decodestring(body)
    return body


def text_of(entity: Entity) -> tuple[str, str | None]:
    """The text of a part, and the charset by which it can be written back; None for one that would not come back."""
    data = decode(entity)
    for charset in (entity.charset, "utf-8"):
        try:
            text = data.decode(charset)
            comes_back = text.encode(charset) == data
        except (LookupError, UnicodeError):
            continue
        return text, charset if comes_back and _can_be_put_into(entity, charset) else None
    return data.decode("latin-1"), "latin-1"


def _can_be_put_into(entity: Entity, charset: str) -> bool:
    """Whether something can be put between the bytes of a body: in base64 always, else where ASCII is written as ASCII."""
    return entity.encoding == "base64" or "a<b".encode(charset) == b"a<b"


def spliced(entity: Entity, text: str, charset: str, puts: Sequence[tuple[int, str]], newline: bytes) -> bytes:
    """The body with ASCII put in at places of its text (in characters, rising), in its own charset and encoding."""
    # A byte order mark stands at the beginning only; encoding writes one each time.
    mark = len("".encode(charset))
    places = [(len(text[:at].encode(charset)), xml.encode(charset)[mark:]) for at, xml in puts]
    if entity.encoding == "base64":
        ending = b"\r\n" if entity.body.endswith((b"\n", b"\r\n")) else b""
        return base64_lines(_put(decode(entity), places), newline) + (newline if ending else b"")
    if entity.encoding == "quoted-printable":
        return _put(entity.body, _quoted(entity.body, places, newline))
    return _put(entity.body, [(at, newline + wrapped(xml, newline) + newline) for at, xml in places])


def _put(data: bytes, places: Sequence[tuple[int, bytes]]) -> bytes:
    out, at = [], 0
    for place, what in places:
        out += [data[at:place], what]
        at = place
    return b"".join([*out, data[at:]])


def wrapped(text: bytes, newline: bytes, most: int = 900) -> bytes:
    """HTML in lines short enough for a message (RFC 5322 §2.1.1), broken at spaces, where HTML does not mind."""
    lines, line = [], b""
    for word in text.split(b" "):
        if line and len(line) + 1 + len(word) > most:
            lines.append(line)
            line = word
        else:
            line = line + b" " + word if line else word
    return newline.join([*lines, line])


def _quoted(body: bytes, places: Sequence[tuple[int, bytes]], newline: bytes) -> list[tuple[int, bytes]]:
    """The same places in a quoted-printable body, and what goes there quoted, between soft line ends."""
    starts, decoded_at = [0], [0]
    for line in body.splitlines(keepends=True):
        starts.append(starts[-1] + len(line))
        decoded_at.append(decoded_at[-1] + len(quopri.decodestring(line)))
    out = []
    for wanted, xml in places:
        number = min(bisect_right(decoded_at, wanted), len(decoded_at) - 1) - 1 if len(starts) > 1 else 0
        at, left = starts[number], wanted - decoded_at[number]
        for token in _QP_TOKEN.finditer(body, at, starts[number + 1] if len(starts) > 1 else len(body)):
            if left <= 0:
                break
            left -= 0 if token[0].startswith(b"=") and token[0].endswith(b"\n") else 1
            at = token.end()
        soft = b"=" + newline
        before = b"" if at == 0 or body[at - 1 : at] == b"\n" else soft
        out.append((at, before + quoted_lines(xml, newline) + soft))
    return out


def quoted_lines(data: bytes, newline: bytes) -> bytes:
    """ASCII in quoted-printable, one long line with soft line ends."""
    out: list[bytes] = []
    line = b""
    for byte in data:
        sign = b"=%02X" % byte if byte in b"=\r\n\t" or byte > 126 else bytes((byte,))
        if len(line) + len(sign) > _LINE - 1:
            out.append(line + b"=")
            line = b""
        line += sign
    return newline.join([*out, line])
