"""Taking clippings anew: the same area on today's screen, looked at beside the old one, and put in its place everywhere.

Nothing changes until it is accepted. Then the clipping shows the new frame, in all places in which it stands; where the old
picture is to stay, a copy of the old clipping takes the place. One undo brings all back.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Sequence
from dataclasses import dataclass, field, replace

from tijera.core.budget.search import Progress
from tijera.core.clippings.anew import area_anew, by_itself, found_again, marks_apart, share_apart
from tijera.core.errors import NotAnew, NotFound, TijeraError
from tijera.core.frames.frame import WindowBox
from tijera.core.geometry import Rect, Size
from tijera.records import ClippingRecord, DestinationRecord, FrameRecord, PlacementRecord
from tijera.usecases import taking
from tijera.usecases.naming import free_name
from tijera.usecases.taking import CutKind
from tijera.usecases.workshop import Workshop

_MOST_KEPT = 300


@dataclass(frozen=True)
class Anew:
    """A clipping as it would be, looked at beside what it is."""

    id: str
    before: ClippingRecord
    after: ClippingRecord
    share: float
    """The share of its pixels that differ, 0 to 1."""
    marks_apart: tuple[str, ...]
    """Marks round which it shows something else now."""
    places: tuple[PlacementRecord, ...]

    @property
    def is_changed(self) -> bool:
        """Whether it shows anything else."""
        return self.share > 0


@dataclass(frozen=True)
class LookedAt:
    """All clippings of a file, looked at: the ids of the looks, and for those that can't be taken anew name, why, what to do."""

    looks: tuple[str, ...]
    failed: tuple[tuple[str, str, str], ...]


@dataclass
class Looks:
    """What was looked at and not decided yet; the oldest are forgotten."""

    _kept: dict[str, Anew] = field(default_factory=dict)

    def keep(self, anew: Anew) -> Anew:
        """Keep one."""
        self._kept[anew.id] = anew
        while len(self._kept) > _MOST_KEPT:
            self._kept.pop(next(iter(self._kept)))
        return anew

    def find(self, anew_id: str) -> Anew:
        """One that was kept. Raises `NotFound`."""
        if anew_id not in self._kept:
            raise NotFound(what="look at today's screen", key=anew_id)
        return self._kept[anew_id]


def look(workshop: Workshop, looks: Looks, clipping_id: str) -> Anew:
    """Take a clipping's area on today's screen, and compare. Raises `NotFound`, `NotAnew`, `ScreenUnavailable`."""
    return _look(workshop, looks, workshop.store.find(ClippingRecord, clipping_id), {})


def look_at_all(workshop: Workshop, looks: Looks, destination_id: str) -> Iterator[Progress | LookedAt]:
    """The same for all clippings of a file, of one moment of each screen; says how far it is. Raises `NotFound`."""
    workshop.store.find(DestinationRecord, destination_id)
    ids = list(dict.fromkeys(each.clipping for each in workshop.store.placements(destination_id)))
    frames: dict[str, FrameRecord] = {}
    found: list[str] = []
    failed: list[tuple[str, str, str]] = []
    for done, clipping_id in enumerate(ids):
        record = workshop.store.find(ClippingRecord, clipping_id)
        yield Progress(done, len(ids), record.name)
        try:
            found.append(_look(workshop, looks, record, frames).id)
        except TijeraError as error:
            failed.append((record.name, error.detail, error.remedy))
    yield LookedAt(tuple(found), tuple(failed))


def _look(workshop: Workshop, looks: Looks, record: ClippingRecord, frames: dict[str, FrameRecord]) -> Anew:
    then = workshop.pictures.frame(record.frame)
    check_source(workshop, record, then)
    if then.source not in frames:
        frames[then.source] = taking.freeze(workshop, then.source)
    frame, area = _found(workshop, record, then, frames[then.source])
    after = on_frame(record, frame, area)
    old, new = (workshop.pictures.for_mat(each) for each in (record, after))
    apart = marks_apart(workshop.pictures.sheet(record).marks, old, new)
    shown = share_apart(workshop.pictures.finished(record), workshop.pictures.finished(after))
    places = tuple(workshop.store.placements_of(record.id))
    return looks.keep(Anew(workshop.new_id(), record, after, shown, apart, places))


def check_source(workshop: Workshop, record: ClippingRecord, then: FrameRecord) -> None:
    """Raise `NotAnew` where there is no screen to look at."""
    if record.kind == CutKind.LONG_PAGE:
        raise NotAnew(
            name=record.name,
            why="It was stitched while its page scrolled.",
            instead="Take it with Long page again, and replace its picture in its place.",
        )
    if then.source not in workshop.sources:
        raise NotAnew(
            name=record.name,
            why="It came from elsewhere: there is no screen here that shows it.",
            instead="Bring the newer picture in, and replace it in its place.",
        )


def _found(workshop: Workshop, record: ClippingRecord, then: FrameRecord, now: FrameRecord) -> tuple[FrameRecord, Rect]:
    """The frame on which the clipping's area is now, and where on it."""

    def whole_size(window: WindowBox) -> Size:
        return workshop.whole_window(now, window).size

    window, area = area_now(record, then, now.size, now.windows, whole_size)
    return (now if window is None else taking.frame_of_window(workshop, now, window)), area


def area_now(
    record: ClippingRecord,
    then: FrameRecord,
    size: Size,
    windows: Sequence[WindowBox],
    whole_size: Callable[[WindowBox], Size],
) -> tuple[WindowBox | None, Rect]:
    """Where a clipping's area is on a newer frame: on it, or on the whole picture of a window that it shows covered.

    `whole_size` gives the size of that. Raises `NotAnew`.
    """
    window = next((each for each in then.windows if each.title == record.window), None)
    if window is None:
        if not record.area.lies_within(size) or then.size != size:
            raise NotAnew(
                name=record.name,
                why=f"The screen is {size} px now, and was {then.size} px.",
                instead="Take the area again by hand, and replace the picture in its place.",
            )
        return None, record.area
    there = found_again(windows, window)
    if there is None:
        raise NotAnew(
            name=record.name,
            why=f"Its window, “{window.title}”, is not open any more.",
            instead="Open that window and try again; the clipping stays as it is.",
        )
    # One that is covered comes whole where its source gives it so.
    shown, on = (there, size) if not there.is_whole else (by_itself(there, whole_size(there)), whole_size(there))
    area = area_anew(record.area, window, shown, on)
    if area is None:
        raise NotAnew(
            name=record.name,
            why=f"Its window, “{window.title}”, does not show that part any more.",
            instead="Make the window as large as it was, and try again; the clipping stays as it is.",
        )
    return (there if there.is_whole else None), area


def on_frame(record: ClippingRecord, frame: FrameRecord, area: Rect) -> ClippingRecord:
    """The clipping on another frame, with the crop that it has where the area is as large as it was."""
    crop = record.crop if area.size == record.area.size else record.crop.within(area.size)
    whole = record.crop.size == record.area.size
    shown = Rect.whole(area.size) if whole or crop is None else crop
    after = replace(
        record,
        frame=frame.id,
        area_x=area.x,
        area_y=area.y,
        area_width=area.width,
        area_height=area.height,
        scale_factor=frame.scale_factor_of(area),
        # The pointer is where it is now; it was shown on purpose where it was.
        pointer_x=None,
        pointer_y=None,
    )
    return after.cropped_to(shown)


def accept(
    workshop: Workshop, looks: Looks, anew_ids: Sequence[str], keep_old_in: Collection[str] = ()
) -> list[ClippingRecord]:
    """Put what was looked at in the place of the old, as one change; in the files of `keep_old_in` the old one stays.

    Raises `NotFound`, and `Superseded` where a clipping was changed meanwhile.
    """
    every = [looks.find(each) for each in anew_ids]
    label = f"Take {every[0].before.name} anew" if len(every) == 1 else f"Take {len(every)} clippings anew"
    done = []
    with workshop.store.change(label) as change:
        for anew in every:
            stays = [each for each in workshop.store.placements_of(anew.before.id) if each.destination in keep_old_in]
            if stays:
                name = free_name(workshop, f"{anew.before.name}, as it was", workshop.now(), pattern="{window}")
                old = change.save(replace(anew.before, id=workshop.new_id(), name=name, rank=0))
                for placed in stays:
                    change.update(placed, replace(placed, clipping=old.id))
            done.append(change.update(anew.before, anew.after))
    return done
