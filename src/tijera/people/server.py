"""The whole server that people share: the guard, the door, and behind it everybody's own application."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from starlette.types import ASGIApp, Receive, Scope, Send

from tijera.people.accounts import Accounts, Person
from tijera.people.door import PeopleDoor
from tijera.web.guard import Guard

if TYPE_CHECKING:
    from fastapi import FastAPI

_MOST_UPLOAD_BYTES = 500_000_000
"""Each person's own application counts more closely."""


class PeopleServer:
    """What answers, and what is closed at the end."""

    def __init__(self, guard: ASGIApp, door: PeopleDoor) -> None:
        self._guard, self.door = guard, door

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer."""
        await self._guard(scope, receive, send)

    def close(self) -> None:
        """End everybody's application."""
        self.door.close()


def people_app(
    accounts: Accounts, build: Callable[[Person], FastAPI], hosts: frozenset[str], *, secure: bool
) -> PeopleServer:
    """Put it together; `hosts` are the names that it is addressed by, with `secure` cookies go through TLS only."""
    door = PeopleDoor(accounts, build, secure=secure)
    return PeopleServer(Guard(door, hosts, _MOST_UPLOAD_BYTES, None), door)
