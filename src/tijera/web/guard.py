"""What stands before every request: only from our own page, only who was let in, only so many bytes; headers for every answer.

The application listens on the loopback address, but any page that the user's browser has open can send requests there,
and a name that is made to resolve to it (DNS rebinding) even reads the answers. So foreign Host and Origin are refused.
"""

from __future__ import annotations

import asyncio
import secrets
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders, QueryParams
from starlette.responses import HTMLResponse, JSONResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from tijera.core.errors import HostRefused, InputTooHeavy, NotLetIn, TijeraError, UploadStalled
from tijera.web.entry import ENTER, PUBLIC, Entry, locked_page, own_path
from tijera.web.problems import MEDIA_TYPE, problem_of, status_of

LOCAL_HOSTS = frozenset({"127.0.0.1", "localhost", "::1"})
MOST_JSON_BYTES = 1_000_000


def content_security_policy(nonce: str) -> str:
    """Everything from here, nothing from elsewhere; styles by nonce."""
    return "; ".join(
        (
            "default-src 'none'",
            "script-src 'self'",
            f"style-src 'self' 'nonce-{nonce}'",
            "img-src 'self' blob: data:",
            "font-src 'self'",
            "connect-src 'self'",
            "manifest-src 'self'",
            "worker-src 'self'",
            "frame-src 'self'",
            "base-uri 'none'",
            "form-action 'none'",
            "frame-ancestors 'none'",
        )
    )


OTHERS_POLICY = "; ".join(
    (
        "default-src 'none'",
        "img-src data:",
        "style-src 'unsafe-inline'",
        "base-uri 'none'",
        "form-action 'none'",
        "frame-ancestors 'self'",
        "sandbox",
    )
)
"""For a page that shows what somebody else wrote: no script, nothing from the net, an origin of its own."""


PERMISSIONS = ", ".join(
    (
        "display-capture=(self)",
        "clipboard-read=(self)",
        "clipboard-write=(self)",
        *(f"{each}=()" for each in ("camera", "microphone", "geolocation", "usb", "serial", "payment")),
    )
)
"""What the page may ask the browser for (Permissions Policy)."""
_IMMUTABLE = "private, max-age=31536000, immutable"


class Guard:
    """Round the whole application, so that its faults have the same headers as its answers."""

    body_within_s = 20.0
    """Of a body something must come at least this often."""

    def __init__(self, app: ASGIApp, hosts: frozenset[str], most_upload_bytes: int, entry: Entry | None) -> None:
        """Without an `entry` whoever can reach it is let in."""
        self._app = app
        self._hosts = hosts
        self._most_upload = most_upload_bytes
        self._entry = entry

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Check the request, then let it through."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        nonce = secrets.token_urlsafe(16)
        scope.setdefault("state", {})["nonce"] = nonce

        async def send_guarded(message: Message) -> None:
            if message["type"] == "http.response.start":
                out = MutableHeaders(scope=message)
                # A page that shows somebody else's message has a stricter policy of its own.
                out.setdefault("Content-Security-Policy", content_security_policy(nonce))
                out.setdefault("Cache-Control", _IMMUTABLE if scope["path"].startswith("/assets/") else "no-store")
                out["Permissions-Policy"] = PERMISSIONS
                out["X-Content-Type-Options"] = "nosniff"
                out.setdefault("Referrer-Policy", "no-referrer")
                out["Cross-Origin-Opener-Policy"] = "same-origin"
                out["Cross-Origin-Resource-Policy"] = "same-origin"
            await send(message)

        answer = self._answer(scope, headers, nonce)
        if answer is not None:
            await answer(scope, receive, send_guarded)
            return
        try:
            await self._app(scope, self._counted(headers, receive), send_guarded)
        except Exception:
            # One that was answered as a fault is in the log; there is nobody above who could do more about it.
            if "fault" not in scope["state"]:
                raise

    def _answer(self, scope: Scope, headers: Headers, nonce: str) -> Response | None:
        """What is answered before the application is asked; None where it is to be."""
        foreign = self._foreign(headers)
        if foreign is not None:
            return _refused(HostRefused(host=foreign))
        if self._entry is None:
            return None
        path = str(scope["path"])
        if path == ENTER:
            asked = QueryParams(scope["query_string"])
            if not self._entry.opens(asked.get("key", "")):
                return HTMLResponse(locked_page(nonce), 401)
            to = own_path(asked.get("to", "/"))
            return Response(status_code=303, headers={"Location": to, "Set-Cookie": self._entry.set_cookie()})
        if path in PUBLIC or self._entry.admits(headers):
            return None
        if headers.get("sec-fetch-dest") == "document" or "text/html" in headers.get("accept", ""):
            return HTMLResponse(locked_page(nonce), 401)
        return _refused(NotLetIn())

    def _foreign(self, headers: Headers) -> str | None:
        """The name of a foreign host or origin; None when the request is one of ours."""
        host = headers.get("host", "")
        try:
            name = urlsplit(f"//{host}").hostname
            origin = headers.get("origin")
            same = origin is None or (urlsplit(origin).netloc == host and urlsplit(origin).scheme in ("http", "https"))
        except ValueError:
            return host
        if name not in self._hosts:
            return host
        # Another port of this machine is the same site, but not the same page; a link there may lead here.
        site, leads_here = headers.get("sec-fetch-site"), headers.get("sec-fetch-mode") == "navigate"
        if not same or site == "cross-site" or (site == "same-site" and not leads_here):
            return origin or "another page"
        return None

    def _counted(self, headers: Headers, receive: Receive) -> Receive:
        """Receive no more than the kind of body may have, whatever length was announced."""
        is_upload = headers.get("content-type", "").startswith("application/octet-stream")
        most = self._most_upload if is_upload else MOST_JSON_BYTES
        received, whole = 0, False

        async def counted() -> Message:
            nonlocal received, whole
            # Behind the whole body there is nothing to wait for but that the client goes, which may take as long as it likes.
            try:
                message = await (receive() if whole else asyncio.wait_for(receive(), self.body_within_s))
            except TimeoutError:
                raise UploadStalled(seconds=round(self.body_within_s)) from None
            whole = message["type"] != "http.request" or not message.get("more_body", False)
            received += len(message.get("body", b""))
            if received > most:
                raise InputTooHeavy(name="upload", most_bytes=most)
            return message

        return counted


def _refused(error: TijeraError) -> Response:
    return JSONResponse(problem_of(error), status_of(error), media_type=MEDIA_TYPE)
