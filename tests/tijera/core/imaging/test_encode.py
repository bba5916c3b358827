"""Encodings: exact where they say so, and free of metadata."""

import io
import unittest
from typing import Any

import numpy as np
from PIL import Image

from tests.support.pictures import encoded, photograph_like, text_like
from tijera.core.budget.rendition import first_rendition
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_fewer_colours, encode_jpeg, encode_png, pack_tighter
from tijera.core.imaging.measure import Original
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.strip import shows_all, strip_jpeg


class Lossless(unittest.TestCase):
    """Every pixel comes back."""

    def test_screens_photographs_and_transparency_come_back(self) -> None:
        """By palette, by true colour, with alpha; read by another library."""
        few = Picture(np.array([[[9, 8, 7, 255], [1, 2, 3, 0], [9, 8, 7, 128]]] * 2, dtype=np.uint8))
        for name, picture in (("screen", text_like()), ("photograph", photograph_like()), ("alpha", few)):
            with self.subTest(name):
                data = encode_png(picture)
                mode = "RGBA" if picture.has_alpha else "RGB"
                self.assertTrue(np.array_equal(np.asarray(Image.open(io.BytesIO(data)).convert(mode)), picture.pixels))
                self.assertTrue(np.array_equal(decode(pack_tighter(data)).pixels, picture.pixels))

    def test_a_large_one_of_few_colours_comes_back(self) -> None:
        """Over a million pixels, in which colours turn up that no sample has shown: 256 are a palette, 257 are not."""
        pixels = np.zeros((1_100, 1_010, 3), dtype=np.uint8)
        pixels[400, :255, 0] = np.arange(1, 256)
        for more, colour_type in ((0, 3), (1, 2)):
            with self.subTest(more):
                pixels[-1, -3 : -3 + more] = [7, 8, 9]
                data = encode_png(Picture(pixels))
                self.assertEqual(data[25], colour_type)
                self.assertTrue(np.array_equal(np.asarray(Image.open(io.BytesIO(data)).convert("RGB")), pixels))

    def test_few_colours_are_written_as_palette(self) -> None:
        """Four bits a pixel are enough for up to sixteen colours."""
        pixels = np.zeros((40, 60, 3), dtype=np.uint8)
        pixels[5:20, 7:31] = [200, 30, 60]
        image = Image.open(io.BytesIO(encode_png(Picture(pixels))))
        self.assertEqual(image.mode, "P")
        self.assertLess(len(encode_png(Picture(pixels))), len(encoded(Picture(pixels))))

    def test_density_is_kept_and_nothing_else(self) -> None:
        """Chunks: head, palette or not, density, data, end."""
        for picture in (text_like(), photograph_like()):
            data = encode_png(picture, density_ppi=144)
            self.assertAlmostEqual(Image.open(io.BytesIO(data)).info["dpi"][0], 144, delta=0.1)
            kinds = {data[at + 4 : at + 8] for at in _chunks(data)}
            self.assertLessEqual(kinds, {b"IHDR", b"PLTE", b"pHYs", b"IDAT", b"IEND"})

    def test_a_density_that_nobody_gave_is_not_made_up(self) -> None:
        """Of a few colours and of many: no physical size in the file (PNG 11.3.4.3, JFIF 1.02 units 0)."""
        for picture in (text_like(40, 20), text_like(400, 260), photograph_like(), photograph_like(300, 200)):
            png, jpeg = encode_png(picture), encode_jpeg(picture, 80)
            self.assertNotIn(b"pHYs", png)
            self.assertTrue(np.array_equal(np.asarray(Image.open(io.BytesIO(png)).convert("RGB")), picture.pixels))
            self.assertNotIn("dpi", Image.open(io.BytesIO(jpeg)).info)

    def test_writing_twice_gives_the_same_bytes(self) -> None:
        """No clock, no chance."""
        self.assertEqual(encode_png(photograph_like()), encode_png(photograph_like()))


def _chunks(data: bytes) -> list[int]:
    at, found = 8, []
    while at < len(data):
        found.append(at)
        at += 12 + int.from_bytes(data[at : at + 4], "big")
    return found


class Lossy(unittest.TestCase):
    """Fewer colours and JPEG."""

    def test_fewer_colours_keep_the_words_better_than_fewer_pixels_would(self) -> None:
        """The finding that the ladder is built on, measured on a screen."""
        picture = text_like(240, 130)
        lost = Original(picture).loss(decode(encode_fewer_colours(picture, 16)))
        self.assertLess(lost.text, 0.02)
        self.assertLess(len(encode_fewer_colours(picture, 16)), len(encode_png(picture)))

    def test_jpeg_of_a_transparent_picture_stands_on_white(self) -> None:
        """Not on black, which covers dark text."""
        clear = Picture(np.zeros((16, 24, 4), dtype=np.uint8))
        self.assertGreater(int(decode(encode_jpeg(clear, 90)).pixels.min()), 250)


def _lowered(data: bytes, height: int) -> bytes:
    """The same JPEG with another height in its frame header (ITU-T T.81, B.2.2)."""
    at = next(found for marker in (b"\xff\xc0", b"\xff\xc2") if (found := data.find(marker)) > 0) + 5
    return data[:at] + height.to_bytes(2, "big") + data[at + 2 :]


class Stripping(unittest.TestCase):
    """A JPEG loses its metadata and not one pixel."""

    def test_place_time_and_device_go_and_pixels_stay(self) -> None:
        """EXIF, comment and what stands behind the end, for baseline and progressive files."""
        exif = Image.Exif()
        exif[0x010F] = "CameraOfNobody"
        for progressive in (False, True):
            source = encoded(
                photograph_like(), "JPEG", exif=exif, comment=b"secret", progressive=progressive, dpi=(144, 72)
            )
            stripped = strip_jpeg(source + b"TRAILER-secret")
            assert stripped is not None
            with self.subTest(progressive=progressive):
                self.assertNotIn(b"CameraOfNobody", stripped)
                self.assertNotIn(b"secret", stripped)
                self.assertTrue(np.array_equal(decode(source).pixels, decode(stripped).pixels))
                self.assertEqual(decode(stripped).density_ppi, 144)

    def test_rows_below_a_lowered_height_are_seen(self) -> None:
        """By whole blocks and within the last one; honest files of the same encoder pass, whatever their settings."""
        settings: list[dict[str, Any]] = [
            {},
            {"quality": 95},
            {"quality": 30},
            {"progressive": True},
            {"subsampling": 0},
            {"subsampling": 1},
            {"restart_marker_rows": 1},
        ]
        for picture in (text_like(203, 157), photograph_like(203, 157)):
            for options in settings:
                with self.subTest(options=options, photograph=picture.is_photograph):
                    whole = strip_jpeg(encoded(picture, "JPEG", **options))
                    assert whole is not None
                    self.assertTrue(shows_all(whole))
                    self.assertFalse(shows_all(_lowered(whole, 100)))
                    if not picture.is_photograph:
                        self.assertFalse(shows_all(_lowered(whole, 150)))

    def test_what_is_hidden_below_does_not_leave(self) -> None:
        """The first rendition of such a file is made anew from what is seen: other hidden rows, the same bytes."""
        one = text_like(200, 160)
        other = Picture(np.concatenate((one.pixels[:96], 255 - one.pixels[96:])))
        renditions = []
        for picture in (one, other):
            lowered = _lowered(encoded(picture, "JPEG", subsampling=0), 96)
            renditions.append(first_rendition(decode(lowered), lowered))
        self.assertEqual(renditions[0].data, renditions[1].data)
        self.assertEqual((renditions[0].size.height, renditions[0].extension), (96, "jpeg"))

    def test_grey_and_tiny_pictures_are_judged_like_others(self) -> None:
        """One plane instead of three; a picture that is smaller than a block."""
        grey = Image.fromarray(text_like(203, 157).pixels).convert("L")
        out = io.BytesIO()
        grey.save(out, "JPEG")
        self.assertTrue(shows_all(out.getvalue()))
        self.assertFalse(shows_all(_lowered(out.getvalue(), 100)))
        self.assertTrue(shows_all(encoded(text_like(5, 4), "JPEG")))

    def test_what_is_cut_from_a_jpeg_keeps_colours_as_fine_as_they_are(self) -> None:
        """Red and blue columns in turn stay apart: halved colour planes (T.81, A.1.1) would make them one purple."""
        pixels = photograph_like(300, 240).pixels.copy()
        pixels[40:80, 50:150:2] = (200, 40, 40)
        pixels[40:80, 51:150:2] = (40, 40, 200)
        whole = encoded(Picture(pixels), "JPEG", quality=95, subsampling=0)
        first = first_rendition(Picture(pixels), whole, is_whole=False)
        self.assertEqual((first.extension, first.loss), ("jpeg", 0.0))
        seen = decode(first.data).pixels[45:75, 60:140].astype(int)
        self.assertGreater(int((seen[:, ::2, 0] - seen[:, 1::2, 0]).min()), 100)

    def test_what_is_cut_from_a_jpeg_is_as_good_as_it_says(self) -> None:
        """Its quality is the encoder's own."""
        picture = photograph_like(60, 40)
        part = first_rendition(picture, encoded(photograph_like(80, 60), "JPEG"), is_whole=False)
        self.assertEqual(part.data, encode_jpeg(picture, part.quality, full_colour=True))

    def test_colours_that_were_not_turned_into_luma_stay(self) -> None:
        """APP14 says which transform was used (T.872, 6.5.3; number from memory); without it red and blue change places."""
        source = encoded(photograph_like(), "JPEG", keep_rgb=True)
        self.assertIn(b"Adobe", source)
        stripped = strip_jpeg(source)
        assert stripped is not None
        self.assertTrue(np.array_equal(decode(stripped).pixels, decode(source).pixels))

    def test_the_transform_is_known_by_its_flag_alone(self) -> None:
        """Where the planes are numbered 1, 2, 3 and not named R, G, B, only APP14 says that they are no luma."""
        data = bytearray(encoded(photograph_like(), "JPEG", keep_rgb=True))
        frame, scan = data.index(b"\xff\xc0"), data.index(b"\xff\xda")
        for plane in range(3):
            data[frame + 10 + 3 * plane] = data[scan + 5 + 2 * plane] = plane + 1
        stripped = strip_jpeg(bytes(data))
        assert stripped is not None
        self.assertTrue(np.array_equal(decode(stripped).pixels, decode(bytes(data)).pixels))
        without = bytes(data).replace(b"\xff\xee", b"\xff\xed")
        self.assertFalse(np.array_equal(decode(without).pixels, decode(bytes(data)).pixels))

    def test_a_thumbnail_in_the_head_goes(self) -> None:
        """JFIF 1.02: a small picture of what the file once showed may stand in APP0; the density beside it stays."""
        source = encoded(photograph_like(), "JPEG", dpi=(144, 144))
        self.assertEqual(source[2:4], b"\xff\xe0")
        end = 4 + int.from_bytes(source[4:6], "big")
        small = bytes(range(1, 13))
        head = b"\xff\xe0" + (16 + len(small)).to_bytes(2, "big") + source[6:18] + b"\x02\x02" + small
        stripped = strip_jpeg(source[:2] + head + source[end:])
        assert stripped is not None
        self.assertNotIn(small, stripped)
        self.assertEqual(decode(stripped).density_ppi, 144)
        self.assertTrue(np.array_equal(decode(stripped).pixels, decode(source).pixels))

    def test_the_second_head_with_a_thumbnail_goes(self) -> None:
        """JFIF 1.02, extension: a further APP0 named JFXX holds a small picture coded as JPEG."""
        source = encoded(photograph_like(), "JPEG")
        small = encoded(text_like(16, 12), "JPEG")
        extension = b"\xff\xe0" + (2 + 6 + len(small)).to_bytes(2, "big") + b"JFXX\0\x10" + small
        end = 4 + int.from_bytes(source[4:6], "big")
        stripped = strip_jpeg(source[:end] + extension + source[end:])
        assert stripped is not None
        self.assertNotIn(b"JFXX", stripped)
        self.assertTrue(np.array_equal(decode(stripped).pixels, decode(source).pixels))

    def test_every_application_segment_goes(self) -> None:
        """APP1 to APP15 (T.81, table B.1), and APP2 too where it holds no profile."""
        source = encoded(photograph_like(), "JPEG")
        for number in range(1, 16):
            segment = bytes((0xFF, 0xE0 + number)) + (2 + 16).to_bytes(2, "big") + b"FPXR\0note-secret"[:16]
            stripped = strip_jpeg(source[:2] + segment + source[2:])
            with self.subTest(number):
                assert stripped is not None
                self.assertNotIn(b"note", stripped)
                self.assertTrue(np.array_equal(decode(stripped).pixels, decode(source).pixels))

    def test_a_single_plane_has_blocks_of_eight(self) -> None:
        """Whatever sampling it states (T.81, A.2.2): four rows of text end within the first block."""
        grey = Image.fromarray(text_like(203, 157).pixels[40:44]).convert("L")
        out = io.BytesIO()
        grey.save(out, "JPEG", quality=90)
        data = bytearray(out.getvalue())
        frame = data.index(b"\xff\xc0")
        self.assertEqual(data[frame + 9], 1)
        data[frame + 11] = 0x22
        self.assertTrue(shows_all(bytes(data)))

    def test_ink_behind_the_stated_width_of_a_grey_picture_is_seen(self) -> None:
        """Two columns of the last block of eight are ink that nobody sees: such a file does not leave as it is."""
        grey = np.full((40, 16), 235, np.uint8)
        grey[::3, 14:] = 10
        out = io.BytesIO()
        Image.fromarray(grey).save(out, "JPEG", quality=95)
        data = bytearray(out.getvalue())
        frame = data.index(b"\xff\xc0")
        data[frame + 7 : frame + 9] = (14).to_bytes(2, "big")
        self.assertFalse(shows_all(bytes(data)))
        honest = io.BytesIO()
        Image.fromarray(grey[:, :14]).save(honest, "JPEG", quality=95)
        self.assertTrue(shows_all(honest.getvalue()))

    def test_tables_may_stand_before_the_frame(self) -> None:
        """The order of tables and frame is free (T.81, B.2.1); Huffman tables (DHT) are no frame."""
        data = encoded(text_like(203, 157), "JPEG")
        frame, table = data.index(b"\xff\xc0"), data.index(b"\xff\xc4")
        end = table + 2 + int.from_bytes(data[table + 2 : table + 4], "big")
        moved = data[:frame] + data[table:end] + data[frame:table] + data[end:]
        self.assertTrue(np.array_equal(decode(moved).pixels, decode(data).pixels))
        self.assertTrue(shows_all(moved))
        frame = moved.index(b"\xff\xc0")
        lowered = moved[: frame + 5] + (100).to_bytes(2, "big") + moved[frame + 7 :]
        self.assertFalse(shows_all(lowered))

    def test_long_segments_may_stand_before_the_frame(self) -> None:
        """Their length has two bytes (T.81, B.1.1.4)."""
        data = encoded(photograph_like(203, 157), "JPEG")
        note = b"\xff\xfe" + (2 + 700).to_bytes(2, "big") + bytes(700)
        self.assertTrue(shows_all(data[:2] + note + data[2:]))

    def test_what_has_no_known_frame_is_not_said_to_show_all(self) -> None:
        """Arithmetic coding (SOF9), a head alone, nothing: encoded anew or refused, never passed on."""
        data = bytearray(encoded(photograph_like(), "JPEG"))
        data[data.index(b"\xff\xc0") + 1] = 0xC9
        for each in (bytes(data), bytes(data[:20]), b""):
            self.assertFalse(shows_all(each))

    def test_what_is_not_understood_is_not_stripped(self) -> None:
        """An embedded profile decides the colours; a broken file is left to the decoder."""
        profile = encoded(photograph_like(), "JPEG", icc_profile=b"\0" * 200)
        self.assertIsNone(strip_jpeg(profile))
        self.assertIsNone(strip_jpeg(encoded(photograph_like(), "JPEG")[:100]))
