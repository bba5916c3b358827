"""Reading the words that clippings show, one clipping after the other, while nobody waits for it."""

from __future__ import annotations

import logging
import threading
from collections.abc import Sequence
from dataclasses import dataclass

from tijera.core.errors import RecogniserFailed, TijeraError
from tijera.core.geometry import Rect, Size
from tijera.core.recognition.words import Recogniser, Shown, read_shown
from tijera.records import ClippingRecord
from tijera.usecases.naming import find_terms
from tijera.usecases.workshop import Workshop

_LOOK_S = 1.5
"""Between two looks at whether something has come; what is under way in a window is done by then."""
_LOG = logging.getLogger(__name__)


@dataclass(frozen=True)
class Found:
    """Where the words that are looked for stand on a picture of that size."""

    size: Size
    boxes: tuple[Rect, ...]


def read_next(workshop: Workshop, recogniser: Recogniser, ends: threading.Event | None = None) -> bool:
    """Read the newest clipping that has yet to be read; whether there was one. With `ends` set it stops after a band.

    What can't be read counts as showing no words.
    """
    clipping_id = workshop.store.next_unread()
    if clipping_id is None:
        return False
    record = workshop.store.find_or_none(ClippingRecord, clipping_id)
    if record is None:
        return True
    looks = _looks(workshop, record)
    shown = _read(workshop, recogniser, record, ends)
    if shown is not None:
        workshop.store.note_shown(record.id, shown, lambda now: _looks(workshop, now) == looks)
    return True


def _looks(workshop: Workshop, record: ClippingRecord) -> object:
    return workshop.pictures.shown_part(record), record.outline


def _read(
    workshop: Workshop, recogniser: Recogniser, record: ClippingRecord, ends: threading.Event | None
) -> Shown | None:
    """None where it was stopped."""
    size = record.crop.size
    try:
        picture = workshop.pictures.finished(record)
        size = picture.size
        for step in read_shown(recogniser, picture, record.scale_factor):
            if step is not None:
                return step
            if ends is not None and ends.is_set():
                return None
    except RecogniserFailed as error:
        _LOG.warning("the words of %s could not be read: %s", record.id, error.detail)
    except TijeraError as error:
        # A part or a picture that is gone: others say so where it is shown.
        _LOG.info("%s could not be shown: %s", record.id, error.detail)
    return Shown(size, ())


def unread(workshop: Workshop) -> int:
    """How many clippings have yet to be read."""
    return workshop.store.count_unread()


def found_on(workshop: Workshop, clipping_ids: Sequence[str], words: str) -> dict[str, Found]:
    """Where words that are looked for stand on some clippings; nothing for those on which there is none."""
    terms = find_terms(workshop, words)
    if not terms or not clipping_ids:
        return {}
    boxes = {each: (shown, shown.boxes_of(terms)) for each, shown in workshop.store.shown_of(clipping_ids).items()}
    return {each: Found(shown.size, tuple(found)) for each, (shown, found) in boxes.items() if found}


class Reader:
    """One thread that reads what comes; begins with the first look."""

    def __init__(self, workshop: Workshop, recogniser: Recogniser) -> None:
        self._workshop = workshop
        self._recogniser = recogniser
        self._ends = threading.Event()
        self._thread = threading.Thread(target=self._walk, name="reader", daemon=True)
        self._thread.start()

    def close(self) -> None:
        """Stop after what is under way."""
        self._ends.set()
        self._thread.join(10)

    def _walk(self) -> None:
        while not self._ends.wait(_LOOK_S):
            try:
                while not self._ends.is_set() and read_next(self._workshop, self._recogniser, self._ends):
                    pass
            except Exception:
                # Nobody waits for this thread: what went wrong is written down, and the next look tries again.
                _LOG.exception("reading words failed")
