"""What is hidden influences no byte of what leaves: hidden pixels are changed at random, the output must stay equal."""

from __future__ import annotations

import unittest
from collections.abc import Callable

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.support.rounds import rounds
from tests.support.sheets import Given, clipping_of, mark, screen
from tijera.core.clippings.composing import compose
from tijera.core.clippings.cutting import Clipping
from tijera.core.clippings.sheet import Edge, Margins, Sheet, Tones, Turn
from tijera.core.clippings.turning import back, back_rect, turned_size
from tijera.core.frames.freehand import Outline
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.encode import encode_fewer_colours, encode_frame, encode_jpeg, encode_png
from tijera.core.imaging.picture import Picture, Pixels
from tijera.core.imaging.resize import shrink_to_fit
from tijera.core.marks.mark import Mark

ENCODERS: dict[str, Callable[[Picture], bytes]] = {
    "png": encode_png,
    "frame": encode_frame,
    "few colours": lambda picture: encode_fewer_colours(picture, 40),
    "jpeg": lambda picture: encode_jpeg(picture, 85),
    "thumbnail": lambda picture: encode_png(shrink_to_fit(picture, Size(40, 40)), 6),
}
AREA = Size(120, 80)
Plane = np.ndarray[tuple[int, int], np.dtype[np.bool_]]


def hidden_of(clipping: Clipping) -> Plane:
    """Told apart by brute force: a pixel is hidden when none of many points in it is seen."""
    sheet, size, crop = clipping.sheet, clipping.area.size, clipping.crop
    steps = np.linspace(0.02, 0.98, 9)
    xs = (np.arange(crop.x, crop.right)[:, None] + steps).ravel()
    ys = (np.arange(crop.y, crop.bottom)[:, None] + steps).ravel()
    x, y = (each.ravel() for each in np.meshgrid(xs, ys))
    seen = np.ones(x.shape, dtype=bool)
    for (left, top), _, (right, bottom), _ in sheet.black_outs:
        seen &= ~((x >= left) & (x < right) & (y >= top) & (y < bottom))
    ((from_x, from_y),) = back(sheet.turn, size, [(x[seen], y[seen])])  # type: ignore[list-item]
    columns, rows = np.floor(from_x).astype(int), np.floor(from_y).astype(int)
    inside = (columns >= 0) & (columns < size.width) & (rows >= 0) & (rows < size.height)
    hidden = np.ones((size.height, size.width), dtype=bool)
    hidden[rows[inside], columns[inside]] = False
    if clipping.outline is not None:
        source = back_rect(sheet.turn, size, crop)
        drawn = clipping.outline.coverage(source)
        hidden[source.y : source.bottom, source.x : source.right] |= drawn == 0
    return hidden


@st.composite
def clippings(draw: st.DrawFn) -> Clipping:
    """Crops, turns, tones, margins, edges, scales, outlines, marks and black-outs of all sorts."""
    degrees = draw(st.sampled_from([0.0, 0.0, 7.5, -31.0]))
    turn = Turn(draw(st.booleans()), draw(st.integers(0, 3)), degrees)
    base = turned_size(turn, AREA)
    x, y = draw(st.integers(0, base.width - 30)), draw(st.integers(0, base.height - 30))
    crop = Rect(x, y, draw(st.integers(12, base.width - x)), draw(st.integers(12, base.height - y)))
    left, top = crop.x + draw(st.integers(0, 8)), crop.y + draw(st.integers(0, 8))
    marks: list[Mark] = [mark("black-out", (left, top), (left + 9, top + 6))] if draw(st.booleans()) else []
    marks.append(mark("arrow", (crop.x + 2, crop.y + 2), (crop.right + 9, crop.bottom + 4), id_="a"))
    marks.append(mark("tint", (crop.x, crop.y + 9), (crop.right, crop.y + 9), id_="t"))
    sheet = Sheet(
        marks=tuple(marks),
        turn=turn,
        tones=draw(
            st.sampled_from([Tones(), Tones(contrast=40, paler=20), Tones(print_friendly=True), Tones(grey=True)])
        ),
        room=draw(st.sampled_from([Margins(), Margins(3, 0, 11, 5)])),
        ground=draw(st.sampled_from([None, "white", "saffron"])),
        edge=draw(st.sampled_from([Edge(), Edge(2, dash="dashed"), Edge(shadow_pt=5)])),
        scale=draw(st.sampled_from([1.0, 0.5, 1.3])),
    )
    outline = draw(st.sampled_from([None, Outline(((5, 5), (110, 12), (90, 76), (20, 60)))]))
    return Clipping(AREA, Rect.whole(AREA), crop, 1.0, outline, sheet=sheet)


class Hidden(unittest.TestCase):
    """Never: a pixel outside the crop or under a black-out influences a byte that leaves."""

    @settings(max_examples=rounds(60))
    @given(clippings(), st.integers(0, 2**32 - 1))
    def test_no_hidden_pixel_influences_a_byte(self, clipping: Clipping, seed: int) -> None:
        before = screen()
        after = changed(before, hidden_of(clipping), seed)
        one = compose(clipping, Given(Picture(before)), 1.5)
        other = compose(clipping, Given(Picture(after)), 1.5)
        self.assertTrue(np.array_equal(one.pixels, other.pixels))
        for name, encode in ENCODERS.items():
            self.assertEqual(encode(one), encode(other), name)

    @settings(max_examples=rounds(60))
    @given(clippings(), st.integers(0, 2**32 - 1))
    def test_no_hidden_transparency_does_either(self, clipping: Clipping, seed: int) -> None:
        """An opaque frame, and one with an alpha channel whose hidden pixels are transparent to any degree."""
        before, hidden = screen(), hidden_of(clipping)
        random = np.random.default_rng(seed)
        alpha = np.where(hidden, random.integers(0, 256, hidden.shape), 255).astype(np.uint8)
        after = np.dstack((changed(before, hidden, seed), alpha))
        one = compose(clipping, Given(Picture(before)), 1.5)
        other = compose(clipping, Given(Picture(after)), 1.5)
        self.assertEqual(one.has_alpha, other.has_alpha)
        # Palettes are searched for a long time, and know as little of a frame as all the others.
        for name in ENCODERS.keys() - {"few colours"}:
            self.assertEqual(ENCODERS[name](one), ENCODERS[name](other), name)

    def test_the_colour_under_full_transparency_is_hidden_too(self) -> None:
        """A frame's own transparent pixels leave without the colours that they were given."""
        frame = np.dstack((screen(), np.full((80, 120), 255, dtype=np.uint8)))
        frame[30:50, 40:60, 3] = 0
        other = frame.copy()
        other[30:50, 40:60, :3] ^= 255
        clipping = clipping_of(screen(), Rect(20, 20, 60, 50))
        one, two = (encode_png(compose(clipping, Given(Picture(each)), 1.5)) for each in (frame, other))
        self.assertEqual(one, two)

    def test_a_visible_pixel_does(self) -> None:
        """The check can fail: one visible pixel changes the bytes, also through an angle."""
        for degrees in (0.0, 7.5):
            clipping = clipping_of(screen(), Rect(20, 20, 40, 40), Sheet(turn=Turn(degrees=degrees)))
            after = screen()
            after[40, 40] ^= 255
            one, other = (compose(clipping, Given(Picture(each)), 1.5) for each in (screen(), after))
            self.assertNotEqual(encode_png(one), encode_png(other))


def changed(pixels: Pixels, hidden: Plane, seed: int) -> Pixels:
    """The pixels with others where they are hidden."""
    out = pixels.copy()
    out[hidden] = np.random.default_rng(seed).integers(0, 256, (int(hidden.sum()), 3), dtype=np.uint8)
    return out
