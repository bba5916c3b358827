"""What every use case works with: the store, the sources, the clock, and what was worked out already."""

from __future__ import annotations

import secrets
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime

import numpy as np

from tijera.core.budget.search import Verdict
from tijera.core.errors import NotAble, NotFound, WindowForgotten
from tijera.core.frames.abilities import ABILITY_NAMES, SOURCE_NAMES
from tijera.core.frames.frame import WindowBox
from tijera.core.frames.source import Desktop, FrameSource
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.encode import encode_frame
from tijera.core.imaging.lettering import TextSize
from tijera.core.imaging.picture import Picture
from tijera.core.packages.containers.zipped import Guards
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.placed import Written
from tijera.core.packages.registry import open_document
from tijera.records import FrameRecord
from tijera.store.store import Store
from tijera.usecases.pictures import Pictures, bytes_of
from tijera.usecases.recent import Recent


def not_able(source_id: str, ability: str, instead: str) -> NotAble:
    """What to raise where a source can't do something; `instead` says what to do."""
    source = SOURCE_NAMES.get(source_id, source_id)
    return NotAble(source=source, ability=ABILITY_NAMES[ability], instead=instead)


@dataclass(frozen=True)
class Example:
    """A made-up file to try things on: its name, how its bytes are made, its limit."""

    name: str
    make: Callable[[], bytes]
    limit_bytes: int | None = None


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
    _documents: Recent[Document] = field(default_factory=lambda: Recent(4))
    written: Recent[Written] = field(default_factory=lambda: Recent(4))
    panes: Recent[list[Rect]] = field(default_factory=lambda: Recent(8))
    texts: Recent[tuple[TextSize | None]] = field(default_factory=lambda: Recent(256))
    verdicts: Recent[Verdict] = field(default_factory=lambda: Recent(2))
    """What was found last for a file as it stands: what is proposed is what is done then."""
    pictures: Pictures = field(init=False)

    def __post_init__(self) -> None:
        self.pictures = Pictures(self.store)
        self._whole = Recent[Picture](16, self.pictures.budget, bytes_of)

    def new_id(self) -> str:
        """An id that nobody has."""
        return secrets.token_hex(6)

    def new_token(self) -> str:
        """Something that nobody can guess; always equally long."""
        return secrets.token_hex(16)

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
        self.pictures.remember_frame(key, picture)
        return key

    def keep_sheet_of(self, size: Size, scale_factor: float) -> FrameRecord:
        """Keep an empty, transparent frame: what clippings are joined on."""
        empty = Picture(np.zeros((size.height, size.width, 4), dtype=np.uint8))
        record = FrameRecord(
            id=self.new_id(),
            source="picture",
            blob=self.keep_frame(empty),
            original=None,
            width=size.width,
            height=size.height,
            scale_factor=scale_factor,
            windows=(),
            taken_at=self.now(),
        )
        self.store.add(record)
        return record

    def frame_pixels(self, frame: FrameRecord) -> Picture:
        """The whole bitmap of a frame."""
        return self.pictures.frame_pixels(frame.blob)

    def document(self, blob: str, name: str, *, signed: bool = False) -> Document:
        """An opened document by the key of its bytes; `signed` where the user accepts that a signature will be lost."""
        guards = self.guards_for(signed=signed)
        return self._documents.get((blob, signed), lambda: open_document(self.store.blobs.get(blob), name, guards))

    def take_in(self, data: bytes, name: str, *, signed: bool = False) -> tuple[str, Document]:
        """Open bytes from outside and keep them; the key of the bytes and the document. Raises `InputRefused`."""
        opened = open_document(data, name, self.guards_for(signed=signed))
        blob = self.store.blobs.put(data)
        return blob, self._documents.get((blob, signed), lambda: opened)

    def guards_for(self, *, signed: bool) -> Guards:
        """The guards, with or without the one against breaking signatures."""
        return replace(self.guards, refuse_signed=not signed)
