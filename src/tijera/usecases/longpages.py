"""Long pages: strips that are joined while a page scrolls, by itself on the practice desk, by hand elsewhere."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field

from tijera.core.errors import NotFound, StripRefused
from tijera.core.frames.longpage.stitcher import Joined, Stitcher
from tijera.core.frames.source import Desktop
from tijera.core.geometry import Rect
from tijera.core.imaging.decode import decode_foreign
from tijera.core.imaging.encode import encode_frame
from tijera.core.imaging.picture import Picture
from tijera.core.units import round_half_up
from tijera.records import FrameRecord
from tijera.usecases.taking import keep_page
from tijera.usecases.workshop import Workshop, not_able

_STEP_SHARE = 0.6
"""Of the strip's height is scrolled at once: enough stays in view to find the place again."""
_LEAST_STEP_PX = 6
_MOST_KEPT = 4
_THUMBNAIL_PX = 900


@dataclass
class LongPage:
    """A page that is being joined."""

    id: str
    source: str
    title: str
    scale_factor: float
    stitcher: Stitcher
    area: Rect | None = None
    """What of the screen is a strip, where the server itself takes them."""
    lock: threading.Lock = field(default_factory=threading.Lock)


class LongPages:
    """The pages under way; the oldest are dropped when there are many."""

    def __init__(self) -> None:
        self._pages: OrderedDict[str, LongPage] = OrderedDict()

    def begin(self, page: LongPage) -> LongPage:
        """Remember a page."""
        self._pages[page.id] = page
        while len(self._pages) > _MOST_KEPT:
            self._pages.popitem(last=False)
        return page

    def find(self, page_id: str) -> LongPage:
        """A page by its id; raise `NotFound`."""
        if page_id not in self._pages:
            raise NotFound(what="long page", key=page_id)
        return self._pages[page_id]

    def drop(self, page_id: str) -> None:
        """Forget a page."""
        self._pages.pop(page_id, None)


@dataclass(frozen=True)
class Growing:
    """How far a page has come."""

    height: int
    strips: int


@dataclass(frozen=True)
class PageJoined:
    """A page that is done: the frame that it became, and what is to be said about its end."""

    frame: str
    height: int
    note: str


@dataclass(frozen=True)
class _LeftOff:
    """Why a page ends before its end."""

    words: str


def begin(
    workshop: Workshop, pages: LongPages, source: str, title: str, scale_factor: float, area: Rect | None
) -> LongPage:
    """Begin a page that somebody scrolls by hand. Only a shared screen's strips are a little off."""
    exact = workshop.sources[source].abilities.can("exact_colours") if source in workshop.sources else False
    return pages.begin(LongPage(workshop.new_id(), source, title, scale_factor, Stitcher(exact=exact), area))


def add_strip(workshop: Workshop, page: LongPage, data: bytes | None) -> Joined:
    """Join the next strip: a picture that the browser took, or None for one that the server takes itself.

    Raises `StripRefused`, `NotAble` and the errors of `decode`; the page so far stays.
    """
    if data is not None:
        strip = decode_foreign(data, "strip")
    elif page.area is None:
        raise not_able(page.source, "scrolls_itself", "Send the strip along.")
    else:
        grabbed = workshop.source(page.source).grab().picture
        strip = grabbed.cut(page.area)
    with page.lock:
        return page.stitcher.add(strip)


def finish(workshop: Workshop, pages: LongPages, page: LongPage) -> FrameRecord:
    """Keep what was joined as a frame. Raises `NotFound` when nothing was."""
    with page.lock:
        if not page.stitcher.height:
            raise NotFound(what="strip of the page", key=page.title)
        record = keep_page(workshop, page.source, page.stitcher.picture(), page.title, page.scale_factor)
    pages.drop(page.id)
    return record


def thumbnail(page: LongPage) -> bytes:
    """What was joined so far, small, as PNG. Raises `NotFound` before the first strip."""
    with page.lock:
        if not page.stitcher.height:
            raise NotFound(what="strip of the page", key=page.title)
        small = page.stitcher.thumbnail(_THUMBNAIL_PX)
    return encode_frame(small)


def scroll_through(
    workshop: Workshop, pages: LongPages, page_id: str, source_id: str, window_id: str, stopped: Callable[[], bool]
) -> Iterator[Growing | PageJoined]:
    """Scroll a window to its end, joining what it shows; stopped, it keeps what it has. Raises `NotFound`, `NotAble`."""
    desktop = workshop.desktop(source_id)
    view = desktop.look()
    window = next((each for each in view.windows if each.id == window_id), None)
    if window is None:
        raise NotFound(what="window", key=window_id)
    scale = max((each.scale_factor for each in view.monitors if each.box.overlap(window.box)), default=1.0)
    page = pages.begin(LongPage(page_id, source_id, window.title, scale, Stitcher()))
    desktop.scroll(window_id, -(10**9))
    with page.lock:
        page.stitcher.add(desktop.content(window_id))
    strips = 1
    yield Growing(page.stitcher.height, strips)
    note = ""
    for outcome in _scrolling(desktop, window_id, page):
        if isinstance(outcome, _LeftOff):
            note = outcome.words
            break
        strips += 1
        yield Growing(page.stitcher.height, strips)
        if stopped():
            note = "Stopped here; what was joined is kept."
            break
    record = finish(workshop, pages, page)
    yield PageJoined(record.id, record.height, note)


def _scrolling(desktop: Desktop, window_id: str, page: LongPage) -> Iterator[Joined | _LeftOff]:
    """Step by step to the end; a step that can't be joined is gone back and tried shorter. Ends with what to say."""
    height = desktop.content(window_id).size.height
    step, moved = round_half_up(height * _STEP_SHARE), 0
    while True:
        went = desktop.scroll(window_id, step)
        if went == 0 and moved == 0:
            return
        moved += went
        try:
            joined = _joined(page, desktop.content(window_id), moved)
        except StripRefused as refused:
            desktop.scroll(window_id, -moved)
            moved, step = 0, step // 2
            if step < _LEAST_STEP_PX:
                yield _LeftOff(f"{refused.heading}: the rest was left out. {refused.detail}")
                return
            continue
        if joined is Joined.FULL:
            yield _LeftOff(f"The page goes on; it was left off at {page.stitcher.height} px.")
            return
        yield joined
        moved, step = 0, round_half_up(height * _STEP_SHARE)


def _joined(page: LongPage, strip: Picture, moved: int) -> Joined:
    with page.lock:
        return page.stitcher.add(strip, expected_px=moved)
