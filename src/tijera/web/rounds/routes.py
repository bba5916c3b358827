"""Rounds: begun, listed, stopped."""

from __future__ import annotations

from tijera.records import RoundRecord
from tijera.usecases import rounds
from tijera.web.deps import Services, ServicesDep, WorkshopDep
from tijera.web.rounds import schemas
from tijera.web.router import api_router

router = api_router("rounds")


def _wake(services: Services) -> None:
    if services.watchman is not None:
        services.watchman.wake()


@router.post("/clippings/{clipping}/rounds", status_code=201)
def begin(clipping: str, body: schemas.RoundIn, services: ServicesDep) -> schemas.RoundOut:
    """Take a clipping's area at set times from now on, until an end."""
    until = body.until.replace(tzinfo=None)
    wish = rounds.RoundWish(until, body.every_min, body.at, body.only_changed, body.name)
    begun = rounds.begin(services.workshop, clipping, wish)
    _wake(services)
    return _round(begun)


@router.get("/rounds")
def every(workshop: WorkshopDep) -> list[schemas.RoundOut]:
    """All rounds, the last begun first."""
    return [_round(each) for each in rounds.every(workshop)]


@router.delete("/rounds/{round}")
def stop(round: str, services: ServicesDep) -> schemas.RoundOut:  # noqa: A002  (the address names it)
    """Take nothing more; what was taken stays."""
    stopped = rounds.stop(services.workshop, round)
    _wake(services)
    return _round(stopped)


def _round(each: RoundRecord) -> schemas.RoundOut:
    return schemas.RoundOut(
        id=each.id,
        name=each.name,
        model=each.model,
        every_min=each.every_min,
        at=list(each.at),
        begun_at=each.begun_at,
        until=each.until,
        only_changed=each.only_changed,
        next_at=each.next_at,
        state="stopped" if each.stopped else "ended" if each.next_at is None else "going",
        taken=each.taken,
        same=each.same,
        gaps=[schemas.GapOut(first=gap.first, last=gap.last, count=gap.count, why=gap.why) for gap in each.gaps],
    )
