"""The user's options and keys."""

from __future__ import annotations

from tijera.usecases.options import change_options, options
from tijera.web.bench import schemas as bench_schemas
from tijera.web.bench import wire as bench_wire
from tijera.web.deps import WorkshopDep
from tijera.web.router import api_router

router = api_router("options", "/options")


@router.get("")
def show(workshop: WorkshopDep) -> bench_schemas.OptionsOut:
    """All options, and all keys as they stand."""
    return bench_wire.options(options(workshop))


@router.patch("")
def change(body: bench_schemas.OptionsIn, workshop: WorkshopDep) -> bench_schemas.OptionsOut:
    """Set some of them."""
    return bench_wire.options(change_options(workshop, **body.model_dump(exclude_none=True)))
