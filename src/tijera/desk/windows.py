"""How a window of the practice desk looks: its frame, its content, what is scrolled, its menus, the pointer."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from functools import cache, cached_property

import numpy as np

from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture, Pixels
from tijera.core.imaging.vips import draw_svg
from tijera.desk import harbour_chart, items
from tijera.desk.drawing import INK, SOFT, WHITE, Scene
from tijera.desk.scene import EDGE, TITLE_BAR, DeskScene, Menu, WindowScene

_MENU_ROW, _MENU_WIDTH = 50, 210
"""High enough to be hit with a finger when the whole desk is shown small (WCAG 2.2, 2.5.8: 24 CSS pixels)."""
_BAR = 10
"""Width of the scroll bar, in logical pixels."""
_MOST_PAINTED = 40


class Painter:
    """Paints a scene, each page once for each time that its clock shows; desks of one scene share one."""

    def __init__(self, scene: DeskScene) -> None:
        self._scene = scene
        self._lock = threading.Lock()
        self._painted: OrderedDict[object, Pixels] = OrderedDict()

    def _once(self, key: object, paint: Callable[[], Pixels]) -> Pixels:
        with self._lock:
            if key in self._painted:
                self._painted.move_to_end(key)
                return self._painted[key]
        pixels = paint()
        with self._lock:
            self._painted[key] = pixels
            while len(self._painted) > _MOST_PAINTED:
                self._painted.popitem(last=False)
        return pixels

    @cached_property
    def ground(self) -> Pixels:
        """All monitors without windows; not to be changed."""
        return _paint_ground(self._scene)

    def content(self, window: WindowScene, scrolled_px: int, now: int) -> Pixels:
        """A window's content, shape (height, width, 3)."""
        inner = window.inner
        head, foot = window.px(window.head), window.px(window.foot)
        page = self._page(window, "page", window.items, window.page_height, now)
        body = inner.height - head - foot
        if not window.scrolls:
            return page[: inner.height, : inner.width]
        out = np.empty((inner.height, inner.width, 3), dtype=np.uint8)
        out[head : head + body] = page[scrolled_px : scrolled_px + body, : inner.width]
        if head:
            out[:head] = self._page(window, "head", window.head_items, window.head, now)[:head, : inner.width]
        if foot:
            out[head + body :] = self._page(window, "foot", window.foot_items, window.foot, now)[:foot, : inner.width]
        self._draw_bar(out[head : head + body], window, scrolled_px, page.shape[0])
        return out

    def whole(self, window: WindowScene, scrolled_px: int, now: int, *, topmost: bool) -> Pixels:
        """A window with its frame."""
        chrome = self._once(("frame", window.id, topmost), lambda: _frame(window, topmost=topmost))
        out = chrome.copy()
        inner = window.inner
        out[inner.y : inner.bottom, inner.x : inner.right] = self.content(window, scrolled_px, now)
        return out

    def page_px(self, window: WindowScene) -> int:
        """The height of what scrolls, in pixels."""
        return window.px(window.page_height)

    def _page(self, window: WindowScene, part: str, what: tuple[items.Values, ...], height: int, now: int) -> Pixels:
        shown = now if any(item["kind"] == "clock" for item in what) else 0
        return self._once(
            (window.id, part, shown),
            lambda: _paint(window, what, height, shown, window.ground if part == "page" else ""),
        )

    @staticmethod
    def _draw_bar(body: Pixels, window: WindowScene, scrolled_px: int, page: int) -> None:
        """The scroll bar at the right edge of what scrolls."""
        height, width = body.shape[0], window.px(_BAR)
        body[:, -width:] = (236, 238, 235) if not window.dark else (40, 50, 56)
        start, end = round(height * scrolled_px / page), round(height * (scrolled_px + height) / page)
        body[start:end, -width + window.px(2) : -window.px(2)] = (154, 168, 164)


def scroll_bar(window: WindowScene) -> Rect:
    """Where the scroll bar of a window that scrolls stands, from the window's corner."""
    inner, width = window.inner, window.px(_BAR)
    head, foot = window.px(window.head), window.px(window.foot)
    return Rect(inner.right - width, inner.y + head, width, inner.height - head - foot)


painter_of = cache(Painter)


def _paint(window: WindowScene, what: tuple[items.Values, ...], height: int, now: int, ground: str) -> Pixels:
    scale = window.monitor.scale_factor
    wide, tall = window.px(window.width), window.px(height)
    photograph = next((item for item in what if item["kind"] == "map"), None)
    if photograph is not None:
        return harbour_chart.paint(wide, tall, photograph.get("seed", 7))
    # One logical pixel more, cut off again: half a pixel at the edge would be blurred.
    scene = Scene(window.width + 1, height + 1, ground or ("#27343a" if window.dark else "#e9e5da"))
    items.draw(scene, what, now)
    return np.ascontiguousarray(draw_svg(scene.svg(), scale).pixels[:tall, :wide, :3])


def _frame(window: WindowScene, *, topmost: bool) -> Pixels:
    """The window's edge and title bar: a lozenge, a title, the words of its menus; no buttons."""
    dark = window.dark
    ink = ("#f4f1e8" if topmost else "#aab6b4") if dark else (INK if topmost else SOFT)
    scene = Scene(window.width + 2 * EDGE + 1, window.height + TITLE_BAR + EDGE + 1, "#59666c" if dark else "#8b949a")
    bar = ("#31424a" if topmost else "#2b373d") if dark else ("#dfe8e4" if topmost else "#eceae3")
    scene.box(EDGE, EDGE, window.width, TITLE_BAR - EDGE, bar)
    scene.path("M14 8 L20 14.5 L14 21 L8 14.5 Z", stroke=ink, width=1.4)
    scene.text(28, 19, window.title, 12.5, bold=topmost, colour=ink)
    for menu in window.menus:
        scene.text(menu.x, 19, menu.title, 12, colour=ink)
    for number in range(3):
        x = window.width - 14 - number * 5
        scene.line(x, 19, x + 7, 9, "#a9b3b0")
    outer = window.outer
    drawn = draw_svg(scene.svg(), window.monitor.scale_factor).pixels
    return np.ascontiguousarray(drawn[: outer.height, : outer.width, :3])


def menu_head(window: WindowScene, menu: Menu) -> Rect:
    """Where a menu's word stands on its window, in pixels."""
    return Rect(
        window.px(menu.x - 8), window.px(EDGE), window.px(16 + 7 * len(menu.title)), window.px(TITLE_BAR - EDGE)
    )


def menu_box(window: WindowScene, menu: Menu) -> Rect:
    """Where an open menu stands, from its window's corner, in pixels."""
    return Rect(
        window.px(menu.x - 8), window.px(TITLE_BAR), window.px(_MENU_WIDTH), window.px(_MENU_ROW * len(menu.items) + 8)
    )


def menu_rows(window: WindowScene, menu: Menu) -> tuple[Rect, ...]:
    """Where its items stand, from the menu's own corner."""
    return tuple(
        Rect(0, window.px(4 + number * _MENU_ROW), window.px(_MENU_WIDTH), window.px(_MENU_ROW))
        for number in range(len(menu.items))
    )


def draw_menu(window: WindowScene, menu: Menu) -> Pixels:
    """An open menu."""
    height = _MENU_ROW * len(menu.items) + 8
    scene = Scene(_MENU_WIDTH + 1, height + 1, WHITE)
    scene.box(0, 0, _MENU_WIDTH, height, WHITE, edge="#7b858a")
    for number, words in enumerate(menu.items):
        scene.text(18, 4 + number * _MENU_ROW + 31, words, 15)
        if number:
            scene.line(10, 4 + number * _MENU_ROW - 0.5, _MENU_WIDTH - 10, 4 + number * _MENU_ROW - 0.5, "#e6e9e8")
    box = menu_box(window, menu)
    return np.ascontiguousarray(
        draw_svg(scene.svg(), window.monitor.scale_factor).pixels[: box.height, : box.width, :3]
    )


POINTER_TIP = (2, 2)
"""Where the tip lies on the pointer's picture at a scale factor of 1."""


@cache
def draw_pointer(scale_factor: float) -> Picture:
    """The mouse pointer with transparency: a dart with a light edge."""
    svg = (
        '<svg xmlns="http://www.w3.org/2000/svg" width="18" height="24" viewBox="0 0 18 24">'
        '<path d="M2 2 L15 13.5 L9 14.2 L12 21 L9.2 22.2 L6.4 15.4 L2 19.5 Z" fill="#20282a" stroke="#ffffff" '
        'stroke-width="1.4" stroke-linejoin="round"/></svg>'
    )
    return draw_svg(svg, scale_factor)


def _paint_ground(scene: DeskScene) -> Pixels:
    """All monitors without windows, each with a strip along its top; black where no monitor is."""
    out = np.zeros((scene.size.height, scene.size.width, 3), dtype=np.uint8)
    for number, monitor in enumerate(scene.monitors):
        scale = monitor.scale_factor
        width, height = round(monitor.box.width / scale) + 1, round(monitor.box.height / scale) + 1
        drawn = Scene(width, height, "#5f7f83" if number == 0 else "#566b74")
        if scene.soundings:
            _soundings(drawn, width, height)
        drawn.box(0, 0, width, 30, "#22343a")
        drawn.text(16, 20, scene.name, 13, bold=True, colour="#f4f1e8")
        for place, words in enumerate(scene.strip):
            drawn.text(140 + place * 84, 20, words, 12.5, colour="#c5d2cf")
        drawn.text(monitor.box.width / scale / 2, 20, scene.date, 12.5, colour="#f4f1e8", anchor="middle")
        box = monitor.box
        out[box.y : box.bottom, box.x : box.right] = draw_svg(drawn.svg(), scale).pixels[: box.height, : box.width, :3]
    return out


def _soundings(drawn: Scene, width: int, height: int) -> None:
    for row in range(height // 78 + 1):
        for column in range(width // 79 + 1):
            if (row * 5 + column * 3) % 7 < 3:
                figure = f"{(row * 13 + column * 7) % 19 + 2}"
                drawn.text(36 + column * 79, 78 + row * 78, figure, 12, colour="#54747a")
