"""Placing into a 50 MB .docx, .odt, .xlsx and .ods with 30 pictures, against copying its members raw.

Both read the file, and both write one. The control opens the package with the same guards (it would not copy anything
else either) and joins the raw records; outside the measured region: making the document, encoding the picture.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

import numpy as np

from benchmarks.measure import Result, compare, ratio
from tests.support.docx import Docx, paragraph, section
from tests.support.ods import Ods, row
from tests.support.odt import Odt, p
from tests.support.pictures import encoded, text_like
from tests.support.xlsx import Tab, Xlsx, cells, relationships_part
from tijera.core.packages.containers.zipped import open_package
from tijera.core.packages.formats.xlsx.names import TRANSITIONAL
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.packages.registry import open_document, write
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


def _xlsx() -> bytes:
    random = np.random.default_rng(1)
    names = TRANSITIONAL
    extra, entries, anchors = {}, [], ""
    for number in range(_PICTURES):
        extra[f"xl/media/photo{number}.jpeg"] = b"\xff\xd8\xff" + random.bytes(_BYTES // _PICTURES)
        entries.append((f"rId{number + 1}", "image", f"../media/photo{number}.jpeg"))
        corner = (
            f"<d:from><d:col>9</d:col><d:colOff>0</d:colOff><d:row>{number * 30}</d:row><d:rowOff>0</d:rowOff></d:from>"
        )
        picture = f'<d:pic><d:nvPicPr><d:cNvPr id="{number + 1}" name="P"/></d:nvPicPr><d:blipFill><a:blip r:embed="rId{number + 1}"/></d:blipFill></d:pic>'
        anchors += (
            f'<d:oneCellAnchor>{corner}<d:ext cx="2880000" cy="2160000"/>{picture}<d:clientData/></d:oneCellAnchor>'
        )
    drawing = f'<d:wsDr xmlns:d="{names.xdr}" xmlns:a="{names.a}" xmlns:r="{names.r}">{anchors}</d:wsDr>'
    extra["xl/drawings/drawing1.xml"] = drawing.encode()
    extra["xl/drawings/_rels/drawing1.xml.rels"] = relationships_part(names, tuple(entries)).encode()
    rows = cells(*(("Heron", f"Tide {number}", "1.2 m") for number in range(2_000)))
    tab = Tab(
        "T", rows, after='<drawing r:id="rId5"/>', relationships=(("rId5", "drawing", "../drawings/drawing1.xml"),)
    )
    return Xlsx([tab], extra=extra, types='<Default Extension="jpeg" ContentType="image/jpeg"/>').build()


def _ods() -> bytes:
    random = np.random.default_rng(1)
    extra, frames = {}, ""
    for number in range(_PICTURES):
        name = f"Pictures/photo{number}.jpg"
        extra[name] = b"\xff\xd8\xff" + random.bytes(_BYTES // _PICTURES)
        frames += f'<draw:frame draw:name="F{number}" svg:width="8cm" svg:height="6cm"><draw:image xlink:href="{name}"/></draw:frame>'
    rows = "".join(row("Heron", f"Tide {number}", "1.2 m") for number in range(2_000))
    return Ods({"T": f"<table:shapes>{frames}</table:shapes><table:table-column/>{rows}"}, extra=extra).build()


def files() -> list[tuple[str, bytes, str]]:
    """Each format's extension, file and a place in the middle of it."""
    return [
        ("docx", _docx(), "b.900"),
        ("odt", _odt(), "b.900"),
        ("xlsx", _xlsx(), "T!B900"),
        ("ods", _ods(), "T!B900"),
    ]


def run() -> list[Result]:
    """Measure all of them."""
    return [_measure(*each) for each in files()]


def _measure(extension: str, data: bytes, spot: str) -> Result:
    picture = PlacedPicture(spot, encoded(text_like(900, 560)), "png", Length.from_mm(150), Length.from_mm(90), "Tide")
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
