"""A stitched page against the same page drawn whole: equal pixel for pixel, or refused; never joined wrong."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.support.pages import Window, drawn_whole, page_of, positions, strip_of
from tests.support.rounds import rounds
from tijera.core.errors import StripRefused
from tijera.core.frames.longpage.stitcher import Joined, Stitcher
from tijera.core.imaging.picture import Pixels

_PAGES = settings(max_examples=rounds(120))

_parts = st.lists(
    st.tuples(st.sampled_from(["text", "text", "blank", "repeats", "noise"]), st.integers(20, 260)),
    min_size=2,
    max_size=7,
)
_windows = st.builds(
    Window,
    width=st.integers(150, 330),
    height=st.integers(140, 300),
    head=st.sampled_from([0, 7, 30, 41]),
    foot=st.sampled_from([0, 5, 26]),
    clock=st.booleans(),
    bar=st.sampled_from([0, 0, 9]),
    caret=st.one_of(st.none(), st.tuples(st.integers(20, 100), st.integers(0, 500))),
    label=st.sampled_from([None, None, "head left", "head right", "foot left", "foot right"]),
    plain=st.booleans(),
    status=st.sampled_from([0.0, 0.0, 0.0, 0.4, 1.0]),
)


def _is_unique(page: Pixels, window: Window, at: int, now: int, near: int | None) -> bool:
    """Whether what both strips show of the page stands at one place only of what the window could show."""
    overlap = page[now : at + window.body]
    margin = min(48, window.width // 12)
    inner = overlap[:, margin : window.width - margin]
    if len(inner) < 8 or (inner == inner[:, :1]).all():
        return False
    upper = page[at : at + window.body, margin : window.width - margin]
    shifts = range(1, window.body - 7) if near is None else range(max(1, now - at - near), now - at + near + 1)
    fitting = [
        shift
        for shift in shifts
        if window.body - shift >= 8
        and np.array_equal(upper[shift:], page[now : now + window.body - shift, margin : window.width - margin])
    ]
    return fitting == [now - at]


def _looks_the_same(page: Pixels, window: Window, at: int, now: int) -> bool:
    margin = min(48, window.width // 12)
    inner = page[:, margin : window.width - margin]
    return np.array_equal(inner[at : at + window.body], inner[now : now + window.body]) or window.caret is not None


class Whole(unittest.TestCase):
    """Strips of generated pages with fixed heads and feet, clocks, scroll bars, carets, repeats and blanks."""

    refused, joined = 0, 0

    @_PAGES
    @given(
        parts=_parts,
        window=_windows,
        steps=st.lists(st.floats(0.3, 0.95), min_size=1, max_size=5),
        off=st.sampled_from([-1, 0, 1]),
        seed=st.integers(0, 2**31),
    )
    def test_with_a_reported_position(
        self, parts: list[tuple[str, int]], window: Window, steps: list[float], off: int, seed: int
    ) -> None:
        """The source says how far it scrolled, in CSS pixels that are a little off at a fractional scale."""
        self._stitch(parts, window, steps, seed, off)

    @_PAGES
    @given(
        parts=_parts,
        window=_windows,
        steps=st.lists(st.floats(0.1, 0.95), min_size=1, max_size=5),
        seed=st.integers(0, 2**31),
    )
    def test_without_one(self, parts: list[tuple[str, int]], window: Window, steps: list[float], seed: int) -> None:
        """Only the pixels tell."""
        self._stitch(parts, window, steps, seed, None)

    def _stitch(
        self, parts: list[tuple[str, int]], window: Window, steps: list[float], seed: int, off: int | None
    ) -> None:
        random = np.random.default_rng(seed)
        page = page_of(random, window.width, [*parts, ("text", window.body)])
        stitcher, last = Stitcher(), 0
        for number, at in enumerate(positions(page, window, steps)):
            strip = strip_of(page, window, at, random, number)
            try:
                joined = stitcher.add(strip, None if off is None or number == 0 else max(at - last + off, 1))
            except StripRefused:
                unique = _is_unique(page, window, last, at, None if off is None else 4)
                # A caret may cover the only row that could tell.
                if unique and window.caret is None and off is not None:
                    self.fail(f"refused though unique: {last} → {at} of {len(page)}, {window}")
                type(self).refused += 1
                break
            if joined is Joined.SAME:
                # Nothing that could be seen has moved; the next strip is asked again.
                self.assertIsNone(off)
                self.assertTrue(_looks_the_same(page, window, last, at))
                continue
            self.assertEqual(joined, Joined.FIRST if number == 0 else Joined.NEW)
            last = at
        else:
            type(self).joined += 1
        self._compare(stitcher, page, window, last)

    def _compare(self, stitcher: Stitcher, page: Pixels, window: Window, last: int) -> None:
        """What was joined is the page as far as it was seen, less the caret, the clock and the bar."""
        seen = page[: last + window.body]
        wanted = drawn_whole(seen, window)
        found = stitcher.picture().pixels
        self.assertEqual(found.shape[0], wanted.shape[0], f"height, last at {last}")
        width = found.shape[1]
        self.assertGreaterEqual(width, window.width - max(window.bar, 0) - 2 if window.bar else window.width)
        columns = slice(0, min(width, window.width - window.bar))
        apart = (found[:, columns] != wanted[:, columns]).any(axis=2)
        if window.status and window.foot:
            apart[-window.foot :] = False
        if window.clock:
            apart[: window.head] = False
        if window.caret is not None:
            column, row = window.caret
            apart[window.head + row : window.head + row + 16, column : column + 2] = False
        self.assertEqual(int(apart.sum()), 0, f"{window}, last at {last}")

    @classmethod
    def tearDownClass(cls) -> None:
        """Both outcomes must have been met, or the generator is no use."""
        if min(cls.joined, cls.refused) < rounds(40):
            msg = f"{cls.joined} pages joined, {cls.refused} refused: the generator is one-sided"
            raise AssertionError(msg)


if __name__ == "__main__":
    unittest.main()
