"""Errors as problem details (RFC 9457)."""

from __future__ import annotations

import json
import logging
import secrets
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException

from tijera.core.errors import (
    ChangedElsewhere,
    ChangedMeanwhile,
    ChangedOnDisk,
    DiskFull,
    FolderUnusable,
    HostRefused,
    InputRefused,
    InputTooHeavy,
    LimitNotMet,
    MarkGone,
    NotFound,
    NothingToUndo,
    NotLetIn,
    NotShared,
    NotSignedIn,
    NotTaken,
    NotWaiting,
    PartInUse,
    PictureTooLarge,
    SignInPaused,
    SignInWrong,
    StoreBusy,
    TijeraError,
    UploadStalled,
)

MEDIA_TYPE = "application/problem+json"
_STATUS: tuple[tuple[type[TijeraError], int], ...] = (
    (NotFound, 404),
    (NothingToUndo, 409),
    (ChangedMeanwhile, 409),
    (ChangedElsewhere, 409),
    (ChangedOnDisk, 409),
    (PartInUse, 409),
    (MarkGone, 404),
    (HostRefused, 403),
    (NotLetIn, 401),
    (NotSignedIn, 401),
    (SignInWrong, 401),
    (SignInPaused, 429),
    (NotShared, 403),
    (UploadStalled, 408),
    (LimitNotMet, 409),
    (NotTaken, 409),
    (NotWaiting, 409),
    (DiskFull, 507),
    (StoreBusy, 503),
    (FolderUnusable, 503),
    (InputTooHeavy, 413),
    (PictureTooLarge, 413),
    (InputRefused, 422),
)


def status_of(error: TijeraError) -> int:
    """The status of an error: the nearest class in the table, else 400."""
    return next((status for kind, status in _STATUS if isinstance(error, kind)), 400)


def problem_of(error: TijeraError) -> dict[str, Any]:
    """An error as a problem object: title, detail, remedy, code, values."""
    values = json.loads(json.dumps(error.values, default=str))
    return {
        "type": f"/problems/{error.code}",
        "title": error.heading,
        "status": status_of(error),
        "detail": error.detail,
        "remedy": error.remedy,
        "code": error.code,
        "values": values,
    }


def _plain(status: int, code: str, title: str, detail: str, remedy: str) -> JSONResponse:
    content = {
        "type": f"/problems/{code}",
        "title": title,
        "status": status,
        "detail": detail,
        "remedy": remedy,
        "code": code,
        "values": {},
    }
    return JSONResponse(content, status, media_type=MEDIA_TYPE)


async def _tijera(_: Request, error: Exception) -> JSONResponse:
    if not isinstance(error, TijeraError):
        raise error
    return JSONResponse(problem_of(error), status_of(error), media_type=MEDIA_TYPE)


async def _invalid(_: Request, error: Exception) -> JSONResponse:
    details = error.errors() if isinstance(error, RequestValidationError) else []
    where = "; ".join(f"{'.'.join(str(part) for part in each['loc'])}: {each['msg']}" for each in details)
    return _plain(
        422, "request-invalid", "The request can't be read", where or "It is malformed.", "Load the page again."
    )


async def _http(_: Request, error: Exception) -> JSONResponse:
    status = error.status_code if isinstance(error, HTTPException) else 500
    detail = str(error.detail) if isinstance(error, HTTPException) else "unknown"
    return _plain(status, f"http-{status}", detail, "This address does not take that request.", "Load the page again.")


async def _internal(request: Request, error: Exception) -> JSONResponse:
    fault = new_fault()
    request.state.fault = fault
    route = request.scope.get("route")
    logging.getLogger("tijera").error(
        "fault %s at %s %s", fault, request.method, getattr(route, "path", "no address of ours"), exc_info=error
    )
    return _plain(
        500, "internal", "A fault in Tijera", f"Something failed that should not have (fault {fault}). What was confirmed before is kept.",
        "Try again; if it happens again, “tijera doctor” prints what to send.",
    )  # fmt: skip


def new_fault() -> str:
    """A number that the log and the user's screen have in common."""
    return secrets.token_hex(4).upper()


def install(app: FastAPI) -> None:
    """Make every error of the application a problem object."""
    app.add_exception_handler(TijeraError, _tijera)
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(Exception, _internal)
