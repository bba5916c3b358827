"""Messages by two other readers (the standard library's, and a parser written in Rust), and examples of the RFCs' own."""

from __future__ import annotations

import email
import email.policy
import re
import unittest
from dataclasses import dataclass
from email.message import EmailMessage
from typing import Any

import fast_mail_parser

from tests.support.pictures import encoded, text_like
from tijera.core.errors import AddressUnreadable
from tijera.core.mail.addresses import read_addresses
from tijera.core.mail.leaving import as_draft
from tijera.core.packages.formats.eml.compose import Letter, compose
from tijera.core.packages.formats.eml.mime import parse
from tijera.core.packages.formats.eml.shown import arrival
from tijera.core.packages.formats.eml.transfer import decode, text_of
from tijera.core.packages.places.placed import Layout, PlacedPicture
from tijera.core.packages.places.spots import Stand
from tijera.core.packages.registry import as_message, open_document, write
from tijera.core.units import Length

_PNG = encoded(text_like(90, 40, seed=3))
_OTHER = encoded(text_like(60, 50, seed=4))
_TEXT = "Good morning,\n\n.the board (ébb, 深) is wrong = again.\nFrom here on  \n\nSee https://quillhaven.example/?a=1&b=2."
_LETTERS = {
    "plain": Letter("watch@quillhaven.example", "help-desk@quillhaven.example", "", "Tide board", _TEXT),
    "other letters": Letter(
        "Wåtch <watch@quillhaven.example>",
        '"Desk, Help" <help-desk@quillhaven.example>',
        "crew@fähre.example",
        "Ébb " * 40,
        _TEXT,
    ),
    "many": Letter(
        "watch@quillhaven.example",
        ", ".join(f"Berth {n} <berth-{n}@quillhaven.example>" for n in range(500)),
        "",
        "x" * 900,
        "All.",
    ),
    "nearly nothing": Letter(to="help-desk@quillhaven.example"),
}


@dataclass(frozen=True)
class _Read:
    """What a reader makes of a message."""

    subject: str
    to: list[str]
    plain: str
    html: str
    files: list[tuple[str, bytes]]
    ids: dict[str, bytes]
    """What `cid:` addresses stand for (RFC 2392)."""


def _by_library(data: bytes) -> _Read:
    message = email.message_from_bytes(data, policy=email.policy.default)
    assert isinstance(message, EmailMessage)
    assert message.defects == [], message.defects
    parts = [part for part in message.walk() if not part.is_multipart() and part.get_content_maintype() == "image"]
    bodies = {kind: message.get_body((kind,)) for kind in ("plain", "html")}
    texts = {kind: body.get_content() if body is not None else "" for kind, body in bodies.items()}
    to = [each.addr_spec for each in message["To"].addresses] if message["To"] else []
    files = [(str(part.get_filename()), part.get_content()) for part in parts]
    ids = {str(part["Content-ID"]).strip("<>"): part.get_content() for part in parts if part["Content-ID"]}
    return _Read(str(message["Subject"] or ""), to, _unix(texts["plain"]), _unix(texts["html"]), files, ids)


def _by_rust(data: bytes) -> _Read:
    message: Any = fast_mail_parser.parse_email(data)
    pictures = [each for each in message.attachments if each.mimetype.startswith("image/")]
    to = re.findall(r"[^\s<>,\"]+@[^\s<>,\"]+", " ".join(message.headers.get("To", [])))
    files = [(each.filename, bytes(each.content)) for each in pictures]
    ids = {each.content_id.strip("<>"): bytes(each.content) for each in pictures if each.content_id}
    return _Read(message.subject, to, _unix("".join(message.text_plain)), _unix("".join(message.text_html)), files, ids)


def _subject(data: bytes) -> str:
    """As Tijera shows it."""
    return dict(as_message(open_document(data, "m.eml")).fields)["Subject"]


def _unix(text: str) -> str:
    return text.replace("\r\n", "\n").strip()


def _picture(spot: str, stand: Stand, data: bytes = _PNG) -> PlacedPicture:
    return PlacedPicture(
        spot, data, "png", Length.from_mm(40), Length.from_mm(20), "Tide", Layout(stand=stand), name="Tidé 1"
    )


class Written(unittest.TestCase):
    """What Tijera writes, as others read it."""

    def test_two_readers_agree_on_what_was_written(self) -> None:
        """Subject, recipients, both texts, and each picture to the byte under its name and its id."""
        for name, letter in _LETTERS.items():
            document = open_document(compose(letter), "message.eml")
            data = write(document, [_picture("h.0", Stand.BOTH), _picture("attached", Stand.ATTACHED, _OTHER)]).data
            for kind, message in (("sent", data), ("draft", as_draft(data))):
                with self.subTest(f"{name}, {kind}"):
                    one, other = _by_library(message), _by_rust(message)
                    self.assertEqual(one.subject, other.subject)
                    self.assertEqual(one.subject, " ".join(letter.subject.split()))
                    self.assertEqual([each.lower() for each in one.to], [each.lower() for each in other.to])
                    self.assertEqual(len(one.to), len(read_addresses(letter.to)))
                    self.assertEqual((one.plain, one.html), (other.plain, other.html))
                    self.assertEqual(sorted(one.files), sorted(other.files))
                    self.assertEqual({data for _, data in one.files}, {_PNG, _OTHER})
                    self.assertEqual(one.ids, other.ids)
                    shown = re.findall(r'src="cid:([^"]+)"', one.html)
                    self.assertEqual([one.ids[each] for each in shown], [_PNG])
                    for paragraph in letter.paragraphs:
                        self.assertIn(paragraph.rstrip(), one.plain)

    def test_lines_are_those_that_rfc_5322_allows(self) -> None:
        """§2.1.1: no more than 998 octets, ended by CRLF alone; §2.2.3: a head is folded at 78 where it can be."""
        for name, letter in _LETTERS.items():
            data = write(open_document(compose(letter), "message.eml"), [_picture("h.0", Stand.BOTH)]).data
            with self.subTest(name):
                self.assertEqual(data.replace(b"\r\n", b"").count(b"\n") + data.replace(b"\r\n", b"").count(b"\r"), 0)
                self.assertLessEqual(max(len(line) for line in data.split(b"\r\n")), 998)
                head = data[: data.index(b"\r\n\r\n")]
                for line in head.split(b"\r\n"):
                    self.assertTrue(len(line) <= 78 or b" " not in line.strip().partition(b": ")[2], line)
                self.assertTrue(head.isascii())


class Examples(unittest.TestCase):
    """As the RFCs have them; names of people are left out or made up."""

    def test_rfc_2045_quoted_printable(self) -> None:
        """§6.7, its example: a soft line break joins, and is not itself a line break."""
        head = b"Content-Type: text/plain\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\n"
        body = b"Now's the time =\r\nfor all folk to come=\r\n to the aid of their country."
        self.assertEqual(
            text_of(parse(head + body))[0], "Now's the time for all folk to come to the aid of their country."
        )

    def test_rfc_2045_base64_ignores_what_is_none(self) -> None:
        """§6.8: line breaks and other characters outside of the alphabet are ignored."""
        entity = parse(
            b"Content-Type: image/png\r\nContent-Transfer-Encoding: base64\r\n\r\nSGVs\r\n bG8s\r\n*IHF1\r\nYXk=\r\n"
        )
        self.assertEqual(decode(entity), b"Hello, quay")

    def test_rfc_2046_alternatives_are_read_from_the_last_on(self) -> None:
        """§5.1.4: the last one that can be shown is the best."""
        data = (
            b"From: a@quillhaven.example\r\nSubject: Formatted text mail\r\nMIME-Version: 1.0\r\n"
            b"Content-Type: multipart/alternative; boundary=boundary42\r\n\r\n--boundary42\r\n"
            b"Content-Type: text/plain; charset=us-ascii\r\n\r\n... plain text version of message goes here ...\r\n\r\n"
            b"--boundary42\r\nContent-Type: text/html\r\n\r\n<p>HTML version of same message goes here ...\r\n\r\n"
            b"--boundary42\r\nContent-Type: application/x-whatever\r\n\r\n... fanciest version of same message goes here ...\r\n\r\n"
            b"--boundary42--\r\n"
        )
        seen = arrival(as_message(open_document(data, "m.eml")))
        self.assertEqual(seen.plain.strip(), "... plain text version of message goes here ...")
        self.assertIn("HTML version of same message", seen.html)

    def test_rfc_2047_encoded_words(self) -> None:
        """§8, its table of how they are shown, and the subject before it."""
        shown = {
            "=?ISO-8859-1?Q?a?=": "a",
            "=?ISO-8859-1?Q?a?= b": "a b",
            "=?ISO-8859-1?Q?a?= =?ISO-8859-1?Q?b?=": "ab",
            "=?ISO-8859-1?Q?a?=  =?ISO-8859-1?Q?b?=": "ab",
            "=?ISO-8859-1?Q?a?=\r\n    =?ISO-8859-1?Q?b?=": "ab",
            "=?ISO-8859-1?Q?a_b?=": "a b",
            "=?ISO-8859-1?Q?a?= =?ISO-8859-2?Q?_b?=": "a b",
            "=?ISO-8859-1?B?SWYgeW91IGNhbiByZWFkIHRoaXMgeW8=?=\r\n =?ISO-8859-2?B?dSB1bmRlcnN0YW5kIHRoZSBleGFtcGxlLg==?=": (
                "If you can read this you understand the example."
            ),
        }
        for written, words in shown.items():
            data = f"From: a@quillhaven.example\r\nSubject: {written}\r\n\r\nx\r\n".encode("ascii")
            self.assertEqual(_subject(data), words, written)
            self.assertEqual(_by_library(data).subject, words, written)

    def test_rfc_2392_an_address_of_a_part(self) -> None:
        """§2: "cid:" and the id without its angle brackets, what must not stand in an address by its %-encoding.

        The ids are those of the RFC's example; that a % is %25 there is from memory.
        """
        for content_id, address in (
            ("foo4*foo1@bar.net", "foo4*foo1@bar.net"),
            ("foo4%foo1@bar.net", "foo4%25foo1@bar.net"),
        ):
            data = (
                b"From: foo1@bar.net\r\nSubject: A simple example\r\nMIME-Version: 1.0\r\n"
                b'Content-Type: multipart/related; boundary="boundary-example-1"; type=Text/HTML\r\n\r\n--boundary-example-1\r\n'
                b"Content-Type: Text/HTML; charset=US-ASCII\r\n\r\n<p>to the other body part <img src='cid:%b'>\r\n\r\n"
                b"--boundary-example-1\r\nContent-ID: <%b>\r\nContent-Type: image/png\r\nContent-Transfer-Encoding: base64\r\n\r\n"
                b"iVBORw0KGgo=\r\n--boundary-example-1--\r\n"
            ) % (address.encode(), content_id.encode())
            seen = arrival(as_message(open_document(data, "m.eml")))
            self.assertIn('src="data:image/png;base64,iVBORw0KGgo="', seen.html, address)

    def test_rfc_5322_addresses(self) -> None:
        """Appendix A.1 in its forms: quoted names with dots and quotation marks, angles alone, no name; A.1.3, a group, is refused."""
        cases = {
            '"Joe Q. Public" <john.q.public@example.com>': ["john.q.public@example.com"],
            "Heron <mary@x.test>, jdoe@example.org, Who? <one@y.test>": [
                "mary@x.test",
                "jdoe@example.org",
                "one@y.test",
            ],
            '<boss@nil.test>, "Giant; \\"Big\\" Box" <sysservices@example.net>': [
                "boss@nil.test",
                "sysservices@example.net",
            ],
        }
        for written, addresses in cases.items():
            self.assertEqual([each.address for each in read_addresses(written)], addresses, written)
        with self.assertRaises(AddressUnreadable):
            read_addresses("A Group:Heron <joe@where.test>,joe@where.test,Teal <jdoe@one.test>;")

    def test_rfc_6532_heads_in_utf_8(self) -> None:
        """§3: what stands there is read as it is, beside encoded words."""
        data = "From: Wåtch <wåtch@fähre.example>\r\nSubject: Ébb, 深 =?utf-8?Q?=C3=A9?=\r\n\r\nx\r\n".encode()
        self.assertEqual(_subject(data), "Ébb, 深 é")


if __name__ == "__main__":
    unittest.main()
