"""A scene: monitors, windows, what they show, their menus. It is a TOML file; another desk is another file."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from tijera.core.errors import SceneBroken
from tijera.core.frames.frame import Monitor
from tijera.core.geometry import Rect, Size

SCENES = Path(__file__).parent / "scenes"
DEFAULT = SCENES / "harbour-office.toml"

TITLE_BAR, EDGE = 28, 1
"""Of every window, in logical pixels."""

Item = Mapping[str, Any]
"""Something to draw: its kind and what that kind needs; see `tijera.desk.items`."""


@dataclass(frozen=True)
class Menu:
    """A menu: its word in the title bar at logical `x`, and its items."""

    title: str
    x: int
    items: tuple[str, ...]


@dataclass(frozen=True)
class WindowScene:
    """A window at the start; lengths in logical pixels of its monitor."""

    id: str
    title: str
    monitor: Monitor
    x: int
    y: int
    width: int
    height: int
    """Of the content, without frame and title bar."""
    page_height: int
    """Of what scrolls; the content's own height where nothing does."""
    head: int
    foot: int
    dark: bool
    ground: str
    items: tuple[Item, ...]
    head_items: tuple[Item, ...]
    foot_items: tuple[Item, ...]
    menus: tuple[Menu, ...]

    @property
    def body_height(self) -> int:
        """Of the part that scrolls."""
        return self.height - self.head - self.foot

    @property
    def scrolls(self) -> bool:
        """Whether there is more to see than fits."""
        return self.page_height > self.body_height

    def px(self, logical: float) -> int:
        """Logical pixels of its monitor in the monitor's own."""
        return round(logical * self.monitor.scale_factor)

    @property
    def outer(self) -> Size:
        """The window with its frame, in pixels."""
        return Size(self.px(self.width + 2 * EDGE), self.px(self.height + TITLE_BAR + EDGE))

    @property
    def inner(self) -> Rect:
        """The content on the window, in pixels."""
        return Rect(self.px(EDGE), self.px(TITLE_BAR), self.px(self.width), self.px(self.height))


@dataclass(frozen=True, eq=False)
class DeskScene:
    """The whole desk. `windows` stand from bottom to top. Two scenes are the same only when they are one object."""

    name: str
    monitors: tuple[Monitor, ...]
    windows: tuple[WindowScene, ...]
    pointer: tuple[int, int]
    clock: int
    """Seconds since midnight at the start."""
    date: str
    strip: tuple[str, ...]
    """Words along the top of each monitor."""
    soundings: bool
    """Whether faint figures cover the ground, as on a chart."""

    @property
    def size(self) -> Size:
        """Of all monitors as they stand side by side."""
        return Size(max(each.box.right for each in self.monitors), max(each.box.bottom for each in self.monitors))


@cache
def load_scene(path: Path = DEFAULT) -> DeskScene:
    """Read a scene file. Raises `SceneBroken`."""
    try:
        values = tomllib.loads(path.read_text(encoding="utf-8"))
        monitors = {each["id"]: _monitor(each) for each in values["monitors"]}
        windows = tuple(_window(each, monitors) for each in values["windows"])
        hours, minutes, seconds = (int(part) for part in re.split(":", values["clock"]))
        if len({window.id for window in windows}) < len(windows):
            raise SceneBroken(path=path.name, why="two windows have the same id")
        return DeskScene(
            name=values["name"],
            monitors=tuple(monitors.values()),
            windows=windows,
            pointer=tuple(values["pointer"]),
            clock=hours * 3_600 + minutes * 60 + seconds,
            date=values["date"],
            strip=tuple(values.get("strip", ())),
            soundings=values.get("soundings", False),
        )
    except (OSError, UnicodeDecodeError, tomllib.TOMLDecodeError, ValueError, TypeError) as error:
        raise SceneBroken(path=path.name, why=str(error)) from error
    except KeyError as error:
        raise SceneBroken(path=path.name, why=f"{error} is missing") from error


def _monitor(values: Mapping[str, Any]) -> Monitor:
    box = Rect(values["x"], values["y"], values["width"], values["height"])
    if not 0.5 <= values["scale_factor"] <= 8:
        msg = f"a scale factor lies between 0.5 and 8, not {values['scale_factor']}"
        raise ValueError(msg)
    return Monitor(values["id"], values["name"], box, float(values["scale_factor"]))


def _window(values: Mapping[str, Any], monitors: Mapping[str, Monitor]) -> WindowScene:
    dark = values.get("dark", False)
    head, foot = values.get("head", {}), values.get("foot", {})
    return WindowScene(
        id=values["id"],
        title=values["title"],
        monitor=monitors[values["monitor"]],
        x=values["x"],
        y=values["y"],
        width=values["width"],
        height=values["height"],
        page_height=values.get("page_height", values["height"]),
        head=head.get("height", 0),
        foot=foot.get("height", 0),
        dark=dark,
        ground=values.get("ground", "#1d262b" if dark else "#ffffff"),
        items=tuple(values.get("items", ())),
        head_items=tuple(head.get("items", ())),
        foot_items=tuple(foot.get("items", ())),
        menus=tuple(Menu(each["title"], each["x"], tuple(each["items"])) for each in values.get("menus", ())),
    )
