"""Addresses: what RFC 5321, 6531 and 5890 let stand in one, and nothing that could end a line or a command."""

import unittest

import idna
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.support.rounds import rounds
from tijera.core.errors import AddressUnreadable, NoAddress, TooManyAddresses
from tijera.core.mail.addresses import MOST_ADDRESSES, one_address, read_addresses


class Reading(unittest.TestCase):
    """As people write them."""

    def test_parted_by_commas_semicolons_and_lines_each_once(self) -> None:
        """In the order in which they stand, whatever case the second one is written in."""
        found = read_addresses(
            "Pilot <pilot@Harbour.example>; desk@harbour.example,\nDESK@harbour.example", "x@y.example"
        )
        self.assertEqual(
            [each.address for each in found], ["pilot@harbour.example", "desk@harbour.example", "x@y.example"]
        )
        self.assertEqual(found[0].name, "Pilot")

    def test_a_host_goes_by_its_encoding_and_letters_before_the_at_need_smtputf8(self) -> None:
        """RFC 5890's encoding as a library of its own has it; RFC 6531 is for what stands before the @."""
        host, local = read_addresses("desk@fähre.example", "kapitän@ferry.example")
        self.assertEqual(host.address, f"desk@{idna.encode('fähre').decode()}.example")
        self.assertFalse(host.needs_utf8)
        self.assertTrue(local.needs_utf8)

    def test_what_can_be_no_address_is_named(self) -> None:
        """With the reason; nothing of the others is sent either."""
        for text in (
            "nobody",
            "@host.example",
            "a@",
            "a b@host.example",
            "a@host..example",
            "a@-host.example",
            ".a@host.example",
            "a..b@host.example",
            f"{'a' * 65}@host.example",
            f"a@{'h' * 64}.example",
            "a@host.example\x00",
            "desk@host.example, nobody",
        ):
            with self.subTest(text), self.assertRaises(AddressUnreadable):
                read_addresses(text)

    def test_five_hundred_are_taken_and_far_more_are_not(self) -> None:
        """Each transaction holds a hundred of them."""
        self.assertEqual(len(read_addresses(", ".join(f"a{n}@host.example" for n in range(500)))), 500)
        with self.assertRaises(TooManyAddresses):
            read_addresses(", ".join(f"a{n}@host.example" for n in range(MOST_ADDRESSES + 1)))

    def test_the_sender_is_one(self) -> None:
        """Neither none nor two."""
        self.assertEqual(one_address("Watch <watch@host.example>").address, "watch@host.example")
        with self.assertRaises(NoAddress):
            one_address(" ")
        with self.assertRaises(AddressUnreadable):
            one_address("a@host.example, b@host.example")


class Hostile(unittest.TestCase):
    """Injection into headers and commands."""

    @settings(max_examples=rounds(200))
    @given(st.text(max_size=60))
    def test_whatever_is_typed_no_address_holds_a_line_end_a_space_or_a_bracket(self, text: str) -> None:
        """It is read or refused, and never anything else."""
        try:
            found = read_addresses(text)
        except AddressUnreadable:
            return
        for each in found:
            self.assertRegex(each.address, r"\A[^\s<>\x00-\x1f\x7f]+@[a-z0-9.-]+\Z")

    def test_a_line_end_begins_no_header(self) -> None:
        """Another field behind an address is no address."""
        for text in ("a@host.example\r\nBcc: b@host.example", "a@host.example\nRCPT TO:<b@host.example>"):
            with self.subTest(text), self.assertRaises(AddressUnreadable):
                read_addresses(text)
