"""The desk itself: windows in their order, what they show, and frames of them all."""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, partial

import numpy as np

from tijera.core.errors import NotFound
from tijera.core.frames.frame import Frame, WindowBox
from tijera.core.frames.source import LiveView, LiveWindow
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture, Pixels
from tijera.core.imaging.vips import draw_svg
from tijera.desk import crew_roster, engine_log, fare_notice, harbour_chart, tide_board
from tijera.desk.drawing import INK, SOFT, Scene

SIZE = Size(2_560, 1_440)
SCALE_FACTOR = 1.5
_TITLE_BAR = 28
_EDGE = 1
_STRIP = 30
"""Height of the strip along the top of the desk, in logical pixels like the two above."""


@dataclass(frozen=True)
class _WindowKind:
    """A window's facts that never change; position and inner size in logical pixels."""

    id: str
    title: str
    x: int
    y: int
    width: int
    height: int
    page_height: int
    paint: Callable[[], Pixels]

    @property
    def box(self) -> Rect:
        """The outer rectangle in frame pixels."""
        outer = (self.x, self.y, self.width + 2 * _EDGE, self.height + _TITLE_BAR + _EDGE)
        return Rect(*(_px(each) for each in outer))


def _px(logical: float) -> int:
    return round(logical * SCALE_FACTOR)


def _from_scene(draw: Callable[[], Scene]) -> Pixels:
    return np.ascontiguousarray(draw_svg(draw().svg(), SCALE_FACTOR).pixels[:, :, :3])


def _kind(id_: str, module: object, x: int, y: int, paint: Callable[[], Pixels]) -> _WindowKind:
    width, height = int(module.WIDTH), int(module.HEIGHT)  # type: ignore[attr-defined]  # scene modules share these names
    page = int(getattr(module, "PAGE_HEIGHT", height))
    return _WindowKind(id_, str(module.TITLE), x, y, width, height, page, cache(paint))  # type: ignore[attr-defined]


def _paint_chart() -> Pixels:
    return harbour_chart.paint(_px(harbour_chart.WIDTH), _px(harbour_chart.HEIGHT))


_KINDS = (
    _kind("harbour-chart", harbour_chart, 560, 370, _paint_chart),
    _kind("crew-roster", crew_roster, 880, 76, partial(_from_scene, crew_roster.draw)),
    _kind("tide-board", tide_board, 48, 60, partial(_from_scene, tide_board.draw)),
    _kind("fare-notice", fare_notice, 130, 540, partial(_from_scene, fare_notice.draw)),
    _kind("engine-log", engine_log, 1_088, 552, partial(_from_scene, engine_log.draw)),
)
"""From the bottom of the pile to its top."""


class PracticeDesk:
    """A screen of made-up windows; may be used from several threads."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._kinds = {kind.id: kind for kind in _KINDS}
        self._order = [kind.id for kind in _KINDS]
        self._scrolled = {kind.id: 0 for kind in _KINDS}

    def look(self) -> LiveView:
        """Tell what is open and where, from bottom to top."""
        with self._lock:
            order, scrolled = list(self._order), dict(self._scrolled)
        windows = []
        for place, id_ in enumerate(order):
            kind = self._kinds[id_]
            most = _px(kind.page_height - kind.height)
            depth = len(order) - 1 - place
            # The title bar of the topmost window looks different, so its depth is part of the version.
            version = f"{scrolled[id_]}-{'top' if depth == 0 else 'below'}"
            windows.append(LiveWindow(id_, kind.title, kind.box, depth, version, most > 0, scrolled[id_], most))
        return LiveView(SIZE, SCALE_FACTOR, tuple(windows), ground_version="1")

    def ground(self) -> Picture:
        """The desk without windows."""
        return Picture(_ground())

    def window(self, window_id: str) -> Picture:
        """One window as it looks now. Raises `NotFound`."""
        view = self.look()
        window = next((each for each in view.windows if each.id == window_id), None)
        if window is None:
            raise NotFound(what="window", key=window_id)
        return Picture(self._drawn(self._kinds[window_id], window.scrolled_px, topmost=window.depth == 0))

    def raise_window(self, window_id: str) -> None:
        """Bring a window to the top. Raises `NotFound`."""
        self._known(window_id)
        with self._lock:
            self._order.remove(window_id)
            self._order.append(window_id)

    def scroll(self, window_id: str, by_px: int) -> None:
        """Scroll a window, stopping at its ends. Raises `NotFound`."""
        kind = self._known(window_id)
        most = _px(kind.page_height - kind.height)
        with self._lock:
            self._scrolled[window_id] = min(max(self._scrolled[window_id] + by_px, 0), most)

    def grab(self) -> tuple[Frame, Picture]:
        """Freeze the whole desk."""
        view = self.look()
        canvas = _ground().copy()
        boxes = []
        for window in view.windows:
            box = window.box
            drawn = self._drawn(self._kinds[window.id], window.scrolled_px, topmost=window.depth == 0)
            canvas[box.y : box.bottom, box.x : box.right] = drawn
            boxes.append(WindowBox(window.id, window.title, box, window.depth))
        return Frame(view.size, view.scale_factor, tuple(reversed(boxes))), Picture(canvas)

    def _known(self, window_id: str) -> _WindowKind:
        if window_id not in self._kinds:
            raise NotFound(what="window", key=window_id)
        return self._kinds[window_id]

    def _drawn(self, kind: _WindowKind, scrolled_px: int, *, topmost: bool) -> Pixels:
        """Frame and visible content of a window."""
        out = _chrome(kind, topmost).copy()
        top, left = _px(_TITLE_BAR), _px(_EDGE)
        page = kind.paint()
        shown = page[scrolled_px : scrolled_px + _px(kind.height), : _px(kind.width)]
        out[top : top + shown.shape[0], left : left + shown.shape[1]] = shown
        if kind.page_height > kind.height:
            _draw_thumb(out, kind, scrolled_px)
        return out


@cache
def _chrome(kind: _WindowKind, topmost: bool) -> Pixels:  # noqa: FBT001  (a cached function takes no keywords)
    """The window's edge and title bar: a lozenge and a title, no buttons."""
    scene = Scene(kind.width + 2 * _EDGE, kind.height + _TITLE_BAR + _EDGE, "#8b949a")
    scene.box(_EDGE, _EDGE, kind.width, _TITLE_BAR - _EDGE, "#dfe8e4" if topmost else "#eceae3")
    scene.path("M14 8 L20 14.5 L14 21 L8 14.5 Z", stroke=INK if topmost else SOFT, width=1.4)
    scene.text(28, 19, kind.title, 12.5, bold=topmost, colour=INK if topmost else SOFT)
    for number in range(3):
        x = kind.width - 14 - number * 5
        scene.line(x, 19, x + 7, 9, "#a9b3b0")
    drawn = _from_scene(lambda: scene)
    box = kind.box
    return np.ascontiguousarray(drawn[: box.height, : box.width])


def _draw_thumb(out: Pixels, kind: _WindowKind, scrolled_px: int) -> None:
    """The mark at the right edge that shows how far a page is scrolled."""
    top, height = _px(_TITLE_BAR), _px(kind.height)
    page = _px(kind.page_height)
    start = top + round(height * scrolled_px / page)
    end = top + round(height * (scrolled_px + height) / page)
    out[start:end, -_px(8) : -_px(3)] = (154, 168, 164)


@cache
def _ground() -> Pixels:
    """The desk's own surface: a strip along the top, faint soundings on the rest."""
    width, height = round(SIZE.width / SCALE_FACTOR) + 1, round(SIZE.height / SCALE_FACTOR)
    scene = Scene(width, height, "#5f7f83")
    for row in range(12):
        for column in range(22):
            if (row * 5 + column * 3) % 7 < 3:
                sounding = f"{(row * 13 + column * 7) % 19 + 2}"
                scene.text(36 + column * 79, 78 + row * 78, sounding, 12, colour="#54747a")
    scene.box(0, 0, width, _STRIP, "#22343a")
    scene.text(16, 20, "Harbour office", 13, bold=True, colour="#f4f1e8")
    for number, name in enumerate(("Tide board", "Roster", "Log", "Chart", "Fares")):
        scene.text(140 + number * 84, 20, name, 12.5, colour="#c5d2cf")
    scene.text(SIZE.width / SCALE_FACTOR / 2, 20, "Thu 12 March 12:05", 12.5, colour="#f4f1e8", anchor="middle")
    return np.ascontiguousarray(_from_scene(lambda: scene)[: SIZE.height, : SIZE.width])
