"""The user's options and keys."""

from __future__ import annotations

from fastapi import APIRouter

from tijera.usecases.options import change_options, options
from tijera.web import take_schemas, take_wire
from tijera.web.routers.deps import WorkshopDep

router = APIRouter(prefix="/options", tags=["options"])


@router.get("")
def show(workshop: WorkshopDep) -> take_schemas.OptionsOut:
    """All options, and all keys as they stand."""
    return take_wire.options(options(workshop))


@router.patch("")
def change(body: take_schemas.OptionsIn, workshop: WorkshopDep) -> take_schemas.OptionsOut:
    """Set some of them."""
    return take_wire.options(change_options(workshop, **body.model_dump(exclude_none=True)))
