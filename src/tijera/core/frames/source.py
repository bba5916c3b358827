"""The interface behind which every source of frames stands, practice desk and real screens alike."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from tijera.core.frames.frame import Frame
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture


@dataclass(frozen=True)
class LiveWindow:
    """A window as it is seen live: where it stands and which version of its picture is current."""

    id: str
    title: str
    box: Rect
    depth: int
    version: str
    """Changes whenever the picture does."""
    can_scroll: bool
    scrolled_px: int
    most_px: int


@dataclass(frozen=True)
class LiveView:
    """What a source shows right now, its windows from bottom to top."""

    size: Size
    scale_factor: float
    windows: tuple[LiveWindow, ...]
    ground_version: str


class FrameSource(Protocol):
    """A screen that can be looked at and frozen."""

    def look(self) -> LiveView:
        """Tell what is open and where."""

    def ground(self) -> Picture:
        """The picture of what lies under all windows."""

    def window(self, window_id: str) -> Picture:
        """The picture of one window as it looks now; raises `NotFound`."""

    def raise_window(self, window_id: str) -> None:
        """Bring a window to the top; raises `NotFound`."""

    def scroll(self, window_id: str, by_px: int) -> None:
        """Scroll a window's content, downward for positive values, within its ends; raises `NotFound`."""

    def grab(self) -> tuple[Frame, Picture]:
        """Freeze: the whole screen at this moment."""
