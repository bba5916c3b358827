"""The application: the API under `/api/v1`, the built front end for everything else."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import Any

from fastapi import FastAPI, Request
from fastapi.responses import FileResponse, HTMLResponse, Response
from fastapi.staticfiles import StaticFiles

from tijera import __version__
from tijera.core.errors import NotFound
from tijera.core.marks.scripts import FONTS
from tijera.web import problems
from tijera.web.bench import options
from tijera.web.bench import routes as bench
from tijera.web.deps import FOREVER, Services
from tijera.web.described import describe
from tijera.web.docs import serve_docs
from tijera.web.entry import Entry
from tijera.web.guard import LOCAL_HOSTS, Guard
from tijera.web.hand_over import handovers
from tijera.web.hand_over import routes as hand_over
from tijera.web.history import routes as history
from tijera.web.links import routes as links
from tijera.web.mail import routes as mail
from tijera.web.place import placements
from tijera.web.place import routes as place
from tijera.web.postbox import routes as postbox
from tijera.web.rack import routes as rack
from tijera.web.rounds import routes as rounds
from tijera.web.take import anew, frames, longpages, sources
from tijera.web.trim import routes as trim

TYPEFACES = frozenset(path.name for path in FONTS.glob("*.ttf"))
STATIC = Path(__file__).parent / "static"
ROOMS = ("", "start", "take", "trim", "place", "hand-over", "postbox", "history", "anew")
_NONCE = "%CSP_NONCE%"
_BESIDE = {
    "manifest.webmanifest": "application/manifest+json",
    "icon-192.png": "image/png",
    "icon-512.png": "image/png",
}
"""Files at the root: what makes the page installable (Web Application Manifest)."""
_SPARE_UPLOAD_BYTES = 1_000_000


def create_app(services: Services, hosts: frozenset[str] = LOCAL_HOSTS, entry: Entry | None = None) -> FastAPI:
    """Make the application; `hosts` are the names that it may be addressed by, `entry` says who is let in."""
    app = FastAPI(
        title="Tijera",
        version=__version__,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/v1/openapi.json",
    )
    app.state.services = services
    app.state.entry = entry
    problems.install(app)
    # A little over the guard, so that a file just over it gets the guard's own words.
    most_bytes = services.workshop.guards.file_bytes + _SPARE_UPLOAD_BYTES
    inside = app.build_middleware_stack
    app.build_middleware_stack = lambda: Guard(inside(), hosts, most_bytes, entry)  # type: ignore[method-assign]
    for module in (
        bench,
        options,
        sources,
        frames,
        longpages,
        trim,
        rack,
        hand_over,
        place,
        placements,
        handovers,
        mail,
        postbox,
        history,
        anew,
        links,
        rounds,
    ):
        app.router.routes.extend(module.router.routes)
    _describe(app)
    serve_docs(app)
    _serve_front_end(app)
    return app


def _describe(app: FastAPI) -> None:
    """Have the description of the interface say what every field means."""
    plain = app.openapi

    def described() -> dict[str, Any]:
        if app.openapi_schema is None:
            describe(plain())
        return plain()

    app.openapi = described  # type: ignore[method-assign]


def _file_beside(name: str, media_type: str) -> Response:
    return FileResponse(STATIC / name, media_type=media_type)


def _typeface(name: str) -> Response:
    """The very font that the server draws with: the mat's marks are set in it too."""
    if f"{name}.ttf" not in TYPEFACES:
        raise NotFound(what="typeface", key=name)
    return FileResponse(FONTS / f"{name}.ttf", media_type="font/ttf", headers={"Cache-Control": FOREVER})


def _serve_front_end(app: FastAPI) -> None:
    """The built files, and the one page for every room."""
    app.add_api_route("/typefaces/{name}.ttf", _typeface, include_in_schema=False)
    if (STATIC / "assets").is_dir():
        app.mount("/assets", StaticFiles(directory=STATIC / "assets"), name="assets")

    def page(request: Request) -> Response:
        index = STATIC / "index.html"
        if not index.is_file():
            return HTMLResponse("<p>The front end has not been built: run <code>make build</code>.</p>", 503)
        html = index.read_text(encoding="utf-8").replace(_NONCE, request.state.nonce)
        return HTMLResponse(html, headers={"Cache-Control": "no-store"})

    for name, media_type in _BESIDE.items():
        app.add_api_route(f"/{name}", partial(_file_beside, name, media_type), include_in_schema=False)
    for room in ROOMS:
        app.add_api_route(f"/{room}", page, include_in_schema=False)
