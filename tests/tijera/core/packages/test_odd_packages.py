"""Odd and hostile packages, each in every format that is a package: kept whole, or refused with the reason."""

from __future__ import annotations

import io
import unittest
import zipfile
from collections.abc import Callable
from typing import IO

from tests.support.docx import Docx, members, paragraph
from tests.support.ods import Ods, row
from tests.support.odt import Odt, p
from tests.support.pictures import encoded, text_like
from tests.support.xlsx import Tab, Xlsx, cells, relationships_part
from tijera.core.errors import InputRefused, PackageEncrypted, PackageTruncated
from tijera.core.packages.formats.xlsx.names import TRANSITIONAL
from tijera.core.packages.places.format import Document, View
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.packages.registry import as_text, format_of, open_document, report_pictures, write
from tijera.core.units import Length

_PNG = encoded(text_like(60, 40, seed=2))
_REL = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/image"
_MAKERS: dict[str, Callable[[], bytes]] = {
    "docx": lambda: Docx(paragraph("one") + paragraph("two")).build(),
    "odt": lambda: Odt(p("one") + p("two")).build(),
    "xlsx": lambda: Xlsx([Tab(rows=cells(("one", "two")))]).build(),
    "ods": lambda: Ods({"T": row("one", "two")}).build(),
}


class _Pipe(io.RawIOBase):
    """Something that can only be written to, from front to back: zipfile then adds data descriptors."""

    def __init__(self) -> None:
        self.data = bytearray()

    def writable(self) -> bool:
        return True

    def write(self, data: object) -> int:
        chunk = bytes(data)  # type: ignore[call-overload]
        self.data += chunk
        return len(chunk)


def _again(data: bytes, target: IO[bytes], *, zip64: bool = False) -> None:
    """The same members written anew, without going back, or with sizes of 64 bits."""
    with zipfile.ZipFile(io.BytesIO(data)) as source, zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as out:
        for name in source.namelist():
            info = zipfile.ZipInfo(name)
            info.compress_type = zipfile.ZIP_DEFLATED
            with out.open(info, "w", force_zip64=zip64) as member:
                member.write(source.read(name))


def _placed(document: Document) -> bytes:
    spot = next(iter(document.spots()))
    return write(document, [PlacedPicture(spot.id, _PNG, "png", Length.from_mm(20), Length.from_mm(13), "x")]).data


class EveryFormat(unittest.TestCase):
    """The same oddities in each of them."""

    def test_zip64_and_data_descriptors_are_kept_whole(self) -> None:
        """What was written as a stream, or with wide sizes, opens and is written like any other."""
        for name, make in _MAKERS.items():
            pipe, wide = _Pipe(), io.BytesIO()
            _again(make(), pipe)  # type: ignore[arg-type]
            _again(make(), wide, zip64=True)
            for how, data in (("stream", bytes(pipe.data)), ("zip64", wide.getvalue())):
                with self.subTest(f"{name}, {how}"):
                    written = members(_placed(open_document(data)))
                    self.assertEqual(set(members(make())) - set(written), set())

    def test_broken_ones_are_refused_with_the_reason(self) -> None:
        """Cut off, empty, with two members of one name, with a member that lies about its checksum."""
        for name, make in _MAKERS.items():
            data = make()
            double = io.BytesIO(data)
            with zipfile.ZipFile(double, "a") as package:
                first = package.namelist()[-1]
                package.writestr(first.upper(), b"again")
            at = data.index(b"one") if b"one" in data else len(data) // 2
            cases = {
                "cut off": data[:-40],
                "nothing": b"",
                "doubled": double.getvalue(),
                "changed": data[:at] + b"\x00\x01" + data[at + 2 :],
            }
            for how, bad in cases.items():
                with self.subTest(f"{name}, {how}"), self.assertRaises(InputRefused) as caught:
                    open_document(bad)
                self.assertNotIn("{", caught.exception.detail + caught.exception.remedy)

    def test_an_encrypted_one_says_so(self) -> None:
        """By the header of the old container that encrypted office files come in."""
        ole = b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + bytes(600) + "EncryptedPackage".encode("utf-16-le")
        with self.assertRaises(PackageEncrypted):
            open_document(ole)
        with self.assertRaises(PackageTruncated):
            open_document(_MAKERS["xlsx"]()[:200])

    def test_a_picture_at_a_web_address_is_never_fetched(self) -> None:
        """It is no member, weighs nothing, and stays as it is."""
        outside = (
            f'<Relationship Id="web" Type="{_REL}" Target="https://elsewhere.example/x.png" TargetMode="External"/>'
        )
        drawing = f'<d:wsDr xmlns:d="{TRANSITIONAL.xdr}"/>'.encode()
        related = (
            relationships_part(TRANSITIONAL, ()).replace("</Relationships>", f"{outside}</Relationships>").encode()
        )
        frame = '<draw:frame draw:name="w" svg:width="1cm" svg:height="1cm"><draw:image xlink:href="https://elsewhere.example/x.png"/></draw:frame>'
        tab = Tab(after='<drawing r:id="rId5"/>', relationships=(("rId5", "drawing", "../drawings/drawing1.xml"),))
        cases = (
            Docx(paragraph("x"), relationships=outside).build(),
            Odt(p(frame)).build(),
            Xlsx(
                [tab], extra={"xl/drawings/drawing1.xml": drawing, "xl/drawings/_rels/drawing1.xml.rels": related}
            ).build(),
            Ods({"T": f"<table:shapes>{frame}</table:shapes>{row('x')}"}).build(),
        )
        for data in cases:
            document = open_document(data)
            self.assertEqual(report_pictures(document), ())
            written = members(_placed(document))
            self.assertTrue(any(b"https://elsewhere.example/x.png" in each for each in written.values()))

    def test_three_thousand_pictures_are_shown_and_weighed(self) -> None:
        """One picture used so often is one member; placing one more goes on from the highest id."""
        drawn = "".join(
            f'<w:p><w:r><w:drawing><wp:inline xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing"><wp:extent cx="9525" cy="9525"/><wp:docPr id="{n}" name="p"/><a:graphic xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"><a:graphicData><pic:pic xmlns:pic="http://schemas.openxmlformats.org/drawingml/2006/picture"><pic:blipFill><a:blip xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" r:embed="i"/></pic:blipFill></pic:pic></a:graphicData></a:graphic></wp:inline></w:drawing></w:r></w:p>'
            for n in range(1, 3_001)
        )
        related = f'<Relationship Id="i" Type="{_REL}" Target="media/image1.png"/>'
        types = '<Default Extension="png" ContentType="image/png"/>'
        document = open_document(
            Docx(drawn, relationships=related, types=types, extra={"word/media/image1.png": _PNG}).build()
        )
        self.assertEqual([each.times_used for each in report_pictures(document)], [3_000])
        self.assertEqual(sum(len(block.pictures) for block in as_text(document).outline.body.blocks), 3_000)
        self.assertIn(b'id="3001"', members(_placed(document))["word/document.xml"])

    def test_a_renamed_file_is_told_by_its_content(self) -> None:
        """Whatever its name says."""
        for name, make in _MAKERS.items():
            found = format_of(open_document(make(), "something.pdf"))
            self.assertEqual(
                (found.extension, found.view), (name, View.GRID if name in ("xlsx", "ods") else View.GALLEY)
            )
