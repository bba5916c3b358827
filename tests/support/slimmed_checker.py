"""The tests' own look at a package whose pictures were slimmed: nothing else of it changed.

Written from what ECMA-376 Part 2 and ODF 1.2 Part 3 say of packages, with the standard library and Pillow: every other
member is the same record to the byte; where a picture became another kind, what names it says the same of it under its
new name; where one was cut, only the crop changed.
"""

from __future__ import annotations

import io
import posixpath
import re
import zipfile
from xml.etree import ElementTree as ET

import numpy as np
from PIL import Image

_KINDS = {".png": "PNG", ".jpeg": "JPEG", ".jpg": "JPEG"}
_CROP = re.compile(rb'<a:srcRect[^>]*/>|(?<=fo:clip=")rect\([^)]*\)')
_MOST_APART = 14


def changed_pictures(before: bytes, after: bytes) -> int:
    """How many pictures have other bytes. Raises `AssertionError` where anything else has."""
    with zipfile.ZipFile(io.BytesIO(before)) as one, zipfile.ZipFile(io.BytesIO(after)) as other:
        assert other.testzip() is None, "a sum is wrong"
        old, new = one.infolist(), other.infolist()
        assert len(old) == len(new), "members came or went"
        renamed = {
            was.filename: now.filename for was, now in zip(old, new, strict=True) if was.filename != now.filename
        }
        changed = 0
        for was, now in zip(old, new, strict=True):
            if _raw(before, was) == _raw(after, now):
                continue
            held = one.read(was), other.read(now)
            if posixpath.splitext(was.filename)[1].lower() in _KINDS and held[0] != held[1]:
                _check_picture(was.filename, now.filename, *held)
                changed += 1
            else:
                assert now.filename == was.filename, f"{was.filename} is called {now.filename}"
                _check_part(was.filename, *held, renamed)
        return changed


def _raw(data: bytes, info: zipfile.ZipInfo) -> bytes:
    """A local record: its header less where it stands, its name, its packed bytes."""
    return data[info.header_offset :][: 30 + len(info.orig_filename.encode()) + info.compress_size]


def _check_picture(was: str, now: str, old: bytes, new: bytes) -> None:
    assert posixpath.splitext(was)[0] == posixpath.splitext(now)[0], f"{was} is called {now}"
    one, other = (Image.open(io.BytesIO(held)) for held in (old, new))
    assert other.format == _KINDS[posixpath.splitext(now)[1].lower()], f"{now} is {other.format}"
    assert len(new) < len(old), f"{now} became heavier"
    assert other.width <= one.width and other.height <= one.height, f"{now} became larger"
    if abs(other.width / other.height - one.width / one.height) * min(other.size) > 2:
        return
    # The same picture still: its mean colours by sixteenths, whatever the encoder did.
    small = [
        np.asarray(image.convert("RGBA").convert("RGB").resize((4, 4), Image.Resampling.BOX)).astype(int)
        for image in (one, other)
    ]
    assert int(np.abs(small[0] - small[1]).max()) < _MOST_APART, f"{now} shows something else"


def _check_part(name: str, old: bytes, new: bytes, renamed: dict[str, str]) -> None:
    if name == "[Content_Types].xml":
        before, after = ({_facts(node) for node in ET.fromstring(each)} for each in (old, new))
        added = after - before
        assert before <= after and all("image/" in str(each) and "Extension" in str(each) for each in added), added
        return
    if name == "META-INF/manifest.xml":
        new = re.sub(rb'manifest:media-type="image/jpeg"', b'manifest:media-type="image/png"', new)
        old = re.sub(rb'manifest:media-type="image/jpeg"', b'manifest:media-type="image/png"', old)
    for was, now in renamed.items():
        new = new.replace(posixpath.basename(now).encode(), posixpath.basename(was).encode())
    assert _CROP.sub(b"", new) == _CROP.sub(b"", old), f"{name} says something else"


def _facts(node: ET.Element) -> tuple[tuple[str, str], ...]:
    return tuple(sorted(node.attrib.items()))
