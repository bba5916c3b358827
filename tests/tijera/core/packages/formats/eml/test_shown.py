"""How a message arrives: safe to look at, and whole."""

from __future__ import annotations

import unittest

from lxml import html as lxml_html

from tests.support.pictures import encoded, text_like
from tijera.core.packages.formats.eml.document import open_eml
from tijera.core.packages.formats.eml.shown import arrival
from tijera.core.packages.formats.eml.writer import write
from tijera.core.packages.places.placed import Layout, PlacedPicture
from tijera.core.units import Length

_PICTURE = PlacedPicture(
    "h.1",
    encoded(text_like(60, 40, seed=4)),
    "png",
    Length.from_pixels(300),
    Length.from_pixels(200),
    "Low water",
    Layout(),
    name="Low water",
)


class Arriving(unittest.TestCase):
    """How it looks where pictures show and where they don't."""

    def test_others_html_is_made_safe(self) -> None:
        """No script, no address, no handler; pictures that come along are data, others are named."""
        nasty = '<p onclick="x()">hi<script>evil()</script><img src="https://elsewhere.example/x.png"><a href="javascript:x()">link</a><iframe src="x"></iframe><svg onload=x></svg><p style="background:url(//x)">styled</p><p style="color:red">red</p><form action="x"><input></form><meta http-equiv="refresh" content="0">'
        data = b"From: a@b.example\r\nMIME-Version: 1.0\r\nContent-Type: text/html\r\n\r\n" + nasty.encode()
        shown = arrival(open_eml(write(open_eml(data), [_PICTURE]).data))
        self.assertNotRegex(
            shown.html, r"script|onclick|onload|iframe|svg|https?:|url\(|javascript|<form|<input|<meta|href"
        )
        self.assertIn("data:image/png;base64,", shown.html)
        self.assertIn("a picture that lies elsewhere", shown.html)
        self.assertIn("color:red", shown.html)
        self.assertEqual([each.name for each in shown.listed_plain], ["Low water.png"])
        self.assertEqual(shown.listed, ())
        self.assertIn("styled", shown.plain)


class Words(unittest.TestCase):
    """No word of a message is lost where it is made safe."""

    def test_what_is_left_out_takes_no_words_along(self) -> None:
        """Void elements end by themselves (HTML Standard §13.1.2); forms, what is embedded and what is unknown keep their words."""
        for found, words in (
            ('<p>one <embed src="http://x.example/a"> two</p><p>three</p>', "one two three"),
            ("<p>one <svg><style>p{}</style><text>two</text><script>x</script></svg> three</p>", "one two three"),
            ("<p>one <MATH><mi>two</mi></MATH> three</p><p>four", "one two three four"),
            ("<svg><g><text>one <tspan>two</tspan></text><foreignObject><p>three</p></svg>four", "one two three four"),
            ("<svg><title><b>one</title></svg><text>two</text><metadata> three", "two three"),
            (
                '<form action="http://x.example">Name <input value="q"><button>Send</button> please</form>',
                "Name Send please",
            ),
            ("<object data=x>said instead</object> after", "said instead after"),
            ("<video src=x>no film</video> <audio>no sound</audio> after", "no film no sound after"),
            ("<marquee>moving</marquee> <blink>on and off</blink> <x-own>own</x-own>", "moving on and off own"),
            ("<table><tr><td>cell <td>other </table>tail", "cell other tail"),
            ("<textarea>typed</textarea> <select><option>chosen</select>", "typed chosen"),
            ("<p>open <b>never <i>closed", "open never closed"),
            ("<!--[if mso]>office<![endif]--><p>kept</p>", "kept"),
            ("<script>alert(1)</script><style>p{}</style><title>t</title><p>kept</p>", "kept"),
        ):
            message = f"From: a@quillhaven.example\r\nContent-Type: text/html; charset=utf-8\r\n\r\n{found}\r\n"
            safe = arrival(open_eml(message.encode())).html
            text = " ".join(str(each) for each in lxml_html.fromstring(safe).itertext())
            self.assertEqual(text.split(), words.split(), found)
            self.assertNotIn("x.example", safe)
