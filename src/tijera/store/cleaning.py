"""Freeing what nothing refers to any more: pictures, frames, and the journal beyond undo's horizon.

A blob is referred to by a row, by the journal (undo may bring the row back) or by a setting. It is freed only when it has
lain there for a while: between keeping it and writing the row that names it somebody else may look.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from tijera.store.store import Store

MOST_CHANGES = 2_000
"""Undo's horizon: so many changes can be taken back, those of single clippings counted in."""
GRACE = timedelta(days=1)
"""What came since is left alone: a window may still hold it."""
_WRITING = timedelta(minutes=1)
"""Longer than anything is written before the row that names it."""
_KEY = re.compile(r"[0-9a-f]{64}")


@dataclass(frozen=True)
class Freed:
    """What was freed."""

    changes: int
    frames: int
    blobs: int
    bytes: int


def clean(store: Store, now: datetime) -> Freed:
    """Forget changes beyond the horizon, then frames that no clipping shows, then bytes that nothing names.

    What a killed process left half written goes too.
    """
    store.blobs.free_leftovers((now - _WRITING).timestamp())
    changes = store.forget_changes_before(MOST_CHANGES)
    freed = _free(store, now - GRACE)
    store.reserve.keep()
    store.thumbnails.free_unused_since((now - 60 * GRACE).timestamp())
    return Freed(changes, *freed)


def forget_now(store: Store, now: datetime) -> Freed:
    """The same at once and for good: undo begins here, and nothing of what was removed is left in any file.

    Derived pictures go altogether: they are made again.
    """
    changes = store.forget_changes_before(0)
    store.forget_what_left()
    freed = _free(store, now - _WRITING)
    store.blobs.free_leftovers((now - _WRITING).timestamp())
    store.thumbnails.free_unused_since(now.timestamp())
    store.scrub()
    store.reserve.keep()
    return Freed(changes, *freed)


def _free(store: Store, before: datetime) -> tuple[int, int, int]:
    frames = store.forget_frames(before.isoformat())
    named = frozenset(_keys(store.texts_with_keys()))
    return frames, *store.blobs.free_all_but(named, before.timestamp())


def _keys(texts: Iterable[str]) -> Iterable[str]:
    for text in texts:
        yield from _KEY.findall(text)
