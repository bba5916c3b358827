"""Placing into a 50 MB .docx and .odt with 30 pictures, against copying its members raw.

Both read the file, and both write one. The control opens the package with the same guards (it would not copy anything
else either) and joins the raw records; outside the measured region: making the document, encoding the picture.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

import numpy as np

from benchmarks.measure import Result, compare, ratio
from tests.support.docx import Docx, paragraph, section
from tests.support.odt import Odt, p
from tests.support.pictures import encoded, text_like
from tijera.core.packages.formats import open_document, write
from tijera.core.packages.placed import PlacedPicture
from tijera.core.packages.zipped import open_package
from tijera.core.units import Length

_PICTURES, _BYTES = 30, 50_000_000


def _docx() -> bytes:
    random = np.random.default_rng(1)
    extra, relationships = {}, ""
    for number in range(_PICTURES):
        name = f"media/photo{number}.jpeg"
        extra[f"word/{name}"] = b"\xff\xd8\xff" + random.bytes(_BYTES // _PICTURES)
        kind = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/image"
        relationships += f'<Relationship Id="p{number}" Type="{kind}" Target="{name}"/>'
    body = "".join(paragraph(f"Rule {number}: nobody stands under a load.") for number in range(2_000)) + section()
    types = '<Default Extension="jpeg" ContentType="image/jpeg"/>'
    return Docx(body, extra=extra, relationships=relationships, types=types).build()


def _odt() -> bytes:
    random = np.random.default_rng(1)
    extra, entries, frames = {}, "", ""
    for number in range(_PICTURES):
        name = f"Pictures/photo{number}.jpg"
        extra[name] = b"\xff\xd8\xff" + random.bytes(_BYTES // _PICTURES)
        entries += f'<manifest:file-entry manifest:full-path="{name}" manifest:media-type="image/jpeg"/>'
        image = f'<draw:image xlink:href="{name}"/>'
        frames += p(f'<draw:frame draw:name="F{number}" svg:width="8cm" svg:height="6cm">{image}</draw:frame>')
    body = frames + "".join(p(f"Rule {number}: nobody stands under a load.") for number in range(2_000))
    return Odt(body, extra=extra, entries=entries).build()


def run() -> list[Result]:
    """Measure both."""
    return [_measure("docx", _docx()), _measure("odt", _odt())]


def _measure(extension: str, data: bytes) -> Result:
    picture = PlacedPicture(
        "b.900", encoded(text_like(900, 560)), "png", Length.from_mm(150), Length.from_mm(90), "Tide"
    )
    with tempfile.TemporaryDirectory() as folder:
        source, target = Path(folder) / f"in.{extension}", Path(folder) / f"out.{extension}"
        source.write_bytes(data)

        def ours() -> None:
            target.write_bytes(write(open_document(source.read_bytes(), source.name), [picture]).data)

        def control() -> None:
            package = open_package(source.read_bytes(), source.name)
            view = memoryview(package.data)
            records = [view[member.start : member.end] for member in package.members]
            end = package.members[-1].end
            target.write_bytes(b"".join([*records, view[end:]]))

        details = f"a file of {source.stat().st_size / 1e6:.1f} MB"
        return ratio(f"Placing into a 50 MB .{extension}", 1.5, *compare(ours, control, 7), details)
