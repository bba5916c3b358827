"""The records that the store hands out: frozen values; database rows never leave it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from tijera.core.clippings.cutting import Clipping, PointerLayer
from tijera.core.clippings.sheet import PLAIN as PLAIN_SHEET
from tijera.core.clippings.sheet import Sheet
from tijera.core.frames.frame import Monitor, WindowBox, scale_factor_of
from tijera.core.frames.freehand import Outline
from tijera.core.geometry import Rect, Size
from tijera.core.packages.places.placed import PLAIN, Layout

SHEET_DIGITS = 16
"""Of a sheet's key in a version: enough to tell sheets apart."""


@dataclass(frozen=True)
class KeptPointer:
    """The pointer of a frame: where its tip was, and its picture with where the tip lies on it."""

    x: int
    y: int
    hot_x: int
    hot_y: int
    blob: str


@dataclass(frozen=True)
class FrameRecord:
    """A kept frame. `original` is the file that a picture from outside came as; None for a screen."""

    id: str
    source: str
    blob: str
    original: str | None
    width: int
    height: int
    scale_factor: float
    windows: tuple[WindowBox, ...]
    taken_at: str
    monitors: tuple[Monitor, ...] = ()
    """None given: the whole frame is one, at the frame's scale factor."""
    pointer: KeptPointer | None = None

    @property
    def size(self) -> Size:
        """Width and height in pixels."""
        return Size(self.width, self.height)

    def scale_factor_of(self, area: Rect) -> float:
        """The scale factor that a clipping of this area has."""
        return scale_factor_of(area, self.monitors) if self.monitors else self.scale_factor


@dataclass(frozen=True)
class ClippingRecord:
    """A clipping on the rack."""

    id: str
    frame: str
    name: str
    area_x: int
    area_y: int
    area_width: int
    area_height: int
    crop_x: int
    crop_y: int
    crop_width: int
    crop_height: int
    taken_at: str
    kind: str
    """Of the cut; see `tijera.usecases.taking.CutKind`."""
    window: str | None
    """The title of the window that it shows most of."""
    scale_factor: float
    outline: tuple[tuple[float, float], ...] | None = None
    """In the area's pixels."""
    pointer_x: int | None = None
    """The pointer's tip in the area's pixels; None while it is hidden."""
    pointer_y: int | None = None
    found_as: str = ""
    """Words for its day and time, by which it can be found."""
    sheet: str | None = None
    """The key of what is done to it (see `tijera.store.sheets`); None while nothing is."""
    parts: tuple[str, ...] = ()
    """The clippings that are laid on it."""
    consent: bool = False
    """Whether words from the window's title may leave although the picture does not show them any more."""
    rank: int = 0
    """The order in which clippings came, the newest highest; given when it is kept."""
    pinned: bool = False
    """Whether it stays on top of the rack, and is never cleared out."""
    round: str | None = None
    """The rounds by which it was taken."""

    @property
    def area(self) -> Rect:
        """The area on the frame, in frame pixels."""
        return Rect(self.area_x, self.area_y, self.area_width, self.area_height)

    @property
    def crop(self) -> Rect:
        """The crop, in the area's pixels."""
        return Rect(self.crop_x, self.crop_y, self.crop_width, self.crop_height)

    def cropped_to(self, crop: Rect) -> ClippingRecord:
        """The record with another crop."""
        return replace(self, crop_x=crop.x, crop_y=crop.y, crop_width=crop.width, crop_height=crop.height)

    @property
    def version(self) -> str:
        """Changes whenever its picture does, but for the pictures of its parts; see `Workshop.version_of`."""
        pointer = "" if self.pointer_x is None else f".p{self.pointer_x}.{self.pointer_y}"
        sheet = "" if self.sheet is None else f".s{self.sheet[:SHEET_DIGITS]}"
        return f"{self.crop_x}.{self.crop_y}.{self.crop_width}.{self.crop_height}{pointer}{sheet}"

    def clipping(self, frame: FrameRecord, sheet: Sheet = PLAIN_SHEET) -> Clipping:
        """The clipping as the core knows it; `sheet` is what its key stands for."""
        pointer = None
        if frame.pointer is not None and self.pointer_x is not None and self.pointer_y is not None:
            corner = (self.pointer_x - frame.pointer.hot_x, self.pointer_y - frame.pointer.hot_y)
            pointer = PointerLayer(frame.pointer.blob, *corner)
        return Clipping(
            frame.size,
            self.area,
            self.crop,
            self.scale_factor,
            None if self.outline is None else Outline(self.outline),
            tuple(monitor.box for monitor in frame.monitors),
            pointer,
            sheet,
        )


@dataclass(frozen=True)
class Slip:
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
    parts: str = "[]"
    """The ids of its parts, as JSON."""
    rank: int = 0
    pinned: bool = False
    round: str | None = None
    """The rounds of which it is shown as the last."""


@dataclass(frozen=True)
class DestinationRecord:
    """A file that clippings go into, kept as the bytes it came as."""

    id: str
    name: str
    blob: str
    limit_bytes: int | None
    spot: str | None
    """The place that was chosen and is waiting for a clipping."""
    opened_at: str
    path: str | None = None
    """Where it lies on this computer, where that is known."""
    letter: str | None = None
    """What a new message says (see `tijera.store.letters`); None for all that came from outside."""
    unsigned: bool = False
    """Whether the user accepts that its signature will not hold any more."""
    first_blob: str | None = None
    """The bytes that it was first opened as; None while `blob` is those."""
    keeps_fitting: bool = False
    """Whether clippings that are placed later are made to fit at once."""
    worked_at: str = ""
    """When it, or what stands in it, was changed last; written by the store."""


@dataclass(frozen=True)
class PlacementRecord:
    """A clipping at a spot."""

    id: str
    destination: str
    clipping: str
    spot: str
    rank: int
    """The order among placements at one spot; 0 until it is kept, then the last."""
    width_rule: str
    """"fit", "fill" or "given"."""
    width_emu: int | None
    place_width_emu: int
    """Which of the spot's widths it was measured for."""
    description: str
    rendition_blob: str | None
    """What *Make it fit* chose; None for the first rendition."""
    rendition_extension: str | None
    rendition_width_px: int | None
    rendition_of: str | None
    """The visible rectangle that the rendition shows; another crop makes it void."""
    rendition_note: str | None
    """What was given up, in words."""
    layout: Layout = PLAIN
    alike: str | None = None
    """The group whose clippings all get one scale; None for none."""
    say: str = "usual"
    """What the user says of it where the file has to become lighter (`tijera.core.budget.say`)."""


@dataclass(frozen=True)
class ChangeRecord:
    """A change that can be undone."""

    id: int
    label: str
    made_at: str


@dataclass(frozen=True)
class HandoverRecord:
    """Something that left, and the very bytes that did."""

    id: str
    name: str
    media_type: str
    blob: str
    bytes: int
    what: str
    made_at: str
    destination: str | None = None
    """The file that it is a copy of."""
    clipping: str | None = None
    """The clipping that it shows."""


@dataclass(frozen=True)
class Happening:
    """Something that happened, as the history lists it."""

    at: str
    kind: str
    """"taken", "changed", "left", "waiting" and the other states of a dispatch."""
    words: str
    detail: str
    clipping: str | None
    destination: str | None
    handover: str | None
    """What left, whose bytes can be got again."""
    bytes: int | None


@dataclass(frozen=True)
class Gap:
    """Times of rounds at which nothing could be taken, one after the other, and why."""

    first: str
    last: str
    count: int
    why: str


@dataclass(frozen=True)
class RoundRecord:
    """An area that is taken at set times."""

    id: str
    name: str
    model: str
    """The clipping whose area it is."""
    every_min: int | None
    at: tuple[str, ...]
    """Times of the clock on the wall, HH:MM."""
    begun_at: str
    until: str
    only_changed: bool
    next_at: str | None
    """When it is due next; None once it has ended."""
    stopped: bool = False
    taken: int = 0
    same: int = 0
    """How often nothing was kept because nothing had changed."""
    gaps: tuple[Gap, ...] = ()


@dataclass(frozen=True)
class LinkRecord:
    """A picture that others open at an address, and what guards it."""

    id: str
    token: str
    """What the address ends with."""
    clipping: str
    """The clipping that it was made of, which may be gone."""
    handover: str
    name: str
    file: str
    """What the picture is called where it is saved."""
    media_type: str
    blob: str
    bytes: int
    width: int
    height: int
    made_at: str
    password: str = ""
    """As it is kept, see `tijera.core.links.guarding`; empty for none."""
    ends_at: str | None = None
    ended: bool = False
    """That it has ended was seen; a clock that is set back does not open it again."""
    most_views: int | None = None
    views: int = 0
    seen_at: str | None = None
    """When it was opened last."""
    withdrawn_at: str | None = None
    wrong: int = 0
    """Wrong passwords since it was opened last."""
    wrong_at: str | None = None


@dataclass(frozen=True)
class Try:
    """One try to send a message, with the server's own words."""

    at: str
    kind: str
    """See `tijera.core.mail.post.Kind`."""
    words: str


@dataclass(frozen=True)
class DispatchRecord:
    """A message on its way, or gone, and the very bytes of it."""

    id: str
    destination: str
    """The message that it was made of, which may be gone."""
    name: str
    sender: str
    recipients: tuple[str, ...]
    blob: str
    bytes: int
    message_id: str
    made_at: str
    state: str = "waiting"
    """See `tijera.core.mail.queueing.State`."""
    reached: tuple[str, ...] = ()
    refused: tuple[tuple[str, str], ...] = ()
    """Addresses that the server does not take, with its words."""
    tries: tuple[Try, ...] = ()
    """The last ones."""
    tried: int = 0
    """How often in all."""
    next_at: str | None = None
    """When it is tried again; None once it is decided."""
    needs_utf8: bool = False

    @property
    def left(self) -> tuple[str, ...]:
        """Recipients of whom nothing is decided yet."""
        decided = {*self.reached, *(address for address, _ in self.refused)}
        return tuple(each for each in self.recipients if each not in decided)
