"""Sending: what a server may do to a message, and what the user is told of it."""

import email
import email.policy
import unittest
from dataclasses import replace
from datetime import datetime, timedelta

from tests.support.bench import BenchCase
from tests.support.post import TAKEN, ScriptedPost
from tijera.core.errors import (
    AddressUnreadable,
    NoAddress,
    NotAMessage,
    NotWaiting,
    RecipientNotTaken,
    SenderNotTaken,
    TakenTooHeavy,
)
from tijera.core.mail.post import Delivery, Kind, MailServer, Reply
from tijera.core.mail.queueing import PAUSES_S
from tijera.core.packages.formats.eml.compose import Letter
from tijera.core.packages.registry import new_document
from tijera.records import DestinationRecord, DispatchRecord
from tijera.usecases import letters, looking, placing, sending, weighing
from tijera.usecases.mailing import Mailing, Recipient, own_address, used_addresses

HELP = "help-desk@quillhaven.example"
STRICT = "pilot-station@quillhaven.example"
ME = "Watch <watch@quillhaven.example>"


class SendingCase(BenchCase):
    """A message with a clipping in it, and a clock that the test moves."""

    def setUp(self) -> None:
        """It is noon."""
        super().setUp()
        self.moment = datetime.fromisoformat("2026-03-12T12:00:00+00:00")
        self.workshop.now = lambda: self.moment.isoformat(timespec="microseconds")

    def later(self, seconds: float) -> None:
        """Let time pass."""
        self.moment += timedelta(seconds=seconds)

    def message(self, to: str = HELP, *, sender: str = ME, clippings: int = 0) -> DestinationRecord:
        """A new message."""
        begun = letters.new_message(self.workshop)
        for _ in range(clippings):
            placing.place(self.workshop, begun.id, self.take().id, "h.0")
        letter = Letter(
            sender=sender, to=to, subject="Tide board, berths", text="Good morning.\n\nThis is what it shows:"
        )
        return letters.write_letter(self.workshop, begun.id, letter)

    def found(self, record: DispatchRecord) -> DispatchRecord:
        """As it stands now."""
        return sending.dispatch(self.workshop, record.id)


class Queue(SendingCase):
    """What becomes of a message, whatever the server does."""

    def test_it_is_sent_once_with_the_bytes_that_were_weighed(self) -> None:
        """As heavy as the rail says, with a Message-ID of its own, kept under what left."""
        message = self.message(clippings=1)
        weight = weighing.weigh(self.workshop, message).file_bytes
        post = ScriptedPost()
        record = sending.attempt(self.workshop, post, sending.send(self.workshop, post, message.id).id)
        self.assertEqual((record.state, record.bytes, record.reached), ("sent", weight, (HELP,)))
        [(envelope, data)] = post.got
        self.assertEqual(
            (envelope.sender, envelope.recipients, len(data)), ("watch@quillhaven.example", (HELP,), weight)
        )
        parsed = email.message_from_bytes(data, policy=email.policy.default)
        self.assertEqual(parsed["Message-ID"], record.message_id)
        self.assertEqual(parsed["Date"].datetime, self.moment)
        self.assertEqual(looking.handover(self.workshop, record.id).what, f"message to {HELP}")
        self.assertEqual(sending.due(self.workshop), [])
        with self.assertRaises(NotWaiting):
            sending.attempt(self.workshop, post, record.id)

    def test_sent_again_it_is_another_message(self) -> None:
        """Two that were meant are not taken for one that came twice."""
        message, post = self.message(), ScriptedPost()
        one, other = (sending.send(self.workshop, post, message.id) for _ in range(2))
        self.assertNotEqual(one.message_id, other.message_id)
        self.assertEqual(one.bytes, other.bytes)

    def test_a_server_that_is_away_is_tried_again_after_growing_pauses(self) -> None:
        """And not before; when it is there again the message goes."""
        away = Delivery(Kind.AWAY, Reply(0, "Connection refused"))
        post = ScriptedPost([*[away] * len(PAUSES_S), TAKEN], asked=away)
        record = sending.send(self.workshop, post, self.message().id)
        for pause in PAUSES_S:
            self.assertEqual([each.id for each in sending.due(self.workshop)], [record.id])
            after = sending.attempt(self.workshop, post, record.id)
            self.assertEqual((after.state, after.tries[-1].words), ("waiting", "Connection refused"))
            self.later(pause - 1)
            self.assertEqual(sending.due(self.workshop), [])
            self.later(1)
        self.assertEqual(sending.attempt(self.workshop, post, record.id).state, "sent")
        self.assertEqual({data for _, data in post.got}, {post.got[0][1]})

    def test_after_five_days_it_is_given_up_and_said(self) -> None:
        """With what the server said last."""
        busy = Delivery(Kind.LATER, Reply(451, "4.3.2 busy"))
        post = ScriptedPost([busy])
        record = sending.send(self.workshop, post, self.message().id)
        self.later(5 * 86_400 + 1)
        after = sending.attempt(self.workshop, post, record.id)
        self.assertEqual((after.state, after.tries[-1].words, after.next_at), ("refused", "451 4.3.2 busy", None))

    def test_no_reply_after_the_last_dot_is_unclear_and_goes_again_under_the_same_id(self) -> None:
        """The receiver can tell that it is the same."""
        post = ScriptedPost([Delivery(Kind.UNCLEAR, Reply(0, "Unexpected EOF received")), TAKEN])
        record = sending.attempt(self.workshop, post, sending.send(self.workshop, post, self.message().id).id)
        self.assertEqual(record.state, "unclear")
        self.later(PAUSES_S[0])
        self.assertEqual(sending.attempt(self.workshop, post, record.id).state, "sent")
        self.assertEqual(post.got[0][1], post.got[1][1])

    def test_while_it_leaves_that_is_written_down(self) -> None:
        """So a start after a kill finds it, says that it is unclear, and tries again."""
        post = ScriptedPost()
        record = sending.send(self.workshop, post, self.message().id)
        states = []
        post.while_leaving = lambda: states.append(self.found(record).state)

        class Killed(BaseException):
            pass

        def die() -> None:
            states.append(self.found(record).state)
            raise Killed

        post.while_leaving = die
        with self.assertRaises(Killed):
            sending.attempt(self.workshop, post, record.id)
        self.assertEqual(states, ["going"])
        [recovered] = sending.recover(self.workshop)
        self.assertEqual((recovered.state, recovered.tries[-1].kind), ("unclear", "unclear"))
        self.assertEqual(sending.recover(self.workshop), [])
        self.later(PAUSES_S[0])
        post.while_leaving = lambda: None
        [again] = sending.due(self.workshop)
        self.assertEqual(sending.attempt(self.workshop, post, again.id).state, "sent")

    def test_five_hundred_go_in_transactions_of_a_hundred_and_nobody_gets_it_twice(self) -> None:
        """Also when the third one fails, and some are never taken."""
        to = ", ".join(f"a{number}@quillhaven.example" for number in range(500))
        late = Delivery(Kind.AWAY, Reply(0, "gone"))
        odd = replace(TAKEN, refused=(("a150@quillhaven.example", Reply(550, "no such mailbox")),))
        post = ScriptedPost([TAKEN, odd, late, TAKEN])
        record = sending.attempt(self.workshop, post, sending.send(self.workshop, post, self.message(to).id).id)
        self.assertEqual((record.state, len(record.reached), len(record.left)), ("waiting", 199, 300))
        self.later(PAUSES_S[0])
        record = sending.attempt(self.workshop, post, record.id)
        self.assertEqual(
            (record.state, len(record.reached), record.refused[0][0]), ("sent", 499, "a150@quillhaven.example")
        )
        sizes = [len(envelope.recipients) for envelope, _ in post.got]
        self.assertEqual(sizes, [100] * 6)
        given = [each for envelope, _ in (*post.got[:2], *post.got[3:]) for each in envelope.recipients]
        self.assertEqual(len(given), len(set(given)))

    def test_who_is_put_off_is_tried_again_and_the_others_are_not(self) -> None:
        """One mailbox is full for now, the other took it."""
        other = "harbour-office@quillhaven.example"
        put_off = replace(TAKEN, later=((other, Reply(452, "full for now")),))
        post = ScriptedPost([put_off, TAKEN])
        record = sending.attempt(
            self.workshop, post, sending.send(self.workshop, post, self.message(f"{HELP}, {other}").id).id
        )
        self.assertEqual((record.state, record.left), ("waiting", (other,)))
        self.later(PAUSES_S[0])
        record = sending.attempt(self.workshop, post, record.id)
        self.assertEqual((record.state, post.got[1][0].recipients), ("sent", (other,)))

    def test_a_clock_set_back_keeps_nothing_waiting(self) -> None:
        """By a year, between two tries."""
        post = ScriptedPost([Delivery(Kind.AWAY, Reply(0, "gone")), TAKEN])
        record = sending.attempt(self.workshop, post, sending.send(self.workshop, post, self.message().id).id)
        self.later(-365 * 86_400)
        self.assertEqual([each.id for each in sending.due(self.workshop)], [record.id])

    def test_what_waits_can_be_withdrawn_or_tried_at_once(self) -> None:
        """What was sent can't."""
        post = ScriptedPost([Delivery(Kind.AWAY, Reply(0, "gone"))])
        record = sending.attempt(self.workshop, post, sending.send(self.workshop, post, self.message().id).id)
        self.assertEqual(sending.due(self.workshop), [])
        sending.try_now(self.workshop, record.id)
        self.assertEqual([each.id for each in sending.due(self.workshop)], [record.id])
        self.assertEqual(sending.withdraw(self.workshop, record.id).state, "withdrawn")
        for way in (sending.withdraw, sending.try_now):
            with self.assertRaises(NotWaiting):
                way(self.workshop, record.id)
        with self.assertRaises(NotWaiting):
            sending.attempt(self.workshop, post, record.id)


class Before(SendingCase):
    """What is said before anything is queued."""

    def refused(self, delivery: Delivery, message: DestinationRecord | None = None) -> None:
        """Send it to a server that says this; nothing is queued."""
        post = ScriptedPost(asked=delivery)
        try:
            sending.send(self.workshop, post, (message or self.message()).id)
        finally:
            self.assertEqual(sending.dispatches(self.workshop, 0, 10), [])

    def test_the_server_says_no(self) -> None:
        """To the weight, the sender, a recipient: each in its own words."""
        with self.assertRaises(TakenTooHeavy) as heavy:
            self.refused(
                Delivery(
                    Kind.REFUSED, Reply(0, "The server announces SIZE 1000."), takes_bytes=1_000, is_too_heavy=True
                )
            )
        self.assertIn("SIZE 1000", heavy.exception.detail)
        with self.assertRaises(SenderNotTaken) as sender:
            self.refused(Delivery(Kind.REFUSED, Reply(550, "not from you")))
        self.assertIn("550 not from you", sender.exception.detail)
        with self.assertRaises(RecipientNotTaken) as recipient:
            self.refused(replace(TAKEN, refused=((HELP, Reply(550, "no such mailbox")),)))
        self.assertIn(HELP, recipient.exception.detail)

    def test_what_lacks_an_address_or_has_a_wrong_one(self) -> None:
        """Nothing is asked of the server then."""
        for message, error in (
            (self.message(sender=""), NoAddress),
            (self.message(to=""), NoAddress),
            (self.message(to="nobody"), AddressUnreadable),
            (self.message(to="a@b.example\r\nBcc: c@d.example"), AddressUnreadable),
        ):
            with self.subTest(error=error), self.assertRaises(error):
                self.refused(TAKEN, message)

    def test_only_what_was_written_here_is_sent(self) -> None:
        """A message of others has a sender of its own."""
        name, data = new_document("docx")
        with self.assertRaises(NotAMessage):
            self.refused(TAKEN, self.open(data, name))


class ToSomebody(SendingCase):
    """Saved recipients, addresses that were used, drafts."""

    def test_a_saved_recipient_fills_in_the_subject_and_the_limit(self) -> None:
        """The window's title stands in the subject as soon as a clipping of it is placed."""
        help_desk = Recipient("Help desk", HELP, "Help desk: {window}", 2_000_000)
        begun = letters.new_message(self.workshop, help_desk)
        self.assertEqual(begun.limit_bytes, 2_000_000)
        clipping = self.take()
        placing.place(self.workshop, begun.id, clipping.id, "h.0")
        letter = letters.letter_of(self.workshop.store.find(DestinationRecord, begun.id))
        assert letter is not None
        self.assertEqual((letter.to, letter.subject), (HELP, f"Help desk: {clipping.window}"))

    def test_they_are_saved_changed_and_forgotten(self) -> None:
        """By their address; those to begin with can be forgotten too."""
        mailing = Mailing(lambda _: ScriptedPost(), known=(Recipient("Help desk", HELP),))
        mailing.save_recipient(self.workshop, Recipient("Pilots", f"P <{STRICT}>", "", 500_000))
        mailing.save_recipient(self.workshop, Recipient("Pilot station", STRICT, "Pilots: ", 500_000))
        self.assertEqual([each.name for each in mailing.recipients(self.workshop)], ["Help desk", "Pilot station"])
        mailing.forget_recipient(self.workshop, HELP)
        self.assertEqual([each.address for each in mailing.recipients(self.workshop)], [STRICT])

    def test_who_was_written_to_and_who_writes_is_remembered(self) -> None:
        """The last one first, each once."""
        post = ScriptedPost()
        for to in (HELP, STRICT, HELP):
            sending.send(self.workshop, post, self.message(to).id)
        self.assertEqual(used_addresses(self.workshop), [HELP, STRICT])
        self.assertEqual(own_address(self.workshop), ME)
        begun = letters.letter_of(letters.new_message(self.workshop))
        assert begun is not None
        self.assertEqual(begun.sender, ME)

    def test_a_draft_is_marked_and_has_no_id_yet(self) -> None:
        """Who sends it gives it one."""
        record = sending.draft(self.workshop, self.message().id)
        parsed = email.message_from_bytes(looking.kept_bytes(self.workshop, record.blob), policy=email.policy.default)
        self.assertEqual((parsed["X-Unsent"], parsed["Message-ID"], parsed["To"]), ("1", None, HELP))
        self.assertEqual(
            (record.name, record.bytes), ("Tide board, berths.eml", len(looking.kept_bytes(self.workshop, record.blob)))
        )

    def test_the_next_picture_goes_behind_what_is_written_so_far(self) -> None:
        """Not above it, though the place was chosen before anything was written."""
        begun = letters.new_message(self.workshop)
        self.assertEqual(begun.spot, "h.0")
        written = letters.write_letter(self.workshop, begun.id, Letter(text="One.\n\nTwo."))
        self.assertEqual(written.spot, "h.2")
        on = letters.write_letter(self.workshop, begun.id, Letter(text="One.\n\nTwo.\n\nThree."))
        self.assertEqual(on.spot, "h.3")


class Servers(SendingCase):
    """Which server takes the mail."""

    def test_the_users_own_goes_before_the_usual_one_and_its_password_stays(self) -> None:
        """An empty password means the one that is known, for the same user there."""
        mailing = Mailing(lambda _: ScriptedPost(), lambda: MailServer("127.0.0.1", 1, "none"))
        self.assertFalse(mailing.is_own(self.workshop))
        mailing.set_up(self.workshop, MailServer("mail.quillhaven.example", 587, "starttls", "watch", "seven gulls"))
        mailing.set_up(self.workshop, MailServer("mail.quillhaven.example", 465, "tls", "watch"))
        self.assertEqual(
            mailing.server(self.workshop), MailServer("mail.quillhaven.example", 465, "tls", "watch", "seven gulls")
        )
        mailing.set_up(self.workshop, MailServer("mail.quillhaven.example", 465, "tls", "somebody"))
        server = mailing.server(self.workshop)
        assert server is not None
        self.assertEqual(server.password, "")
        mailing.set_up(self.workshop, None)
        self.assertFalse(mailing.is_own(self.workshop))


if __name__ == "__main__":
    unittest.main()
