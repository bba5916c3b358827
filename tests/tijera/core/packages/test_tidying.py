"""Pictures kept twice or for nothing: read back by other libraries, and by the checker written from the standard."""

import io
import unittest
import zipfile

import docx
import openpyxl
from odf.draw import Image as OdfImage
from odf.opendocument import load

from tests.support.docx import members
from tests.support.opc_checker import complaints
from tests.support.pictured import without_pictures
from tests.support.pictures import encoded, photograph_like, text_like
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.packages.places.reports import Tidied
from tijera.core.packages.registry import format_of, open_document, write
from tijera.core.units import Length

_SCREEN, _OTHER = encoded(text_like(80, 50)), encoded(photograph_like(60, 40))

_PREVIEW = "Thumbnails/thumbnail.png"
"""What file managers show of an OpenDocument file: nothing refers to it, and it is no picture of the text."""


def _with_twins(extension: str) -> bytes:
    """A file in which one picture is kept under two names, another once, and a third is shown nowhere."""
    document = open_document(without_pictures(extension))
    spot = next(iter(document.spots())).id
    pictures = [_SCREEN, encoded(text_like(80, 50), "PNG", compress_level=1), _OTHER]
    placed = [PlacedPicture(spot, each, "png", Length.from_mm(30), Length.from_mm(20), "") for each in pictures]
    written = write(document, placed)
    twin, gone = written.members[1], "{}/left over.png".format(written.members[0].rpartition("/")[0])
    source, out = zipfile.ZipFile(io.BytesIO(written.data)), io.BytesIO()
    with zipfile.ZipFile(out, "w") as package:
        for each in source.infolist():
            content = source.read(each.filename)
            if each.filename == twin:
                content = _SCREEN
            if each.filename.endswith("manifest.xml"):
                for name in (gone, _PREVIEW):
                    entry = f'<manifest:file-entry manifest:full-path="{name}" manifest:media-type="image/png"/>'
                    content = content.replace(b"</manifest:manifest>", f"{entry}</manifest:manifest>".encode())
            package.writestr(each, content)
        package.writestr(gone, _OTHER + b"more")
        if extension.startswith("od"):
            package.writestr(_PREVIEW, _OTHER)
    return out.getvalue()


def _tidied(data: bytes) -> Tidied:
    document = open_document(data)
    tidy = format_of(document).tidy
    assert tidy is not None
    return tidy(document)


def _shown(data: bytes, extension: str) -> list[bytes]:
    """What another library finds where pictures are shown, in order."""
    if extension == "docx":
        paper = docx.Document(io.BytesIO(data))
        ids = paper.element.body.xpath("//a:blip/@r:embed")
        return [paper.part.related_parts[each].blob for each in ids]
    if extension == "xlsx":
        sheet = openpyxl.load_workbook(io.BytesIO(data)).active
        return [each._data() for each in sheet._images]
    package = zipfile.ZipFile(io.BytesIO(data))
    return [package.read(each.getAttribute("href")) for each in load(io.BytesIO(data)).getElementsByType(OdfImage)]


class Tidying(unittest.TestCase):
    """Every format that is a package."""

    def test_each_picture_is_kept_once_and_shows_where_it_did(self) -> None:
        """The same bytes everywhere; two members fewer, no other changed but what leads to them."""
        for extension in ("docx", "xlsx", "odt", "ods"):
            data = _with_twins(extension)
            with self.subTest(extension):
                self.assertEqual(len(_shown(data, extension)), 3)
                tidy = _tidied(data)
                self.assertEqual((len(tidy.merged), len(tidy.unused)), (1, 1))
                self.assertEqual(_shown(tidy.data, extension), _shown(data, extension))
                before, after = members(data), members(tidy.data)
                self.assertEqual(set(before) - set(after), {*tidy.merged, *tidy.unused})
                changed = {name for name in after if after[name] != before[name]}
                self.assertTrue(
                    all(name.endswith((".rels", "content.xml", "manifest.xml")) for name in changed), changed
                )
                if extension in ("docx", "xlsx"):
                    self.assertEqual(complaints(tidy.data), [])
                self.assertEqual(_tidied(tidy.data), Tidied(tidy.data, {}, ()))

    def test_what_is_meant_in_a_way_that_is_not_read_stays(self) -> None:
        """A name in another case (ECMA-376 Part 2, 6.2.2.3), a type of its own, a name in a part that is not read."""
        data = _with_twins("docx")
        target = b"media/image"
        upper = _changed(data, "word/_rels/document.xml.rels", lambda content: content.replace(target, b"media/IMAGE"))
        tidy = _tidied(upper)
        self.assertEqual((len(tidy.merged), len(tidy.unused)), (1, 1))
        self.assertEqual(len(members(upper)) - len(members(tidy.data)), 2)
        typed = _changed(
            data,
            "[Content_Types].xml",
            lambda content: content.replace(
                b"</Types>", b'<Override PartName="/word/media/left over.png" ContentType="image/png"/></Types>'
            ),
        )
        self.assertEqual(_tidied(typed).unused, ())
        named = io.BytesIO(_with_twins("odt"))
        with zipfile.ZipFile(named, "a") as package:
            package.writestr("Object 1/content.xml", "<a href='../Pictures/left over.png'/>")
        self.assertEqual(_tidied(named.getvalue()).unused, ())


def _changed(data: bytes, name: str, change: object) -> bytes:
    source, out = zipfile.ZipFile(io.BytesIO(data)), io.BytesIO()
    with zipfile.ZipFile(out, "w") as package:
        for each in source.infolist():
            content = source.read(each.filename)
            package.writestr(each, change(content) if each.filename == name else content)  # type: ignore[operator]
    return out.getvalue()
