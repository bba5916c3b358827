"""What goes over the wire while taking: sources, live screens, frames, cuts, the rack, options. All in pixels."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tijera.core.errors import AreaEmpty
from tijera.core.geometry import Rect
from tijera.web.wire_base import Id, RectWire, Wire


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


class SizeOut(Wire):
    """A size in pixels."""

    width: int
    height: int


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


class ClippingOut(Wire):
    """A clipping on the rack. `version` changes whenever its picture does."""

    id: str
    frame: str
    name: str
    kind: str
    window: str | None
    area: RectWire
    crop: RectWire
    scale_factor: float
    taken_at: str
    version: str
    places: int
    has_pointer: bool
    pointer: PointIn | None
    """The pointer's tip in the area's pixels; null while hidden."""
    pointer_hot: PointIn | None
    """Where the tip lies on the pointer's own picture."""
    base: SizeOut
    """Width and height of its whole area as it is turned: what the mat shows and the crop lies on."""
    outer: SizeOut
    """Pixels of the finished picture at natural size."""
    is_turned: bool
    held_back: str | None
    """Words from the window's title that stay here until they are allowed to leave."""


class SlipOut(Wire):
    """What the rack shows of a clipping."""

    id: str
    name: str
    window: str | None
    taken_at: str
    kind: str
    width: int
    height: int
    version: str
    places: int
    rank: int
    """The order in which clippings came, the newest highest."""


class RackOut(Wire):
    """A page of the rack or of what was found on it, the newest first, from the `first` one on."""

    slips: list[SlipOut]
    first: int
    found: int
    """How many there are, on all pages."""
    count: int
    """How many hang on the rack in all."""


class PointerIn(Wire):
    """Show or hide the pointer; `at` moves its tip to a pixel of the clipping's area."""

    shown: bool
    at: PointIn | None = None


class RemoveIn(Wire):
    """Clippings to take off the rack at once."""

    clippings: Annotated[list[Id], Field(min_length=1, max_length=10_000)]


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


class OptionsIn(Wire):
    """Options to set; what is left out stays."""

    keep_at_once: bool | None = None
    to_clipboard: bool | None = None
    pointer: bool | None = None
    single_letters: bool | None = None
    name_pattern: Annotated[str, Field(max_length=200)] | None = None
    delay_seconds: Annotated[int, Field(ge=1, le=120)] | None = None
    by_day: bool | None = None
    keys: dict[Annotated[str, Field(max_length=40)], Annotated[str, Field(max_length=40)]] | None = None


class ActionOut(Wire):
    """Something that a key does, and the key that it has now."""

    id: str
    where: str
    does: str
    key: str
    default: str


class FixedKeyOut(Wire):
    """A key that always means the same."""

    where: str
    key: str
    does: str


class OptionsOut(Wire):
    """All options, and all keys as they stand."""

    keep_at_once: bool
    to_clipboard: bool
    pointer: bool
    single_letters: bool
    name_pattern: str
    delay_seconds: int
    by_day: bool
    actions: list[ActionOut]
    fixed: list[FixedKeyOut]


class RenameIn(Wire):
    """A new name."""

    name: Annotated[str, Field(min_length=1, max_length=200)]


class TakenOut(Wire):
    """What taking gave; `note` says what the user should know about it."""

    clipping: str
    name: str
    placement: str | None
    note: str | None = None
