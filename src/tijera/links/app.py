"""The application behind links: four kinds of address, and the same answer for everything else.

::

    GET  /TOKEN               the picture's page, or the page that asks
    POST /TOKEN               the password, or the press that counts as a view
    GET  /TOKEN/PASS          the picture's page, for a few minutes after a view was counted
    GET  /TOKEN/PASS/NAME     the picture

A pass is a moment and a keyed digest of it (HMAC, RFC 2104): who has it was let in, nothing is kept for it, and it holds for
its link alone.
"""

from __future__ import annotations

import asyncio
import hashlib
import hmac
import re
import secrets
import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from urllib.parse import parse_qs, quote

from starlette.responses import Response
from starlette.types import Receive, Scope, Send

from tijera.core.errors import LinkClosed, LinkGone, LinkNotOpened, LinkWrongPassword
from tijera.core.links.standing import LinkState
from tijera.links.page import asking_page, nothing_page, picture_page, style_policy, words_page
from tijera.records import LinkRecord
from tijera.usecases.linking import Links

_PASS_S = 300
_MOST_BODY_BYTES = 4_096
_PATH = re.compile(
    r".*?/(?P<token>[A-Za-z0-9_-]{32})(?:/(?P<passed>[0-9a-f]{1,16}-[0-9a-f]{64})(?:/(?P<name>[^/]{1,300}))?)?"
)
"""What stands before the token is of something in front that passes requests on; addresses on the pages are relative."""
_STATUS = {LinkGone: 410, LinkClosed: 429, LinkWrongPassword: 403}


@dataclass(frozen=True)
class _Asked:
    """A request, in the parts that matter."""

    method: str
    token: str
    passed: str
    name: str


class LinkPages:
    """The ASGI application. `seconds` is a clock that only runs on, for passes."""

    def __init__(self, links: Links, seconds: Callable[[], float] = time.monotonic) -> None:
        self._links = links
        self._seconds = seconds
        self._key = secrets.token_bytes(32)
        self._nothing = _guarded(Response(nothing_page(), 404, media_type="text/html"))

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request."""
        if scope["type"] != "http":
            return
        asked = _read(scope)
        link = self._links.known(asked.token) if asked else None
        if asked is None or link is None:
            # The same for a guess as for any other address.
            await self._nothing(scope, receive, send)
            return
        body = await _body(receive) if asked.method == "POST" else b""
        # A password takes its time, and what is kept is read from a disk.
        answer = _guarded(await asyncio.to_thread(self._answer, asked, link, body))
        await answer(scope, receive, send)

    def _answer(self, asked: _Asked, link: LinkRecord, body: bytes) -> Response:
        try:
            if asked.passed:
                return self._passed(asked, link)
            if asked.method == "POST":
                return self._let_in(asked, link, body)
            self._links.check_open(link)
            if self._links.asks(link):
                return Response(asking_page(link, asked.token), media_type="text/html")
            # What only looks at the head of the answer has seen nothing.
            link = link if asked.method == "HEAD" else self._links.open(link)
            return self._page(link, f"{asked.token}/{self._pass_of(link)}")
        except LinkNotOpened as error:
            said = words_page(error.heading, f"{error.detail} {error.remedy}")
            return Response(said, status_of(error), media_type="text/html")

    def _let_in(self, asked: _Asked, link: LinkRecord, body: bytes) -> Response:
        given = parse_qs(body.decode("utf-8", "replace"), keep_blank_values=True).get("password", [""])[0]
        try:
            link = self._links.open(link, given)
        except LinkWrongPassword as error:
            page = asking_page(link, asked.token, f"{error.heading}. {error.remedy}")
            return Response(page, status_of(error), media_type="text/html")
        # To an address of its own, so that showing the page again counts no further view.
        return Response(status_code=303, headers={"Location": f"{asked.token}/{self._pass_of(link)}"})

    def _passed(self, asked: _Asked, link: LinkRecord) -> Response:
        self._links.check_open(link, ignoring=(LinkState.USED_UP,))
        if not self._holds(link, asked.passed):
            # Back to where it is asked for.
            up = "../.." if asked.name else ".."
            return Response(status_code=303, headers={"Location": f"{up}/{asked.token}"})
        if not asked.name:
            return self._page(link, asked.passed)
        headers = {"Content-Disposition": f"inline; filename*=UTF-8''{quote(link.file)}"}
        return Response(self._links.picture(link), media_type=link.media_type, headers=headers)

    def _page(self, link: LinkRecord, folder: str) -> Response:
        """`folder` is where the picture lies, seen from the page."""
        return Response(picture_page(link, f"{folder}/{quote(link.file, safe='')}"), media_type="text/html")

    def _pass_of(self, link: LinkRecord) -> str:
        until = f"{int(self._seconds()) + _PASS_S:x}"
        return f"{until}-{self._digest(link, until)}"

    def _holds(self, link: LinkRecord, passed: str) -> bool:
        until, _, digest = passed.partition("-")
        return hmac.compare_digest(digest, self._digest(link, until)) and int(until, 16) >= self._seconds()

    def _digest(self, link: LinkRecord, until: str) -> str:
        return hmac.new(self._key, f"{link.token} {until}".encode(), hashlib.sha256).hexdigest()


def _read(scope: Scope) -> _Asked | None:
    """The parts of a request; None where it is none of ours."""
    found = _PATH.fullmatch(scope["path"])
    methods = ("GET", "HEAD") if found and found["passed"] else ("GET", "HEAD", "POST")
    if found is None or scope["method"] not in methods:
        return None
    return _Asked(scope["method"], found["token"], found["passed"] or "", found["name"] or "")


async def _body(receive: Receive) -> bytes:
    """A small form; what comes beyond it is not waited for."""
    body = bytearray()
    while len(body) <= _MOST_BODY_BYTES:
        message = await receive()
        body += message.get("body", b"")
        if not message.get("more_body", False):
            return bytes(body)
    return b""


def status_of(error: LinkNotOpened) -> int:
    """The status of an answer that shows no picture."""
    return _STATUS.get(type(error), 403)


@cache
def _guards() -> Mapping[str, str]:
    policy = (
        f"default-src 'none'; img-src 'self'; font-src data:; style-src {style_policy()}; form-action 'self'; "
        "base-uri 'none'; frame-ancestors 'none'"
    )
    return {
        "Content-Security-Policy": policy,
        "Cache-Control": "no-store",
        "Referrer-Policy": "no-referrer",
        "X-Content-Type-Options": "nosniff",
        "X-Robots-Tag": "noindex, nofollow",
        "Cross-Origin-Resource-Policy": "same-origin",
    }


def _guarded(answer: Response) -> Response:
    answer.headers.update(_guards())
    return answer
