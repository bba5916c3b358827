"""Messages: parts, places, placing without writing anything anew; hostile and broken ones."""

from __future__ import annotations

import base64
import email
import email.policy
import quopri
import unittest
from email.message import EmailMessage, Message

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.support.pictures import encoded, text_like
from tests.support.rounds import rounds
from tijera.core.clippings.legend import LegendLine
from tijera.core.errors import (
    InputEmpty,
    MessageMalformed,
    NotAPackage,
    PackageEncrypted,
    PackageSigned,
    SpotUnknown,
    StructureBroken,
)
from tijera.core.packages.containers.zipped import Guards
from tijera.core.packages.formats.eml.blocks import read_blocks
from tijera.core.packages.formats.eml.compose import Letter, compose
from tijera.core.packages.formats.eml.document import open_eml
from tijera.core.packages.formats.eml.mime import parse
from tijera.core.packages.formats.eml.pictures import report_pictures
from tijera.core.packages.formats.eml.save_check import check_message
from tijera.core.packages.formats.eml.writer import write
from tijera.core.packages.places.placed import Layout, PlacedPicture
from tijera.core.packages.places.spots import Stand
from tijera.core.packages.registry import open_document
from tijera.core.units import Length
from tijera.demo.notice import make_notice

_PNG = encoded(text_like(60, 40, seed=4))
_HTML = "<html><head><title>t</title></head><body>\r\n<p>Low water t\u00f6day</p>\r\n<div>second<br>third</div><ul><li>item</li></ul>\r\n</body></html>"


def _picture(spot: str, stand: Stand | None = None, data: bytes = _PNG, **layout: object) -> PlacedPicture:
    own = Layout(stand=stand, **layout)  # type: ignore[arg-type]
    return PlacedPicture(
        spot,
        data,
        "png",
        Length.from_pixels(300),
        Length.from_pixels(200),
        "A <b> \u00fc",
        own,
        name="Low/water: \u00fc",
    )


def _html(encoding: str, charset: str = "utf-8", newline: str = "\r\n") -> bytes:
    body = _HTML.encode(charset)
    if encoding == "quoted-printable":
        body = quopri.encodestring(body).replace(b"\r\n", b"\n").replace(b"\n", b"\r\n")
    elif encoding == "base64":
        body = base64.encodebytes(body).replace(b"\n", b"\r\n")
    head = f"From: a@b.example\r\nSubject: Hi\r\nMIME-Version: 1.0\r\nContent-Type: text/html; charset={charset}\r\nContent-Transfer-Encoding: {encoding}\r\n\r\n"
    return (head.encode() + body).replace(b"\r\n", newline.encode())


def _read(data: bytes) -> Message:
    return email.message_from_bytes(data, policy=email.policy.default)


def _parts(message: Message, kind: str) -> list[EmailMessage]:
    return [
        part for part in message.walk() if part.get_content_type().startswith(kind) and isinstance(part, EmailMessage)
    ]


class Bodies(unittest.TestCase):
    """Where a picture may stand in HTML."""

    def test_places_lie_where_a_paragraph_may_stand(self) -> None:
        """Behind paragraphs, divisions and whole lists and tables; not in a list, a row, a script or a comment."""
        html = "<body><h2>A</h2><p>one<p>two<table><tr><td>x</td><td><p>y</p></td></tr></table><ul><li>i</li><li>j</li></ul><!-- <p>no</p> --><script>'<p>no</p>'</script>tail</body>"
        start, blocks = read_blocks(html)
        self.assertEqual(html[:start], "<body>")
        said = [
            (each.kind, each.text, None if each.ends_at is None else html[each.ends_at : each.ends_at + 6])
            for each in blocks
        ]
        self.assertEqual(
            said,
            [
                ("heading", "A", "<p>one"),
                ("paragraph", "one", "<p>two"),
                ("paragraph", "two", "<table"),
                ("paragraph", "x", "</td><"),
                ("paragraph", "y", "</td><"),
                ("table", "", "<ul><l"),
                ("list", "i", None),
                ("list", "j", "<!-- <"),
                ("paragraph", "tail", "</body"),
            ],
        )
        self.assertNotIn("no", [each.text for each in blocks])

    def test_text_without_any_tag_is_one_block(self) -> None:
        """Entities are read, white space is one space."""
        _, blocks = read_blocks("a &amp;\n  b<br>c")
        self.assertEqual([each.text for each in blocks], ["a & b", "c"])


class Placing(unittest.TestCase):
    """In every transfer encoding, with every line end."""

    def test_the_one_element_goes_into_the_one_html_part(self) -> None:
        """In that part's own encoding; every other letter of it stays."""
        for encoding in ("7bit", "8bit", "quoted-printable", "base64"):
            for newline in ("\r\n", "\n"):
                charset = "iso-8859-1" if encoding == "8bit" else "utf-8"
                data = _html(encoding, charset, newline)
                document = open_eml(data)
                for spot in document.spots():
                    with self.subTest(encoding=encoding, newline=newline, spot=spot.id):
                        message = _read(write(document, [_picture(spot.id)]).data)
                        (image,) = _parts(message, "image/")
                        self.assertEqual(image.get_content(), _PNG)
                        before, after = (
                            _parts(_read(data), "text/html")[0].get_content(),
                            _parts(message, "text/html")[0].get_content(),
                        )
                        if spot.id == "attached":
                            self.assertEqual(before, after)
                            continue
                        self.assertIn(f'<img src="cid:{image["content-id"][1:-1]}"', after)
                        element = after[
                            after.index('<div style="margin') : after.index("</div>", after.index("<img")) + 6
                        ]
                        self.assertEqual("".join(after.replace(element, "").split()), "".join(before.split()))
                        self.assertTrue(
                            all(len(line) <= 998 for line in write(document, [_picture(spot.id)]).data.splitlines())
                        )

    def test_it_joins_what_is_related_already_and_wraps_what_is_not(self) -> None:
        """Fields about the content go inside, all others stay on top, in their order."""
        plain = b"--x\r\nContent-Type: text/plain\r\n\r\nhello\r\n"
        html = b"--x\r\nContent-Type: text/html\r\n\r\n<p>hello</p>\r\n"
        related = (
            b"From: a@b.example\r\nX-Own: 1\r\nContent-Type: multipart/related; boundary=r\r\nSubject: s\r\n\r\n--r\r\nContent-Type: multipart/alternative; boundary=x\r\n\r\n"
            + plain
            + html
            + b"--x--\r\n--r\r\nContent-Type: image/gif\r\nContent-ID: <old@x>\r\n\r\nGIF\r\n--r--\r\n"
        )
        message = _read(write(open_eml(related), [_picture("h.1"), _picture("h.1", data=_PNG + b"\0")]).data)
        self.assertEqual(
            [part.get_content_type() for part in message.walk()],
            [
                "multipart/related",
                "multipart/alternative",
                "text/plain",
                "text/html",
                "image/gif",
                "image/png",
                "image/png",
            ],
        )
        alone = (
            b"From: a@b.example\r\nX-Own: 1\r\nContent-Type: multipart/alternative; boundary=x\r\nSubject: s\r\n\r\n"
            + plain
            + html
            + b"--x--\r\n"
        )
        message = _read(write(open_eml(alone), [_picture("h.1", Stand.BOTH)]).data)
        self.assertEqual(
            [part.get_content_type() for part in message.walk()],
            [
                "multipart/mixed",
                "multipart/alternative",
                "text/plain",
                "multipart/related",
                "text/html",
                "image/png",
                "image/png",
            ],
        )
        self.assertEqual(message.keys(), ["From", "X-Own", "Subject", "MIME-Version", "Content-Type"])
        self.assertEqual(
            [part.get_content_disposition() for part in _parts(message, "image/")], ["inline", "attachment"]
        )
        self.assertEqual(len({part.get_filename() for part in _parts(message, "image/")}), 2)

    def test_plain_text_gets_an_attachment_only(self) -> None:
        """Not a letter of it is changed, with whatever line end."""
        for data in (
            b"From: a@b.example\nSubject: s\n\nline\xff one\n\nline two",
            b"Subject: s\r\nFrom: a@b.example\r\n\r\n",
        ):
            document = open_eml(data)
            self.assertEqual([spot.id for spot in document.spots()], ["attached"])
            written = write(document, [_picture("attached")]).data
            body = data.split(b"\n\n", 1)[1] if b"\n\n" in data else b""
            self.assertIn(body, written)
            (image,) = _parts(_read(written), "image/")
            self.assertEqual((image.get_content(), image.get_filename()), (_PNG, "Low water \u00fc.png"))

    def test_words_go_along(self) -> None:
        """Caption, legend and text beside, in one element; a legend keeps its numbers."""
        picture = _picture("h.1", caption="Bow & <stern>", beside="said", caption_above=True)
        legend = (LegendLine("1", "bell"), LegendLine("3", "rope"))
        own = PlacedPicture(**{**picture.__dict__, "legend": legend})
        html = _parts(_read(write(open_eml(_html("8bit")), [own]).data), "text/html")[0].get_content()
        self.assertIn("Bow &amp; &lt;stern&gt;", html)
        self.assertLess(html.index("stern&gt;"), html.index("<img"))
        self.assertIn('<li value="3">rope</li>', html)
        self.assertIn(">said</td>", html)

    def test_the_same_picture_twice_comes_once(self) -> None:
        """Shown in two places by one part."""
        written = write(open_eml(_html("8bit")), [_picture("h.1"), _picture("h.2")])
        self.assertEqual(len(_parts(_read(written.data), "image/")), 1)
        self.assertEqual(len(set(written.members)), 1)
        reports = report_pictures(open_eml(written.data))
        self.assertEqual([(each.times_used, str(each.pixels)) for each in reports], [(2, "60 \u00d7 40")])

    def test_writing_twice_gives_the_same_bytes_and_nothing_gives_the_original(self) -> None:
        """No clock, no chance."""
        document = open_eml(make_notice())
        wishes = [_picture("h.3", Stand.BOTH), _picture("attached")]
        self.assertEqual(write(document, wishes).data, write(document, wishes).data)
        self.assertIs(write(document, []).data, document.data)

    @settings(max_examples=rounds(40))
    @given(
        st.lists(
            st.tuples(st.integers(0, 4), st.sampled_from((Stand.IN_BODY, Stand.ATTACHED, Stand.BOTH))),
            min_size=1,
            max_size=5,
        ),
        st.text(max_size=30),
    )
    def test_whatever_is_wished_all_other_parts_stay(self, wishes: list[tuple[int, Stand]], name: str) -> None:
        """To the byte; pictures arrive as often as they should."""
        document = open_eml(make_notice())
        pictures = [
            PlacedPicture(
                f"h.{spot}",
                _PNG + bytes((n,)),
                "png",
                Length.from_pixels(30),
                Length.from_pixels(20),
                name,
                Layout(stand=stand),
                name=name,
            )
            for n, (spot, stand) in enumerate(wishes)
        ]
        root = parse(write(document, pictures).data)
        bodies = {leaf.body for leaf in root.leaves()}
        for leaf in document.root.leaves():
            if leaf.type != "text/html":
                self.assertIn(leaf.body, bodies)
        images = [leaf for leaf in root.leaves() if leaf.type == "image/png"]
        self.assertEqual(len(images), sum(2 if stand is Stand.BOTH else 1 for _, stand in wishes))


class NewOnes(unittest.TestCase):
    """Composed here."""

    def test_a_letter_says_the_same_twice(self) -> None:
        """As plain text and as HTML; fields are encoded as they must be; the standard library reads them back."""
        letter = Letter(
            "J\u00f6rg <j@quillhaven.example>",
            "a@b.example; B\u00e4r <c@d.example>",
            "",
            "Tide \u2013 " * 12,
            "One\n<two>\n\nThree ends in a space \n.",
            "Tue, 24 Nov 2026 08:00:00 +0000",
        )
        data = compose(letter, {1: ["the bell"]})
        message = _read(data)
        self.assertEqual(message["to"], "a@b.example, B\u00e4r <c@d.example>")
        self.assertEqual(message["from"], "J\u00f6rg <j@quillhaven.example>")
        self.assertEqual(" ".join(message["subject"].split()), letter.subject.strip())
        self.assertTrue(all(len(line) <= 78 for line in data.split(b"\r\n")))
        plain, html = (
            _parts(message, kind)[0].get_content().replace("\r\n", "\n") for kind in ("text/plain", "text/html")
        )
        self.assertEqual(plain.strip("\n"), "One\n<two>\n\n[Picture: the bell]\n\nThree ends in a space \n.")
        self.assertIn("<p>One<br>&lt;two&gt;</p>", html)
        self.assertEqual(
            [spot.after_text for spot in open_eml(data).spots()][1:3], ["One\n<two>", "Three ends in a space \n."]
        )
        self.assertEqual(compose(letter), compose(letter))

    def test_nothing_typed_can_add_a_field(self) -> None:
        """Line ends in a subject or an address are white space."""
        data = compose(Letter(to="a@b.example\r\nBcc: x@y.example", subject="s\r\nX-Evil: 1"))
        self.assertEqual(_read(data).keys(), ["To", "Subject", "MIME-Version", "Content-Type"])


class Refusing(unittest.TestCase):
    """Hostile, broken and secret messages."""

    def test_bad_input_has_its_error(self) -> None:
        """Empty, no message at all, signed, encrypted, nested without end."""
        nested = b"From: a@b.example\r\n" + b"".join(
            b"Content-Type: multipart/mixed; boundary=b%d\r\n\r\n--b%d\r\n" % (n, n) for n in range(60)
        )
        cases = (
            (InputEmpty, b""),
            (NotAPackage, b"just some words\n\nmore of them"),
            (NotAPackage, b"Shopping: milk\n\nbread"),
            (
                PackageSigned,
                b"From: a@b.example\r\nContent-Type: multipart/signed; boundary=x\r\n\r\n--x\r\n\r\nhi\r\n--x--\r\n",
            ),
            (
                PackageSigned,
                b"From: a@b.example\r\nContent-Type: application/pkcs7-mime; smime-type=signed-data\r\n\r\nhi",
            ),
            (
                PackageEncrypted,
                b"From: a@b.example\r\nContent-Type: application/pkcs7-mime; smime-type=enveloped-data\r\n\r\nhi",
            ),
            (
                PackageEncrypted,
                b"From: a@b.example\r\nContent-Type: multipart/encrypted; boundary=x\r\n\r\n--x\r\n\r\nhi\r\n--x--\r\n",
            ),
            (MessageMalformed, nested),
        )
        for error, data in cases:
            with self.subTest(error.__name__), self.assertRaises(error):
                open_document(data)
        signed = open_eml(cases[3][1], guards=Guards(refuse_signed=False))
        self.assertEqual(len(_parts(_read(write(signed, [_picture("attached")]).data), "image/")), 1)
        with self.assertRaises(SpotUnknown):
            open_eml(make_notice()).spot("h.99")

    def test_odd_ones_are_kept_whole(self) -> None:
        """No closing boundary, 8-bit lines, an unknown charset, boundaries inside words, preamble and epilogue."""
        odd = {
            "no closing boundary": make_notice().replace(b"--pier-24-11--\r\n", b""),
            "neither of them": make_notice().replace(b"--pier-24-11--\r\n", b"").replace(b"--pier-text--\r\n", b""),
            "8-bit lines": make_notice().replace(b"Good morning", b"G\xfcten Morgen \xff"),
            "unknown charset": make_notice().replace(b"utf-8", b"klingon"),
            "a boundary in a line": make_notice().replace(b"berth,boat", b"x --pier-24-11 y\r\n--pier-24-11x"),
            "preamble and epilogue": make_notice().replace(b"--pier-24-11\r\n", b"before\r\n--pier-24-11\r\n", 1)
            + b"behind",
            "white space behind": make_notice().replace(b"--pier-24-11\r\n", b"--pier-24-11 \t\r\n"),
            "bare line feeds": make_notice().replace(b"\r\n", b"\n"),
        }
        for name, data in odd.items():
            with self.subTest(name):
                document = open_eml(data)
                for spot in document.spots():
                    written = write(document, [_picture(spot.id)]).data
                    self.assertEqual(len(_parts(_read(written), "image/")), 1)
                    self.assertIn(b"west steps,Teal", written)
                    self.assertEqual(written.endswith(b"behind"), name == "preamble and epilogue")

    def test_a_line_of_no_field_in_a_head_hides_nothing(self) -> None:
        """Wherever it stands: the message is read past it, and a strict reader still finds what was put in."""
        for stand in (Stand.ATTACHED, Stand.IN_BODY):
            for place in (b"Subject", b"Content-Type", b"Content-Transfer"):
                with self.subTest(stand=stand, place=place):
                    data = _html("quoted-printable").replace(
                        place, b">From the watch on Monday\r\n folded\r\n" + place, 1
                    )
                    document = open_eml(data)
                    self.assertEqual(dict(document.fields)["Subject"], "Hi")
                    spot = "h.1" if stand is Stand.IN_BODY else "attached"
                    written = write(document, [_picture(spot, stand)]).data
                    self.assertEqual([part.get_content() for part in _parts(_read(written), "image/")], [_PNG])
                    self.assertIn(b">From the watch on Monday\r\n folded\r\n", written)
                    self.assertEqual(open_eml(written).html_text[0].count("second<br>third"), 1)

    def test_a_carriage_return_at_the_very_end_stays(self) -> None:
        """It is not taken for half of the line end before a delimiter."""
        data = b"From: a@b.example\nSubject: Hi\n\nThe bell rings at nine.\r"
        written = write(open_eml(data), [_picture("attached")]).data
        self.assertEqual(next(parse(written).leaves()).body, b"The bell rings at nine.\r")

    def test_a_body_of_40_mb_is_kept_whole(self) -> None:
        """Attached to, not read through: the rest is the same to the byte."""
        heavy = b"x" * 76 + b"\r\n"
        data = b"From: a@b.example\r\nMIME-Version: 1.0\r\nContent-Type: text/plain\r\n\r\n" + heavy * (
            40_000_000 // len(heavy)
        )
        written = write(open_eml(data), [_picture("attached")]).data
        self.assertIn(data[200:], written)
        self.assertLess(len(written) - len(data), 3_000)

    def test_the_check_finds_what_does_not_belong(self) -> None:
        """A changed part, a lost picture, a changed field."""
        document = open_eml(make_notice())
        good = write(document, [_picture("attached")]).data
        check_message(document, good, [], [_PNG], [])
        for bad in (
            good.replace(b"east steps,Heron", b"east steps,Teal"),
            good.replace(b"iVBOR", b"iVBOS"),
            good.replace(b"24 Nov 2026", b"25 Nov 2026"),
        ):
            with self.assertRaises(StructureBroken):
                check_message(document, bad, [], [_PNG], [])
