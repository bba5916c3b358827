"""Pictures from outside: six formats in, everything else refused in words."""

import io
import struct
import unittest
import zlib

import numpy as np
from PIL import Image

from tests.support.pictures import encoded, photograph_like, text_like
from tijera.core.errors import InputEmpty, NotAPicture, PictureDamaged, PictureTooLarge
from tijera.core.imaging.decode import decode


def _chunk(kind: bytes, body: bytes) -> bytes:
    return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))


def png_of_size(width: int, height: int) -> bytes:
    """A well-formed head of a PNG of any size, with hardly any data."""
    head = struct.pack(">2I5B", width, height, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n"
        + _chunk(b"IHDR", head)
        + _chunk(b"IDAT", zlib.compress(b"\0" * 100))
        + _chunk(b"IEND", b"")
    )


class Formats(unittest.TestCase):
    """What comes in is what was shown."""

    def test_lossless_formats_come_in_exactly(self) -> None:
        """Encoded by another library, whatever the name says."""
        picture = text_like()
        for file_format, options in (("PNG", {}), ("BMP", {}), ("TIFF", {}), ("WEBP", {"lossless": True})):
            with self.subTest(file_format):
                decoded = decode(encoded(picture, file_format, **options), "wrong.gif")
                self.assertTrue(np.array_equal(decoded.pixels, picture.pixels))

    def test_a_large_one_comes_in_as_a_whole_whatever_its_mode(self) -> None:
        """Over a million pixels, which are converted in parts; by another library all at once."""
        picture = Image.fromarray(photograph_like(1_030, 2_050).pixels)
        see_through = picture.convert("RGBA")
        see_through.putalpha(picture.getchannel("R"))
        cases = {
            "RGB": (picture, "PNG", {}),
            "RGBA": (see_through, "PNG", {}),
            "grey": (picture.convert("L"), "PNG", {}),
            "grey, see-through": (see_through.convert("LA"), "PNG", {}),
            "palette": (picture.quantize(64), "PNG", {}),
            "palette, one colour of it see-through": (picture.quantize(64), "PNG", {"transparency": 5}),
            "CMYK": (picture.convert("CMYK"), "TIFF", {}),
        }
        for name, (image, file_format, options) in cases.items():
            with self.subTest(name):
                out = io.BytesIO()
                quickly = {"compress_level": 1} if file_format == "PNG" else {}
                image.save(out, file_format, **quickly, **options)
                with Image.open(out) as read:
                    is_whole = "A" not in read.mode and "transparency" not in read.info
                    expected = read.convert("RGB") if is_whole else read.convert("RGBA")
                self.assertTrue(np.array_equal(decode(out.getvalue()).pixels, np.asarray(expected)))

    def test_the_first_frame_of_a_gif_comes_in(self) -> None:
        """Moving pictures stand still."""
        frames = [Image.new("RGB", (31, 17), colour) for colour in ("#204060", "#ffffff")]
        out = io.BytesIO()
        frames[0].save(out, "GIF", save_all=True, append_images=frames[1:])
        self.assertEqual(decode(out.getvalue()).pixels[0, 0].tolist(), [0x20, 0x40, 0x60])

    def test_density_is_read_where_it_is_believable(self) -> None:
        """200 × 100 dpi: the horizontal one counts; 2 dpi is nobody's screen."""
        self.assertEqual(decode(encoded(text_like(), "PNG", dpi=(200, 100))).density_ppi, 200)
        self.assertIsNone(decode(encoded(text_like(), "PNG", dpi=(2, 2))).density_ppi)
        self.assertIsNone(decode(encoded(text_like())).density_ppi)

    def test_a_turned_photograph_comes_in_upright(self) -> None:
        """Orientation 6: width and height change places."""
        exif = Image.Exif()
        exif[0x0112] = 6
        self.assertEqual(str(decode(encoded(photograph_like(80, 30), "JPEG", exif=exif)).size), "30 × 80")

    def test_transparency_that_covers_nothing_is_dropped(self) -> None:
        """And real transparency is kept."""
        for cover, bands in ((255, 3), (128, 4)):
            out = io.BytesIO()
            Image.new("RGBA", (9, 5), (10, 20, 30, cover)).save(out, "PNG")
            self.assertEqual(decode(out.getvalue()).pixels.shape, (5, 9, bands))

    def test_other_modes_become_eight_bit_colour(self) -> None:
        """Sixteen-bit grey is scaled, not clipped; ink becomes colour."""
        out = io.BytesIO()
        Image.fromarray(np.full((4, 6), 0x8000, dtype=np.uint16)).save(out, "PNG")
        self.assertEqual(decode(out.getvalue()).pixels[0, 0].tolist(), [128, 128, 128])
        out = io.BytesIO()
        Image.new("CMYK", (6, 4), (0, 0, 0, 0)).save(out, "TIFF")
        self.assertEqual(decode(out.getvalue()).pixels[0, 0].tolist(), [255, 255, 255])


class Refusals(unittest.TestCase):
    """Each with its own code, before anything large is unpacked."""

    def test_bad_input_is_told_apart(self) -> None:
        """Empty, another kind of file, half a picture, a broken head, a picture too large."""
        whole = encoded(text_like(300, 200))
        cases: list[tuple[str, bytes, type[Exception]]] = [
            ("zero bytes", b"", InputEmpty),
            ("a text file", b"hello, harbour", NotAPicture),
            ("a drawing", b"<svg xmlns='http://www.w3.org/2000/svg'/>", NotAPicture),
            ("half a PNG", whole[: len(whole) // 2], PictureDamaged),
            ("only a signature", whole[:8], PictureDamaged),
            ("half a JPEG", encoded(photograph_like(300, 200), "JPEG")[:900], PictureDamaged),
            ("60,000 × 60,000", png_of_size(60_000, 60_000), PictureTooLarge),
            ("a BMP of nothing", b"BM" + b"\0" * 60, PictureDamaged),
        ]
        for name, data, kind in cases:
            with self.subTest(name), self.assertRaises(kind):
                decode(data, name)

    def test_eighty_million_pixels_are_the_most(self) -> None:
        """That many are looked at, and here found damaged; one row more is refused before anything is unpacked."""
        for height, kind in ((8_000, PictureDamaged), (8_001, PictureTooLarge)):
            with self.subTest(height), self.assertRaises(kind):
                decode(png_of_size(10_000, height), "wide.png")

    def test_a_picture_too_large_says_how_large(self) -> None:
        """The numbers stand in the message."""
        with self.assertRaises(PictureTooLarge) as caught:
            decode(png_of_size(60_000, 60_000), "poster.png")
        self.assertIn("60000 × 60000 px", str(caught.exception))
