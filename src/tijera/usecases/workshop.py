"""What every use case works with: the store, the sources, the clock, and what was worked out already."""

from __future__ import annotations

import secrets
import threading
from collections import OrderedDict
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Generic, TypeVar

from tijera.core.budget.ladder import Rendition, cut_from_jpeg, first_rendition
from tijera.core.clippings import Clipping, visible_pixels
from tijera.core.errors import NotFound
from tijera.core.frames.source import FrameSource
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
    guards: Guards = field(default_factory=Guards)
    _pictures: Recent[Picture] = field(default_factory=lambda: Recent(4))
    _documents: Recent[DocxDocument] = field(default_factory=lambda: Recent(4))
    _firsts: Recent[Rendition] = field(default_factory=lambda: Recent(64))
    written: Recent[Written] = field(default_factory=lambda: Recent(4))

    def new_id(self) -> str:
        """An id that nobody has."""
        return secrets.token_hex(6)

    def source(self, source_id: str) -> FrameSource:
        """A source by its id; raise `NotFound`."""
        if source_id not in self.sources:
            raise NotFound(what="source", key=source_id)
        return self.sources[source_id]

    def keep_frame(self, picture: Picture) -> str:
        """Keep a whole bitmap and return its key; it is at hand for what comes next."""
        key = self.store.blobs.put(encode_frame(picture))
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
        return clipping, visible_pixels(clipping, self.frame_pixels(frame))

    def first_rendition(self, record: ClippingRecord) -> Rendition:
        """What a clipping weighs in a document before anything is given up."""
        frame = self.store.find(FrameRecord, record.frame)
        clipping = record.clipping(frame)
        return self._firsts.get((frame.blob, frame.original, clipping), lambda: self._make_first(frame, clipping))

    def _make_first(self, frame: FrameRecord, clipping: Clipping) -> Rendition:
        picture = visible_pixels(clipping, self.frame_pixels(frame))
        original = None if frame.original is None else self.store.blobs.get(frame.original)
        if original is not None and original.startswith(b"\xff\xd8") and not clipping.is_whole_frame:
            return cut_from_jpeg(picture)
        return first_rendition(picture, original if clipping.is_whole_frame else None)
