"""The desk itself: windows in their order, what they show, the pointer, and frames of them all."""

from __future__ import annotations

import threading
from collections.abc import Callable

import numpy as np

from tijera.core.errors import NotFound
from tijera.core.frames.abilities import SOURCES, Abilities
from tijera.core.frames.frame import Frame, PointerSpot, WindowBox, is_covered
from tijera.core.frames.source import Grab, LiveView, LiveWindow, MenuHead, OpenMenu
from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture, Pixels
from tijera.desk.scene import TITLE_BAR, DeskScene, Menu, WindowScene, load_scene
from tijera.desk.windows import (
    POINTER_TIP,
    draw_menu,
    draw_pointer,
    menu_box,
    menu_head,
    menu_rows,
    painter_of,
    scroll_bar,
)

_LEAST_SEEN = 80
"""So many pixels of a window stay on its monitor, however it is moved."""


class PracticeDesk:
    """A desk of made-up windows; may be used from several threads. `seconds` is the time since it was opened."""

    def __init__(self, scene: DeskScene | None = None, seconds: Callable[[], float] = lambda: 0.0) -> None:
        self.scene = scene or load_scene()
        self._seconds = seconds
        self._lock = threading.RLock()
        self._painter = painter_of(self.scene)
        self._kinds = {window.id: window for window in self.scene.windows}
        self._order = [window.id for window in self.scene.windows]
        self._scrolled = dict.fromkeys(self._kinds, 0)
        self._at = {id_: self._start(window) for id_, window in self._kinds.items()}
        self._open: tuple[str, Menu] | None = None
        self._pointer = self.scene.pointer

    @property
    def abilities(self) -> Abilities:
        """All of them."""
        return SOURCES["desk"]

    @staticmethod
    def _start(window: WindowScene) -> tuple[int, int]:
        box = window.monitor.box
        return box.x + window.px(window.x), box.y + window.px(window.y)

    def _now(self) -> int:
        return self.scene.clock + int(self._seconds())

    def look(self) -> LiveView:
        """Tell what is open and where, from bottom to top."""
        with self._lock:
            top = len(self._order) - 1
            windows = tuple(self._live(id_, top - place) for place, id_ in enumerate(self._order))
            return LiveView(self.scene.size, self.scene.monitors, windows, ground_version="1", menu=self._menu())

    def _live(self, id_: str, depth: int) -> LiveWindow:
        kind = self._kinds[id_]
        x, y = self._at[id_]
        # The title bar of the topmost window looks different, so its depth is part of the version.
        ticks = self._now() if any(item["kind"] == "clock" for item in kind.items) else 0
        return LiveWindow(
            id=id_,
            title=kind.title,
            box=Rect(x, y, kind.outer.width, kind.outer.height),
            content=kind.inner.shifted(x, y),
            depth=depth,
            version=f"{self._scrolled[id_]}-{'top' if depth == 0 else 'below'}-{ticks}",
            can_scroll=kind.scrolls,
            scrolled_px=self._scrolled[id_],
            most_px=self._most(kind),
            scroll_bar=scroll_bar(kind).shifted(x, y) if kind.scrolls else None,
            menus=tuple(MenuHead(menu.title, menu_head(kind, menu).shifted(x, y)) for menu in kind.menus),
        )

    def _menu(self) -> OpenMenu | None:
        if self._open is None:
            return None
        id_, menu = self._open
        kind, (x, y) = self._kinds[id_], self._at[id_]
        box = menu_box(kind, menu).shifted(x, y)
        rows = tuple(row.shifted(box.x, box.y) for row in menu_rows(kind, menu))
        return OpenMenu(id_, menu.title, box, menu.items, rows, version=f"{id_}-{menu.title}")

    def _most(self, kind: WindowScene) -> int:
        return max(self._painter.page_px(kind) - (kind.inner.height - kind.px(kind.head) - kind.px(kind.foot)), 0)

    def ground(self) -> Picture:
        """The desk without windows."""
        return Picture(self._painter.ground)

    def window(self, window_id: str) -> Picture:
        """One window as it looks now. Raises `NotFound`."""
        kind = self._known(window_id)
        with self._lock:
            scrolled, topmost = self._scrolled[window_id], self._order[-1] == window_id
        return Picture(self._painter.whole(kind, scrolled, self._now(), topmost=topmost))

    def content(self, window_id: str) -> Picture:
        """One window without its frame. Raises `NotFound`."""
        kind = self._known(window_id)
        return Picture(np.ascontiguousarray(self._painter.content(kind, self._scrolled[window_id], self._now())))

    def raise_window(self, window_id: str) -> None:
        """Bring a window to the top; an open menu closes. Raises `NotFound`."""
        self._known(window_id)
        with self._lock:
            self._open = None
            self._order.remove(window_id)
            self._order.append(window_id)

    def move_window(self, window_id: str, x: int, y: int) -> None:
        """Move a window; its title bar stays within reach on its monitor. Raises `NotFound`."""
        kind = self._known(window_id)
        box = kind.monitor.box
        with self._lock:
            self._open = None
            self._at[window_id] = (
                min(max(x, box.x - kind.outer.width + _LEAST_SEEN), box.right - _LEAST_SEEN),
                min(max(y, box.y), box.bottom - kind.px(TITLE_BAR)),
            )

    def scroll(self, window_id: str, by_px: int) -> int:
        """Scroll a window, stopping at its ends. Raises `NotFound`."""
        kind = self._known(window_id)
        with self._lock:
            self._open = None
            before = self._scrolled[window_id]
            self._scrolled[window_id] = min(max(before + by_px, 0), self._most(kind))
            return self._scrolled[window_id] - before

    def open_menu(self, window_id: str, title: str | None) -> None:
        """Open a menu, or close the open one. Raises `NotFound`."""
        kind = self._known(window_id)
        menu = next((each for each in kind.menus if each.title == title), None)
        if title is not None and menu is None:
            raise NotFound(what="menu", key=title)
        if menu is None:
            self._open = None
            return
        self.raise_window(window_id)
        self._open = (window_id, menu)

    def menu(self) -> Picture:
        """The open menu. Raises `NotFound`."""
        shown = self._open
        if shown is None:
            raise NotFound(what="open menu", key="")
        return Picture(draw_menu(self._kinds[shown[0]], shown[1]))

    def point(self, x: int, y: int) -> None:
        """Move the pointer, within the desk."""
        self._pointer = (min(max(x, 0), self.scene.size.width - 1), min(max(y, 0), self.scene.size.height - 1))

    def grab(self) -> Grab:
        """Freeze the whole desk."""
        with self._lock:
            view, pointer = self.look(), self._pointer
            canvas = self._painter.ground.copy()
            drawn = {window.id: self.window(window.id) for window in view.windows}
        for window in view.windows:
            self._lay(canvas, drawn[window.id].pixels, window.box, self._kinds[window.id].monitor.box)
        if view.menu is not None:
            self._lay(canvas, self.menu().pixels, view.menu.box, self._kinds[view.menu.window].monitor.box)
        boxes = tuple(self._on_monitor(each) for each in reversed(view.windows))
        on_screen = {each.id for each in view.windows if self._shown(each) == each.box}
        whole = {each.id: drawn[each.id] for each in boxes if each.id in on_screen and is_covered(each, boxes)}
        boxes = tuple(
            WindowBox(each.id, each.title, each.box, each.depth, each.content, is_whole=each.id in whole)
            for each in boxes
        )
        scale = next((each.scale_factor for each in view.monitors if Rect(*pointer, 1, 1).overlap(each.box)), 1.0)
        hot = (round(POINTER_TIP[0] * scale), round(POINTER_TIP[1] * scale))
        frame = Frame(view.size, view.monitors, boxes, PointerSpot(*pointer, *hot))
        return Grab(frame, Picture(canvas), whole, draw_pointer(scale))

    def _shown(self, window: LiveWindow) -> Rect:
        """The part of a window that is on its monitor; its title bar always is."""
        return window.box.meet(self._kinds[window.id].monitor.box) or window.box

    def _on_monitor(self, window: LiveWindow) -> WindowBox:
        """A window as far as it is on its monitor."""
        monitor = self._kinds[window.id].monitor.box
        return WindowBox(window.id, window.title, self._shown(window), window.depth, window.content.meet(monitor))

    @staticmethod
    def _lay(canvas: Pixels, pixels: Pixels, at: Rect, within: Rect) -> None:
        """Lay a picture onto the canvas, as far as it is on its monitor."""
        left, top = max(at.x, within.x), max(at.y, within.y)
        right, bottom = min(at.right, within.right), min(at.bottom, within.bottom)
        if left < right and top < bottom:
            canvas[top:bottom, left:right] = pixels[top - at.y : bottom - at.y, left - at.x : right - at.x]

    def _known(self, window_id: str) -> WindowScene:
        if window_id not in self._kinds:
            raise NotFound(what="window", key=window_id)
        return self._kinds[window_id]
