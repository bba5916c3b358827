"""A package as text: members in order, XML canonical and indented, pictures by decoded facts.

What depends on a library's version (compressed sizes) is left out.
"""

from __future__ import annotations

import hashlib
import io
import re
import zipfile

from lxml import etree
from PIL import Image

_BASE64_LINE = 76
_BASE64 = re.compile(r"[A-Za-z0-9+/]+=*")
_ID = re.compile(r"[0-9a-f]{20}@")
_OURS = re.compile(r"=_[0-9a-f]{24}")


def dump(data: bytes, whole: tuple[str, ...]) -> str:
    """Dump a package; of the members in `whole` the full text, of the others a digest."""
    lines = []
    with zipfile.ZipFile(io.BytesIO(data)) as package:
        for info in package.infolist():
            content = package.read(info.filename)
            method = {0: "stored", 8: "deflated"}[info.compress_type]
            lines.append(f"== {info.filename}, {method}")
            if info.filename in whole:
                lines += _xml(content)
            elif info.filename.endswith((".png", ".jpeg")):
                with Image.open(io.BytesIO(content)) as image:
                    pixels = hashlib.sha256(image.convert("RGBA").tobytes()).hexdigest()[:16]
                    lines.append(f"{image.format} {image.width} × {image.height}, mode {image.mode}, pixels {pixels}")
            else:
                lines.append(f"sha256 {hashlib.sha256(content).hexdigest()[:16]}")
    return "\n".join(lines) + "\n"


def _xml(content: bytes) -> list[str]:
    parser = etree.XMLParser(remove_blank_text=False)
    root = etree.fromstring(content, parser)
    etree.indent(root)
    canonical: bytes = etree.tostring(root, method="c14n")
    return canonical.decode().splitlines()


def dump_message(data: bytes) -> str:
    """Dump a message: its lines as they are, stretches of base64 by how many they are, what hangs on bytes named so."""
    lines: list[str] = []
    coded = 0
    for line in data.decode().split("\r\n"):
        if len(line) == _BASE64_LINE and _BASE64.fullmatch(line):
            coded += 1
            continue
        if coded:
            lines.append(f"… {coded} lines of base64")
            coded = 0
        lines.append(_OURS.sub("=_…", _ID.sub("…@", line)))
    return "\n".join(lines) + "\n"
