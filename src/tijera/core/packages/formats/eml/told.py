"""What a head tells of a body: its length and its digest, kept true where the body changes.

Sources: RFC 1864 (Content-MD5: of the decoded body, its lines ended by CRLF), Content-Length as mailbox formats use it
(octets of the message's body; common practice).
"""

from __future__ import annotations

import base64
import hashlib
import re

from tijera.core.packages.formats.eml.mime import Entity, parse
from tijera.core.packages.formats.eml.transfer import decode

_LENGTH = re.compile(rb"(?im)^(content-length[ \t]*:[ \t]*)([0-9]+)")
_DIGEST = re.compile(rb"(?im)^(content-md5[ \t]*:\s*)([A-Za-z0-9+/=]+)")
_LINE_END = re.compile(rb"\r?\n")


def kept_true(before: Entity, changed: Entity | None, data: bytes) -> bytes:
    """A written message in which the length and the digest of what changed are those of what it holds now.

    `changed` is the part of `before` whose body was changed; None where parts were only added. What was wrong before is
    left alone.
    """
    if changed is not None and _digest_of(changed) == changed.fields.get("Content-MD5", "").strip():
        after = next(
            (each for each in parse(data).leaves() if each.fields.get("Content-MD5") == changed.fields["Content-MD5"]),
            None,
        )
        if after is not None:
            data = _replaced(data, after, _DIGEST, _digest_of(after).encode("ascii"))
    if str(before.fields.get("Content-Length", "")).strip() == str(len(before.body)):
        root = parse(data)
        data = _replaced(data, root, _LENGTH, str(len(root.body)).encode("ascii"))
    return data


def is_sealed(root: Entity) -> bool:
    """Whether a mail server's signature over the body (DKIM, RFC 6376) is in the head, which a change makes invalid."""
    return any(name.lower() in ("dkim-signature", "arc-message-signature") for name in root.fields)


def _digest_of(entity: Entity) -> str:
    body = _LINE_END.sub(b"\r\n", decode(entity)) if entity.type.startswith("text/") else decode(entity)
    return base64.b64encode(hashlib.md5(body, usedforsecurity=False).digest()).decode("ascii")


def _replaced(data: bytes, entity: Entity, pattern: re.Pattern[bytes], value: bytes) -> bytes:
    head = pattern.sub(lambda match: match[1] + value, entity.head, count=1)
    return data[: entity.start] + head + data[entity.body_start :]
