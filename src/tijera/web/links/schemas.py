"""What goes over the wire of links."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from tijera.web.base import Id, Wire

LinkAddress = Annotated[str, Field(pattern=r"^https?://[^\s/?#@]+(/[^\s?#]*)?$", max_length=300)]


class LinkSetupIn(Wire):
    """Where links are answered."""

    address: LinkAddress
    """What others reach, without what a link adds."""
    port: Annotated[int, Field(ge=1, le=65_535)]
    only_here: bool = False
    """Only this computer reaches the port: something in front of it passes requests on."""


class LinkSetupOut(Wire):
    """Where links are answered, or would be."""

    is_on: bool
    address: str
    port: int
    only_here: bool
    trouble: str
    """Why it does not listen though links are on; empty where all is well."""
    ends_on: date | None
    """The last day that is proposed for the next link."""
    most_views: int | None
    with_password: bool
    """Whether the last link had one."""


class LinkIn(Wire):
    """What a link is made with."""

    password: Annotated[str, Field(max_length=200)] = ""
    ends_on: date | None = None
    """The last day on which it can be opened."""
    most_views: Annotated[int, Field(ge=1, le=100_000)] | None = None


class LinkedInsteadIn(Wire):
    """What leaves a message as links."""

    placements: Annotated[list[Id], Field(default_factory=list, max_length=1_000)]
    """Ids of placed clippings; none for the heaviest, until the message is under its limit."""


class LinkOut(Wire):
    """A picture that others open at an address."""

    id: str
    name: str
    address: str | None
    """Null where links are off."""
    clipping: str
    """What it was made of, which may be gone."""
    handover: str
    bytes: int
    made_at: str
    state: Literal["open", "ended", "used-up", "withdrawn"]
    has_password: bool
    ends_at: str | None
    most_views: int | None
    views: int
    seen_at: str | None
    """When it was opened last."""
    closed_s: float
    """How long it is closed because wrong passwords were given."""
