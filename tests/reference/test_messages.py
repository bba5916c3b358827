"""Messages by the standards' own text: base64 to the byte, the RFCs' own example of a multipart, sizes on the wire."""

from __future__ import annotations

import base64
import email
import email.policy
import math
import unittest

from tests.support.pictures import encoded, text_like
from tijera.core.packages.formats.eml.mime import parse
from tijera.core.packages.formats.eml.transfer import base64_lines
from tijera.core.packages.places.placed import Layout, PlacedPicture
from tijera.core.packages.places.spots import Stand
from tijera.core.packages.registry import open_document, report_pictures, write
from tijera.core.units import Length
from tijera.demo.notice import make_notice

_RFC_2046 = (
    b"From: Heron <heron@quillhaven.example>\r\nTo: Teal <teal@quillhaven.example>\r\nSubject: Sample message\r\nMIME-Version: 1.0\r\n"
    b'Content-type: multipart/mixed; boundary="simple boundary"\r\n\r\nThis is the preamble.  It is to be ignored, though it\r\n'
    b"is a handy place for composition agents to include an\r\nexplanatory note to non-MIME conformant readers.\r\n\r\n"
    b"--simple boundary\r\n\r\nThis is implicitly typed plain US-ASCII text.\r\nIt does NOT end with a linebreak.\r\n"
    b"--simple boundary\r\nContent-type: text/plain; charset=us-ascii\r\n\r\nThis is explicitly typed plain US-ASCII text.\r\n"
    b"It DOES end with a linebreak.\r\n\r\n--simple boundary--\r\n\r\nThis is the epilogue.  It is also to be ignored.\r\n"
)
"""RFC 2046 §5.1.1, its example; it goes between boats here."""


class Standards(unittest.TestCase):
    """As the RFCs write it."""

    def test_the_example_of_a_multipart(self) -> None:
        """The line end before a delimiter belongs to it: one part ends without a line break, the other with one."""
        first, second = parse(_RFC_2046).children
        self.assertEqual(
            first.body, b"This is implicitly typed plain US-ASCII text.\r\nIt does NOT end with a linebreak."
        )
        self.assertEqual(
            second.body, b"This is explicitly typed plain US-ASCII text.\r\nIt DOES end with a linebreak.\r\n"
        )
        self.assertEqual((first.type, second.charset), ("text/plain", "us-ascii"))
        written = write(open_document(_RFC_2046), [_picture("attached", Stand.ATTACHED)]).data
        self.assertIn(_RFC_2046[: _RFC_2046.index(b"\r\n--simple boundary--")], written)
        self.assertTrue(
            written.endswith(b"\r\n--simple boundary--\r\n\r\nThis is the epilogue.  It is also to be ignored.\r\n")
        )

    def test_base64_has_the_size_that_the_standard_gives_it(self) -> None:
        """4 × ceil(n / 3) characters in lines of 76 (RFC 2045 §6.8); beside the standard library's encoder."""
        for n in (*range(240), 56, 57, 58, 1_000, 99_999, 2_000_000):
            data = bytes(n)
            characters = 4 * math.ceil(n / 3)
            lines = math.ceil(characters / 76)
            ours = base64_lines(data)
            self.assertEqual(len(ours) + (2 if n else 0), characters + 2 * lines)
            self.assertEqual(ours.replace(b"\r\n", b"\n") + (b"\n" if n else b""), base64.encodebytes(data))

    def test_what_a_picture_weighs_is_what_the_message_grows_by(self) -> None:
        """To the byte, its delimiter and head counted in, where only it is added; no line is longer than RFC 5322 allows."""
        document = open_document(make_notice())
        written = write(document, [_picture("attached", Stand.ATTACHED)]).data
        (report,) = report_pictures(open_document(written))
        self.assertEqual(report.record_bytes, len(written) - len(make_notice()))
        self.assertEqual(
            report.bytes + 2, 4 * math.ceil(len(_PNG) / 3) + 2 * math.ceil(4 * math.ceil(len(_PNG) / 3) / 76)
        )
        both = write(document, [_picture("h.2", Stand.BOTH), _picture("h.0", Stand.IN_BODY)]).data
        self.assertTrue(all(len(line) <= 998 for line in both.split(b"\r\n")))
        self.assertEqual(email.message_from_bytes(both, policy=email.policy.default).defects, [])


_PNG = encoded(text_like(90, 40, seed=3))


def _picture(spot: str, stand: Stand) -> PlacedPicture:
    words = "What the tide window shows. " * 60
    return PlacedPicture(
        spot, _PNG, "png", Length.from_mm(40), Length.from_mm(20), words, Layout(stand=stand), name="Tide"
    )
