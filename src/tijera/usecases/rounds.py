"""Rounds: a clipping's area is taken at set times, with nobody there, until an end.

What a round takes hangs on the rack like any clipping, and is no part of undo: nobody did it. A time at which nothing could be
taken is written down with its reason, also where nobody was there to take it: this computer slept, or Tijera was not running.
"""

from __future__ import annotations

import logging
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from tijera.core.clippings.anew import by_itself, share_apart
from tijera.core.errors import NotFound, RoundsEndBefore, TijeraError
from tijera.core.frames.frame import Monitor, WindowBox, scale_factor_of
from tijera.core.frames.source import Grab
from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture
from tijera.core.moments import iso, moment_of
from tijera.core.naming import clean_name
from tijera.core.rounds.times import Times, read_times
from tijera.records import ClippingRecord, FrameRecord, Gap, RoundRecord
from tijera.usecases.naming import found_as, free_name
from tijera.usecases.retaking import area_now, check_source, on_frame
from tijera.usecases.workshop import Workshop, not_able

ON_TIME = timedelta(seconds=60)
"""What is taken so late is of that time still."""
MOST_GAPS = 200
_AWAY = "this computer slept, or Tijera was not running"
_LOG = logging.getLogger(__name__)


@dataclass(frozen=True)
class RoundWish:
    """When an area is taken: every so many minutes, or at times of the wall's clock; and until when that shows."""

    until: datetime
    """Naive: what the wall shows."""
    every_min: int | None = None
    at: str = ""
    only_changed: bool = False
    name: str = ""


def begin(workshop: Workshop, clipping_id: str, wish: RoundWish) -> RoundRecord:
    """Begin rounds. Raises `NotFound`, `NotAnew`, `NotAble`, `TimesUnreadable`, `RoundsEndBefore`."""
    record = workshop.store.find(ClippingRecord, clipping_id)
    frame = workshop.pictures.frame(record.frame)
    check_source(workshop, record, frame)
    if not workshop.source(frame.source).abilities.can("unattended"):
        raise not_able(
            frame.source, "unattended", "Take it by hand, or from a source that can be taken with nobody there."
        )
    times = Times(wish.every_min, read_times(wish.at) if wish.at.strip() else ())
    begun = _moment(workshop.now())
    until = moment_of(workshop.local_time, wish.until)
    first = times.after(begun, begun, workshop.local_time)
    if first > until:
        raise RoundsEndBefore
    rounds = RoundRecord(
        id=workshop.new_id(),
        name=clean_name(wish.name) or record.name,
        model=clipping_id,
        every_min=wish.every_min,
        at=tuple(f"{each:%H:%M}" for each in times.at),
        begun_at=iso(begun),
        until=iso(until),
        only_changed=wish.only_changed,
        next_at=iso(first),
    )
    workshop.store.add(rounds)
    return rounds


def stop(workshop: Workshop, round_id: str) -> RoundRecord:
    """Take nothing more. Raises `NotFound`."""
    return workshop.store.set_aside(RoundRecord, round_id, lambda each: replace(each, next_at=None, stopped=True))


def every(workshop: Workshop) -> list[RoundRecord]:
    """All rounds, the last begun first."""
    return workshop.store.rounds()


def find(workshop: Workshop, round_id: str) -> RoundRecord:
    """One of them. Raises `NotFound`."""
    return workshop.store.find(RoundRecord, round_id)


def seconds_to_next(workshop: Workshop) -> float | None:
    """How long until one is due; None where none goes on."""
    open_rounds = workshop.store.open_rounds()
    if not open_rounds or open_rounds[0].next_at is None:
        return None
    return (_moment(open_rounds[0].next_at) - _moment(workshop.now())).total_seconds()


def go(workshop: Workshop) -> None:
    """Take what is due, and write down what was missed."""
    for rounds in workshop.store.open_rounds():
        _go(workshop, rounds)


def _go(workshop: Workshop, rounds: RoundRecord) -> None:
    now = _moment(workshop.now())
    until, times = _moment(rounds.until), _times(rounds)
    due = list(_due(workshop, rounds, times, min(now, until)))
    following = times.after(max(now, _moment(rounds.begun_at)), _moment(rounds.begun_at), workshop.local_time)
    # A clock that was set back: it is due as soon as it would have been.
    next_at = iso(following) if following <= until else None
    if not due:
        if next_at != rounds.next_at:
            workshop.store.set_aside(RoundRecord, rounds.id, lambda each: _waiting(each, next_at))
        return
    on_time = now - due[-1] <= ON_TIME
    missed = due[:-1] if on_time else due
    if missed:
        _note_gap(workshop, rounds, missed[0], missed[-1], len(missed), _AWAY)
    if on_time:
        _take_or_say(workshop, rounds, due[-1])
    workshop.store.set_aside(RoundRecord, rounds.id, lambda each: _waiting(each, next_at))


def _due(workshop: Workshop, rounds: RoundRecord, times: Times, last: datetime) -> Iterator[datetime]:
    if rounds.next_at is None:
        return iter(())
    return times.between(_moment(rounds.next_at), last, _moment(rounds.begun_at), workshop.local_time)


def _take_or_say(workshop: Workshop, rounds: RoundRecord, due: datetime) -> None:
    """Take it; where that can't be done, say so."""
    try:
        _take(workshop, rounds)
    except TijeraError as error:
        why = error.detail
    except OSError as error:
        why = f"it could not be kept: {error.strerror or error}"
    else:
        return
    _LOG.info("rounds %s: %s", rounds.id, why)
    _note_gap(workshop, rounds, due, due, 1, why)


def _take(workshop: Workshop, rounds: RoundRecord) -> None:
    model = workshop.store.find_or_none(ClippingRecord, rounds.model)
    if model is None:
        raise NotFound(what="clipping whose area it is", key=rounds.name)
    then = workshop.pictures.frame(model.frame)
    grab = workshop.source(then.source).grab()
    picture, frame = _cut(workshop, model, then, grab)
    shown = on_frame(model, frame, Rect.whole(picture.size))
    last = workshop.store.newest_of_round(rounds.id) if rounds.only_changed else None
    if last is not None and _is_same(workshop, last, shown, picture):
        workshop.store.set_aside(RoundRecord, rounds.id, lambda each: replace(each, same=each.same + 1))
        return
    # Encoded before the step that keeps it: others write meanwhile.
    blob = workshop.keep_frame(picture)
    taken = replace(
        shown,
        id=workshop.new_id(),
        name=free_name(workshop, rounds.name, frame.taken_at, pattern="{window} {date} {time}"),
        taken_at=frame.taken_at,
        found_as=found_as(workshop, frame.taken_at),
        rank=0,
        pinned=False,
        round=rounds.id,
    )
    with workshop.store.together():
        workshop.store.add(replace(frame, blob=blob))
        workshop.store.add(taken)
        workshop.store.set_aside(RoundRecord, rounds.id, lambda each: replace(each, taken=each.taken + 1))


def _cut(workshop: Workshop, model: ClippingRecord, then: FrameRecord, grab: Grab) -> tuple[Picture, FrameRecord]:
    """The area as it is now, and a frame of nothing but it, whose picture has yet to be kept."""
    window, area = area_now(model, then, grab.frame.size, grab.frame.windows, lambda each: grab.whole[each.id].size)
    on = grab.picture if window is None else grab.whole[window.id]
    seen = grab.frame.windows if window is None else (by_itself(window, on.size),)
    picture = on.cut(area)
    scale_factor = scale_factor_of(area if window is None else window.box, grab.frame.monitors)
    box = Rect.whole(picture.size)
    frame = FrameRecord(
        id=workshop.new_id(),
        source=then.source,
        blob="",
        original=None,
        width=picture.size.width,
        height=picture.size.height,
        scale_factor=scale_factor,
        windows=tuple(_seen_from(each, area) for each in seen if each.box.meet(area)),
        taken_at=workshop.now(),
        monitors=(Monitor("area", model.name, box, scale_factor),),
    )
    return picture, frame


def _seen_from(window: WindowBox, area: Rect) -> WindowBox:
    content = None if window.content is None else window.content.shifted(-area.x, -area.y)
    return replace(window, box=window.box.shifted(-area.x, -area.y), content=content, is_whole=False)


def _is_same(workshop: Workshop, last: ClippingRecord, shown: ClippingRecord, picture: Picture) -> bool:
    """Whether what would be seen of it is what the last one shows."""
    if last.crop != shown.crop or last.area != shown.area:
        return False
    before = workshop.frame_pixels(workshop.pictures.frame(last.frame))
    return share_apart(before.cut(shown.crop), picture.cut(shown.crop)) == 0


def _note_gap(workshop: Workshop, rounds: RoundRecord, first: datetime, last: datetime, count: int, why: str) -> None:
    """Write a gap down; the same reason at the time that comes next is the same gap, longer."""

    def noted(now: RoundRecord) -> RoundRecord:
        before = now.gaps[-1] if now.gaps else None
        if before is not None and before.why == why:
            following = _times(now).after(_moment(before.last), _moment(now.begun_at), workshop.local_time)
            if following == first:
                return replace(now, gaps=(*now.gaps[:-1], replace(before, last=iso(last), count=before.count + count)))
        return replace(now, gaps=(*now.gaps, Gap(iso(first), iso(last), count, why))[-MOST_GAPS:])

    workshop.store.set_aside(RoundRecord, rounds.id, noted)


def _waiting(rounds: RoundRecord, next_at: str | None) -> RoundRecord:
    # It may have been stopped meanwhile.
    return rounds if rounds.next_at is None else replace(rounds, next_at=next_at)


def _times(rounds: RoundRecord) -> Times:
    return Times(rounds.every_min, read_times(" ".join(rounds.at)) if rounds.at else ())


def _moment(moment: str) -> datetime:
    return datetime.fromisoformat(moment)
