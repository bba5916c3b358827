"""Made-up pages that are longer than a window, and the strips that somebody sees who scrolls them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from tijera.core.imaging.picture import Picture, Pixels

Generator = np.random.Generator


@dataclass(frozen=True)
class Window:
    """How a page is seen: heights in pixels."""

    width: int
    height: int
    head: int
    foot: int
    clock: bool = False
    """A clock in the head that shows something else on every strip."""
    bar: int = 0
    """Width of a scroll bar at the right."""
    caret: tuple[int, int] | None = None
    """Column and row of the page of a caret that blinks."""
    label: str | None = None
    """A small filled label at an edge of the foot or the head: "foot left", "foot right", "head left", "head right"."""
    plain: bool = False
    """Head and foot have the page's colour and no ink but the label."""
    status: float = 0.0
    """So much of the width, in the middle of the foot, says something else on every strip."""

    @property
    def body(self) -> int:
        """The height of what scrolls."""
        return self.height - self.head - self.foot


def text_rows(random: Generator, width: int, count: int) -> Pixels:
    """Lines of what looks like text, each different."""
    rows = np.full((count, width, 3), 250, dtype=np.uint8)
    for top in range(0, count - 9, 14):
        x = 8
        while x < width * random.uniform(0.6, 0.95):
            glyph = int(random.integers(3, 9))
            ink = random.random((9, glyph)) < 0.45
            part = rows[top : top + 9, x : x + glyph]
            part[ink[: part.shape[0], : part.shape[1]]] = 30
            x += glyph + 2
    return rows


def page_of(random: Generator, width: int, parts: list[tuple[str, int]]) -> Pixels:
    """A page of parts, each a kind and a height: text, blank, repeats (rows of a table, all the same), noise."""
    pieces = []
    for kind, height in parts:
        if kind == "text":
            pieces.append(text_rows(random, width, height))
        elif kind == "blank":
            pieces.append(np.full((height, width, 3), 250, dtype=np.uint8))
        elif kind == "noise":
            pieces.append(random.integers(0, 256, (height, width, 3), dtype=np.uint8))
        else:
            row = text_rows(random, width, 22)
            row[-1] = 200
            pieces.append(np.tile(row, (height // 22 + 1, 1, 1))[:height])
    return np.concatenate(pieces)


def strip_of(page: Pixels, window: Window, at: int, random: Generator, number: int) -> Picture:
    """What the window shows when the page is scrolled down by `at` pixels."""
    fixed = np.random.default_rng(window.head * 1_000 + window.foot)
    out = np.empty((window.height, window.width, 3), dtype=np.uint8)
    out[: window.head] = 250 if window.plain else (221, 232, 228)
    out[window.height - window.foot :] = 250 if window.plain else (40, 60, 70)
    if window.label:
        where, side = window.label.split()
        top = 0 if where == "head" else window.height - window.foot
        high = window.head if where == "head" else window.foot
        left = 0 if side == "left" else window.width - 20
        out[top + 2 : top + high - 2, left + 3 : left + 17] = (200, 90, 40)
    if window.status:
        wide = int(window.width * window.status)
        left = (window.width - wide) // 2
        foot = out[window.height - window.foot + 2 : window.height - 2, left : left + wide]
        foot[random.random(foot.shape[:2]) < 0.5] = 120
    if window.head > 24 and not window.plain:
        out[4:18, 10 : window.width // 3][fixed.random((14, window.width // 3 - 10)) < 0.4] = 60
    if window.clock and window.head > 24:
        at_x = window.width // 2
        out[4:15, at_x : at_x + window.width // 8][random.random((11, window.width // 8)) < 0.5] = 20
    body = page[at : at + window.body].copy()
    if window.caret is not None and number % 2 == 0:
        column, row = window.caret
        top = row - at
        body[max(top, 0) : max(top + 16, 0), column : column + 2] = 0
    out[window.head : window.height - window.foot] = body
    if window.bar:
        track = out[window.head : window.height - window.foot, window.width - window.bar :]
        track[:] = 235
        start = round(window.body * at / len(page))
        track[start : start + max(round(window.body**2 / len(page)), 6), 2:-2] = 150
    return Picture(out)


def drawn_whole(page: Pixels, window: Window) -> Pixels:
    """The page as one picture with its head and foot, as if the window were as high as it."""
    first = strip_of(page, window, 0, np.random.default_rng(1), 1).pixels
    return np.concatenate((first[: window.head], page, first[window.height - window.foot :]))


def positions(page: Pixels, window: Window, steps: list[float]) -> Iterator[int]:
    """Scroll positions: steps as shares of the body's height, until the end of the page."""
    at, number, last = 0, 0, len(page) - window.body
    yield at
    while at < last:
        at = min(at + max(1, round(steps[number % len(steps)] * window.body)), last)
        number += 1
        yield at
