"""What is read of the pictures of a file without decoding them."""

import io
import struct
import unittest

from PIL import Image

from tijera.core.geometry import Size
from tijera.core.packages.places.reports import pixel_size


class Sizes(unittest.TestCase):
    """Of pixels, and of what has none."""

    def test_a_drawing_has_no_pixels(self) -> None:
        """An EMF's header (MS-EMF §2.3.4.2: bounds, frame in hundredths of a millimetre, signature) is no size in pixels."""
        header = struct.pack("<2I8i4s", 1, 108, 0, 0, 80, 12, 0, 0, 2_138, 341, b" EMF") + bytes(64)
        with Image.open(io.BytesIO(header)) as drawing:
            self.assertEqual(drawing.format_description, "Windows Metafile")
        self.assertIsNone(pixel_size(header))

    def test_kinds_of_pixels_have_their_size(self) -> None:
        """Each that documents show, by its head alone."""
        for kind in ("PNG", "JPEG", "GIF", "BMP", "TIFF", "WEBP", "PCX", "TGA", "JPEG2000"):
            out = io.BytesIO()
            Image.new("RGB", (37, 23), (200, 180, 40)).save(out, kind)
            self.assertEqual(pixel_size(out.getvalue()), Size(37, 23), kind)
