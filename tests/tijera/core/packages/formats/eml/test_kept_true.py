"""Messages: what a head tells of a body stays true, words stay where readers show them, nothing comes twice.

What a reader shows is asked of the standard library's own parser.
"""

from __future__ import annotations

import base64
import email
import email.policy
import hashlib
import sys
import unittest
from email.message import Message

from tests.support.pictures import encoded, text_like
from tijera.core.errors import MessageMalformed
from tijera.core.packages.formats.eml.blocks import read_blocks
from tijera.core.packages.formats.eml.document import open_eml
from tijera.core.packages.formats.eml.mime import parse
from tijera.core.packages.formats.eml.writer import write
from tijera.core.packages.places.placed import Layout, PlacedPicture
from tijera.core.packages.places.spots import Stand
from tijera.core.units import Length

_PNG = encoded(text_like(60, 40, seed=4))
_OTHER = encoded(text_like(60, 40, seed=5))
_HTML = "<html><body><p>Low water at the outer quay</p><p>se\u00f1al</p></body></html>"


def _picture(spot: str, stand: Stand | None = None, data: bytes = _PNG) -> PlacedPicture:
    return PlacedPicture(
        spot, data, "png", Length.from_pixels(300), Length.from_pixels(200), "Tide", Layout(stand=stand), name="tide"
    )


def _message(body: bytes, *fields: str) -> bytes:
    head = ("From: watch@quillhaven.example", "Subject: Tide", "MIME-Version: 1.0", *fields)
    return "\r\n".join(head).encode() + b"\r\n\r\n" + body


def _shown(data: bytes) -> str:
    """All the words that a reader shows: those of the text parts."""
    parsed: Message = email.message_from_bytes(data, policy=email.policy.compat32)
    leaves = [part.get_payload(decode=True) for part in parsed.walk() if part.get_content_maintype() == "text"]
    return b"\n".join(leaf for leaf in leaves if isinstance(leaf, bytes)).decode("utf-8", "replace")


class MissingBlankLine(unittest.TestCase):
    """The line between head and body is not there."""

    def test_the_words_are_the_body_before_and_after(self) -> None:
        """With a blank line later on, with none at all, with a colon in the text, plain and HTML."""
        heads = b"From: watch@quillhaven.example\r\nSubject: Tide\r\n"
        html_head = heads + b"MIME-Version: 1.0\r\nContent-Type: text/html; charset=utf-8\r\n"
        cases = {
            "none at all": heads + b"Good morning, the bell rings at nine.\r\nSecond line.\r\n",
            "one later": heads + b"Good morning, the bell rings at nine.\r\n\r\nSecond line.\r\n",
            "a colon in it": heads + b"Good morning, the bell rings at nine.\r\nNote: Second line.\r\n",
            "html": html_head + b"<p>Good morning, the bell rings at nine.</p>\r\n\r\n<p>Second line.</p>\r\n",
        }
        for name, data in cases.items():
            for stand in (Stand.ATTACHED, Stand.IN_BODY):
                with self.subTest(name, stand=stand):
                    document = open_eml(data)
                    if stand is Stand.IN_BODY and not document.takes_pictures:
                        continue
                    texts = " ".join(block.text for block in document.outline.body.blocks)
                    spot = "attached" if stand is Stand.ATTACHED else "h.1"
                    written = write(document, [_picture(spot, stand)]).data
                    for words in ("Good morning, the bell rings at nine.", "Second line."):
                        self.assertIn(words, texts)
                        self.assertIn(words, _shown(data))
                        self.assertIn(words, _shown(written))


class ContentIds(unittest.TestCase):
    """RFC 2045 §7: unique in the message."""

    def _ids(self, data: bytes) -> list[str]:
        return [leaf.content_id for leaf in parse(data).leaves() if leaf.content_id]

    def test_the_same_picture_again_refers_to_the_first(self) -> None:
        """Placed into its own output: one part, two elements."""
        once = write(
            open_eml(_message(_HTML.encode(), "Content-Type: text/html; charset=utf-8")), [_picture("h.1")]
        ).data
        twice = write(open_eml(once), [_picture("h.3")]).data
        self.assertEqual(len(self._ids(twice)), 1)
        (cid,) = self._ids(twice)
        self.assertEqual(open_eml(twice).html_text[0].count(f"cid:{cid}"), 2)
        self.assertLess(len(twice) - len(once), len(_PNG))

    def test_an_id_that_means_something_else_is_not_taken(self) -> None:
        """Another picture has the very id, or it stands where the HTML can't refer to it."""
        plain = _message(_HTML.encode(), "Content-Type: text/html; charset=utf-8")
        once = write(open_eml(plain), [_picture("h.1")]).data
        (cid,) = self._ids(once)
        begins = once.index(b"iVBOR")
        ends = once.index(b"\r\n--", begins)
        other = once[:begins] + b"\r\n".join(_lines(_OTHER)) + once[ends:]
        written = write(open_eml(other), [_picture("h.1")]).data
        ids = self._ids(written)
        self.assertEqual((len(ids), len(set(ids))), (2, 2))
        self.assertIn(cid, ids)


def _lines(data: bytes) -> list[bytes]:
    text = base64.b64encode(data)
    return [text[at : at + 76] for at in range(0, len(text), 76)]


class Charsets(unittest.TestCase):
    """A body in a charset that writes ASCII otherwise than ASCII."""

    def test_utf_16_is_put_into_or_only_attached_to(self) -> None:
        """In base64 it comes back letter by letter; where bytes can't be put between, the body takes no pictures."""
        for charset in ("utf-16", "utf-16-le", "utf-16-be", "utf-32"):
            for encoding in ("base64", "8bit"):
                with self.subTest(charset, encoding=encoding):
                    body = _HTML.encode(charset)
                    if encoding == "base64":
                        body = base64.encodebytes(body).replace(b"\n", b"\r\n")
                    fields = (f"Content-Type: text/html; charset={charset}", f"Content-Transfer-Encoding: {encoding}")
                    document = open_eml(_message(body, *fields))
                    self.assertEqual(document.takes_pictures, encoding == "base64")
                    if document.takes_pictures:
                        written = write(document, [_picture("h.1")]).data
                        parsed = email.message_from_bytes(written, policy=email.policy.default)
                        (html,) = [part for part in parsed.walk() if part.get_content_type() == "text/html"]
                        text = html.get_content()
                        self.assertEqual(text.count("<img"), 1)
                        self.assertIn("se\u00f1al</p></body>", text)
                        self.assertLess(text.index("outer quay"), text.index("<img"))
                        self.assertEqual(open_eml(written).html_text[1], charset)


class ToldInTheHead(unittest.TestCase):
    """Content-Length and Content-MD5."""

    def test_the_digest_is_that_of_the_changed_body(self) -> None:
        """RFC 1864; one that was wrong before is left alone."""
        body = _HTML.encode()
        right = base64.b64encode(hashlib.md5(body).digest()).decode()
        for digest, stays in ((right, False), ("Q2hlY2sgSW50ZWdyaXR5IQ==", True)):
            data = _message(body, "Content-Type: text/html; charset=utf-8", f"Content-MD5: {digest}")
            written = write(open_eml(data), [_picture("h.1")]).data
            (html,) = [leaf for leaf in parse(written).leaves() if leaf.type == "text/html"]
            told = html.fields["Content-MD5"].strip()
            self.assertEqual(told == digest, stays)
            if not stays:
                self.assertEqual(told, base64.b64encode(hashlib.md5(html.body).digest()).decode())

    def test_the_digest_of_what_is_only_wrapped_stays(self) -> None:
        """It goes along with its body."""
        body = b"Low water.\r\n"
        right = base64.b64encode(hashlib.md5(body).digest()).decode()
        data = _message(body, "Content-Type: text/plain", f"Content-MD5: {right}")
        written = write(open_eml(data), [_picture("attached")]).data
        (text,) = [leaf for leaf in parse(written).leaves() if leaf.type == "text/plain"]
        self.assertEqual((text.fields["Content-MD5"], text.body.strip()), (right, body.strip()))

    def test_the_length_is_that_of_the_whole_body(self) -> None:
        """It stays in the message's own head."""
        for content, spot in (("text/html; charset=utf-8", "h.1"), ("text/plain", "attached")):
            body = _HTML.encode()
            data = _message(body, f"Content-Type: {content}", f"Content-Length: {len(body)}")
            written = write(open_eml(data), [_picture(spot)]).data
            root = parse(written)
            self.assertEqual(int(root.fields["Content-Length"]), len(root.body))
            self.assertFalse(any("Content-Length" in leaf.fields for leaf in root.leaves()))

    def test_a_seal_of_a_mail_server_is_told(self) -> None:
        """DKIM signs the body; nothing can keep it true."""
        self.assertFalse(open_eml(_message(b"x")).is_sealed)
        self.assertTrue(open_eml(_message(b"x", "DKIM-Signature: v=1; d=quillhaven.example; b=abc")).is_sealed)


class Deep(unittest.TestCase):
    """HTML that is nested without end."""

    def test_each_element_costs_the_same_and_too_deep_is_refused(self) -> None:
        """Counted in calls, not in seconds: eight times as many elements take eight times as many."""

        def calls(count: int) -> int:
            text = "".join(f"<div><b>w{number}</b>" for number in range(count)) + "</div>" * count
            seen = 0

            def count_one(_frame: object, _event: str, _argument: object) -> None:
                nonlocal seen
                seen += 1

            sys.setprofile(count_one)
            try:
                read_blocks(text)
            finally:
                sys.setprofile(None)
            return seen

        self.assertLess(calls(2_400), 9 * calls(300))
        for name in ("div", "b", "p><div"):
            with self.subTest(name), self.assertRaises(MessageMalformed):
                open_eml(_message(b"<" + f"{name}><".encode() * 32_000 + b"p>x", "Content-Type: text/html"))
