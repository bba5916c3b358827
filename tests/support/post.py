"""A way to a mail server that does what a test says, one answer after the other."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from tijera.core.mail.post import Delivery, Envelope, Kind, Reply

TAKEN = Delivery(Kind.TAKEN, Reply(250, "taken"))


@dataclass
class ScriptedPost:
    """Answers each question with the same, and each message with the next of some answers, the last one for ever."""

    answers: list[Delivery] = field(default_factory=lambda: [TAKEN])
    asked: Delivery = TAKEN
    got: list[tuple[Envelope, bytes]] = field(default_factory=list)
    while_leaving: Callable[[], None] = lambda: None

    def ask(self, envelope: Envelope) -> Delivery:
        """As scripted."""
        return self.asked

    def deliver(self, envelope: Envelope, message: bytes, going: Callable[[], None]) -> Delivery:
        """As scripted; what it was given is kept."""
        going()
        self.while_leaving()
        self.got.append((envelope, message))
        return self.answers.pop(0) if len(self.answers) > 1 else self.answers[0]
