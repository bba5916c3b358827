"""What every use case works with: the store, the sources, the clock, and what was worked out already."""

from __future__ import annotations

import secrets
import threading
from collections import OrderedDict
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Generic, TypeVar

from tijera.core.budget.ladder import Rendition, cut_from_jpeg, first_rendition
from tijera.core.clippings.cutting import Clipping, visible_pixels
from tijera.core.errors import NotAble, NotFound, WindowForgotten
from tijera.core.frames.abilities import ABILITY_NAMES, SOURCE_NAMES
from tijera.core.frames.frame import WindowBox
from tijera.core.frames.source import Desktop, FrameSource
from tijera.core.geometry import Rect
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_frame
from tijera.core.imaging.picture import Picture
from tijera.core.packages.docx.document import DocxDocument, open_docx
from tijera.core.packages.docx.place import Written
from tijera.core.packages.zipped import Guards
from tijera.store.records import ClippingRecord, FrameRecord
from tijera.store.store import Store

V = TypeVar("V")


class Recent(Generic[V]):
    """The values that were worked out last, by key; may be used from several threads."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._lock = threading.Lock()
        self._values: OrderedDict[object, V] = OrderedDict()

    def get(self, key: object, make: Callable[[], V]) -> V:
        """The value under a key, made where it is not there. Two threads may make it twice, to the same effect."""
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
                return self._values[key]
        value = make()
        with self._lock:
            self._values[key] = value
            while len(self._values) > self._most:
                self._values.popitem(last=False)
        return value


def not_able(source_id: str, ability: str, instead: str) -> NotAble:
    """What to raise where a source can't do something; `instead` says what to do."""
    source = SOURCE_NAMES.get(source_id, source_id)
    return NotAble(source=source, ability=ABILITY_NAMES[ability], instead=instead)


@dataclass(frozen=True)
class Example:
    """A made-up document to try things on: its name, bytes and limit."""

    name: str
    data: bytes
    limit_bytes: int


@dataclass
class Workshop:
    """Store, sources, clock and guards, passed in; and caches of pure results, which may be dropped at any time."""

    store: Store
    sources: Mapping[str, FrameSource]
    now: Callable[[], str]
    """The time in ISO 8601, UTC, with microseconds, so that it sorts."""
    local_time: Callable[[str], datetime] = datetime.fromisoformat
    """Such a time as the user's clock shows it."""
    unavailable: Mapping[str, str] = field(default_factory=dict)
    """Sources that can't be used here, and why."""
    guards: Guards = field(default_factory=Guards)
    _pictures: Recent[Picture] = field(default_factory=lambda: Recent(4))
    _documents: Recent[DocxDocument] = field(default_factory=lambda: Recent(4))
    _firsts: Recent[Rendition] = field(default_factory=lambda: Recent(64))
    _whole: Recent[Picture] = field(default_factory=lambda: Recent(16))
    written: Recent[Written] = field(default_factory=lambda: Recent(4))
    panes: Recent[list[Rect]] = field(default_factory=lambda: Recent(8))

    def new_id(self) -> str:
        """An id that nobody has."""
        return secrets.token_hex(6)

    def source(self, source_id: str) -> FrameSource:
        """A source by its id; raise `NotFound`."""
        if source_id not in self.sources:
            raise NotFound(what="source", key=source_id)
        return self.sources[source_id]

    def desktop(self, source_id: str) -> Desktop:
        """A source whose windows can be handled; raise `NotFound`, `NotAble`."""
        source = self.source(source_id)
        if not isinstance(source, Desktop):
            raise not_able(source_id, "window_list", "Handle its windows there; here they can only be looked at.")
        return source

    def keep_whole(self, frame_id: str, windows: Mapping[str, Picture]) -> None:
        """Keep the whole pictures of covered windows at hand, as long as their frame is fresh."""
        for window_id, picture in windows.items():
            self._whole.get((frame_id, window_id), lambda picture=picture: picture)  # type: ignore[misc]

    def whole_window(self, frame: FrameRecord, window: WindowBox) -> Picture:
        """The whole picture of a covered window; raise `WindowForgotten`."""

        def forgotten() -> Picture:
            raise WindowForgotten(title=window.title)

        return self._whole.get((frame.id, window.id), forgotten)

    def keep_frame(self, picture: Picture, encoded: bytes | None = None) -> str:
        """Keep a whole bitmap, encoded already or not, and return its key; it is at hand for what comes next."""
        key = self.store.blobs.put(encoded or encode_frame(picture))
        self._pictures.get(key, lambda: picture)
        return key

    def frame_pixels(self, frame: FrameRecord) -> Picture:
        """The whole bitmap of a frame."""
        return self._pictures.get(frame.blob, lambda: decode(self.store.blobs.get(frame.blob)))

    def document(self, blob: str, name: str) -> DocxDocument:
        """An opened document by the key of its bytes."""
        return self._documents.get(blob, lambda: open_docx(self.store.blobs.get(blob), name, self.guards))

    def visible(self, record: ClippingRecord) -> tuple[Clipping, Picture]:
        """A clipping and what is visible of it."""
        frame = self.store.find(FrameRecord, record.frame)
        clipping = record.clipping(frame)
        return clipping, self.cut(clipping, frame)

    def cut(self, clipping: Clipping, frame: FrameRecord) -> Picture:
        """What a clipping shows, its pointer with it."""
        layer = clipping.pointer
        pointer = (
            None
            if layer is None
            else self._pictures.get(layer.picture, lambda: decode(self.store.blobs.get(layer.picture)))
        )
        return visible_pixels(clipping, self.frame_pixels(frame), pointer)

    def first_rendition(self, record: ClippingRecord) -> Rendition:
        """What a clipping weighs in a document before anything is given up."""
        frame = self.store.find(FrameRecord, record.frame)
        clipping = record.clipping(frame)
        return self._firsts.get((frame.blob, frame.original, clipping), lambda: self._make_first(frame, clipping))

    def _make_first(self, frame: FrameRecord, clipping: Clipping) -> Rendition:
        picture = self.cut(clipping, frame)
        original = None if frame.original is None else self.store.blobs.get(frame.original)
        if (
            original is not None
            and original.startswith(b"\xff\xd8")
            and not clipping.is_whole_frame
            and not picture.has_alpha
        ):
            return cut_from_jpeg(picture)
        return first_rendition(picture, original if clipping.is_whole_frame else None)
