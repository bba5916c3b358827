"""A package as text: members in order, XML canonical and indented, pictures by decoded facts.

What depends on a library's version (compressed sizes) is left out.
"""

from __future__ import annotations

import hashlib
import io
import zipfile

from lxml import etree
from PIL import Image


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
