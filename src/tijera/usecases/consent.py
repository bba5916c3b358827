"""Words from a window's title: once something is blacked out or the title bar cropped away, they leave only when asked."""

from __future__ import annotations

from dataclasses import replace

from tijera.core.geometry import Rect
from tijera.records import ClippingRecord
from tijera.usecases.changing import change_one
from tijera.usecases.workshop import Workshop

NEUTRAL = "Clipping"
_SEEN_SHARE = 0.9


def holds_back(workshop: Workshop, record: ClippingRecord) -> bool:
    """Whether words from the window's title stay here: something is hidden, and nobody allowed them to leave."""
    return record.window is not None and not record.consent and hides_something(workshop, record)


def hides_something(workshop: Workshop, record: ClippingRecord) -> bool:
    """Whether something is blacked out, or the title bar that was taken is cropped away."""
    if workshop.pictures.sheet(record).black_outs:
        return True
    frame = workshop.pictures.frame(record.frame)
    window = next((each for each in frame.windows if each.title == record.window), None)
    if window is None or window.content is None or window.content.y <= window.box.y:
        return False
    bar = Rect(window.box.x, window.box.y, window.box.width, window.content.y - window.box.y)
    taken = bar.overlap(record.area)
    return taken > 0 and bar.overlap(workshop.pictures.clipping(record).visible) < _SEEN_SHARE * taken


def leaving(workshop: Workshop, record: ClippingRecord, words: str) -> str:
    """The words that leave: those asked for, or neutral ones where they came from a title that is held back."""
    title = (record.window or "").casefold().strip()
    if title and title in words.casefold() and holds_back(workshop, record):
        return NEUTRAL
    return words


def allow(workshop: Workshop, clipping_id: str, *, allowed: bool) -> ClippingRecord:
    """Let words from the window's title leave with this clipping, or not. Raises `NotFound`."""
    return change_one(
        workshop,
        ClippingRecord,
        clipping_id,
        lambda now, _: f"{'Let' if allowed else 'Keep'} the title of {now.name} {'leave' if allowed else 'here'}",
        lambda before: replace(before, consent=allowed),
        history=clipping_id,
    )
