"""The mail server, recipients, sending, and what became of each message."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import quote

from fastapi import Query
from fastapi.responses import Response

from tijera.core.errors import MailNotSetUp
from tijera.core.mail.post import MailServer
from tijera.core.packages.formats.eml.document import MEDIA_TYPE
from tijera.core.units import parse_limit
from tijera.usecases import handing_over, looking, sending
from tijera.usecases.mailing import Mailing, Recipient, used_addresses
from tijera.web.deps import Services, ServicesDep, WorkshopDep
from tijera.web.hand_over import schemas as hand_over_schemas
from tijera.web.hand_over import wire as hand_over_wire
from tijera.web.mail import schemas, wire
from tijera.web.router import api_router

router = api_router("mail")


def _mailing(services: Services) -> Mailing:
    if services.mailing is None:
        raise MailNotSetUp
    return services.mailing


def _wake(services: Services) -> None:
    if services.postman is not None:
        services.postman.wake()


@router.get("/mail")
def mail(services: ServicesDep) -> schemas.MailOut:
    """Which server takes the mail now."""
    mailing = _mailing(services)
    return wire.mail(
        mailing.server(services.workshop),
        is_own=mailing.is_own(services.workshop),
        has_postbox=services.postbox is not None,
    )


@router.put("/mail", status_code=204)
def set_up(body: schemas.MailServerIn, services: ServicesDep) -> None:
    """Give mail in at this server from now on; what waits goes there too."""
    server = MailServer(body.host, body.port, body.security, body.user, body.password)
    _mailing(services).set_up(services.workshop, server)
    _wake(services)


@router.delete("/mail", status_code=204)
def unset(services: ServicesDep) -> None:
    """Forget the server, and its password; in the demo the postbox takes the mail again."""
    _mailing(services).set_up(services.workshop, None)


@router.get("/recipients")
def recipients(services: ServicesDep) -> schemas.RecipientsOut:
    """Who is written to often, and who was written to."""
    saved = _mailing(services).recipients(services.workshop)
    return schemas.RecipientsOut(saved=[wire.recipient(each) for each in saved], used=used_addresses(services.workshop))


@router.put("/recipients")
def save_recipient(body: schemas.RecipientIn, services: ServicesDep) -> schemas.RecipientOut:
    """Save somebody who is written to often, or change the one of this address."""
    limit = parse_limit(body.limit) if body.limit else None
    recipient = Recipient(body.name, body.address, body.subject, limit)
    return wire.recipient(_mailing(services).save_recipient(services.workshop, recipient))


@router.delete("/recipients/{address}", status_code=204)
def forget_recipient(address: str, services: ServicesDep) -> None:
    """Forget somebody."""
    _mailing(services).forget_recipient(services.workshop, address)


@router.post("/destinations/{destination}/dispatches", status_code=201)
def send(destination: str, services: ServicesDep) -> schemas.DispatchOut:
    """Send a message: the server checks it first, then it is queued and goes at once, or as soon as it can."""
    post = _mailing(services).post(services.workshop)
    record = sending.send(services.workshop, post, destination)
    _wake(services)
    return wire.dispatch(record)


@router.post("/destinations/{destination}/drafts", status_code=201)
def draft(destination: str, workshop: WorkshopDep) -> hand_over_schemas.HandoverOut:
    """Write the message as an unsent draft, which can then be downloaded and opened by a mail program."""
    return hand_over_wire.handover(sending.draft(workshop, destination))


@router.get("/dispatches")
def dispatches(
    workshop: WorkshopDep,
    first: Annotated[int, Query(ge=0)] = 0,
    most: Annotated[int, Query(ge=1, le=500)] = 100,
) -> list[schemas.DispatchOut]:
    """A page of the messages that wait or went, the last first."""
    return [wire.dispatch(record) for record in sending.dispatches(workshop, first, most)]


@router.get("/dispatches/{dispatch}/file", response_class=Response)
def dispatch_file(dispatch: str, workshop: WorkshopDep) -> Response:
    """The very bytes of a message."""
    record = sending.dispatch(workshop, dispatch)
    disposition = f"attachment; filename*=UTF-8''{quote(record.name)}.eml"
    headers = {"Content-Disposition": disposition, "Cache-Control": "no-store"}
    return Response(looking.kept_bytes(workshop, record.blob), media_type=MEDIA_TYPE, headers=headers)


@router.post("/dispatches/{dispatch}/openings", status_code=201)
def look_at_dispatch(dispatch: str, workshop: WorkshopDep) -> hand_over_schemas.OpenedCopyOut:
    """Open a message as it was sent."""
    record = sending.dispatch(workshop, dispatch)
    return hand_over_wire.look(workshop, handing_over.look_at(workshop, record.blob, f"{record.name}.eml"))


@router.post("/dispatches/{dispatch}/tries", status_code=202)
def try_now(dispatch: str, services: ServicesDep) -> schemas.DispatchOut:
    """Try a message that waits at once."""
    record = sending.try_now(services.workshop, dispatch)
    _wake(services)
    return wire.dispatch(record)


@router.delete("/dispatches/{dispatch}")
def withdraw(dispatch: str, workshop: WorkshopDep) -> schemas.DispatchOut:
    """Have a message that waits not sent any more."""
    return wire.dispatch(sending.withdraw(workshop, dispatch))
