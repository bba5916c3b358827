"""Files damaged at random, the same way for the same seed: values changed, elements doubled and lost, bytes turned."""

from __future__ import annotations

import io
import random
import re
import zipfile

_VALUE = re.compile(rb'="[^"]*"')
_EMPTY_TAG = re.compile(rb"<[^<>!?]*/>")
_LEAF = re.compile(rb"<([\w:]+)[^<>]*>[^<>]*</\1>")
_VALUES = (
    *(b"", b"-1", b"0", b"99999999999999999999", b"abc", b"1.5", b"NaN", b"1e400", b"100%", b"rId1", b"../../x"),
    *(b"http://x.example/a.png", b"\xe2\x82\xac", b"1cm", b"-5cm", b"true", b"XFD1048576", b"B3:F20", b"auto"),
)
_IN_MESSAGES = (
    *(b"\r\n", b"\n", b"--", b"\r\n\r\n", b"=?utf-8?b?////?=", b"=?x-none?q?a?=", b"charset=x-none;"),
    *(b'Content-Type: multipart/mixed; boundary=""\r\n', b"Content-Transfer-Encoding: uuencode\r\n"),
)


def damaged_package(data: bytes, seed: int) -> bytes:
    """A package with one or two of its XML members changed, one lost, or some bytes turned."""
    chance = random.Random(seed)
    if chance.random() < 0.15:
        return _turned(data, chance)
    with zipfile.ZipFile(io.BytesIO(data)) as source:
        members = {name: source.read(name) for name in source.namelist()}
    xml = [name for name in members if name.endswith((".xml", ".rels"))]
    for name in chance.sample(xml, min(len(xml), chance.randint(1, 3))):
        members[name] = _changed_xml(members[name], chance)
    if chance.random() < 0.1:
        del members[chance.choice(list(members))]
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as target:
        for name, content in members.items():
            target.writestr(name, content, zipfile.ZIP_STORED if name == "mimetype" else zipfile.ZIP_DEFLATED)
    return out.getvalue()


def damaged_message(data: bytes, seed: int) -> bytes:
    """A message with some bytes turned, lost, or put in between."""
    chance, out = random.Random(seed), bytearray(data)
    for _ in range(chance.randint(1, 8)):
        at = chance.randrange(len(out))
        match chance.randrange(4):
            case 0:
                out[at] = chance.randrange(256)
            case 1:
                del out[at : at + chance.randint(1, 200)]
            case _:
                out[at:at] = chance.choice(_IN_MESSAGES)
    return bytes(out)


def _turned(data: bytes, chance: random.Random) -> bytes:
    out = bytearray(data)
    for _ in range(chance.randint(1, 5)):
        out[chance.randrange(len(out))] = chance.randrange(256)
    return bytes(out if chance.random() < 0.7 else out[: chance.randrange(len(out))])


def _changed_xml(xml: bytes, chance: random.Random) -> bytes:
    out = xml
    for _ in range(chance.randint(1, 6)):
        pattern = chance.choice((_VALUE, _VALUE, _VALUE, _EMPTY_TAG, _LEAF))
        found = list(pattern.finditer(out))
        if not found:
            continue
        each = chance.choice(found)
        if pattern is _VALUE:
            put = b'="' + chance.choice(_VALUES) + b'"'
        else:
            put = b"" if chance.random() < 0.6 else each[0] * 2
        out = out[: each.start()] + put + out[each.end() :]
    return out
