"""What a reader sees of a message: one that shows pictures in the text, and one that doesn't."""

from __future__ import annotations

import base64
import re
from dataclasses import dataclass
from email.message import EmailMessage, Message
from email.parser import BytesParser
from email.policy import default

_CID = re.compile(r"""(src\s*=\s*["'])cid:([^"']+)(["'])""", re.IGNORECASE)


@dataclass(frozen=True)
class Attached:
    """A file that hangs on a message."""

    name: str
    media_type: str
    bytes: int


@dataclass(frozen=True)
class Seen:
    """A message, read."""

    message_id: str
    sender: str
    to: str
    subject: str
    page: str
    """HTML with its pictures in it; empty where it has none."""
    plain: str
    attached: tuple[Attached, ...]
    """Where pictures show: what hangs on it besides those in the text."""
    attached_plain: tuple[Attached, ...]
    """Where they don't: all that is marked as an attachment."""
    pictures_shown: int


def look_at(data: bytes) -> Seen:
    """Read a message as a mail program would; never raises for what somebody wrote."""
    parsed: EmailMessage = BytesParser(policy=default).parsebytes(data)
    leaves = [part for part in parsed.walk() if not part.is_multipart()]
    by_id = {_id_of(part): part for part in leaves if _id_of(part)}
    html = next((part for part in leaves if part.get_content_type() == "text/html" and not _is_attachment(part)), None)
    text = next((part for part in leaves if part.get_content_type() == "text/plain" and not _is_attachment(part)), None)
    shown: list[Message] = []

    def put_in(found: re.Match[str]) -> str:
        part = by_id.get(found[2])
        if part is None:
            return found[0]
        shown.append(part)
        data_uri = f"data:{part.get_content_type()};base64,{base64.b64encode(_bytes_of(part)).decode()}"
        return f"{found[1]}{data_uri}{found[3]}"

    page = "" if html is None else _CID.sub(put_in, _text_of(html))
    others = [part for part in leaves if part is not html and part is not text]
    return Seen(
        message_id=_field(parsed, "Message-ID"),
        sender=_field(parsed, "From"),
        to=_field(parsed, "To"),
        subject=_field(parsed, "Subject"),
        page=page,
        plain="" if text is None else _text_of(text),
        attached=tuple(_attached(part) for part in others if not any(part is each for each in shown)),
        attached_plain=tuple(_attached(part) for part in others if _is_attachment(part)),
        pictures_shown=len(shown),
    )


def _field(message: Message, name: str) -> str:
    try:
        return str(message.get(name, "")).strip()
    except (ValueError, LookupError, IndexError):
        return ""


def _id_of(part: Message) -> str:
    return _field(part, "Content-ID").strip("<>")


def _is_attachment(part: Message) -> bool:
    return _field(part, "Content-Disposition").lower().startswith("attachment")


def _bytes_of(part: Message) -> bytes:
    data = part.get_payload(decode=True)
    return data if isinstance(data, bytes) else b""


def _text_of(part: Message) -> str:
    charset = part.get_content_charset("utf-8")
    try:
        return _bytes_of(part).decode(charset, "replace")
    except LookupError:
        return _bytes_of(part).decode("utf-8", "replace")


def _attached(part: Message) -> Attached:
    return Attached(part.get_filename() or "no name", part.get_content_type(), len(_bytes_of(part)))
