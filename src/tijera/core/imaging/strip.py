"""Taking place, time and device data out of a JPEG without touching a pixel.

Segment markers: ITU-T T.81, table B.1. Kept are what decoding needs and the density (APP0 of JFIF 1.02) and the
transform flag (APP14, "Adobe"); thumbnails inside APP0, EXIF, XMP, profiles and comments go.
"""

from __future__ import annotations

import io
import re

import numpy as np
from numpy.typing import NDArray
from PIL import Image

_START_OF_SCAN, _END_OF_IMAGE = 0xDA, 0xD9
_APP0, _APP2, _APP14, _COMMENT = 0xE0, 0xE2, 0xEE, 0xFE
_APPLICATION = range(0xE0, 0xF0)
_FRAMES = frozenset({0xC0, 0xC1, 0xC2, 0xC3})
"""Frame headers of Huffman-coded JPEGs that Pillow reads (table B.1)."""
_PADDING_MAY_DIFFER, _PADDING_STRETCH = 12, 16
"""Of 255: how far padding may be, on the mean over so many pixels of an edge, from the row or column that it repeats.
Measured on two pictures at six settings: honest padding differs by up to 10, rows of hidden text by 80 to 136."""
_FLAT = 10
_BLEEDING = 2
"""Pixels over which decoders smooth the colours of neighbouring blocks."""
_NEXT_MARKER = re.compile(rb"\xff(?![\x00\xd0-\xd7\xff])")
"""In scan data 0xFF is followed by a stuffed zero or a restart marker; anything else ends the scan (T.81, B.1.1.5)."""


def strip_jpeg(data: bytes) -> bytes | None:
    """Return the same picture without metadata; None when the structure is not the usual one.

    None too where an embedded profile decides the colours: such a picture has to be encoded anew, in sRGB.
    """
    out, at = bytearray(data[:2]), 2
    while at + 2 <= len(data) and data[at] == 0xFF:
        marker = data[at + 1]
        if marker == _END_OF_IMAGE:
            # What stands behind the end (a second picture, a note) goes.
            return bytes(out) + b"\xff\xd9"
        length = int.from_bytes(data[at + 2 : at + 4], "big")
        segment = data[at : at + 2 + length]
        if len(segment) != 2 + length or (marker == _APP2 and segment[4:15] == b"ICC_PROFILE"):
            return None
        out += _kept(marker, segment)
        at += 2 + length
        if marker == _START_OF_SCAN:
            following = _NEXT_MARKER.search(data, at)
            if following is None:
                return None
            out += data[at : following.start()]
            at = following.start()
    return None


def shows_all(data: bytes) -> bool:
    """Whether a JPEG holds no more than it shows: no rows below its stated height, no picture in its padding.

    It is decoded once more with a larger stated size. Beyond its data a decoder finds nothing and fills up with one
    colour; in the padding of the last blocks (T.81, A.2.4) an encoder repeats the edge or leaves one colour.
    """
    found = _frame_header(data)
    if found is None:
        return False
    at, height, width, block_high, block_wide = found
    high, wide = -(-height // block_high) * block_high, -(-width // block_wide) * block_wide
    below = 2 * block_high
    if high + below > 65_535:
        return False
    padding = 1 + high - height
    larger = data[:at] + (high + below).to_bytes(2, "big") + wide.to_bytes(2, "big") + data[at + 4 :]
    try:
        with Image.open(io.BytesIO(larger), formats=["JPEG"]) as image:
            # From the last row that is shown, and from the last column; the rest need not be looked at.
            below_it, beside_it = (
                np.asarray(image.crop(box).convert("RGB")).astype(np.int16)
                for box in ((0, height - 1, wide, high + below), (width - 1, 0, wide, height))
            )
    except (OSError, SyntaxError, ValueError):
        return False
    return (
        # The last bits of the data may still become one block.
        _is_flat(below_it[padding : padding + block_high, block_wide + _BLEEDING :])
        and _is_flat(below_it[padding + block_high + _BLEEDING :])
        and _is_padding(below_it[1:padding, :width], below_it[:1, :width])
        and _is_padding(beside_it[:, 1:].swapaxes(0, 1), beside_it[:, :1].swapaxes(0, 1))
    )


def _frame_header(data: bytes) -> tuple[int, int, int, int, int] | None:
    """Where the height stands, height, width, and the height and width of a block; None where there is no frame header."""
    at = 2
    while at + 9 < len(data) and data[at] == 0xFF:
        marker, length = data[at + 1], int.from_bytes(data[at + 2 : at + 4], "big")
        if marker in _FRAMES:
            height, width = int.from_bytes(data[at + 5 : at + 7], "big"), int.from_bytes(data[at + 7 : at + 9], "big")
            samplings = [data[at + 11 + 3 * each] for each in range(data[at + 9]) if at + 11 + 3 * each < len(data)]
            if len(samplings) <= 1:
                return at + 5, height, width, 8, 8
            return at + 5, height, width, 8 * max(s & 15 for s in samplings), 8 * max(s >> 4 for s in samplings)
        at += 2 + length
    return None


def _is_flat(rows: NDArray[np.int16]) -> bool:
    return rows.size == 0 or int(np.ptp(rows, axis=(0, 1)).max()) <= _FLAT


def _is_padding(rows: NDArray[np.int16], edge: NDArray[np.int16]) -> bool:
    """Whether rows repeat an edge, as far as coding lets them, or are of one colour."""
    if rows.size == 0 or _is_flat(rows):
        return True
    apart = np.abs(rows - edge).mean(axis=(0, 2))
    stretches = np.arange(0, apart.size, _PADDING_STRETCH)
    counts = np.diff(np.append(stretches, apart.size))
    return float((np.add.reduceat(apart, stretches) / counts).max()) <= _PADDING_MAY_DIFFER


def _kept(marker: int, segment: bytes) -> bytes:
    """What of a segment stays."""
    if marker == _APP0 and segment[4:9] == b"JFIF\0":
        return b"\xff\xe0\x00\x10" + segment[4:16] + b"\0\0"
    if marker == _APP14 and segment[4:9] == b"Adobe":
        return segment
    return b"" if marker in _APPLICATION or marker == _COMMENT else segment
