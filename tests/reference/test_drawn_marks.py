"""Marks as they are drawn, against plain geometry: what lies in a picture is looked at, not what was meant to."""

from __future__ import annotations

import unittest

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw
from scipy.ndimage import distance_transform_edt

from tests.support.sheets import Given, clipping_of, mark
from tijera.core.clippings.composing import compose
from tijera.core.clippings.sheet import Sheet
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.vips import draw_svg
from tijera.core.marks.ground import Ground, along
from tijera.core.marks.kinds import checked, draw
from tijera.core.marks.letters import face
from tijera.core.marks.mark import Mark
from tijera.core.marks.svg import document
from tijera.core.marks.text import set_text

_WIDE, _HIGH = 240, 160
Ink = NDArray[np.bool_]


def _ink(*marks: Mark, px_per_pt: float = 1.0, darker_than: int = 128) -> Ink:
    """Which pixels of a white ground the marks change."""
    ground = np.full((_HIGH, _WIDE, 3), 255, np.uint8)
    picture = compose(clipping_of(ground, sheet=Sheet(marks)), Given(Picture(ground)), px_per_pt)
    assert picture.size.width == _WIDE
    inked: Ink = np.any(picture.pixels[:, :, :3] < darker_than, axis=2)
    return inked


def _extent(ink: Ink) -> tuple[int, int, int, int]:
    rows, columns = np.nonzero(ink)
    return int(columns.min()), int(rows.min()), int(columns.max()) + 1, int(rows.max()) + 1


class Drawn(unittest.TestCase):
    """Each kind."""

    def _alike(self, one: Ink, other: Ink) -> None:
        """But for a few pixels that are half covered, and dark on one side by a rounding."""
        self.assertLess(np.count_nonzero(one != other), 0.02 * np.count_nonzero(one))

    def test_a_ring_is_the_same_from_all_sides(self) -> None:
        """Every shape, each kind of line: mirrored both ways it lies where it lay, and spans its anchors."""
        for shape in ("ellipse", "rectangle", "rounded"):
            for dash in ("solid", "dashed", "dotted"):
                ink = _ink(mark("ring", (40, 30), (200, 130), colour="ink", weight_pt=4.0, shape=shape, dash=dash))
                with self.subTest(shape=shape, dash=dash):
                    for found, wanted in zip(_extent(ink), (40, 30, 200, 130), strict=True):
                        self.assertAlmostEqual(found, wanted, delta=4)
                    # All of it near its outline: nothing in the middle, nothing beyond.
                    self.assertFalse(ink[60:100, 80:160].any())
                    solid = _ink(mark("ring", (40, 30), (200, 130), colour="ink", weight_pt=7.0, shape=shape))
                    self.assertFalse((ink & ~solid).any())
                    if dash == "solid":
                        self._alike(ink, ink[::-1])
                        self._alike(ink, ink[:, ::-1])

    def test_a_line_runs_straight_between_its_anchors(self) -> None:
        """Every inked pixel is as near to the way as half its weight."""
        (ax, ay), (bx, by) = (30.0, 120.0), (200.0, 40.0)
        rows, columns = np.nonzero(_ink(mark("line", (ax, ay), (bx, by), colour="ink", weight_pt=3.0)))
        apart = np.abs((by - ay) * (columns + 0.5 - ax) - (bx - ax) * (rows + 0.5 - ay)) / np.hypot(bx - ax, by - ay)
        self.assertLess(float(apart.max()), 3.0)
        self.assertAlmostEqual(int(columns.min()), ax, delta=3)
        self.assertAlmostEqual(int(columns.max()), bx, delta=3)

    def test_a_bent_arrow_passes_through_its_middle(self) -> None:
        """And ends at its tip, whichever side it bends to."""
        for middle in ((120.0, 40.0), (120.0, 120.0), (90.0, 60.0)):
            given = mark("arrow", (30, 80), (210, 90), middle, colour="ink", weight_pt=3.0, line="bent")
            ink = _ink(given)
            with self.subTest(middle):
                for x, y in (middle, (32.0, 80.0), (208.0, 90.0)):
                    near = ink[int(y) - 4 : int(y) + 5, int(x) - 4 : int(x) + 5]
                    self.assertTrue(near.any(), (x, y))

    def test_a_straight_arrow_is_the_same_on_both_sides_of_its_way(self) -> None:
        """Its head, open or filled, mirrors about a level way; mirrored anchors draw the mirrored arrow."""
        for head in ("open", "filled"):
            ink = _ink(mark("arrow", (40, 80), (200, 80), colour="ink", weight_pt=4.0, head=head))
            back = _ink(mark("arrow", (200, 80), (40, 80), colour="ink", weight_pt=4.0, head=head))
            with self.subTest(head):
                self._alike(ink, ink[::-1])
                self._alike(ink, back[:, ::-1])
                self.assertGreater(np.count_nonzero(ink[:, 160:]), np.count_nonzero(ink[:, 40:80]))

    def test_words_stand_where_they_were_put(self) -> None:
        """From the left upper corner, inside the box that the mark says it takes, wherever that is."""
        found = []
        for x, y in ((20, 20), (120, 90)):
            ink = _ink(mark("text", (x, y), text="Quay", colour="ink", size_pt=20.0))
            left, top, right, bottom = _extent(ink)
            self.assertTrue(x <= left < x + 12 and y <= top < y + 20, (left, top))
            found.append((left - x, top - y, right - x, bottom - y))
        self.assertEqual(found[0], found[1])

    def test_a_label_stands_clear_of_its_line(self) -> None:
        """Beside its middle: taken alone, the line's pixels are not touched by the words."""
        for a, b in (
            ((30, 80), (210, 80)),
            ((120, 20), (120, 140)),
            ((210, 80), (30, 80)),
            ((120, 140), (120, 20)),
            ((40, 130), (190, 30)),
            ((190, 120), (40, 40)),
        ):
            plain = _ink(mark("line", a, b, colour="ink", weight_pt=2.0))
            said = _ink(mark("line", a, b, colour="ink", weight_pt=2.0, length=True))
            words = said & ~plain
            with self.subTest((a, b)):
                self.assertTrue(words.any())
                grown = plain.copy()
                for dy in (-1, 0, 1):
                    for dx in (-1, 0, 1):
                        grown |= np.roll(plain, (dy, dx), (0, 1))
                self.assertFalse((words & grown).any())

    def test_a_pen_draws_round_its_way(self) -> None:
        """Nowhere further off than half its weight, in any direction, and everywhere on it."""
        way = [(30.0 + 12 * step, 30.0 + 5 * step) for step in range(8)]
        way += [(way[-1][0] + 4 * step, way[-1][1] - 7 * step) for step in range(1, 6)]
        rows, columns = np.nonzero(_ink(mark("pen", *way, colour="ink", weight_pt=4.0)))
        corners = np.array(way)
        begin, along = corners[:-1, None], np.diff(corners, axis=0)[:, None]
        found = np.stack((columns + 0.5, rows + 0.5), axis=1)[None]
        share = np.clip(((found - begin) * along).sum(2) / (along**2).sum(2), 0, 1)
        apart = np.hypot(*np.moveaxis(found - begin - share[:, :, None] * along, 2, 0)).min(axis=0)
        self.assertLess(float(apart.max()), 3.5)
        self.assertGreater(rows.size, 4 * 100)

    def test_samples_along_a_way_are_near_each_other_and_not_too_many(self) -> None:
        """At most four pixels apart; on a way of a hundred thousand some two thousand, evenly."""
        for way in ([(0, 0), (30, 40)], [(10, 90), (10, 3)], [(80, 7), (5, 7), (5, 9)]):
            found = np.array(along(way))
            self.assertTrue((np.abs(np.diff(found, axis=0)).max(axis=1) <= 8).all())
            self.assertEqual((found[0].tolist(), found[-1].tolist()), (list(way[0]), list(way[-1])))
            self.assertGreaterEqual(len(found), np.abs(np.diff(np.array(way), axis=0)).max(axis=1).sum() / 4 - len(way))
        for end in ((100_000, 0), (0, 100_000), (-50_000, 50_000)):
            found = np.array(along([(0, 0), end]))
            self.assertTrue(900 <= len(found) <= 2_002, len(found))
            self.assertLess(np.ptp(np.hypot(*np.diff(found, axis=0).T)), 1e-6)

    def test_the_ground_is_looked_at_where_the_mark_lies(self) -> None:
        """Of a picture whose corner is elsewhere and whose pixels are finer; beside it all is white."""
        pixels = np.full((40, 60, 3), 255, np.uint8)
        pixels[10:20, 30:50] = 0
        ground = Ground(Picture(pixels), (100.0, 7.0), 2.0)
        self.assertEqual(
            ground.at([(116, 13), (114, 13), (116, 11), (125.1, 13), (116, 17.2)]), [0.0, 1.0, 1.0, 1.0, 1.0]
        )
        self.assertEqual(ground.at([(99, 13), (116, 6), (500, 13), (116, 500)]), [1.0] * 4)

    def test_a_small_rounded_ring_is_round_at_both_ends(self) -> None:
        """Its corners take no more than half of its shorter side, whichever that is."""
        for a, b in (((40, 40), (52, 120)), ((40, 40), (120, 52))):
            ink = _ink(mark("ring", a, b, colour="ink", weight_pt=2.0, shape="rounded"), px_per_pt=3.0)
            left, top, right, bottom = _extent(ink)
            part = ink[top:bottom, left:right]
            with self.subTest(b):
                self._alike(part, part[::-1])
                self._alike(part, part[:, ::-1])
                # Half-way along the longer side both sides are drawn straight: the ends alone are round.
                middle = part[part.shape[0] // 2] if part.shape[0] > part.shape[1] else part[:, part.shape[1] // 2]
                self.assertTrue(middle[:2].any())
                self.assertTrue(middle[-2:].any())

    def test_nothing_is_cut_off_at_the_box_that_is_drawn(self) -> None:
        """Marks are drawn in their boxes only; drawn on the whole ground they look the same."""
        for each in (
            mark("line", (60, 120), (200, 60), colour="ink", angle=True, length=True),
            mark("line", (200, 120), (60, 60), colour="ink", angle=True, length=True),
            mark("line", (200, 60), (60, 120), colour="ink", angle=True),
            mark("arrow", (60, 120), (200, 60), colour="ink", weight_pt=6.0, head="filled"),
            mark("callout", (30, 30), (180, 110), text="Read this", colour="ink"),
            mark("pennant", (100, 80), colour="ink"),
            mark("pen", (30, 30), (90, 40), (110, 120), (200, 100), colour="ink", weight_pt=9.0),
            mark("text", (40, 40), text="Low water", colour="ink", size_pt=18.0),
        ):
            svg = draw(checked(each), 1.0, Ground(Picture(np.full((_HIGH, _WIDE, 3), 255, np.uint8)))).svg
            drawn = draw_svg(document(svg, (0.0, 0.0, float(_WIDE), float(_HIGH))), 1.0).pixels
            cover = drawn[:, :, 3:].astype(float) / 255
            whole = drawn[:, :, :3] * cover + 255 * (1 - cover)
            with self.subTest(each.kind, points=each.points):
                inside = _ink(each, darker_than=200)
                self.assertFalse(((whole < 120).any(axis=2) & ~inside).any())
                self.assertFalse((inside & (whole > 210).all(axis=2)).any())
                self.assertTrue(inside.any())

    def test_a_pen_is_the_same_in_every_direction(self) -> None:
        """A way that is mirrored or turned by a quarter is drawn mirrored or turned."""
        way = [(30.0, 40.0), (60.0, 44.0), (66.0, 80.0), (100.0, 70.0), (80.0, 100.0), (125.0, 120.0)]
        ink = _ink(mark("pen", *way, colour="ink", weight_pt=5.0))[:, :_HIGH]
        for name, turned, wanted in (
            ("mirrored", [(_HIGH - x, y) for x, y in way], ink[:, ::-1]),
            ("upside down", [(x, _HIGH - y) for x, y in way], ink[::-1]),
            ("on its side", [(y, x) for x, y in way], ink.T),
        ):
            with self.subTest(name):
                self._alike(wanted, _ink(mark("pen", *turned, colour="ink", weight_pt=5.0))[:, :_HIGH])

    def test_a_whole_drawing_shows_the_box_that_it_is_of(self) -> None:
        """SVG 2, 8.6: the view begins at the left upper corner, and is as wide and high as the box."""
        self.assertIn('width="30" height="40" viewBox="10 20 30 40"', document("", (10, 20, 40, 60)))

    def test_words_take_the_box_from_their_corner(self) -> None:
        """Also where the corner is not as far from the left as from the top."""
        placed = set_text("Quay", face("next"), 20.0, (70.0, 30.0), "#000000")
        self.assertEqual(placed.box[:2], (70.0, 30.0))
        self.assertGreater(placed.box[2], 70.0 + placed.lines[0].advance)

    def test_a_mark_is_taken_hold_of_where_it_is_seen(self) -> None:
        """All ink is near where a click counts, and a click counts nowhere far from ink; drawn by another hand (Pillow)."""
        near = 6
        for each in (
            mark("arrow", (30, 80), (210, 90), colour="ink"),
            mark("arrow", (30, 80), (210, 90), (120, 30), colour="ink", line="bent"),
            mark("line", (40, 130), (190, 30), colour="ink"),
            mark("pen", (30, 30), (90, 40), (110, 120), (200, 100), colour="ink", weight_pt=4.0),
            mark("tint", (30, 50), (200, 60), weight_pt=12.0),
            *(
                mark("ring", (40, 30), (200, 130), colour="ink", shape=shape)
                for shape in ("ellipse", "rectangle", "rounded")
            ),
            mark("black-out", (40, 30), (200, 130)),
            mark("pennant", (100, 80), colour="ink"),
        ):
            drawn = draw(checked(each), 1.0, Ground(None))
            image = Image.new("1", (_WIDE, _HIGH))
            pen = ImageDraw.Draw(image)
            if drawn.touch_closed:
                pen.polygon(list(drawn.touch), fill=1)
            else:
                pen.line(list(drawn.touch), fill=1)
            takes, ink = np.asarray(image), _ink(each, darker_than=250)
            with self.subTest(each.kind, options=each.options):
                reach = max(near, 0.6 * float(str(each.options.get("weight_pt", 0))))
                self.assertTrue(ink.any())
                self.assertFalse((ink & ~_grown(takes, reach)).any())
                self.assertFalse((takes & ~_grown(ink, reach)).any())


def _grown(ink: Ink, by: float) -> Ink:
    """Every pixel at most so far from ink (SciPy's Euclidean distance transform)."""
    grown: Ink = distance_transform_edt(~ink) <= by
    return grown
