"""Frames, the monitors and windows on them, and the pointer. A frame never changes.

A frame's bitmap holds the monitors in their own pixels, side by side as they stand; none is scaled to match another.
"""

from __future__ import annotations

from dataclasses import dataclass

from tijera.core.geometry import Rect, Size


@dataclass(frozen=True)
class Monitor:
    """A monitor: where its pixels lie on the frame, and how many of them make a CSS pixel."""

    id: str
    name: str
    box: Rect
    scale_factor: float


@dataclass(frozen=True)
class WindowBox:
    """A window as it stood on a frame: rectangles in frame pixels and its place in the order."""

    id: str
    title: str
    box: Rect
    depth: int
    """0 is the topmost window."""
    content: Rect | None = None
    """The window without its frame and title bar, where the source tells."""
    is_whole: bool = False
    """Whether the source gave its whole picture although it was partly covered."""


@dataclass(frozen=True)
class PointerSpot:
    """Where the mouse pointer's tip was, in frame pixels, and where the tip lies on the pointer's own picture."""

    x: int
    y: int
    hot_x: int
    hot_y: int


@dataclass(frozen=True)
class Frame:
    """The facts of a full bitmap: size in pixels, monitors, windows from top to bottom, the pointer."""

    size: Size
    monitors: tuple[Monitor, ...]
    windows: tuple[WindowBox, ...] = ()
    pointer: PointerSpot | None = None

    @property
    def scale_factor(self) -> float:
        """The largest scale factor of its monitors."""
        return max((monitor.scale_factor for monitor in self.monitors), default=1.0)


def scale_factor_of(area: Rect, monitors: tuple[Monitor, ...]) -> float:
    """The scale factor of an area: the largest of the monitors that it touches, for the picture keeps its pixels.

    An area that touches none counts as 1 (CSS Values and Units: 96 pixels an inch).
    """
    return max((each.scale_factor for each in monitors if area.overlap(each.box)), default=1.0)


def window_under(area: Rect, windows: tuple[WindowBox, ...]) -> WindowBox | None:
    """The window that an area shows most of, the upper one of equals; None over no window."""
    best = max(windows, key=lambda window: (area.overlap(window.box), -window.depth), default=None)
    return best if best is not None and area.overlap(best.box) else None


def is_covered(window: WindowBox, windows: tuple[WindowBox, ...]) -> bool:
    """Whether another window lies over a part of this one."""
    return any(each.depth < window.depth and each.box.overlap(window.box) for each in windows)
