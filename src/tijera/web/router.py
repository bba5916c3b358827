"""Where routes of the API hang."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter

from tijera.web.base import Problem
from tijera.web.problems import MEDIA_TYPE

_ANSWERS: dict[int | str, dict[str, Any]] = {
    "4XX": {"model": Problem, "content": {MEDIA_TYPE: {}}, "description": "What was wrong, why, what to do"},
    "5XX": {
        "model": Problem,
        "content": {MEDIA_TYPE: {}},
        "description": "Nothing can be kept now, or a fault with its number",
    },
}


def api_router(tag: str, prefix: str = "") -> APIRouter:
    """A router below `/api/v1`, whole in itself.

    The application takes over its routes as they are. A router that is included in another has each of its routes put
    together once more, with all their schemas: that was a sixth of the start.
    """
    return APIRouter(prefix=f"/api/v1{prefix}", tags=[tag], responses=_ANSWERS)
