"""A new message: plain text and HTML that say the same (RFC 2046 §5.1.4), made anew from what the user wrote."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from email.header import Header
from email.utils import formataddr, getaddresses
from html import escape

from tijera.core.mail.leaving import message_id_of
from tijera.core.packages.formats.eml.transfer import quoted_lines

_NEWLINE = b"\r\n"
_LINE = 76
_ANY = "a@b"
_ADDRESS = re.compile(r"https?://(?:(?!&(?:lt|gt|quot|#x27);)[^\s<>\"])+(?<![.,;:!?)])")
_STYLE = "font-family:sans-serif;font-size:15px;line-height:1.5"


@dataclass(frozen=True)
class Letter:
    """What a new message says. Addresses are written as people write them, separated by commas."""

    sender: str = ""
    to: str = ""
    cc: str = ""
    subject: str = ""
    text: str = ""
    date: str = ""
    """As RFC 5322 writes it; empty for none."""
    token: str = ""
    """What its Message-ID is made of; empty for none. All are equally long, so that another one changes no weight."""

    @property
    def paragraphs(self) -> tuple[str, ...]:
        """The text in paragraphs, as empty lines part it."""
        parts = (part.strip("\n") for part in self.text.replace("\r\n", "\n").split("\n\n"))
        return tuple(part for part in parts if part.strip())


def compose(letter: Letter, shown: Mapping[int, Sequence[str]] | None = None) -> bytes:
    """The message. `shown` says in words, by paragraph (0 before the first), which pictures its HTML will show there.

    The same letter gives the same bytes.
    """
    boundary = "=_" + hashlib.sha256(repr(letter).encode()).hexdigest()[:24] + "a"
    fields = [
        _addresses("From", letter.sender),
        _addresses("To", letter.to),
        _addresses("Cc", letter.cc),
        _field("Subject", letter.subject),
        _field("Date", letter.date),
        _message_id(letter),
        b"MIME-Version: 1.0",
        b"Content-Type: multipart/alternative;",
        f' boundary="{boundary}"'.encode("ascii"),
    ]
    lines = [
        *(field for field in fields if field),
        b"",
        f"--{boundary}".encode("ascii"),
        b"Content-Type: text/plain; charset=utf-8",
        b"Content-Transfer-Encoding: quoted-printable",
        b"",
        _quoted(_plain(letter, shown or {})),
        f"--{boundary}".encode("ascii"),
        b"Content-Type: text/html; charset=utf-8",
        b"Content-Transfer-Encoding: quoted-printable",
        b"",
        _quoted(_html(letter)),
        f"--{boundary}--".encode("ascii"),
        b"",
    ]
    return _NEWLINE.join(lines)


def _field(name: str, value: str) -> bytes:
    """A header field, folded, with encoded words where it is not ASCII (RFC 2047); nothing for an empty one.

    So is one with a word too long for a line: folded before it, the first line would hold nothing (RFC 5322 §2.2.3).
    """
    flat = " ".join(value.split())
    if not flat:
        return b""
    plain = flat.isascii() and len(name) + 2 + max(map(len, flat.split())) <= _LINE
    header = Header(flat, None if plain else "utf-8", header_name=name, maxlinelen=_LINE)
    return f"{name}: {header.encode(linesep=chr(13) + chr(10))}".encode("ascii")


def _addresses(name: str, value: str) -> bytes:
    """A field of addresses, one in a line; only the names in them are encoded (RFC 5322 §3.4, RFC 2047 §5)."""
    pairs = getaddresses([" ".join(value.replace(";", ",").split())])
    written = [_mailbox(who, address) for who, address in pairs if address]
    return f"{name}: {(',' + chr(13) + chr(10) + ' ').join(written)}".encode() if written else b""


def _message_id(letter: Letter) -> bytes:
    if not letter.token:
        return b""
    sender = next((_host_encoded(address) for _, address in getaddresses([letter.sender]) if address), "")
    return f"Message-ID: {message_id_of(letter.token, sender)}".encode("ascii", "replace")


def _mailbox(who: str, address: str) -> str:
    """An address and who that is; letters other than ASCII before the @ stand as they are (RFC 6532 §3.2)."""
    written = _host_encoded(address)
    if written.isascii():
        return formataddr((who, written), "utf-8")
    name = formataddr((who, _ANY), "utf-8").removesuffix(f"<{_ANY}>") if who else ""
    return f"{name}<{written}>"


def _host_encoded(address: str) -> str:
    """An address with the name of its host in ASCII (RFC 5890)."""
    local, at, host = address.rpartition("@")
    try:
        return f"{local}{at}{host.encode('idna').decode('ascii')}"
    except UnicodeError:
        return address


def _plain(letter: Letter, shown: Mapping[int, Sequence[str]]) -> str:
    out = [f"[Picture: {words}]" for words in shown.get(0, ())]
    for number, paragraph in enumerate(letter.paragraphs, 1):
        out.append(paragraph)
        out += [f"[Picture: {words}]" for words in shown.get(number, ())]
    return "\n\n".join(out)


def _html(letter: Letter) -> str:
    paragraphs = "\n".join(f"<p>{_linked(escape(part)).replace(chr(10), '<br>')}</p>" for part in letter.paragraphs)
    return f'<html><body style="{_STYLE}">\n{paragraphs}\n</body></html>'


def _linked(escaped: str) -> str:
    """Addresses of the web in a text can be followed; what ends a sentence is none of them."""
    return _ADDRESS.sub(r'<a href="\g<0>">\g<0></a>', escaped)


def _quoted(text: str) -> bytes:
    """Text in quoted-printable, line by line; white space at the end of a line is quoted."""
    rows = []
    for line in text.split("\n"):
        data = line.encode("utf-8")
        tail = data[-1:] if data[-1:] in (b" ", b"\t") else b""
        quoted = quoted_lines(data[: len(data) - len(tail)], _NEWLINE)
        rows.append(quoted + (b"=%02X" % tail[0] if tail else b""))
    return _NEWLINE.join(rows)
