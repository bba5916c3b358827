"""Taking place, time and device data out of a JPEG without touching a pixel.

Segment markers: ITU-T T.81, table B.1. Kept are what decoding needs and the density (APP0 of JFIF 1.02) and the
transform flag (APP14, "Adobe"); thumbnails inside APP0, EXIF, XMP, profiles and comments go.
"""

from __future__ import annotations

import re

_START_OF_SCAN, _END_OF_IMAGE = 0xDA, 0xD9
_APP0, _APP2, _APP14, _COMMENT = 0xE0, 0xE2, 0xEE, 0xFE
_APPLICATION = range(0xE0, 0xF0)
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


def _kept(marker: int, segment: bytes) -> bytes:
    """What of a segment stays."""
    if marker == _APP0 and segment[4:9] == b"JFIF\0":
        return b"\xff\xe0\x00\x10" + segment[4:16] + b"\0\0"
    if marker == _APP14 and segment[4:9] == b"Adobe":
        return segment
    return b"" if marker in _APPLICATION or marker == _COMMENT else segment
