"""What goes over the wire in Take: sources, live views, frames, cuts, long pages."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tijera.core.errors import AreaEmpty
from tijera.core.geometry import Rect
from tijera.web.base import Id, RectWire, Wire


class ScreenBoxOut(Wire):
    """A rectangle in pixels that may lie partly outside."""

    x: int
    y: int
    width: int
    height: int

    @classmethod
    def of(cls, rect: Rect) -> ScreenBoxOut:
        """From the core's rectangle."""
        return cls(x=rect.x, y=rect.y, width=rect.width, height=rect.height)


class AbilityOut(Wire):
    """What a source can do; `instead` is what the user reads where it can't."""

    name: str
    can: bool
    instead: str


class SourceOut(Wire):
    """A source of pictures. `live` tells how it is shown before it is frozen."""

    id: str
    name: str
    live: Literal["windows", "picture", "video", "none"]
    available: bool
    why_not: str
    abilities: dict[str, AbilityOut]


class MonitorOut(Wire):
    """A monitor and where its pixels lie."""

    id: str
    name: str
    box: ScreenBoxOut
    scale_factor: float


class MenuHeadOut(Wire):
    """The word that opens a menu."""

    title: str
    box: ScreenBoxOut


class LiveWindowOut(Wire):
    """A window as it is seen live."""

    id: str
    title: str
    box: ScreenBoxOut
    content: ScreenBoxOut
    depth: int
    version: str
    can_scroll: bool
    scrolled_px: int
    most_px: int
    scroll_bar: ScreenBoxOut | None
    menus: list[MenuHeadOut]


class OpenMenuOut(Wire):
    """A menu that stands open."""

    window: str
    title: str
    box: ScreenBoxOut
    items: list[str]
    item_boxes: list[ScreenBoxOut]
    version: str


class LiveViewOut(Wire):
    """What a source shows now, windows from bottom to top."""

    width: int
    height: int
    monitors: list[MonitorOut]
    ground_version: str
    windows: list[LiveWindowOut]
    menu: OpenMenuOut | None


class ScrollIn(Wire):
    """How far to scroll, in screen pixels; downward is positive."""

    by_px: Annotated[int, Field(ge=-100_000, le=100_000)]


class PointIn(Wire):
    """A pixel of the screen."""

    x: Annotated[int, Field(ge=-100_000, le=100_000)]
    y: Annotated[int, Field(ge=-100_000, le=100_000)]


class MenuIn(Wire):
    """The menu to open; null closes the open one."""

    title: Annotated[str, Field(max_length=100)] | None


class FreezeIn(Wire):
    """Freeze; `pointer` is where the mouse pointer is, where the source is handled from the page."""

    pointer: PointIn | None = None


class WindowBoxOut(Wire):
    """A window on a frame. `is_covered` by others; `is_whole` when it can be taken whole although it is."""

    id: str
    title: str
    box: ScreenBoxOut
    content: ScreenBoxOut | None
    depth: int
    is_covered: bool
    is_whole: bool


class FrameOut(Wire):
    """A frozen screen."""

    id: str
    source: str
    width: int
    height: int
    scale_factor: float
    monitors: list[MonitorOut]
    windows: list[WindowBoxOut]
    pointer: PointIn | None
    has_pointer: bool
    taken_at: str


class PanesOut(Wire):
    """Rectangles found in a frame, the smallest first."""

    panes: list[RectWire]
    cells: list[RectWire]


KindName = Literal["region", "window", "pane", "freehand", "screen", "long-page"]


Points = Annotated[list[tuple[float, float]], Field(max_length=20_000)]


AnyPixels = Annotated[int, Field(ge=-1_000_000, le=1_000_000)]


class AreaIn(Wire):
    """An area as it was asked for; whether it lies on the frame is for the use case to say."""

    x: AnyPixels
    y: AnyPixels
    width: AnyPixels
    height: AnyPixels

    def rect(self) -> Rect:
        """To the core's rectangle. Raises `AreaEmpty`."""
        if self.width < 1 or self.height < 1:
            raise AreaEmpty(width=self.width, height=self.height)
        return Rect(self.x, self.y, self.width, self.height)


class TakeIn(Wire):
    """Cut an area, an outline or a window out of a frame; `place` lands it in the chosen place as well.

    That is the place of `destination`, the file that the window at hand shows; without one, of the file worked on last.

    `id` is one that the caller made; asked twice with the same, as after a broken connection, it is taken once.
    """

    id: Annotated[str, Field(pattern=r"^[0-9a-f]{12,32}$")] | None = None
    kind: KindName = "region"
    area: AreaIn | None = None
    outline: Points | None = None
    window: Annotated[str, Field(max_length=200)] | None = None
    content_only: bool = False
    pointer: bool = False
    name: Annotated[str, Field(max_length=200)] | None = None
    place: bool = False
    destination: Annotated[str, Field(max_length=64)] | None = None


class LastAreaOut(Wire):
    """The last cut, found again on a frame; `note` says what is not as it was."""

    kind: KindName
    area: RectWire
    outline: list[tuple[float, float]] | None
    window: str | None
    content_only: bool
    note: str | None


class LongPageIn(Wire):
    """A page that somebody scrolls by hand; `area` is a strip on a screen that the server itself takes."""

    source: Id
    title: Annotated[str, Field(max_length=200)]
    scale_factor: Annotated[float, Field(gt=0, le=16)]
    area: RectWire | None = None


class LongPageOut(Wire):
    """How far a long page has come. `joined`: first, new, same or full."""

    id: str
    height: int
    joined: Literal["first", "new", "same", "full"] | None = None


class PlacedInOut(Wire):
    """A file in which a clipping stands."""

    destination: str
    name: str


class LookOut(Wire):
    """A clipping beside what its area shows now; the new picture is at `/looks/{id}/picture.png`."""

    id: str
    clipping: str
    name: str
    version: str
    """Of the old picture."""
    width: int
    height: int
    old_width: int
    old_height: int
    share: float
    """The share of pixels that differ, 0 to 1."""
    changed: bool
    marks_apart: list[str]
    """Marks round which it shows something else now, by their ids."""
    marks: int
    """How many marks it has."""
    places: list[PlacedInOut]


class AcceptIn(Wire):
    """What is put in the place of the old."""

    looks: Annotated[list[Id], Field(min_length=1, max_length=300)]
    keep_old_in: Annotated[list[Id], Field(max_length=300, default_factory=list)]
    """Files in which the old pictures stay."""
