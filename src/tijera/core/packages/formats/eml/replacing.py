"""Pictures of a message made lighter: the body of their parts is written anew, all else stays as it was, to the byte.

Sources: RFC 2045 §6.8 (base64), RFC 1864 (Content-MD5), RFC 2183 §2.7 (the size that a disposition states).
"""

from __future__ import annotations

import base64
import hashlib
import re
from collections.abc import Iterator, Mapping

from tijera.core.errors import StructureBroken
from tijera.core.packages.formats.eml.document import EmlDocument
from tijera.core.packages.formats.eml.mime import Entity, parse
from tijera.core.packages.formats.eml.told import kept_true
from tijera.core.packages.formats.eml.transfer import base64_lines, decode

_SIZE = re.compile(rb"(?i)(;\s*size\s*=\s*\"?)([0-9]+)")
_DIGEST = re.compile(rb"(?im)^(content-md5[ \t]*:\s*)([A-Za-z0-9+/=]+)")
_LENGTH = re.compile(rb"(?im)^(content-length[ \t]*:[ \t]*)([0-9]+)")


def can_replace(document: EmlDocument, member: str) -> bool:
    """Whether a picture's bytes can be written anew: those that travel in base64, as pictures do."""
    return document.members[member].encoding == "base64"


def attached(document: EmlDocument) -> Iterator[str]:
    """Attachments that travel in base64 and are no pictures: they may be documents with pictures of their own."""
    for each in document.attachments:
        if can_replace(document, each.member) and not each.type.startswith(("image/", "text/")):
            yield each.member


def with_pictures(
    document: EmlDocument,
    replaced: Mapping[str, bytes],
    _parts: Mapping[str, bytes],
    _renamed: Mapping[str, str],
) -> bytes:
    """A copy in which some of its parts have other bytes of the same kind. Raises `StructureBroken`."""
    leaves = {id(document.members[member]): data for member, data in replaced.items()}
    out, at = [], 0
    for leaf in document.root.leaves():
        picture = leaves.get(id(leaf))
        if picture is None:
            continue
        body = base64_lines(picture, document.newline) + _line_ends_behind(leaf.body)
        out += [document.data[at : leaf.start], _head(leaf, picture, body), body]
        at = leaf.end
    data = kept_true(document.root, None, b"".join([*out, document.data[at:]]))
    _check(document, data, leaves)
    return data


def _line_ends_behind(body: bytes) -> bytes:
    return body[len(body.rstrip(b"\r\n")) :]


def _head(leaf: Entity, picture: bytes, body: bytes) -> bytes:
    """The part's own head, with what it tells of the body kept true where it was."""
    was = decode(leaf)
    digests = [base64.b64encode(hashlib.md5(each, usedforsecurity=False).digest()).decode() for each in (was, picture)]
    head = leaf.head
    if str(leaf.fields.get("Content-MD5", "")).strip() == digests[0]:
        head = _DIGEST.sub(lambda match: match[1] + digests[1].encode(), head, count=1)
    if str(leaf.fields.get("Content-Length", "")).strip() == str(len(leaf.body)):
        head = _LENGTH.sub(lambda match: match[1] + str(len(body)).encode(), head, count=1)
    return _SIZE.sub(
        lambda match: match[1] + (str(len(picture)).encode() if int(match[2]) == len(was) else match[2]), head
    )


def _check(document: EmlDocument, data: bytes, leaves: Mapping[int, bytes]) -> None:
    before, after = list(document.root.leaves()), list(parse(data).leaves())
    if len(before) != len(after):
        raise StructureBroken(part="message", why="a part of it went or came")
    for old, new in zip(before, after, strict=True):
        picture = leaves.get(id(old))
        same = decode(new) == picture if picture is not None else (old.head, old.body) == (new.head, new.body)
        if not same:
            raise StructureBroken(part="message", why="a part of it changed that should not have")
