"""Where routes of the API hang."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter

from tijera.web.base import Problem
from tijera.web.problems import MEDIA_TYPE

_REFUSAL = {MEDIA_TYPE: {"schema": {"$ref": f"#/components/schemas/{Problem.__name__}"}}}
_ANSWERS: dict[int | str, dict[str, Any]] = {
    "4XX": {"content": _REFUSAL, "description": "What was wrong, why, what to do"},
    "5XX": {"content": _REFUSAL, "description": "Nothing can be kept now, or a fault with its number"},
}
"""By reference, not by model: two models more for each of 140 routes were a tenth of the start. `described.describe` has it."""


def api_router(tag: str, prefix: str = "") -> APIRouter:
    """A router below `/api/v1`, whole in itself.

    The application takes over its routes as they are. A router that is included in another has each of its routes put
    together once more, with all their schemas: that was a sixth of the start.
    """
    return APIRouter(prefix=f"/api/v1{prefix}", tags=[tag], responses=_ANSWERS)
