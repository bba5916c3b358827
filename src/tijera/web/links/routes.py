"""Links to pictures: set up, made, listed, withdrawn."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query

from tijera.core.errors import LinksOff, NotShared
from tijera.links.listener import LinkListener
from tijera.records import LinkRecord
from tijera.usecases.linked_instead import link_instead
from tijera.usecases.linking import Links, LinkSetup, LinkWish, proposed_end
from tijera.web.deps import Services, ServicesDep
from tijera.web.links import schemas
from tijera.web.router import api_router

router = api_router("links")
_EVERYWHERE, _HERE = "0.0.0.0", "127.0.0.1"  # noqa: S104  (that others reach it is what it is for)


def _links(services: Services) -> Links:
    if services.links is None:
        raise LinksOff
    return services.links


def _listener(services: Services) -> LinkListener:
    if services.link_listener is None:
        raise LinksOff
    return services.link_listener


@router.get("/link-setup")
def link_setup(services: ServicesDep) -> schemas.LinkSetupOut:
    """Where links are answered; where they are off, what would be proposed."""
    links, listener = _links(services), _listener(services)
    setup = links.setup()
    shown = setup or listener.usual()
    remembered = links.remembered()
    return schemas.LinkSetupOut(
        is_on=setup is not None,
        address=shown.address,
        port=shown.port,
        only_here=shown.host == _HERE,
        trouble=listener.trouble,
        ends_on=proposed_end(services.workshop, remembered),
        most_views=remembered.most_views,
        with_password=remembered.with_password,
    )


@router.put("/link-setup")
def set_up(body: schemas.LinkSetupIn, services: ServicesDep) -> schemas.LinkSetupOut:
    """Answer links there from now on. Not where several people share the server."""
    if services.is_shared:
        raise NotShared(what="A listener for links")
    setup = LinkSetup(body.address, body.port, _HERE if body.only_here else _EVERYWHERE)
    _listener(services).set_up(setup)
    return link_setup(services)


@router.delete("/link-setup", status_code=204)
def switch_off(services: ServicesDep) -> None:
    """Answer no link any more; those that were made can be opened when links are on again."""
    _listener(services).set_up(None)


@router.get("/links")
def links(services: ServicesDep, clipping: Annotated[str | None, Query(max_length=40)] = None) -> list[schemas.LinkOut]:
    """All links, or those of a clipping, the last made first."""
    every = _links(services)
    return [_link(every, each) for each in every.every(clipping)]


@router.post("/clippings/{clipping}/links", status_code=201)
def make(clipping: str, body: schemas.LinkIn, services: ServicesDep) -> schemas.LinkOut:
    """Make a link to a clipping as it is now."""
    every = _links(services)
    return _link(every, every.make(clipping, LinkWish(body.password, body.ends_on, body.most_views)))


@router.post("/destinations/{destination}/links", status_code=201)
def link_pictures(destination: str, body: schemas.LinkedInsteadIn, services: ServicesDep) -> list[schemas.LinkOut]:
    """Take pictures out of a new message, and name a link to each below its text."""
    every = _links(services)
    made = link_instead(services.workshop, every, destination, body.placements)
    return [_link(every, each) for each in made]


@router.delete("/links/{link}")
def withdraw_link(link: str, services: ServicesDep) -> schemas.LinkOut:
    """Let a link be opened no more, for good."""
    every = _links(services)
    return _link(every, every.withdraw(link))


@router.post("/links/{link}/openings")
def reopen(link: str, services: ServicesDep) -> schemas.LinkOut:
    """Forget the wrong passwords that closed a link."""
    every = _links(services)
    return _link(every, every.reopen(link))


def _link(links: Links, each: LinkRecord) -> schemas.LinkOut:
    return schemas.LinkOut(
        id=each.id,
        name=each.name,
        address=links.address_of(each),
        clipping=each.clipping,
        handover=each.handover,
        bytes=each.bytes,
        made_at=each.made_at,
        state=links.state(each).value,
        has_password=bool(each.password),
        ends_at=each.ends_at,
        most_views=each.most_views,
        views=each.views,
        seen_at=each.seen_at,
        closed_s=links.closed_s(each),
    )
