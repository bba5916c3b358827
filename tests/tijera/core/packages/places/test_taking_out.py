"""Pictures taken out of documents: named after what they are, as stored and as shown."""

import io
import unittest

import numpy as np
from PIL import Image

from tests.support.docx import Docx, section
from tests.support.ods import Ods, row
from tests.support.odt import Odt, p
from tests.support.pictures import encoded, photograph_like, text_like
from tests.tijera.core.packages.formats.docx.test_shown import _drawing, _run
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.decode import decode
from tijera.core.packages.places.spots import Crop
from tijera.core.packages.places.taking_out import PictureFile, pictures_of, stored_name
from tijera.core.packages.registry import open_document, report_pictures

_IMAGE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/image"
_PICTURE = text_like(200, 100)
_PNG = encoded(_PICTURE)
_WHOLE = _drawing("p1", 914_400, 457_200)


def _docx(body: str, data: bytes = _PNG, name: str = "a.png") -> bytes:
    relationship = f'<Relationship Id="p1" Type="{_IMAGE}" Target="media/{name}"/>'
    types = f'<Default Extension="{name.rsplit(".", 1)[-1]}" ContentType="image/png"/>'
    return Docx(body + section(), extra={f"word/media/{name}": data}, relationships=relationship, types=types).build()


def _taken(data: bytes, *, as_shown: bool = True) -> list[PictureFile]:
    document = open_document(data)
    return list(pictures_of(document.read, report_pictures(document), as_shown=as_shown))


class TakeOut(unittest.TestCase):
    """From a .docx and an .odt."""

    def test_as_stored_it_is_the_same_to_the_byte(self) -> None:
        """Also one that is cropped, and one that nobody here can decode."""
        cropped = _run(_drawing("p1", 914_400, 457_200, '<a:srcRect l="50000"/>'))
        self.assertEqual(_taken(_docx(cropped), as_shown=False), [PictureFile("a.png", _PNG, "word/media/a.png")])
        drawing = b"\xd7\xcd\xc6\x9a odd"
        (odd,) = _taken(_docx(cropped, drawing, "a.wmf"))
        self.assertEqual((odd.name, odd.data), ("a.wmf", drawing))

    def test_as_shown_it_holds_the_visible_pixels_only(self) -> None:
        """Rounded to pixels; shown in two ways it is two files; a photograph stays a JPEG."""
        half = _drawing("p1", 914_400, 457_200, '<a:srcRect l="25000" t="10000" r="25000" b="40000"/>')
        whole, cut = _taken(_docx(_run(_WHOLE) + _run(half)))
        self.assertEqual((whole.name, whole.data, cut.name), ("a.png", _PNG, "a 2.png"))
        pixels = np.asarray(Image.open(io.BytesIO(cut.data)).convert("RGB"))
        np.testing.assert_array_equal(pixels, _PICTURE.pixels[10:60, 50:150, :3])
        photograph = encoded(photograph_like(80, 60), "JPEG")
        (cut,) = _taken(_docx(_run(half), photograph, "a.jpeg"))
        self.assertEqual((cut.name, Image.open(io.BytesIO(cut.data)).size), ("a.jpg", (40, 30)))

    def test_an_outset_and_a_crop_of_all_are_no_crop(self) -> None:
        """Negative values show more than the picture; it is left alone."""
        for sides in ('l="-5000" b="-20000"', 'l="60000" r="60000"'):
            (report,) = report_pictures(
                open_document(_docx(_run(_drawing("p1", 9_000, 9_000, f"<a:srcRect {sides}/>"))))
            )
            self.assertEqual(report.crops[0].rectangle(Size(200, 100)), Rect(0, 0, 200, 100))
        self.assertEqual(Crop(left=0.25).visible_width, 0.75)

    def test_a_name_follows_the_content(self) -> None:
        """Whatever the member is called; its own ending where the content is not known."""
        self.assertEqual(stored_name("word/media/image1.bin", _PNG), "image1.png")
        self.assertEqual(stored_name("Pictures/10000", encoded(photograph_like(9, 9), "JPEG")), "10000.jpg")
        self.assertEqual(stored_name("word/media/chart.emf", b"\x01\0\0\0"), "chart.emf")
        frame = '<draw:frame svg:width="2cm" svg:height="1cm"><draw:image xlink:href="Pictures/7F"/></draw:frame>'
        taken = _taken(Odt(p(frame), extra={"Pictures/7F": _PNG}).build())
        self.assertEqual([(each.name, each.data) for each in taken], [("7F.png", _PNG)])


class Clipped(unittest.TestCase):
    """A crop that a frame's style makes (ODF 1.2 Part 1, fo:clip)."""

    def test_it_is_a_length_of_the_picture_at_its_natural_size(self) -> None:
        """200 × 100 pixels of 96 to the inch are 52.9 × 26.5 mm: a quarter from the left, a tenth from the top."""
        picture = encoded(text_like(200, 100, seed=6))
        clip = f"rect(2.646mm, 0cm, 0cm, {52.9167 / 4}mm)"
        style = f'<style:style style:name="c" style:family="graphic"><style:graphic-properties fo:clip="{clip}"/></style:style>'
        frame = '<draw:frame draw:style-name="c" svg:width="4cm" svg:height="2cm"><draw:image xlink:href="Pictures/a.png"/></draw:frame>'
        odt = Odt(p(frame), automatic=style, extra={"Pictures/a.png": picture}).build()
        ods = Ods(
            {"T": f"<table:shapes>{frame}</table:shapes>{row('x')}"}, automatic=style, extra={"Pictures/a.png": picture}
        ).build()
        for data in (odt, ods):
            (report,) = report_pictures(open_document(data))
            (crop,) = report.crops
            self.assertEqual(
                [round(each, 3) for each in (crop.left, crop.top, crop.right, crop.bottom)], [0.25, 0.1, 0, 0]
            )
            (taken,) = _taken(data)
            self.assertEqual(str(decode(taken.data, "x").size), "150 × 90")
