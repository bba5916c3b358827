"""Sending through SMTP to the postbox, whatever that does."""

from dataclasses import replace

from tests.tijera.usecases.test_sending import HELP, STRICT, SendingCase
from tijera.core.errors import SenderNotTaken, TakenTooHeavy
from tijera.core.mail.post import MailServer
from tijera.core.mail.queueing import PAUSES_S
from tijera.post.smtp import SmtpPost
from tijera.postbox.mailboxes import Arrived
from tijera.postbox.server import Conduct, Postbox
from tijera.records import DispatchRecord
from tijera.usecases import letters, looking, sending


class ByWire(SendingCase):
    """Through SMTP to the postbox, which judges with its own code."""

    def setUp(self) -> None:
        """The postbox listens."""
        super().setUp()
        self.postbox = Postbox(self.folder / "postbox", lambda: "2026-03-12T12:00:00")
        self.addCleanup(self.postbox.close)
        host, port = self.postbox.address()
        self.post = SmtpPost(MailServer(host, port, "none"))

    def send(self, to: str = HELP, *, clippings: int = 0) -> DispatchRecord:
        """Send a message and try it once."""
        record = sending.send(self.workshop, self.post, self.message(to, clippings=clippings).id)
        return sending.attempt(self.workshop, self.post, record.id)

    def arrived(self, name: str = "help-desk") -> list[Arrived]:
        """What lies in a mailbox."""
        return self.postbox.mailboxes.arrived(name)

    def test_it_arrives_to_the_byte_with_its_picture(self) -> None:
        """Where pictures show, and named where they don't."""
        record = self.send(clippings=1)
        [arrived] = self.arrived()
        self.assertEqual((record.state, arrived.data), ("sent", looking.kept_bytes(self.workshop, record.blob)))
        self.assertEqual((arrived.seen.pictures_shown, arrived.seen.message_id), (1, record.message_id))
        self.assertIn("[Picture:", arrived.seen.plain)

    def test_what_a_mailbox_does_not_take_is_said_before_it_leaves(self) -> None:
        """It is declared with the sender (RFC 1870): the strict one refuses what the help desk takes."""
        message = self.message(STRICT)
        letter = letters.letter_of(message)
        assert letter is not None
        heavy = letters.write_letter(self.workshop, message.id, replace(letter, text="Long. " * 60_000))
        with self.assertRaises(TakenTooHeavy) as refused:
            sending.send(self.workshop, self.post, heavy.id)
        self.assertIn("Pilot station, strict takes 500000 bytes", refused.exception.detail)
        letters.write_letter(self.workshop, message.id, replace(letter, to=HELP, text="Long. " * 60_000))
        record = sending.send(self.workshop, self.post, message.id)
        self.assertEqual(sending.attempt(self.workshop, self.post, record.id).state, "sent")

    def test_each_conduct_is_told_as_what_it_is(self) -> None:
        """And once it behaves again, everything arrives, once, but for what it had kept without a word."""
        expected = {
            Conduct.AWAY: ("waiting", "away", 0),
            Conduct.BUSY: ("waiting", "later", 0),
            Conduct.BREAKING_OFF: ("waiting", "away", 0),
            Conduct.SILENT: ("unclear", "unclear", 1),
        }
        for conduct, (state, kind, there) in expected.items():
            with self.subTest(conduct):
                before = len(self.arrived("harbour-office"))
                message = self.message("harbour-office@quillhaven.example")
                letter = letters.letter_of(message)
                assert letter is not None
                # More than the line holds by itself, so that it breaks while some of it has not left.
                text = "Long. " * (650_000 if conduct is Conduct.BREAKING_OFF else 1)
                letters.write_letter(self.workshop, message.id, replace(letter, text=text))
                record = sending.send(self.workshop, self.post, message.id)
                self.postbox.conduct = conduct
                record = sending.attempt(self.workshop, self.post, record.id)
                self.assertEqual((record.state, record.tries[-1].kind), (state, kind))
                self.assertEqual(len(self.arrived("harbour-office")) - before, there)
                self.postbox.conduct = Conduct.USUAL
                self.later(PAUSES_S[0])
                record = sending.attempt(self.workshop, self.post, record.id)
                self.assertEqual(record.state, "sent")
                copies = [each for each in self.arrived("harbour-office") if each.seen.message_id == record.message_id]
                self.assertEqual([each.copy_of is not None for each in copies], [True] * there + [False])

    def test_refused_after_all_of_it_was_sent(self) -> None:
        """By a server that looks at the weight only then."""
        record = sending.send(self.workshop, self.post, self.message(STRICT).id)
        heavy = self.workshop.store.blobs.put(looking.kept_bytes(self.workshop, record.blob) + b"x\r\n" * 200_000)
        # It says that it is light, and is not.
        self.workshop.store.set_aside(DispatchRecord, record.id, lambda before: replace(before, blob=heavy))
        after = sending.attempt(self.workshop, self.post, record.id)
        self.assertEqual(after.state, "refused")
        self.assertIn("552 5.3.4", after.tries[-1].words)
        self.assertEqual(self.arrived("pilot-station"), [])

    def test_a_sender_who_is_refused_is_told_before(self) -> None:
        """With the server's own words."""
        self.postbox.conduct = Conduct.REFUSING
        with self.assertRaises(SenderNotTaken) as refused:
            self.send()
        self.assertIn("takes no mail from you", refused.exception.detail)

    def test_letters_other_than_ascii_arrive_as_they_were_written(self) -> None:
        """In an address only through a server that knows SMTPUTF8; the postbox does (RFC 6531, RFC 6532)."""
        self.message()
        message = self.message(HELP, sender="Kapitän Möwe <kapitän@quillhaven.example>")
        record = sending.attempt(self.workshop, self.post, sending.send(self.workshop, self.post, message.id).id)
        self.assertEqual(record.state, "sent")
        [arrived] = self.arrived()
        self.assertEqual(arrived.seen.sender, "Kapitän Möwe <kapitän@quillhaven.example>")

    def test_a_work_order_gets_a_number_and_a_copy_of_it_none(self) -> None:
        """Only what came first opens one."""
        record = self.send("work-orders@quillhaven.example")
        self.send("work-orders@quillhaven.example")
        self.postbox.mailboxes.put("work-orders@quillhaven.example", looking.kept_bytes(self.workshop, record.blob))
        self.assertEqual([each.order for each in self.arrived("work-orders")], [None, 4_418, 4_417])

    def test_the_postbox_keeps_what_arrived(self) -> None:
        """After it was closed and opened again, in order."""
        self.send()
        self.send()
        again = Postbox(self.folder / "postbox", lambda: "later")
        self.assertEqual(
            [each.data for each in again.mailboxes.arrived("help-desk")], [each.data for each in self.arrived()]
        )
