"""From the core's values to what goes over the wire when a message is sent."""

from __future__ import annotations

from typing import cast

from tijera.core.mail.post import MailServer
from tijera.records import DispatchRecord
from tijera.usecases.mailing import Recipient
from tijera.web.mail import schemas


def mail(server: MailServer | None, *, is_own: bool, has_postbox: bool) -> schemas.MailOut:
    """Which server takes the mail; never its password."""
    return schemas.MailOut(
        host=server.host if server else None,
        port=server.port if server else None,
        security=cast("schemas.Security", server.security) if server else None,
        user=server.user if server else "",
        has_password=bool(server and server.password),
        is_own=is_own,
        has_postbox=has_postbox,
    )


def recipient(each: Recipient) -> schemas.RecipientOut:
    """Somebody who is written to often."""
    return schemas.RecipientOut(
        name=each.name, address=each.address, subject=each.subject, limit_bytes=each.limit_bytes
    )


def dispatch(record: DispatchRecord) -> schemas.DispatchOut:
    """A message on its way, or gone."""
    return schemas.DispatchOut(
        id=record.id,
        destination=record.destination,
        name=record.name,
        recipients=list(record.recipients),
        reached=list(record.reached),
        refused=[list(each) for each in record.refused],
        bytes=record.bytes,
        message_id=record.message_id,
        made_at=record.made_at,
        state=cast("schemas.DispatchState", record.state),
        tries=[
            schemas.TryOut.model_validate({"at": each.at, "kind": each.kind, "words": each.words})
            for each in record.tries
        ],
        tried=record.tried,
        next_at=record.next_at,
    )
