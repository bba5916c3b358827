"""The process is killed at any moment of sending: each message that was acknowledged arrived, waits, or is unclear and says so."""

import multiprocessing
import os
import random
import signal
import tempfile
import time
import unittest
from collections import Counter
from datetime import UTC, datetime
from multiprocessing.connection import Connection
from pathlib import Path

from tests.support.rounds import rounds
from tijera.core.mail.post import MailServer
from tijera.core.packages.formats.eml.compose import Letter
from tijera.post.smtp import SmtpPost
from tijera.postbox.server import Postbox
from tijera.store.store import Store
from tijera.usecases import letters, sending
from tijera.usecases.workshop import Workshop

_TO = "harbour-office@quillhaven.example"
_LONGEST_S = 0.25
"""A child that is left alone sends a few dozen messages in that time."""


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="microseconds")


def _workshop(folder: Path) -> Workshop:
    return Workshop(Store(folder, _now), {}, _now)


def _send_on(folder: Path, host: str, port: int, told: Connection) -> None:
    """In a process of its own: one message after the other, each told as soon as it is queued; then all that wait."""
    workshop, post = _workshop(folder), SmtpPost(MailServer(host, port, "none"))
    sending.recover(workshop)
    told.send("begun")
    while True:
        begun = letters.new_message(workshop)
        letter = Letter(sender="watch@quillhaven.example", to=_TO, subject=begun.id, text="Good morning. " * 400)
        letters.write_letter(workshop, begun.id, letter)
        told.send(sending.send(workshop, post, begun.id).message_id)
        for record in sending.due(workshop):
            sending.attempt(workshop, post, record.id)


class Killed(unittest.TestCase):
    """By SIGKILL, at random."""

    def test_nothing_is_lost_and_nothing_comes_twice_without_being_said(self) -> None:
        """One data folder all the time, as one user has it."""
        chance = random.Random(16)
        context = multiprocessing.get_context("forkserver")
        context.set_forkserver_preload([__name__])
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        postbox = Postbox(folder / "postbox", _now)
        self.addCleanup(postbox.close)
        address = postbox.address()
        queued: list[str] = []
        for _ in range(rounds(10)):
            here, there = context.Pipe(duplex=False)
            child = context.Process(target=_send_on, args=(folder / "data", *address, there), daemon=True)
            child.start()
            there.close()
            self.assertEqual(here.recv(), "begun")
            time.sleep(chance.uniform(0, _LONGEST_S))
            assert child.pid is not None
            os.kill(child.pid, signal.SIGKILL)
            child.join()
            while True:
                try:
                    queued.append(here.recv())
                except (EOFError, OSError):
                    break
        workshop, post = _workshop(folder / "data"), SmtpPost(MailServer(*address, "none"))
        self.addCleanup(workshop.store.close)
        sending.recover(workshop)
        records = {each.message_id: each for each in sending.dispatches(workshop, 0, 100_000)}
        self.assertLessEqual(set(queued), records.keys())
        arrived = Counter(each.seen.message_id for each in postbox.mailboxes.arrived("harbour-office"))
        for message_id, record in records.items():
            said_unclear = any(each.kind == "unclear" for each in record.tries)
            with self.subTest(message_id):
                self.assertIn(record.state, ("sent", "waiting", "unclear"))
                if record.state == "sent":
                    self.assertGreaterEqual(arrived[message_id], 1)
                elif record.state == "waiting":
                    self.assertEqual(arrived[message_id], 0)
                self.assertLessEqual(arrived[message_id], 1 + sum(each.kind == "unclear" for each in record.tries))
                self.assertTrue(arrived[message_id] <= 1 or said_unclear)
        # And all that still waits goes, when it is tried.
        for record in records.values():
            if record.state in ("waiting", "unclear"):
                sending.try_now(workshop, record.id)
                self.assertEqual(sending.attempt(workshop, post, record.id).state, "sent")
        arrived = Counter(each.seen.message_id for each in postbox.mailboxes.arrived("harbour-office"))
        self.assertEqual(arrived.keys(), records.keys())
        if os.environ.get("TIJERA_TEST_SAYS"):
            states = Counter(each.state for each in records.values())
            twice = sum(arrived.values()) - len(arrived)
            print(f"{len(records)} messages, {dict(states)}, {twice} came twice")  # noqa: T201  (asked for)


if __name__ == "__main__":
    unittest.main()
