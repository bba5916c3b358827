"""What the X server tells: monitors, windows, the pointer. Through python-xlib, the standard binding for Python.

Properties are those of the Extended Window Manager Hints 1.5: `_NET_CLIENT_LIST_STACKING`, `_NET_WM_NAME`,
`_NET_FRAME_EXTENTS`. Without a window manager the root's own children are the windows (Xlib, QueryTree).
"""

from __future__ import annotations

import contextlib
import threading
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from Xlib import X, Xatom
from Xlib.display import Display
from Xlib.error import ConnectionClosedError, DisplayConnectionError, DisplayNameError, XError

from tijera.core.errors import ScreenUnavailable
from tijera.core.frames.frame import Monitor, PointerSpot, WindowBox
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture, whole_values

_CSS_DPI = 96.0
_LEAST_WINDOW_PX = 8
"""Smaller windows are helpers of their programs that nobody sees."""


def _connected(name: str) -> Any:  # noqa: ANN401  (python-xlib has no types)
    try:
        return Display(name)
    except (DisplayConnectionError, DisplayNameError, OSError, XError) as error:
        raise ScreenUnavailable(why=f"the display {name} can't be reached") from error


@dataclass
class XServer:
    """A connection to an X server; may be used from several threads."""

    name: str
    _display: Any
    _lock: threading.Lock = field(default_factory=threading.Lock)
    _is_lost: bool = False
    _is_left: bool = False

    @classmethod
    def connect(cls, name: str) -> XServer:
        """Connect to a display such as ":0". Raises `ScreenUnavailable`."""
        return cls(name, _connected(name))

    @contextlib.contextmanager
    def _asking(self) -> Iterator[None]:
        """One question at a time; a server that went away is asked for again with the next. Raises `ScreenUnavailable`."""
        with self._lock:
            if self._is_lost and not self._is_left:
                self._display, self._is_lost = _connected(self.name), False
            try:
                yield
            except (ConnectionClosedError, OSError) as error:
                self._is_lost = True
                raise ScreenUnavailable(why=f"the display {self.name} was closed") from error

    def close(self) -> None:
        """Close the connection, for good."""
        with self._lock, contextlib.suppress(ConnectionClosedError):
            self._is_left = True
            self._display.close()

    @property
    def _root(self) -> Any:  # noqa: ANN401  (python-xlib has no types)
        return self._display.screen().root

    def size(self) -> Size:
        """Of the whole screen, in pixels."""
        with self._asking():
            geometry = self._root.get_geometry()
        return Size(geometry.width, geometry.height)

    def scale_factor(self) -> float:
        """Pixels for a CSS pixel: the resource `Xft.dpi` over 96; 1 where it is not set."""
        with self._asking():
            resources = self._root.get_full_property(Xatom.RESOURCE_MANAGER, Xatom.STRING)
        text = "" if resources is None else bytes(resources.value).decode("latin-1", "replace")
        for line in text.splitlines():
            name, _, value = line.partition(":")
            if name.strip() == "Xft.dpi":
                try:
                    return max(float(value) / _CSS_DPI, 0.5)
                except ValueError:
                    return 1.0
        return 1.0

    def monitors(self, size: Size) -> tuple[Monitor, ...]:
        """The monitors as they stand side by side (RandR 1.5); one, where the server does not say."""
        scale = self.scale_factor()
        found: list[Monitor] = []
        with self._asking():
            try:
                answer = self._root.xrandr_get_monitors().monitors
            except (AttributeError, XError):
                answer = []
            for each in answer:
                box = Rect(each.x, each.y, max(each.width_in_pixels, 1), max(each.height_in_pixels, 1)).within(size)
                if box is not None:
                    name = self._display.get_atom_name(each.name)
                    found.append(Monitor(name, f"Monitor {name}", box, scale))
        return tuple(found) or (Monitor("screen", "This screen", Rect.whole(size), scale),)

    def windows(self, size: Size) -> tuple[WindowBox, ...]:
        """Open windows from top to bottom, as far as they are on the screen."""
        found: list[WindowBox] = []
        with self._asking():
            for window in reversed(self._clients()):
                try:
                    box = self._window(window, size, len(found))
                except XError:
                    continue  # It was closed while we asked.
                if box is not None:
                    found.append(box)
        return tuple(found)

    def _clients(self) -> list[Any]:
        """Windows of programs, from bottom to top."""
        listed = self._root.get_full_property(self._display.intern_atom("_NET_CLIENT_LIST_STACKING"), Xatom.WINDOW)
        if listed is not None and len(listed.value):
            return [self._display.create_resource_object("window", each) for each in listed.value]
        return list(self._root.query_tree().children)

    def _window(self, window: Any, size: Size, depth: int) -> WindowBox | None:  # noqa: ANN401
        attributes, geometry = window.get_attributes(), window.get_geometry()
        title = self._title(window)
        too_small = geometry.width < _LEAST_WINDOW_PX or geometry.height < _LEAST_WINDOW_PX
        if attributes.map_state != X.IsViewable or attributes.override_redirect or too_small or not title:
            return None
        corner = window.translate_coords(self._root, 0, 0)
        # The answer is the root's corner as seen from the window.
        inner = Rect(-corner.x, -corner.y, geometry.width, geometry.height)
        left, right, top, bottom = self._frame(window)
        outer = Rect(inner.x - left, inner.y - top, inner.width + left + right, inner.height + top + bottom)
        shown, content = outer.within(size), inner.within(size)
        return None if shown is None else WindowBox(f"x{window.id:x}", title, shown, depth, content)

    def _title(self, window: Any) -> str:  # noqa: ANN401
        name = window.get_full_property(self._display.intern_atom("_NET_WM_NAME"), X.AnyPropertyType)
        if name is not None and name.value:
            value = name.value
            return value.decode("utf-8", "replace") if isinstance(value, bytes) else str(value)
        plain = window.get_wm_name()
        return plain.decode("latin-1") if isinstance(plain, bytes) else (plain or "")

    def _frame(self, window: Any) -> tuple[int, int, int, int]:  # noqa: ANN401
        """Width of the frame that the window manager put round it: left, right, top, bottom."""
        extents = window.get_full_property(self._display.intern_atom("_NET_FRAME_EXTENTS"), Xatom.CARDINAL)
        if extents is None or len(extents.value) != 4:
            return 0, 0, 0, 0
        left, right, top, bottom = (int(each) for each in extents.value)
        return left, right, top, bottom

    def pointer(self) -> tuple[PointerSpot, Picture] | None:
        """Where the pointer is and its picture (XFixes, GetCursorImage); None where the server can't tell."""
        with self._asking():
            try:
                self._display.xfixes_query_version()
                image = self._display.xfixes_get_cursor_image(self._root)
            except (AttributeError, XError):
                return None
        argb = np.array(image.cursor_image[: image.width * image.height], dtype=np.uint32)
        if argb.size == 0 or argb.size != image.width * image.height:
            return None
        bands = [(argb >> np.uint32(shift)) & np.uint32(255) for shift in (16, 8, 0, 24)]
        pixels = np.stack(bands, axis=1).astype(np.float32).reshape(image.height, image.width, 4)
        # The server gives colours multiplied by their opacity.
        opacity = np.maximum(pixels[:, :, 3:4], 1) / 255
        pixels[:, :, :3] = np.clip(pixels[:, :, :3] / opacity, 0, 255)
        return PointerSpot(image.x, image.y, image.xhot, image.yhot), Picture(whole_values(pixels))
