"""This computer's screen, when the server runs on it: Pillow grabs the picture, the X server tells of windows."""

from __future__ import annotations

import os
import sys
from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np
from PIL import Image, ImageGrab

from tijera.core.errors import ScreenUnavailable
from tijera.core.frames.abilities import SOURCES, Abilities
from tijera.core.frames.frame import Frame, Monitor, WindowBox
from tijera.core.frames.source import Grab, LiveView, LiveWindow
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture

if TYPE_CHECKING:
    from tijera.screens.xserver import XServer

_NO_WINDOWS = "This system does not tell of its windows: draw a region, or point at a pane."
_NO_POINTER = "This system gives its screen without the pointer."


class ComputerScreen:
    """The screen of the session that the server runs in."""

    def __init__(self, xserver: XServer | None) -> None:
        self._x = xserver

    @property
    def abilities(self) -> Abilities:
        """Those of the table, less the windows and the pointer where there is no X server to ask."""
        if self._x is None:
            return replace(SOURCES["screen"], window_list=_NO_WINDOWS, pointer_layer=_NO_POINTER)
        return SOURCES["screen"]

    def look(self) -> LiveView:
        """Tell how large it is and which windows are open, from bottom to top."""
        size = self._x.size() if self._x is not None else self.ground().size
        windows = tuple(
            LiveWindow(each.id, each.title, each.box, each.content or each.box, each.depth, version="live")
            for each in reversed(self._windows(size))
        )
        return LiveView(size, self._monitors(size), windows, ground_version="live")

    def ground(self) -> Picture:
        """The whole screen as it is now. Raises `ScreenUnavailable`."""
        try:
            grabbed = ImageGrab.grab(xdisplay=None if self._x is None else self._x.name, all_screens=True)
        except (OSError, Image.DecompressionBombError) as error:
            raise ScreenUnavailable(why=str(error) or "it was refused") from error
        return Picture(np.ascontiguousarray(np.asarray(grabbed.convert("RGB"))))

    def grab(self) -> Grab:
        """Freeze the whole screen. Raises `ScreenUnavailable`."""
        picture = self.ground()
        pointer = None if self._x is None else self._x.pointer()
        spot, drawn = (None, None) if pointer is None else pointer
        size = picture.size
        return Grab(Frame(size, self._monitors(size), self._windows(size), spot), picture, pointer=drawn)

    def _windows(self, size: Size) -> tuple[WindowBox, ...]:
        """From top to bottom, as far as they are on the screen."""
        return () if self._x is None else self._x.windows(size)

    def _monitors(self, size: Size) -> tuple[Monitor, ...]:
        if self._x is not None:
            return self._x.monitors(size)
        return (Monitor("screen", "This screen", Rect.whole(size), 1.0),)


def open_screen() -> ComputerScreen:
    """The screen of this session. Raises `ScreenUnavailable` where there is none."""
    if sys.platform in ("win32", "darwin"):
        return ComputerScreen(None)
    name = os.environ.get("DISPLAY")
    if not name:
        raise ScreenUnavailable(why="this session has no display (DISPLAY is not set)")
    # Where there is no display its library is not read either: that is a tenth of the start.
    from tijera.screens.xserver import XServer

    return ComputerScreen(XServer.connect(name))
