"""The interfaces behind which every source of frames stands, practice desk and real screens alike."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Protocol, runtime_checkable

from tijera.core.frames.abilities import Abilities
from tijera.core.frames.frame import Frame, Monitor
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture


@dataclass(frozen=True)
class MenuHead:
    """The word that opens a menu, in frame pixels."""

    title: str
    box: Rect


@dataclass(frozen=True)
class LiveWindow:
    """A window as it is seen live: where it stands and which version of its picture is current."""

    id: str
    title: str
    box: Rect
    content: Rect
    depth: int
    version: str
    """Changes whenever the picture does."""
    can_scroll: bool = False
    scrolled_px: int = 0
    most_px: int = 0
    scroll_bar: Rect | None = None
    """Where a hand can scroll it; None where nothing scrolls."""
    menus: tuple[MenuHead, ...] = ()


@dataclass(frozen=True)
class OpenMenu:
    """A menu that stands open over everything."""

    window: str
    title: str
    box: Rect
    items: tuple[str, ...]
    item_boxes: tuple[Rect, ...]
    version: str


@dataclass(frozen=True)
class LiveView:
    """What a source shows right now, its windows from bottom to top."""

    size: Size
    monitors: tuple[Monitor, ...]
    windows: tuple[LiveWindow, ...]
    ground_version: str
    menu: OpenMenu | None = None


@dataclass(frozen=True)
class Grab:
    """A frozen screen: the facts, the bitmap, whole pictures of windows that were partly covered, the pointer."""

    frame: Frame
    picture: Picture
    whole: Mapping[str, Picture] = field(default_factory=dict)
    pointer: Picture | None = None


class FrameSource(Protocol):
    """A screen that can be looked at and frozen."""

    @property
    def abilities(self) -> Abilities:
        """What it can do."""

    def look(self) -> LiveView:
        """Tell what is open and where."""

    def ground(self) -> Picture:
        """The picture that the live view begins with: what lies under all windows, or the whole screen."""

    def grab(self) -> Grab:
        """Freeze: the whole screen at this moment. Raises `ScreenUnavailable`."""


@runtime_checkable
class Desktop(FrameSource, Protocol):
    """A screen whose windows can be handled from here: looked at one by one, raised, moved, scrolled."""

    def window(self, window_id: str) -> Picture:
        """The picture of one window as it looks now; raises `NotFound`."""

    def content(self, window_id: str) -> Picture:
        """The same without its frame; raises `NotFound`."""

    def raise_window(self, window_id: str) -> None:
        """Bring a window to the top; raises `NotFound`."""

    def move_window(self, window_id: str, x: int, y: int) -> None:
        """Move a window's corner, in frame pixels, within its monitor; raises `NotFound`."""

    def scroll(self, window_id: str, by_px: int) -> int:
        """Scroll a window's content, downward for positive values, within its ends.

        Returns how far it says that it went; raises `NotFound`.
        """

    def open_menu(self, window_id: str, title: str | None) -> None:
        """Open one of a window's menus, or close the one that is open; raises `NotFound`."""

    def menu(self) -> Picture:
        """The open menu's picture; raises `NotFound` when none is open."""

    def point(self, x: int, y: int) -> None:
        """Move the mouse pointer's tip, in frame pixels."""
