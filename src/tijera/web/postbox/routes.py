"""Looking into the postbox, and telling it how to behave; only where it is there."""

from __future__ import annotations

from typing import TYPE_CHECKING

from fastapi.responses import HTMLResponse, Response

from tijera.core.errors import NotFound
from tijera.web.deps import Services, ServicesDep
from tijera.web.guard import OTHERS_POLICY
from tijera.web.postbox import schemas
from tijera.web.router import api_router

if TYPE_CHECKING:
    from tijera.postbox.mailboxes import Arrived
    from tijera.postbox.server import Postbox

router = api_router("postbox", "/postbox")
_STYLE = "body{margin:16px;background:#fff;color:#20282a;font:15px/1.5 sans-serif}img{max-width:100%}"


def _postbox(services: Services) -> Postbox:
    if services.postbox is None:
        raise NotFound(what="postbox", key="here")
    return services.postbox


def _message(services: Services, mailbox: str, number: int) -> Arrived:
    found = _postbox(services).mailboxes.message(mailbox, number)
    if found is None:
        raise NotFound(what="message", key=f"{mailbox} {number}")
    return found


@router.get("")
def postbox(services: ServicesDep) -> schemas.PostboxOut:
    """What arrived, and how it behaves."""
    from tijera.postbox.mailboxes import MAILBOXES

    box = _postbox(services)
    return schemas.PostboxOut(
        conduct=box.conduct.value,
        mailboxes=[
            schemas.MailboxOut(
                name=each.name,
                words=each.words,
                address=each.address,
                limit_bytes=each.limit_bytes,
                arrived=[_arrived(one) for one in box.mailboxes.arrived(each.name)],
            )
            for each in MAILBOXES
        ],
    )


def _arrived(each: Arrived) -> schemas.ArrivedOut:
    seen = each.seen
    hanging = [
        [schemas.HangingOut(name=one.name, media_type=one.media_type, bytes=one.bytes) for one in some]
        for some in (seen.attached, seen.attached_plain)
    ]
    return schemas.ArrivedOut(
        number=each.number,
        at=each.at,
        sender=seen.sender,
        subject=seen.subject,
        bytes=len(each.data),
        message_id=seen.message_id,
        copy_of=each.copy_of,
        order=each.order,
        has_page=bool(seen.page),
        pictures_shown=seen.pictures_shown,
        plain=seen.plain,
        attached=hanging[0],
        attached_plain=hanging[1],
    )


@router.put("/conduct", status_code=204)
def conduct(body: schemas.ConductWire, services: ServicesDep) -> None:
    """Tell it how to behave, to see what becomes of a message then."""
    from tijera.postbox.server import Conduct

    _postbox(services).conduct = Conduct(body.conduct)


@router.get("/{mailbox}/{number}/page", response_class=HTMLResponse)
def page(mailbox: str, number: int, services: ServicesDep) -> HTMLResponse:
    """A message that arrived, where pictures show; under a policy that lets nothing in or out."""
    html = (
        f"<!doctype html><title>Message</title><style>{_STYLE}</style>{_message(services, mailbox, number).seen.page}"
    )
    return HTMLResponse(html, headers={"Content-Security-Policy": OTHERS_POLICY, "Cache-Control": "no-store"})


@router.get("/{mailbox}/{number}/file", response_class=Response)
def file(mailbox: str, number: int, services: ServicesDep) -> Response:
    """The very bytes that arrived."""
    found = _message(services, mailbox, number)
    headers = {"Content-Disposition": f'attachment; filename="{mailbox}-{number}.eml"', "Cache-Control": "no-store"}
    return Response(found.data, media_type="message/rfc822", headers=headers)
