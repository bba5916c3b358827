"""Frames and the windows on them. A frame never changes."""

from __future__ import annotations

from dataclasses import dataclass

from tijera.core.geometry import Rect, Size


@dataclass(frozen=True)
class WindowBox:
    """A window as it stood on a frame: its rectangle in frame pixels and its place in the order."""

    id: str
    title: str
    box: Rect
    depth: int
    """0 is the topmost window."""


@dataclass(frozen=True)
class Frame:
    """The facts of a full bitmap: size in pixels, scale factor, windows from top to bottom."""

    size: Size
    scale_factor: float
    windows: tuple[WindowBox, ...] = ()

    def __post_init__(self) -> None:
        if self.scale_factor <= 0:
            msg = f"a scale factor is positive, not {self.scale_factor}"
            raise ValueError(msg)


def title_under(area: Rect, windows: tuple[WindowBox, ...]) -> str | None:
    """The title of the window that an area shows most of, the upper one of equals; None over no window."""
    shared = [(area.overlap(window.box), -window.depth, window.title) for window in windows]
    best = max(shared, default=(0, 0, ""))
    return best[2] if best[0] > 0 else None
