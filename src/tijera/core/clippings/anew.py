"""A clipping taken anew: where its area is on today's screen, what differs, and which marks may not fit any more."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from tijera.core.frames.frame import WindowBox
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture
from tijera.core.marks.mark import Mark

_SAME = 2
"""Colours that differ by no more are the same: shared screens come as video (stack of a browser, measured)."""
_ROUND_MARK_PX = 12
_OTHER_SHARE = 0.1
"""From this share of other pixels round it on, a mark is pointed out (chosen by eye)."""


def found_again(windows: Sequence[WindowBox], then: WindowBox) -> WindowBox | None:
    """A window on a newer frame: the same one, else the topmost with its title; None where it is not open any more."""
    same = next((each for each in windows if (each.id, each.title) == (then.id, then.title)), None)
    titled = sorted((each for each in windows if each.title == then.title), key=lambda each: each.depth)
    return same or next(iter(titled), None)


def area_anew(area: Rect, then: WindowBox, now: WindowBox, size: Size) -> Rect | None:
    """Where an area is now that its window stands elsewhere: a whole window stays whole; None where nothing of it is left."""
    if area == then.box:
        return now.box.within(size)
    if area == then.content and now.content is not None:
        return now.content.within(size)
    moved = area.shifted(now.box.x - then.box.x, now.box.y - then.box.y)
    # What the window does not show any more is not of it.
    shown = moved.meet(now.box)
    return None if shown is None else shown.within(size)


def by_itself(window: WindowBox, size: Size) -> WindowBox:
    """A window on a picture of its own of that size."""
    content = None if window.content is None else window.content.shifted(-window.box.x, -window.box.y)
    return WindowBox(window.id, window.title, Rect.whole(size), 0, content)


def share_apart(old: Picture, new: Picture) -> float:
    """The share of pixels that differ, 0 to 1; 1 where the pictures have different sizes."""
    if old.size != new.size:
        return 1.0
    return float(_apart(old, new).mean())


def marks_apart(marks: Sequence[Mark], old: Picture, new: Picture) -> tuple[str, ...]:
    """The marks round which the picture is another one, by their ids; all of them where it has another size."""
    if old.size != new.size:
        return tuple(mark.id for mark in marks)
    apart = _apart(old, new)
    beside = ((mark.id, _round(mark, apart)) for mark in marks)
    return tuple(mark_id for mark_id, part in beside if part.size and part.mean() > _OTHER_SHARE)


def _apart(old: Picture, new: Picture) -> NDArray[np.bool_]:
    one, other = (each.pixels[:, :, :3].astype(np.int16) for each in (old, new))
    found: NDArray[np.bool_] = (np.abs(one - other) > _SAME).any(axis=2)
    return found


def _round(mark: Mark, apart: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """What of a picture lies round a mark."""
    left, top = (max(int(min(each[axis] for each in mark.points)) - _ROUND_MARK_PX, 0) for axis in (0, 1))
    right, bottom = (int(max(each[axis] for each in mark.points)) + _ROUND_MARK_PX for axis in (0, 1))
    return apart[top:bottom, left:right]
