"""The door of a server for several people: it finds out who asks, and hands the request to that person's own application.

Each person has an application, a folder and a database of their own. A request reaches the one of its session and no other, so
whatever ids it names, there is nothing of anybody else's to be found.
"""

from __future__ import annotations

import asyncio
from collections.abc import Callable
from http.cookies import CookieError, SimpleCookie
from typing import TYPE_CHECKING
from urllib.parse import parse_qs, quote

from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers
from starlette.requests import Request
from starlette.responses import HTMLResponse, JSONResponse, Response
from starlette.types import ASGIApp, Receive, Scope, Send

from tijera.core.errors import NotSignedIn, SignInPaused, SignInWrong, TijeraError
from tijera.people.accounts import Accounts, Person
from tijera.people.pages import SIGN_IN_POLICY, sign_in_page
from tijera.web.entry import own_path
from tijera.web.problems import MEDIA_TYPE, problem_of, status_of

if TYPE_CHECKING:
    from fastapi import FastAPI

SIGN_IN = "/sign-in"
_COOKIE = "tijera-session"
_MOST_FORM_BYTES = 4_000


class PeopleDoor:
    """The ASGI application that stands in front of everybody's."""

    def __init__(self, accounts: Accounts, build: Callable[[Person], FastAPI], *, secure: bool) -> None:
        """`build` makes somebody's application; with `secure` the cookie goes through TLS only."""
        self._accounts, self._build = accounts, build
        # A name with this prefix is taken by browsers only from the very host, over TLS (RFC 6265bis §4.1.3.2).
        self.cookie = f"__Host-{_COOKIE}" if secure else _COOKIE
        self._more = "; Secure" if secure else ""
        self._apps: dict[str, FastAPI] = {}
        self._building = asyncio.Lock()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer, or have it answered."""
        if scope["type"] != "http":
            return
        answer = await self._answer(scope, receive)
        await answer(scope, receive, send)

    async def _answer(self, scope: Scope, receive: Receive) -> ASGIApp:
        path, method = str(scope["path"]), str(scope["method"])
        headers = Headers(scope=scope)
        token = self._token_of(headers)
        person = await run_in_threadpool(self._accounts.person_of, token) if token else None
        if path == SIGN_IN:
            return await self._signing_in(Request(scope, receive), person)
        if person is None:
            if headers.get("sec-fetch-dest") == "document" or "text/html" in headers.get("accept", ""):
                return Response(status_code=303, headers={"Location": f"{SIGN_IN}?to={quote(_wanted(scope))}"})
            return _refused(NotSignedIn())
        if path == "/api/v1/session" and method == "GET":
            return JSONResponse({"person": person.name})
        if path == "/api/v1/session" and method == "DELETE":
            await run_in_threadpool(self._accounts.sign_out, token)
            return Response(status_code=204, headers={"Set-Cookie": self._set("", 0)})
        if path == "/api/v1/sessions" and method == "DELETE":
            await run_in_threadpool(self._accounts.sign_out_everywhere, person)
            return Response(status_code=204, headers={"Set-Cookie": self._set("", 0)})
        return await self._app_of(person)

    async def _app_of(self, person: Person) -> ASGIApp:
        app = self._apps.get(person.id)
        if app is not None:
            return app
        async with self._building:
            if person.id not in self._apps:
                self._apps[person.id] = await run_in_threadpool(self._build, person)
            return self._apps[person.id]

    async def _signing_in(self, request: Request, person: Person | None) -> Response:
        nonce = str(request.state.nonce)
        to = own_path(request.query_params.get("to", "/"))
        if request.method in ("GET", "HEAD"):
            return self._page(nonce, to) if person is None else Response(status_code=303, headers={"Location": to})
        if request.method != "POST":
            return Response(status_code=405)
        body = b""
        async for piece in request.stream():
            body += piece
            if len(body) > _MOST_FORM_BYTES:
                return Response(status_code=413)
        fields = parse_qs(body.decode("utf-8", "replace"), keep_blank_values=True)
        name, password = (fields.get(each, [""])[0] for each in ("name", "password"))
        try:
            token = await run_in_threadpool(self._accounts.sign_in, name, password)
        except (SignInWrong, SignInPaused) as error:
            return self._page(nonce, to, f"{error.detail} {error.remedy}", name, status_of(error))
        return Response(status_code=303, headers={"Location": to, "Set-Cookie": self._set(token, 7 * 24 * 3_600)})

    def _page(self, nonce: str, to: str, refusal: str = "", name: str = "", status: int = 200) -> Response:
        headers = {
            "Content-Security-Policy": SIGN_IN_POLICY.format(nonce=nonce),
            # A form of a page without referrers is sent with the origin "null" (Fetch Standard, "append a request Origin header").
            "Referrer-Policy": "same-origin",
        }
        return HTMLResponse(sign_in_page(nonce, to, refusal, name), status, headers=headers)

    def _token_of(self, headers: Headers) -> str:
        try:
            found = SimpleCookie(headers.get("cookie", "")).get(self.cookie)
        except CookieError:
            return ""
        return "" if found is None else found.value

    def _set(self, token: str, seconds: int) -> str:
        return f"{self.cookie}={token}; Path=/; Max-Age={seconds}; HttpOnly; SameSite=Strict{self._more}"

    def close(self) -> None:
        """End everybody's application."""
        for app in self._apps.values():
            app.state.services.close()
        self._accounts.close()


def _wanted(scope: Scope) -> str:
    query = bytes(scope.get("query_string", b"")).decode("ascii", "ignore")
    return f"{scope['path']}?{query}" if query else str(scope["path"])


def _refused(error: TijeraError) -> Response:
    return JSONResponse(problem_of(error), status_of(error), media_type=MEDIA_TYPE)
