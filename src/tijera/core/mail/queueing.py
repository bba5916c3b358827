"""When a message is tried again, and what a try makes of it.

RFC 5321 §4.5.4.1 asks for growing pauses and to give up after four to five days; the first pauses are short because
somebody looks on (chosen here).
"""

from __future__ import annotations

from enum import Enum

from tijera.core.mail.post import Delivery, Kind

PAUSES_S = (10, 30, 120, 300, 900, 1_800)
"""After the first try, the second … in seconds; then the last one each time."""
GIVEN_UP_AFTER_S = 5 * 24 * 3_600
MOST_TRIES_KEPT = 20


class State(Enum):
    """Where a message is."""

    WAITING = "waiting"
    GOING = "going"
    """It leaves at this moment; found so after a start, nobody knows whether it arrived."""
    UNCLEAR = "unclear"
    SENT = "sent"
    REFUSED = "refused"
    WITHDRAWN = "withdrawn"

    @property
    def is_open(self) -> bool:
        """Whether it is still tried."""
        return self in (State.WAITING, State.UNCLEAR)


def pause_s(tries: int) -> int:
    """How long to wait after so many tries (1 and more), in seconds."""
    return PAUSES_S[min(max(tries, 1), len(PAUSES_S)) - 1]


def state_after(delivery: Delivery, left: int, reached: int, age_s: float) -> State:
    """What a message is after a try that leaves so many recipients not decided, with so many reached in all."""
    if delivery.kind is Kind.UNCLEAR:
        return State.UNCLEAR
    if delivery.kind is Kind.REFUSED or not left:
        return State.SENT if reached else State.REFUSED
    if age_s > GIVEN_UP_AFTER_S:
        return State.SENT if reached else State.REFUSED
    return State.WAITING


def is_due(next_at_s: float, now_s: float) -> bool:
    """Whether it is time; a time further off than any pause comes from a clock that was set back since."""
    return next_at_s <= now_s or next_at_s > now_s + PAUSES_S[-1]
