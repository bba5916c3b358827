"""Which server takes the mail, and to whom it usually goes."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import asdict, dataclass, replace

from tijera.core.errors import MailNotSetUp
from tijera.core.mail.addresses import one_address, read_addresses
from tijera.core.mail.post import MailServer, Post
from tijera.usecases.limits import remember_for_address
from tijera.usecases.workshop import Workshop

_SERVER, _SAVED, _USED, _SENDER = "mail server", "recipients", "addresses", "sender"
_MOST_USED = 200


@dataclass(frozen=True)
class Recipient:
    """Somebody who is written to often: what is filled in when they are chosen."""

    name: str
    address: str
    subject: str = ""
    """What the subject begins with; {window} stands for the window's title."""
    limit_bytes: int | None = None


@dataclass(frozen=True)
class Mailing:
    """The way out for mail. `usual` is the server where none is set up: the stand-in in the demo, else nothing."""

    post_of: Callable[[MailServer], Post]
    usual: Callable[[], MailServer | None] = lambda: None
    known: tuple[Recipient, ...] = ()
    """Recipients to begin with."""

    def server(self, workshop: Workshop) -> MailServer | None:
        """The server that is used now; None where there is none."""
        kept = workshop.store.setting(_SERVER)
        return MailServer(**json.loads(kept)) if kept else self.usual()

    def is_own(self, workshop: Workshop) -> bool:
        """Whether the user has set one up."""
        return bool(workshop.store.setting(_SERVER))

    def post(self, workshop: Workshop) -> Post:
        """The way to it. Raises `MailNotSetUp`."""
        server = self.server(workshop)
        if server is None:
            raise MailNotSetUp
        return self.post_of(server)

    def set_up(self, workshop: Workshop, server: MailServer | None) -> None:
        """Use a server; None for the usual one. A password that is left empty stays as it was for the same user there."""
        before = self.server(workshop)
        if server and before and not server.password and (server.host, server.user) == (before.host, before.user):
            server = replace(server, password=before.password)
        workshop.store.remember(_SERVER, json.dumps(asdict(server)) if server else "")

    def recipients(self, workshop: Workshop) -> tuple[Recipient, ...]:
        """Those that are saved."""
        kept = workshop.store.setting(_SAVED)
        return tuple(Recipient(**each) for each in json.loads(kept)) if kept is not None else self.known

    def save_recipient(self, workshop: Workshop, recipient: Recipient) -> Recipient:
        """Save one, or change the one of its address. Raises `AddressUnreadable`, `NoAddress`."""
        saved = replace(recipient, address=one_address(recipient.address).address)
        others = [each for each in self.recipients(workshop) if each.address != saved.address]
        self._keep(workshop, [*others, saved])
        if saved.limit_bytes is not None:
            remember_for_address(workshop, saved.address, saved.limit_bytes)
        return saved

    def forget_recipient(self, workshop: Workshop, address: str) -> None:
        """Forget one; nothing happens where there is none."""
        self._keep(workshop, [each for each in self.recipients(workshop) if each.address != address])

    @staticmethod
    def _keep(workshop: Workshop, recipients: list[Recipient]) -> None:
        workshop.store.remember(_SAVED, json.dumps([asdict(each) for each in recipients]))


def used_addresses(workshop: Workshop) -> list[str]:
    """Addresses that messages went to, the last used first."""
    kept = workshop.store.setting(_USED)
    return [] if kept is None else list(json.loads(kept))


def remember_addresses(workshop: Workshop, *fields: str) -> None:
    """Remember whom a message went to."""
    new = [str(each) for each in read_addresses(*fields)]
    known = [each for each in used_addresses(workshop) if each not in new]
    workshop.store.remember(_USED, json.dumps([*new, *known][:_MOST_USED]))


def own_address(workshop: Workshop) -> str:
    """The user's own address, as it was used last; empty where none was."""
    return workshop.store.setting(_SENDER) or ""


def remember_own_address(workshop: Workshop, sender: str) -> None:
    """Remember the user's own address."""
    workshop.store.remember(_SENDER, sender)
