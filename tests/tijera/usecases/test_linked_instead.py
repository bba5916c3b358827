"""A message that is too heavy sends its heaviest pictures as links."""

import email
import email.policy
import re
import unittest
from typing import Any

from tests.tijera.usecases.test_sending import SendingCase
from tijera.core.errors import LinksOff, NotAMessage
from tijera.core.geometry import Rect
from tijera.core.packages.formats.eml.compose import Letter, compose
from tijera.core.packages.registry import new_document
from tijera.records import DestinationRecord
from tijera.usecases import fitting, letters, limits, placing
from tijera.usecases.linked_instead import link_instead
from tijera.usecases.linking import Links, LinkSetup


class LinkedInstead(SendingCase):
    """A message with two clippings, one of them heavy."""

    def setUp(self) -> None:
        """Links are on."""
        super().setUp()
        self.links = Links(self.workshop)
        self.links.set_up(LinkSetup("http://clips.quillhaven.example", 7_480))
        self.letter = letters.new_message(self.workshop)
        self.write(Letter(to="help-desk@quillhaven.example", text="The board is wrong again.\n\nSee row 4."))
        self.light = self.take(Rect(90, 130, 120, 60))
        self.heavy = self.take(Rect(0, 0, 1_900, 1_000))
        for clipping in (self.light, self.heavy, self.heavy):
            placing.place(self.workshop, self.letter.id, clipping.id, "h.1")

    def write(self, letter: Letter) -> None:
        """Say something in it."""
        letters.write_letter(self.workshop, self.letter.id, letter)

    def now(self) -> DestinationRecord:
        """The message as it stands."""
        return self.workshop.store.find(DestinationRecord, self.letter.id)

    def weight(self) -> int:
        """What it weighs when it is written."""
        return len(placing.write_copy(self.workshop, self.now()).written.data)

    def test_the_heaviest_goes_and_its_address_stands_below_the_text(self) -> None:
        """In the plain text as it is, in the HTML to be followed; the light one stays where it stood."""
        limits.set_limit(self.workshop, self.letter.id, 60_000)
        self.assertGreater(self.weight(), 60_000)
        (link,) = link_instead(self.workshop, self.links, self.letter.id)
        self.assertEqual(link.clipping, self.heavy.id)
        self.assertLessEqual(self.weight(), 60_000)
        self.assertEqual([each.clipping for each in self.workshop.store.placements(self.letter.id)], [self.light.id])
        data = placing.write_copy(self.workshop, self.now()).written.data
        message = email.message_from_bytes(data, policy=email.policy.default)
        plain, html = (message.get_body((kind,)).get_content().replace("\r\n", "\n") for kind in ("plain", "html"))  # type: ignore[union-attr]
        address = self.links.address_of(link)
        self.assertTrue(plain.rstrip().endswith(f"See row 4.\n\n{link.name}: {address}"), plain)
        self.assertIn(f'<a href="{address}">{address}</a>', html)

    def test_one_undo_brings_all_back(self) -> None:
        """The link itself stays: its address may have been told."""
        limits.set_limit(self.workshop, self.letter.id, 60_000)
        before = self.weight()
        link_instead(self.workshop, self.links, self.letter.id)
        self.workshop.store.undo()
        self.assertEqual((self.weight(), len(self.workshop.store.placements(self.letter.id))), (before, 3))
        self.assertEqual(len(self.links.every()), 1)

    def test_what_fits_or_is_named(self) -> None:
        """Nothing goes where nothing has to; what is named goes in any case."""
        limits.set_limit(self.workshop, self.letter.id, 20_000_000)
        self.assertEqual(link_instead(self.workshop, self.links, self.letter.id), [])
        named = self.workshop.store.placements(self.letter.id)[0]
        (link,) = link_instead(self.workshop, self.links, self.letter.id, [named.id])
        self.assertEqual(link.clipping, self.light.id)

    def test_it_is_offered_where_a_limit_can_t_be_met_and_links_are_on(self) -> None:
        """With a weight that is enough as it is written then, and not where nobody could open it."""
        error = self.unmet(9_000)
        (help_,) = [each for each in error if each["kind"] == "link"]
        limits.set_limit(self.workshop, self.letter.id, 9_000)
        link_instead(self.workshop, self.links, self.letter.id, help_["placements"])
        list(fitting.make_it_fit(self.workshop, self.now(), help_["bytes"]))
        self.assertLessEqual(self.weight(), help_["bytes"])
        self.workshop.store.undo()
        self.workshop.store.undo()
        self.links.set_up(None)
        self.assertNotIn("link", [each["kind"] for each in self.unmet(9_000)])
        with self.assertRaises(LinksOff):
            link_instead(self.workshop, self.links, self.letter.id)

    def unmet(self, limit: int) -> list[dict[str, Any]]:
        """What would help with a limit that can't be met."""
        from tijera.core.errors import LimitNotMet

        with self.assertRaises(LimitNotMet) as raised:
            list(fitting.make_it_fit(self.workshop, self.now(), limit))
        helps: list[dict[str, Any]] = raised.exception.values["helps"]  # type: ignore[assignment]
        return helps

    def test_a_document_has_no_links_instead(self) -> None:
        """Only a message that is written here has a text to put them into."""
        _, data = new_document("docx")
        with self.assertRaises(NotAMessage):
            link_instead(self.workshop, self.links, self.open(data, "Rules.docx").id)


class Addresses(unittest.TestCase):
    """Addresses of the web in a text."""

    def test_they_can_be_followed_and_what_ends_a_sentence_is_none_of_them(self) -> None:
        """And no other scheme is one."""
        cases: tuple[tuple[str, list[str]], ...] = (
            ("See http://a.example/x.", ["http://a.example/x"]),
            ("(https://a.example/x?y=1&z=2), or", ["https://a.example/x?y=1&z=2"]),
            ('"http://a.example"<b>', ["http://a.example"]),
            ("javascript:alert(1) ftp://a.example", []),
            ("http://a.example/'onmouseover='x", ["http://a.example/"]),
        )
        for text, expected in cases:
            message = email.message_from_bytes(compose(Letter(text=text)), policy=email.policy.default)
            html = message.get_body(("html",)).get_content()  # type: ignore[union-attr]
            found = [each.replace("&amp;", "&") for each in re.findall(r'<a href="([^"]*)">', html)]
            self.assertEqual(found, expected, text)


if __name__ == "__main__":
    unittest.main()
