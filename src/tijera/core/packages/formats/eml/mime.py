"""The parts of a message and where each stands in its bytes (RFC 2046 §5.1).

Nothing is decoded and nothing written here: a message that is parsed and written again is seldom the same.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from email.errors import MessageError
from email.header import decode_header, make_header
from email.message import Message
from email.parser import BytesHeaderParser
from typing import NamedTuple

from tijera.core.errors import MessageMalformed

_MOST_DEPTH, _MOST_PARTS, _MOST_HEAD = 30, 5_000, 1_000_000
_BLANK = re.compile(rb"\r?\n\r?\n")
_FIELD = re.compile(rb"[!-9;-~]+[ \t]*:")
_OURS = re.compile(rb"content-(?!length)[!-9;-~]*[ \t]*:", re.IGNORECASE)
_KNOWN_FIELD = re.compile(
    rb"(?:content-|x-|arc-|dkim-|list-|resent-|received|mime-version|message-id|in-reply-to|references|return-path"
    rb"|reply-to|delivered-to|authentication-results|subject|date|from|to|cc|bcc|sender)[!-9;-~]*[ \t]*:",
    re.IGNORECASE,
)
"""Fields that stand in real heads; a word with a colon may as well be text."""


@dataclass(frozen=True)
class Entity:
    """A message or a part of one: its head from `start`, its body from `body_start` up to `end`, in bytes.

    The line end before a delimiter belongs to the delimiter, so `end` lies before it.
    """

    data: bytes
    start: int
    body_start: int
    end: int
    fields: Message
    children: tuple[Entity, ...]
    boundary: bytes | None
    """Of a multipart whose parts were found."""
    is_closed: bool
    """Whether the closing delimiter is there."""

    @property
    def type(self) -> str:
        """The media type in lower case, "text/plain" where none is given."""
        return self.fields.get_content_type()

    @property
    def encoding(self) -> str:
        """The transfer encoding in lower case, "7bit" where none is given."""
        return str(self.fields.get("Content-Transfer-Encoding", "7bit")).strip().lower()

    @property
    def is_attachment(self) -> bool:
        """Whether it is handed along rather than shown."""
        return str(self.fields.get("Content-Disposition", "")).strip().lower().startswith("attachment")

    @property
    def file_name(self) -> str:
        """What it is called as a file; empty where it is called nothing."""
        name = self.fields.get_filename()
        return decoded(str(name)) if name else ""

    @property
    def content_id(self) -> str:
        """Its content-id without the angle brackets; empty where it has none."""
        return str(self.fields.get("Content-ID", "")).strip().strip("<>")

    @property
    def charset(self) -> str:
        """The charset of a text part."""
        return str(self.fields.get_content_charset("us-ascii"))

    @property
    def head(self) -> bytes:
        """Its header fields as they are written, without the blank line."""
        return self.data[self.start : self.body_start]

    @property
    def body(self) -> bytes:
        """Its body as it is written."""
        return self.data[self.body_start : self.end]

    def walk(self) -> Iterator[Entity]:
        """Itself and all its parts, in order."""
        yield self
        for child in self.children:
            yield from child.walk()

    def leaves(self) -> Iterator[Entity]:
        """The parts that hold something themselves."""
        return (each for each in self.walk() if not each.children)


def decoded(text: str) -> str:
    """A header field's text with its encoded words (RFC 2047) read; as they are where they can't be.

    What stands there in UTF-8 (RFC 6532 §3.2) is read as that; the parser hands its bytes on as surrogates.
    """
    plain = text.encode("utf-8", "surrogateescape").decode("utf-8", "replace")
    return " ".join(_WORDS.sub(_decoded_words, plain).split())


_WORD = r"=\?[^?\s]+\?[bBqQ]\?[^?]*\?="
_WORDS = re.compile(rf"{_WORD}(?:\s+{_WORD})*")
"""Encoded words one after the other: what parts them is not shown (RFC 2047 §6.2)."""


def _decoded_words(found: re.Match[str]) -> str:
    try:
        return str(make_header(decode_header(found[0])))
    except (ValueError, LookupError, UnicodeError, MessageError):
        return found[0]


def looks_like_message(data: bytes) -> bool:
    """Whether bytes begin with header fields of a message, one of which says what it is."""
    head = data[:_MOST_HEAD].lstrip(b"\xef\xbb\xbf")
    if not _FIELD.match(head):
        return False
    names = re.findall(rb"(?m)^([!-9;-~]+)[ \t]*:", _BLANK.split(head, maxsplit=1)[0])
    return bool({name.lower() for name in names} & {b"from", b"to", b"subject", b"received", b"mime-version", b"date"})


def newline_of(data: bytes) -> bytes:
    """The line end that a message uses: that of its first line."""
    at = data.find(b"\n")
    return b"\n" if at > 0 and data[at - 1 : at] != b"\r" else b"\r\n"


def parse(data: bytes) -> Entity:
    """Find the parts of a message. Raises `MessageMalformed`."""
    count = [0]
    return _entity(data, 0, len(data), 0, count)


def _entity(data: bytes, start: int, end: int, depth: int, count: list[int]) -> Entity:
    count[0] += 1
    if depth > _MOST_DEPTH or count[0] > _MOST_PARTS:
        raise MessageMalformed(why=f"its parts are nested more than {_MOST_DEPTH} deep, or more than {_MOST_PARTS}")
    body_start = _body_start(data, start, end)
    fields = BytesHeaderParser().parsebytes(b"".join(_fields_only(data[start:body_start])))
    if fields.get_content_maintype() == "multipart":
        boundary = fields.get_boundary("")
        if boundary:
            raw = boundary.encode("utf-8", "surrogateescape")
            children, closed = _children(data, body_start, end, raw, depth, count)
            if children:
                return Entity(data, start, body_start, end, fields, children, raw, closed)
    return Entity(data, start, body_start, end, fields, (), None, is_closed=True)


def _body_start(data: bytes, start: int, end: int) -> int:
    """Where the body begins: behind the blank line that ends the head.

    Where that line is missing, it is the first line of no field behind which no known field comes: readers take it so
    too. A line of no field between fields is passed over (see `sorted_head`).
    """
    if data[start : start + 2] == b"\r\n" or data[start : start + 1] == b"\n":
        return start + (2 if data[start : start + 1] == b"\r" else 1)
    match = _BLANK.search(data, start, min(end, start + _MOST_HEAD))
    stop = match.end() if match else end
    at, text = start, None
    for line in data[start : min(stop, start + _MOST_HEAD)].splitlines(keepends=True):
        is_blank = not line.strip(b"\r\n")
        if _KNOWN_FIELD.match(line):
            text = None
        elif text is None and not is_blank and line[:1] not in (b" ", b"\t") and not _FIELD.match(line):
            text = at
        at += len(line)
    return stop if text is None else text


def _children(
    data: bytes, start: int, end: int, boundary: bytes, depth: int, count: list[int]
) -> tuple[tuple[Entity, ...], bool]:
    """The parts between delimiters, and whether the closing one was met."""
    begins: list[int] = []
    ends: list[int] = []
    closed = False
    for at, line_end, closing in _delimiters(data, start, end, boundary):
        if begins:
            ends.append(at)
        if closing:
            closed = True
            break
        begins.append(line_end)
    if len(ends) < len(begins):
        ends.append(end)
    # A delimiter directly behind another one leaves nothing between them.
    spans = ((first, max(first, last)) for first, last in zip(begins, ends, strict=True))
    return tuple(_entity(data, first, last, depth + 1, count) for first, last in spans), closed


def _delimiters(data: bytes, start: int, end: int, boundary: bytes) -> Iterator[tuple[int, int, bool]]:
    """Each delimiter line: where what is before it ends, where the next line begins, whether it is the closing one."""
    mark = b"--" + boundary
    at = start
    while (found := data.find(mark, at, end)) >= 0:
        at = found + len(mark)
        if found != start and data[found - 1 : found] != b"\n":
            continue
        closing = data[at : at + 2] == b"--"
        rest = at + 2 if closing else at
        stop = data.find(b"\n", rest, end)
        line_end = end if stop < 0 else stop + 1
        if data[rest:line_end].strip(b" \t\r\n"):
            continue
        before = found
        if found > start:
            before -= 2 if data[found - 2 : found] == b"\r\n" and found - 2 >= start else 1
        yield before, line_end, closing
        at = line_end


def _lines(head: bytes) -> Iterator[tuple[bytes, bool]]:
    """The lines of a head, and whether each is of a field. (By RFC 5322 all are; real ones hold others now and then.)"""
    of_field = True
    for line in head.splitlines(keepends=True):
        if line.strip(b"\r\n"):
            if line[:1] not in (b" ", b"\t"):
                of_field = _FIELD.match(line) is not None
            yield line, of_field


def _fields_only(head: bytes) -> Iterator[bytes]:
    """A head without lines of no field, behind which the parser would look for no more fields."""
    return (line for line, of_field in _lines(head) if of_field)


class Head(NamedTuple):
    """A head's lines as they are written, sorted by what becomes of them when its content moves into a part."""

    kept: bytes
    moved: bytes
    """The fields about its content (`Content-…`)."""
    loose: bytes
    """From the first line on that is of no field: some readers take it for the end of the head."""


def sorted_head(head: bytes) -> Head:
    """Sort the lines of a head."""
    kept: list[bytes] = []
    moved: list[bytes] = []
    loose: list[bytes] = []
    into_moved = False
    for line, of_field in _lines(head):
        if line[:1] not in (b" ", b"\t"):
            into_moved = _OURS.match(line) is not None
        (moved if into_moved else kept if of_field and not loose else loose).append(line)
    return Head(b"".join(kept), b"".join(moved), b"".join(loose))
