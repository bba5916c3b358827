"""Pictures handed over as links: made, opened by who has the address, counted, withdrawn.

A link shows the bytes that it was made of, whatever becomes of its clipping; like all that left, they can be got again.
"""

from __future__ import annotations

import json
import math
import threading
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import date, datetime, timedelta

from tijera.core.errors import LinkClosed, LinkEndsBefore, LinkGone, LinksOff, LinkWrongPassword
from tijera.core.imaging.kinds import PNG
from tijera.core.links.guarding import closed_s, digest_of, hashed, is_right, new_token
from tijera.core.links.standing import LinkState, state_of
from tijera.core.moments import iso, start_of_next_day
from tijera.records import ClippingRecord, LinkRecord
from tijera.usecases.consent import leaving
from tijera.usecases.handing_over import note_left
from tijera.usecases.saving import save
from tijera.usecases.workshop import Workshop

_SETUP, _WISH = "links", "link wish"


@dataclass(frozen=True)
class LinkSetup:
    """Where links are answered."""

    address: str
    """What others reach: http or https, a host, perhaps a port and a folder; a link's token comes behind it."""
    port: int
    """On this computer."""
    host: str = "0.0.0.0"  # noqa: S104  (that others reach it is what it is for)
    """All of this computer's addresses, or 127.0.0.1 where something in front of it passes requests on."""


@dataclass(frozen=True)
class LinkWish:
    """What a link is made with."""

    password: str = ""
    ends_on: date | None = None
    """The last day on which it can be opened."""
    most_views: int | None = None


@dataclass(frozen=True)
class Remembered:
    """What was chosen the last time; a password is not remembered, only that there was one."""

    days: int | None = None
    most_views: int | None = None
    with_password: bool = False


def links_are_on(workshop: Workshop) -> bool:
    """Whether somebody could reach a link."""
    return bool(workshop.store.setting(_SETUP))


class Links:
    """The links of one workshop. One password is worked out at a time: each takes 64 MiB."""

    def __init__(self, workshop: Workshop) -> None:
        self._workshop = workshop
        self._lock = threading.Lock()
        self._ids = {digest_of(each.token): each.id for each in workshop.store.links()}

    def setup(self) -> LinkSetup | None:
        """Where links are answered; None where they are off."""
        kept = self._workshop.store.setting(_SETUP)
        return LinkSetup(**json.loads(kept)) if kept else None

    def set_up(self, setup: LinkSetup | None) -> None:
        """Answer links there; None for not at all. Links that were made stay, and can be opened when they are on again."""
        self._workshop.store.remember(_SETUP, json.dumps(asdict(setup)) if setup else "")

    def address_of(self, link: LinkRecord) -> str | None:
        """What is given to others; None where links are off."""
        setup = self.setup()
        return None if setup is None else f"{setup.address.rstrip('/')}/{link.token}"

    # By who makes them

    def every(self, clipping: str | None = None) -> list[LinkRecord]:
        """All of them, or those of a clipping, the last first."""
        return self._workshop.store.links(clipping)

    def state(self, link: LinkRecord) -> LinkState:
        """How it stands now."""
        return state_of(
            withdrawn=link.withdrawn_at is not None,
            ended=link.ended,
            ends_at=link.ends_at,
            most_views=link.most_views,
            views=link.views,
            now=self._workshop.now(),
        )

    def closed_s(self, link: LinkRecord) -> float:
        """How long it is still closed because wrong passwords were given, in seconds."""
        if link.wrong_at is None:
            return 0.0
        return closed_s(link.wrong, _seconds(link.wrong_at), _seconds(self._workshop.now()))

    def remembered(self) -> Remembered:
        """What was chosen the last time."""
        kept = self._workshop.store.setting(_WISH)
        return Remembered(**json.loads(kept)) if kept else Remembered()

    def make(self, clipping_id: str, wish: LinkWish, *, remember: bool = True) -> LinkRecord:
        """Make one to a clipping as it is now; what it is made with is proposed the next time. Raises `LinksOff`, `LinkEndsBefore`, `NotFound`, `PictureTooLarge`."""
        if self.setup() is None:
            raise LinksOff
        workshop = self._workshop
        now = workshop.now()
        ends_at = None if wish.ends_on is None else iso(start_of_next_day(workshop.local_time, wish.ends_on))
        if ends_at is not None and ends_at <= now:
            raise LinkEndsBefore(day=wish.ends_on)
        clipping = workshop.store.find(ClippingRecord, clipping_id)
        saved = save(workshop, clipping_id, PNG.ending)
        left = note_left(workshop, saved.data, saved.name, saved.media_type, "link", clipping=clipping_id)
        size = workshop.pictures.finished(clipping).size
        record = LinkRecord(
            id=workshop.new_id(),
            token=new_token(),
            clipping=clipping_id,
            handover=left.id,
            name=leaving(workshop, clipping, clipping.name),
            file=saved.name,
            media_type=saved.media_type,
            blob=left.blob,
            bytes=left.bytes,
            width=size.width,
            height=size.height,
            made_at=now,
            password=hashed(wish.password) if wish.password else "",
            ends_at=ends_at,
            most_views=wish.most_views,
        )
        workshop.store.add(record)
        self._ids[digest_of(record.token)] = record.id
        if remember:
            days = None if wish.ends_on is None else (wish.ends_on - workshop.local_time(now).date()).days
            remembered = Remembered(days, wish.most_views, bool(wish.password))
            workshop.store.remember(_WISH, json.dumps(asdict(remembered)))
        return record

    def withdraw(self, link_id: str) -> LinkRecord:
        """Let it be opened no more, from this moment on and for good. Raises `NotFound`."""
        now = self._workshop.now()
        return self._change(link_id, lambda link: link if link.withdrawn_at else replace(link, withdrawn_at=now))

    def reopen(self, link_id: str) -> LinkRecord:
        """Forget the wrong passwords that closed it. Raises `NotFound`."""
        return self._change(link_id, lambda link: replace(link, wrong=0, wrong_at=None))

    # By who has the address

    def known(self, token: str) -> LinkRecord | None:
        """The link of a token; None for a guess."""
        link_id = self._ids.get(digest_of(token))
        return None if link_id is None else self._workshop.store.find_or_none(LinkRecord, link_id)

    def asks(self, link: LinkRecord) -> bool:
        """Whether it is opened by a word or a press only, not by what looks at addresses before people do."""
        return bool(link.password) or link.most_views is not None

    def open(self, link: LinkRecord, password: str = "") -> LinkRecord:
        """Count one view. Raises `LinkGone`, `LinkClosed`, `LinkWrongPassword`."""
        self.check_open(link)
        if not link.password:
            return self._change(link.id, self._seen)
        self._check_closed(link)
        with self._lock:
            # Whoever waited here finds what those before have found out.
            link = self._workshop.store.find(LinkRecord, link.id)
            self._check_closed(link)
            if not is_right(link.password, password):
                self._note_wrong(link)
            return self._change(link.id, self._seen)

    def check_open(self, link: LinkRecord, *, ignoring: Sequence[LinkState] = ()) -> None:
        """Raise `LinkGone` where it can't be opened any more; what has ended stays so."""
        state = self.state(link)
        if state is LinkState.ENDED and not link.ended:
            self._change(link.id, lambda now: replace(now, ended=True))
        if state is not LinkState.OPEN and state not in ignoring:
            raise LinkGone(why=_WHY[state])

    def picture(self, link: LinkRecord) -> bytes:
        """Its very bytes."""
        return self._workshop.store.blobs.get(link.blob)

    def _check_closed(self, link: LinkRecord) -> None:
        left = self.closed_s(link)
        if left > 0:
            raise LinkClosed(minutes=math.ceil(left / 60))

    def _note_wrong(self, link: LinkRecord) -> None:
        now = self._workshop.now()
        link = self._change(link.id, lambda each: replace(each, wrong=each.wrong + 1, wrong_at=now))
        self._check_closed(link)
        raise LinkWrongPassword

    def _seen(self, link: LinkRecord) -> LinkRecord:
        """One view more. In the same step as it is written, so that two at once are two."""
        if self.state(link) is not LinkState.OPEN:
            raise LinkGone(why=_WHY[self.state(link)])
        return replace(link, views=link.views + 1, seen_at=self._workshop.now(), wrong=0, wrong_at=None)

    def _change(self, link_id: str, make: Callable[[LinkRecord], LinkRecord]) -> LinkRecord:
        return self._workshop.store.set_aside(LinkRecord, link_id, make)


_WHY = {
    LinkState.ENDED: "the day until which it could be opened is over",
    LinkState.USED_UP: "it has been opened as often as it may be",
    LinkState.WITHDRAWN: "who made it has withdrawn it",
}


def _seconds(moment: str) -> float:
    return datetime.fromisoformat(moment).timestamp()


def proposed_end(workshop: Workshop, remembered: Remembered) -> date | None:
    """The last day that is proposed for the next link."""
    if remembered.days is None:
        return None
    return workshop.local_time(workshop.now()).date() + timedelta(days=remembered.days)
