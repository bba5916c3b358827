"""From records to finished pictures: a clipping with its sheet, its frame's pixels, the clippings laid on it."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass, field, replace

from tijera.core.budget.ladder import Ladder
from tijera.core.budget.rendition import Rendition, first_rendition
from tijera.core.clippings.composing import base_picture, compose, drawn_marks, ground_of, under_marks
from tijera.core.clippings.cutting import Clipping
from tijera.core.clippings.measures import natural_scale
from tijera.core.clippings.sheet import PLAIN, Sheet
from tijera.core.errors import NotFound
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.decode import decode
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.resize import resize
from tijera.core.marks.ground import Ground
from tijera.core.marks.kinds import Drawn
from tijera.core.units import Length
from tijera.records import ClippingRecord, FrameRecord
from tijera.store.sheets import sheet_of_json
from tijera.store.store import Store
from tijera.usecases.recent import Budget, Recent

AS_TAKEN = "as-taken"
"""The version of a mat's picture that is neither turned nor toned."""


_MOST_BYTES = 256_000_000
"""Of pixels at hand: a dozen frames of two large monitors, or one picture as large as any may be."""


def bytes_of(picture: Picture) -> int:
    """What its pixels take."""
    return picture.pixels.nbytes


@dataclass
class Pictures:
    """Finished pictures and what they are made of; all results are pure and may be dropped at any time."""

    store: Store
    budget: Budget = field(default_factory=lambda: Budget(_MOST_BYTES))
    """For pixels that are at hand; large ones take turns."""
    # Looked up at once: nobody waits for somebody who does the same.
    _frame_records: Recent[FrameRecord] = field(default_factory=lambda: Recent(64, patience_s=0))
    _sheets: Recent[Sheet] = field(default_factory=lambda: Recent(64, patience_s=0))
    _firsts: Recent[Rendition] = field(default_factory=lambda: Recent(64))
    _ladders: Recent[Ladder] = field(default_factory=lambda: Recent(400))

    def __post_init__(self) -> None:
        """What shares the budget."""
        self._frames, self._finished, self._beneath = (
            Recent[Picture](most, self.budget, bytes_of) for most in (4, 6, 3)
        )
        self._grounds = Recent[tuple[Picture, Ground]](3, self.budget, lambda pair: bytes_of(pair[0]))

    def remember_frame(self, blob: str, picture: Picture) -> None:
        """Have a bitmap at hand for what comes next."""
        self._frames.get(blob, lambda: picture)

    def frame(self, frame_id: str) -> FrameRecord:
        """A frame, which never changes. Raises `NotFound`."""
        return self._frame_records.get(frame_id, lambda: self.store.find(FrameRecord, frame_id))

    def frame_pixels(self, blob: str) -> Picture:
        """The bitmap under a key."""
        return self._frames.get(blob, lambda: decode(self.store.blobs.get(blob)))

    def sheet(self, record: ClippingRecord) -> Sheet:
        """What is done to a clipping."""
        key = record.sheet
        return PLAIN if key is None else self._sheets.get(key, lambda: sheet_of_json(self.store.blobs.get(key)))

    def clipping(self, record: ClippingRecord) -> Clipping:
        """A clipping as the core knows it."""
        return record.clipping(self.frame(record.frame), self.sheet(record))

    def version_of(self, record: ClippingRecord) -> str:
        """Changes whenever a clipping's picture does, by itself or by that of a part."""
        if not record.parts:
            return record.version
        parts = []
        for part in record.parts:
            try:
                parts.append(self.version_of(self.store.find(ClippingRecord, part)))
            except NotFound:
                parts.append("gone")
        return f"{record.version}({','.join(parts)})"

    def shown_part(self, record: ClippingRecord, px_per_pt: float | None = None) -> str:
        """What of its frame a clipping shows and how, as text: equal text, equal pixels."""
        pointer = "" if record.pointer_x is None else f":{record.pointer_x},{record.pointer_y}"
        plain = f"{record.frame}:{record.area}:{record.crop}{pointer}"
        if record.sheet is None:
            return plain
        scale = "natural" if px_per_pt is None else f"{px_per_pt:.6f}"
        return f"{plain}:{self.version_of(record)}@{scale}"

    def finished(self, record: ClippingRecord, px_per_pt: float | None = None) -> Picture:
        """The picture that leaves, drawn for a scale of its place; natural size without."""
        clipping = self.clipping(record)
        scale = px_per_pt or natural_scale(clipping)
        return self._finished.get(
            (self.shown_part(record, scale), record.outline),
            lambda: compose(clipping, _Sources(self, record, clipping), scale),
        )

    def beneath_marks(self, record: ClippingRecord, px_per_pt: float) -> Picture:
        """All that lies beneath the marks; it does not change while only marks do."""
        clipping = self.clipping(record)
        sheet = clipping.sheet
        beneath = replace(sheet, marks=tuple(m for m in sheet.marks if m.kind in ("inset", "black-out")))
        clipping = replace(clipping, sheet=beneath)
        parts = f"{self.version_of(record)}@{px_per_pt:.6f}" if record.parts else ""
        key = (record.frame, clipping.area, clipping.crop, clipping.pointer, record.outline, repr(beneath), parts)
        return self._beneath.get(key, lambda: under_marks(clipping, _Sources(self, record, clipping), px_per_pt))

    def _ground(self, record: ClippingRecord, clipping: Clipping, px_per_pt: float) -> Ground:
        """How light it is beneath the marks."""
        beneath = self.beneath_marks(record, px_per_pt)
        # The picture itself is the key: it is equal to nothing but itself, and kept as long as its ground is.
        return self._grounds.get(beneath, lambda: (beneath, ground_of(clipping, beneath)))[1]

    def marks(self, record: ClippingRecord, px_per_pt: float) -> list[Drawn]:
        """A clipping's marks, drawn for a scale of its place."""
        clipping = self.clipping(record)
        if not clipping.sheet.marks:
            return []
        return drawn_marks(clipping, self._ground(record, clipping, px_per_pt), px_per_pt)

    def for_mat(self, record: ClippingRecord) -> Picture:
        """The whole area, turned and toned, without crop, marks and black-outs: what lies on the mat, never what leaves."""
        clipping = self.clipping(record)
        sheet = clipping.sheet
        bare = replace(PLAIN, turn=sheet.turn, tones=sheet.tones)
        # The mat lays the pointer over it itself, so that it can be moved; on a turned picture it turns along.
        pointer = None if sheet.turn.is_none else clipping.pointer
        whole = replace(clipping, sheet=bare, pointer=pointer, crop=Rect.whole(clipping.base_size))
        return base_picture(whole, _Sources(self, record, whole), 1.0)

    def mat_version(self, record: ClippingRecord) -> str:
        """Changes whenever the picture on the mat does; marks and crop don't change it.

        A clipping that is neither turned nor toned has one that is known beforehand, so that it can be asked for early.
        """
        sheet = self.sheet(record)
        if sheet.turn.is_none and sheet.tones == PLAIN.tones:
            return AS_TAKEN
        turned = None if sheet.turn.is_none else (record.pointer_x, record.pointer_y)
        shown = repr((sheet.turn, sheet.tones, turned))
        return hashlib.sha256(shown.encode()).hexdigest()[:16]

    def first_rendition(self, record: ClippingRecord, px_per_pt: float | None = None) -> Rendition:
        """What a clipping weighs in a document before anything is given up."""
        frame = self.frame(record.frame)
        key = (frame.blob, frame.original, self.shown_part(record, px_per_pt), record.outline)
        return self._firsts.get(key, lambda: self._make_first(frame, record, px_per_pt))

    def ladder(self, record: ClippingRecord, px_per_pt: float | None, placed_width: Length) -> Ladder:
        """A clipping's renditions where it is placed so wide at the most; what was made of them is still there."""
        frame = self.frame(record.frame)
        key = (frame.blob, frame.original, self.shown_part(record, px_per_pt), record.outline, placed_width)

        def make() -> Ladder:
            return Ladder(
                lambda: self.finished(record, px_per_pt), self.first_rendition(record, px_per_pt), placed_width
            )

        return self._ladders.get(key, make)

    def _make_first(self, frame: FrameRecord, record: ClippingRecord, px_per_pt: float | None) -> Rendition:
        picture, clipping = self.finished(record, px_per_pt), self.clipping(record)
        original = None if frame.original is None else self.store.blobs.get(frame.original)
        return first_rendition(picture, original, is_whole=clipping.is_whole_frame)


@dataclass(frozen=True)
class _Sources:
    """Where a clipping's pixels come from."""

    pictures: Pictures
    record: ClippingRecord
    clipping: Clipping

    def frame(self) -> Picture:
        return self.pictures.frame_pixels(self.pictures.frame(self.record.frame).blob)

    def pointer(self) -> Picture | None:
        layer = self.clipping.pointer
        return None if layer is None else self.pictures.frame_pixels(layer.picture)

    def part(self, clipping_id: str, size: Size, px_per_pt: float) -> Picture:
        part = self.pictures.store.find(ClippingRecord, clipping_id)
        own = self.pictures.finished(part).size
        # Its marks are drawn so that they have their points where the whole is placed.
        drawn = self.pictures.finished(part, px_per_pt * own.width / size.width)
        return drawn if drawn.size == size else resize(drawn, size)
